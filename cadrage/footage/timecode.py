"""Time code: hours, minutes, seconds and pictures, with dropped numbers where that is said. SMPTE ST 12-1."""

import re
import sys
from dataclasses import dataclass
from fractions import Fraction
from typing import Self

from cadrage.values import NTSC_RATES

WRITTEN = re.compile(r"(\d\d):([0-5]\d):([0-5]\d)([:;.])(\d\d)")
DROPPING = (30, 60)  # nominal rates that have a form with dropped numbers
DAY = 24 * 3600


@dataclass(frozen=True, slots=True)
class Timecode:
    """One time code.

    Attributes:
        number: pictures since 00:00:00:00.
        nominal: pictures of a second as it counts: 30 for 29.97.
        drop: whether numbers are dropped, so that it keeps up with the clock: two of 30 (four of 60) every minute but
            each tenth. SMPTE ST 12-1, 5.2.2; from memory.
    """

    number: int
    nominal: int
    drop: bool = False

    @classmethod
    def read(cls, text: str, rate: Fraction) -> Self | None:
        """A time code as it is written, ";" before the pictures where numbers are dropped; None where it is none."""
        match = WRITTEN.fullmatch(text.strip())
        nominal = nominal_of(rate)
        if match is None or int(match[1]) > 23 or int(match[5]) >= nominal:
            return None
        drop = match[4] != ":" and nominal in DROPPING and rate in NTSC_RATES
        seconds = int(match[1]) * 3600 + int(match[2]) * 60 + int(match[3])
        number = seconds * nominal + int(match[5])
        return cls(number - _dropped(seconds // 60, nominal) if drop else number, nominal, drop)

    def __str__(self) -> str:
        number = self.number % self._whole_day
        if self.drop:
            ten, minute = _ten_minutes(self.nominal), 60 * self.nominal - self.nominal // 15
            tens, rest = divmod(number, ten)
            minutes = max(0, (rest - self.nominal // 15) // minute)
            number += _dropped(10 * tens + minutes, self.nominal)
        seconds, picture = divmod(number, self.nominal)
        mark = ";" if self.drop else ":"
        return f"{seconds // 3600:02}:{seconds // 60 % 60:02}:{seconds % 60:02}{mark}{picture:02}"

    @property
    def _whole_day(self) -> int:
        return DAY * self.nominal - (_dropped(24 * 60, self.nominal) if self.drop else 0)

    def later(self, pictures: int) -> "Timecode":
        """The same some pictures on."""
        return Timecode(self.number + pictures, self.nominal, self.drop)

    def at_rate(self, rate: Fraction) -> "Timecode":
        """The same label at another rate: hours, minutes and seconds stay, pictures are counted in the new rate."""
        nominal = nominal_of(rate)
        if nominal == self.nominal:
            return Timecode(self.number, nominal, self.drop and rate in NTSC_RATES)
        text = str(self)
        picture = int(text[-2:]) * nominal // self.nominal
        mark = ";" if self.drop and nominal in DROPPING and rate in NTSC_RATES else ":"
        made = Timecode.read(f"{text[:8]}{mark}{picture:02}", rate)
        assert made is not None
        return made


def group_code(data: bytes, rate: Fraction) -> Timecode | None:
    """The time code of a group of pictures: ISO/IEC 13818-2, 6.3.8, 25 bits as libavcodec hands them on."""
    bits = int.from_bytes(data[:8], sys.byteorder)
    drop, hours, minutes = bits >> 24 & 1, bits >> 19 & 31, bits >> 13 & 63
    seconds, pictures = bits >> 6 & 63, bits & 63
    return Timecode.read(f"{hours:02}:{minutes:02}:{seconds:02}{';' if drop else ':'}{pictures:02}", rate)


def nominal_of(rate: Fraction) -> int:
    """Pictures of a second as time code counts them."""
    return max(1, round(rate))


def _dropped(minutes: int, nominal: int) -> int:
    """Numbers that are dropped in so many minutes."""
    return nominal // 15 * (minutes - minutes // 10)


def _ten_minutes(nominal: int) -> int:
    return 600 * nominal - _dropped(10, nominal)
