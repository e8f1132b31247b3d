"""The options that say what a plan is; several commands take them all."""

import inspect
from collections.abc import Callable
from functools import wraps
from pathlib import Path
from typing import Annotated, Any

import typer

from cadrage.geometry.placement import MAX_TIGHTNESS

Json = Annotated[bool, typer.Option("--json", help="Print the result as JSON.")]
SettingsName = Annotated[
    str | None,
    typer.Option("--settings", help="How the file is written: a JSON file, or the name of settings that come along."),
]
Written = Annotated[
    str,
    typer.Option(
        "--write",
        help="What differs from those settings, like layer=picture-alone,bars=active-picture-only,"
        "rate_change=speed,quality=draft.",
    ),
]
StopAtDamage = Annotated[
    bool,
    typer.Option("--stop-at-damage", help="Refuse a clip of which something is lost, in place of reading past it."),
]
FrameSize = Annotated[str, typer.Option("--frame", help="Width and height to deliver, in pixels.")]
Active = Annotated[
    str | None, typer.Option("--active", help="Active picture inside the frame: 2.39, 804 lines, or 12% (each bar).")
]


Outside = Annotated[str, typer.Option("--outside", help="What is outside the active picture: bars, or surround.")]
Rate = Annotated[str | None, typer.Option("--rate", help="Frames a second to deliver; the clip's own unless given.")]
Colour = Annotated[
    str,
    typer.Option("--colour", help="Of the frame: sdr, into which HDR is converted; bt2020; or HDR as hlg or pq."),
]
FrameFields = Annotated[
    str,
    typer.Option("--frame-fields", help="progressive; or for a file of fields, upper-first or lower-first."),
]
FramePixelAspect = Annotated[
    str | None, typer.Option("--frame-pixel-aspect", help="Width of a pixel of the frame for its height, like 16:11.")
]
PixelAspect = Annotated[
    str | None, typer.Option("--pixel-aspect", help="Override the clip's pixel aspect, like 12:11.")
]
TakenAs = Annotated[
    str,
    typer.Option(
        "--as",
        help="What the clip is taken to be, like rotation=90,fields=upper-first,deinterlace=film,"
        "burned_in_bars=0/0/46/46,"
        "clean_aperture=704,matrix=bt601,primaries=bt2020,transfer=pq,range=full,mirror=true,duration=5.",
    ),
]
MotionText = Annotated[
    str,
    typer.Option(
        "--motion",
        help="A move over the length of the clip: push:4%, push:-4%, pan:left-right, tilt:up-down; "
        "with ,ease=even or smooth, and for pan and tilt ,beyond=true where the surround may show. "
        "Or follow:calm, medium or quick: the window follows what matters; with ,closest=1.5 and widest.",
    ),
]
Shots = Annotated[
    str,
    typer.Option(
        "--shots",
        help="Cut the clip into shots, so that a move goes over each: find, or the seconds at which one begins, 2.4,5.",
    ),
]
Keys = Annotated[
    list[str] | None,
    typer.Option(
        "--key",
        help="The placement at a moment, SECONDS:offset=X,Y,tightness=T,angle=A,ease=even|smooth|hold, each as "
        "wanted; may be given again.",
    ),
]
Part = Annotated[str, typer.Option("--range", help="Seconds of the clip to deliver, FROM,TO; without TO, to its end.")]
CaptionsFile = Annotated[Path | None, typer.Option("--captions", help="A file of captions, SRT or WebVTT, to draw.")]
Titles = Annotated[list[str] | None, typer.Option("--title", help="Words to draw, low; may be given again.")]


def plan_options(
    plan: Annotated[
        Path | None, typer.Option("--plan", help="A plan written by `plan`, in place of the options.")
    ] = None,
    frame: FrameSize = "1920x1080",
    active: Active = None,
    outside: Outside = "bars",
    rate: Rate = None,
    colour: Colour = "sdr",
    frame_fields: FrameFields = "progressive",
    frame_pixel_aspect: FramePixelAspect = None,
    pixel_aspect: PixelAspect = None,
    taken_as: TakenAs = "",
    placement: Annotated[
        str,
        typer.Option(
            "--placement",
            help="whole, fill, fit-width, fit-height, native, cover, stretch, a tightness such as 0.4 "
            f"(0 to {MAX_TIGHTNESS}), or a scale such as 56%.",
        ),
    ] = "whole",
    offset: Annotated[
        str, typer.Option("--offset", help="Right and down from the centre, X,Y in frame pixels.")
    ] = "0,0",
    motion: MotionText = "",
    shots: Shots = "",
    key: Keys = None,
    part: Part = "",
    captions: CaptionsFile = None,
    title: Titles = None,
    angle: Annotated[str, typer.Option("--angle", help="Degrees clockwise to straighten the picture by.")] = "0",
    mirror: Annotated[bool, typer.Option("--mirror", help="Exchange left and right of the picture.")] = False,
    treatment: Annotated[
        str | None,
        typer.Option(
            "--treatment",
            help="A treatment in place of placement and surround: a JSON file, or the name of one that comes along.",
        ),
    ] = None,
    surround: Annotated[
        str, typer.Option("--surround", help="plain:colour=#203040 or blurred:softness=4,brightness=60")
    ] = "blurred",
) -> None:
    """Carry the signature that `takes_plan` gives to commands."""


Options = dict[str, Any]


Command = Callable[..., None]
FOR_MANY = (
    *("active", "outside", "rate", "colour", "frame_fields", "frame_pixel_aspect"),
    *("pixel_aspect", "taken_as", "part", "treatment", "motion", "shots"),
)
"""Options that make sense for many clips at once."""


def takes_plan(command: Command) -> Command:
    """Give a command the options of a plan; it gets them as one dictionary named `options`."""
    return _taking(command, tuple(inspect.signature(plan_options).parameters))


def takes_plan_of_many(command: Command) -> Command:
    """Give a command those of them that make sense for many clips, in the same way."""
    return _taking(command, FOR_MANY)


def takes_frame(command: Command) -> Command:
    """Give a command those of the latter that do not say how the picture moves."""
    return _taking(command, tuple(name for name in FOR_MANY if name != "motion"))


def _taking(command: Command, names: tuple[str, ...]) -> Command:
    offered = inspect.signature(plan_options).parameters
    shared = {name: offered[name] for name in names}
    own = [value for name, value in inspect.signature(command).parameters.items() if name != "options"]

    @wraps(command)
    def wrapped(**given: object) -> None:
        options = {name: given.pop(name) for name in shared}
        command(**given, options=options)

    keyword = inspect.Parameter.KEYWORD_ONLY
    parameters = [value.replace(kind=keyword) for value in (*own, *shared.values())]
    wrapped.__signature__ = inspect.Signature(parameters)  # type: ignore[attr-defined]
    # Typer reads the annotations of a function beside its signature.
    wrapped.__annotations__ = {value.name: value.annotation for value in parameters}
    return wrapped
