"""What is measured: a 1080p clip whole in an upright frame over a blurred copy."""

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

from cadrage.formats import Frame
from cadrage.plan import Plan
from cadrage.surrounds import Blurred
from demo.clips import CLIPS, grained
from demo.film import write
from demo.sound import street

PLAN = Plan(frame=Frame(width=1080, height=1920), surround=Blurred())

FFMPEG_FILTER = (
    "[0:v]split[a][b];"
    "[a]scale=3686:2074,crop=1080:1920,gblur=sigma=76.8,"
    "lutyuv=y='16+(val-16)*0.6':u='128+(val-128)*0.6':v='128+(val-128)*0.6'[ground];"
    "[b]scale=1080:608[picture];[ground][picture]overlay=0:656"
)
"""The same framing with general-purpose filters, as near as whole pixels let them come."""


def make_clip(path: Path, seconds: int) -> Path:
    """The demonstration's crossing at 30 frames a second, as long as asked."""
    crossing = CLIPS[2]
    film = replace(crossing.film, seconds=seconds, rate=Fraction(30))
    write(film, path, grained(crossing.draw(film), 2), street(seconds, 90))
    return path
