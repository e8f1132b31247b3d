"""Choices other than numbers, with their titles, and the defaults of a framing.

Interfaces show these and keep no lists or defaults themselves.
"""

from fractions import Fraction
from typing import Literal

from cadrage.fields import Choice, Setting
from cadrage.formats import Frame, frame_settings
from cadrage.geometry import Placement
from cadrage.geometry.placement import MAX_ANGLE, MAX_TIGHTNESS
from cadrage.motion import Motion
from cadrage.motion.easing import Handles
from cadrage.motion.follow import Follow
from cadrage.motion.keys import FARTHEST
from cadrage.motion.moves import Move, Pan, Push, Tilt
from cadrage.surrounds import Plain
from cadrage.values import Exact, Value


class PlacementChoice(Value):
    """A placement in one press."""

    name: str
    title: str
    placement: Placement


class MoveChoice(Value):
    """A move over the length of a shot with its default values; None for a static shot."""

    name: str
    title: str
    move: Move | None


class KeyValue(Value):
    """A number of a keyframe: its words, its unit, and the range in that unit; one unit is 1/`times` of it."""

    value: Literal["x", "y", "tightness", "angle"]
    title: str
    unit: str
    times: int
    low: Exact
    high: Exact


def _choices(**titles: str) -> tuple[Choice, ...]:
    return tuple(Choice(value=value, title=title) for value, title in titles.items())


PLACEMENTS = tuple(
    PlacementChoice(name=name, title=title, placement=placement)
    for name, title, placement in (
        ("whole", "Whole", Placement()),
        ("half", "Half fill", Placement(tightness=Fraction(1, 2))),
        ("fill", "Fill", Placement(tightness=Fraction(1))),
        ("width", "Fit width", Placement(sizing="width")),
        ("height", "Fit height", Placement(sizing="height")),
        ("native", "Native size", Placement(sizing="native")),
    )
)
MOVES = tuple(
    MoveChoice(name=name, title=title, move=move)
    for name, title, move in (
        ("", "Static", None),
        ("in", "Push in", Push()),
        ("out", "Push out", Push(percent=-Push().percent)),
        ("left_right", "Pan left to right", Pan(way="left_right")),
        ("right_left", "Pan right to left", Pan(way="right_left")),
        ("up_down", "Tilt down", Tilt(way="up_down")),
        ("down_up", "Tilt up", Tilt(way="down_up")),
    )
)
KEY_VALUES = tuple(
    KeyValue(value=value, title=title, unit=unit, times=times, low=times * Fraction(low), high=times * Fraction(high))
    for value, title, unit, times, low, high in (
        ("x", "Across, % of the picture from its middle,", "% →", 100, -FARTHEST, FARTHEST),
        ("y", "Down, % of the picture from its middle,", "% ↓", 100, -FARTHEST, FARTHEST),
        ("tightness", "Fill amount, %,", "% fill", 100, 0, MAX_TIGHTNESS),
        ("angle", "Turned, degrees,", "°", 1, -MAX_ANGLE, MAX_ANGLE),
    )
)


class Choices(Value):
    """All of them.

    Attributes:
        placements: in one press.
        moves: over the length of a shot.
        eases, key_eases: speed curves of moves, and of keyframes.
        paces, aims: of a window that follows.
        doubts: reasons to check following.
        subjects: names of subjects to follow, by kind.
        key_values: the numbers of a keyframe.
        active_pictures: display aspects of active pictures beside those of film.
        frame_time, frame_colour, frame_outside: settings of a frame, and of the area outside its active picture.
        aspects: in which a frame of the same height is derived.
        conventions: groups of source formats.
        report_groups, verdicts: of an inspection.
        verdicts_of_sides: whether a scene can go on beyond a side.
        scopes: of a composed frame.
        roles: of people in a project.
        link_days: for which a view-only link may be good.
        placement, motion, follow, frame: as they are before anything is chosen.
        curve: of a keyframe whose curve is drawn by hand, as it begins.
        bare: the surround of a clip without any change.
    """

    placements: tuple[PlacementChoice, ...] = PLACEMENTS
    moves: tuple[MoveChoice, ...] = MOVES
    eases: tuple[Choice, ...] = _choices(smooth="smoothly, at rest at both ends", even="evenly")
    key_eases: tuple[Choice, ...] = _choices(smooth="smooth", even="even", hold="hold", curve="curve")
    paces: tuple[Choice, ...] = _choices(calm="calm", medium="medium", quick="quick")
    aims: tuple[Choice, ...] = _choices(
        subject="Follows the subject", still="Holds still where most is kept", centre="Stays in the middle"
    )
    doubts: tuple[Choice, ...] = _choices(
        nobody="Nothing to follow",
        lost="The subject is lost",
        unsure="Unsure whom to follow",
        wide="Wider than the window",
        large="Larger than the window",
    )
    subjects: tuple[Choice, ...] = _choices(face="a face", person="a person", mover="something that moves")
    key_values: tuple[KeyValue, ...] = KEY_VALUES
    active_pictures: tuple[Choice, ...] = _choices(**{"2": "2:1", "16/9": "16:9", "14/9": "14:9", "1": "1:1"})
    frame_time: tuple[Setting, ...] = frame_settings.TIME
    frame_colour: tuple[Setting, ...] = frame_settings.COLOUR
    frame_outside: tuple[Setting, ...] = frame_settings.OUTSIDE
    aspects: tuple[str, ...] = ("4:3", "16:9", "1:1", "9:16", "2.39", "21:9")
    conventions: tuple[Choice, ...] = _choices(
        sampled="Standard definition, as sampled",
        stated="Standard definition, stated for the whole line",
        squeezed="Squeezed on tape",
        square="Square pixels",
    )
    report_groups: tuple[Choice, ...] = _choices(picture="Picture", colour="Colour", sound="Sound", file="File")
    verdicts: tuple[Choice, ...] = _choices(right="Pass", wrong="Fail", measured="")
    verdicts_of_sides: tuple[Choice, ...] = _choices(fits="fits", doubtful="doubtful", unfit="does not fit")
    scopes: tuple[Choice, ...] = _choices(waveform="Waveform", parade="RGB parade", vectorscope="Vectorscope")
    roles: tuple[Choice, ...] = _choices(see="can view", work="may work in it")
    link_days: tuple[int, ...] = (1, 7, 30, 90)
    placement: Placement = Placement()
    motion: Motion = Motion()
    follow: Follow = Follow()
    frame: Frame = Frame(width=1920, height=1080)
    curve: Handles = Handles(x1=Fraction(42, 100), y1=Fraction(0), x2=Fraction(58, 100), y2=Fraction(1))
    bare: Plain = Plain(colour="#000000")


CHOICES = Choices()
