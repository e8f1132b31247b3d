"""Following a subject: the settings, and the solved path."""

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from cadrage.motion.spline import Spline
from cadrage.values import Exact, Value

Pace = Literal["calm", "medium", "quick"]
Aim = Literal["subject", "still", "centre"]
DoubtReason = Literal["nobody", "lost", "unsure", "wide", "large"]
DOUBTS: dict[DoubtReason, str] = {
    "nobody": "nothing to follow",
    "lost": "the subject is lost",
    "unsure": "unsure whom to follow",
    "wide": "wider than the window",
    "large": "larger than the window",
}
"""Why a stretch is doubtful, in few words."""
MOST_PINS, MOST_SUBJECTS, MOST_DOUBTS = 500, 200, 2000
HOLD = Fraction(17, 50)
MOST_SIZE = 3
Time = Annotated[Exact, Field(ge=0, le=7 * 24 * 3600)]
InPicture = Annotated[Exact, Field(ge=-1, le=2)]
Side = Annotated[Exact, Field(gt=0, le=2)]


class SubjectBox(Value):
    """A subject to follow, shown on one picture.

    Attributes:
        time: of that picture, in seconds of the clip.
        x, y: the middle of a box around it, in parts of the upright stored picture's width and height.
        width, height: of the box, in the same.
        drawn: whether the box was drawn by hand, and is followed by what is in it; else it is of something that the
            analysis saw.
        until: when it is to be followed no more; None is the end of the shot.
    """

    time: Time
    x: InPicture
    y: InPicture
    width: Side
    height: Side
    drawn: bool = False
    until: Time | None = None


class Pin(Value):
    """A place that the window passes exactly.

    Attributes:
        time: when, in seconds of the clip.
        x, y: the point of the picture in the middle of the window; see `Pose`.
        hold: seconds that it stays there, half of them before.
    """

    time: Time
    x: Annotated[Exact, Field(ge=-1, le=1)]
    y: Annotated[Exact, Field(ge=-1, le=1)]
    hold: Annotated[Exact, Field(ge=0, le=3600)] = HOLD


class Doubt(Value):
    """A stretch in which the window may be wrong.

    Attributes:
        start, end: seconds of the clip.
        reason: why.
        sure: how sure it is at its worst, percent.
    """

    start: Time
    end: Time
    reason: DoubtReason
    sure: Annotated[int, Field(ge=0, le=100)]

    @property
    def summary(self) -> str:
        """The same in few words."""
        return DOUBTS[self.reason]


class Follow(Value):
    """The window follows what matters.

    Attributes:
        pace: how eagerly.
        aim: whether it follows, or stands where it is best throughout, or stands in the middle.
        subjects: what it follows, in the order of time; what matters most where there are none. Of several at the same
            time all are kept, if they fit.
        pins: places that it passes, in the order of time.
        closest: how many times larger than placed the picture may get, for something small; 1 to 3.
        widest: how many times smaller it may get, for a group; 1 to 3.
        path: the way that was found, a spline for each shot; none while nobody has looked for it.
        doubts: stretches in which it may be wrong.
    """

    pace: Pace = "medium"
    aim: Aim = "subject"
    subjects: Annotated[tuple[SubjectBox, ...], Field(max_length=MOST_SUBJECTS)] = ()
    pins: Annotated[tuple[Pin, ...], Field(max_length=MOST_PINS)] = ()
    closest: Annotated[Exact, Field(ge=1, le=MOST_SIZE)] = Fraction(1)
    widest: Annotated[Exact, Field(ge=1, le=MOST_SIZE)] = Fraction(1)
    path: Annotated[tuple[Spline, ...], Field(max_length=2000)] = ()
    doubts: Annotated[tuple[Doubt, ...], Field(max_length=MOST_DOUBTS)] = ()

    @property
    def asked(self) -> "Follow":
        """The same without the solved path."""
        return self.model_copy(update={"path": (), "doubts": ()})

    @property
    def reusable(self) -> "Follow":
        """What of it means something for other clips."""
        return self.asked.model_copy(update={"subjects": (), "pins": ()})

    @property
    def summary(self) -> str:
        """The settings in few words."""
        if self.aim == "still":
            return "holds still"
        if self.aim == "centre":
            return "stays in the middle"
        return f"follows, {self.pace}"
