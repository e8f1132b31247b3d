"""A placement over time: geometry only, no pixels."""

from cadrage.motion.track import ConstantTrack, PlacementTrack

__all__ = ["ConstantTrack", "PlacementTrack"]
