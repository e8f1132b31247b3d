"""A placement over time: geometry only, no pixels."""

from cadrage.motion.easing import Ease, Handles, eased
from cadrage.motion.keys import Key, key_of
from cadrage.motion.motion import Motion
from cadrage.motion.moves import Pan, Push, Tilt, ends_of, keys_of
from cadrage.motion.pose import Pose, Stage, pose_of
from cadrage.motion.track import ConstantTrack, MovingTrack, PlacementTrack

__all__ = [
    "ConstantTrack",
    "Ease",
    "Handles",
    "Key",
    "Motion",
    "MovingTrack",
    "Pan",
    "PlacementTrack",
    "Pose",
    "Push",
    "Stage",
    "Tilt",
    "eased",
    "ends_of",
    "key_of",
    "keys_of",
    "pose_of",
]
