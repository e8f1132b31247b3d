"""Holding Cadrage against the independent reader, for one member of the corpus."""

import random
import shutil
from bisect import bisect_left
from dataclasses import dataclass, field
from fractions import Fraction
from itertools import pairwise
from math import ceil, floor
from pathlib import Path

import numpy as np

from cadrage.analyses import look
from cadrage.analysis import AnalysisStore, NotFound
from cadrage.compose.following import with_follow
from cadrage.compose.shots import track_of
from cadrage.errors import CadrageError
from cadrage.footage import ClipIdentity, Library, Material, MediaInfo, open_footage, probe
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.inspection import inspect_file
from cadrage.motion.follow import Follow
from cadrage.output import Settings
from cadrage.plan import Plan, Range
from cadrage.playing import PlayRequest
from cadrage.render import RenderRequest, render
from cadrage.surrounds import Plain
from tests.corpus.drawing import number_in
from tests.corpus.making import Maker, Member
from tests.corpus.reader import Read, read, read_sound
from tests.played import play

NEAR_SECONDS = 0.0011
SOUND_SECONDS = 0.0016  # half a millisecond of it is how well a click can be found behind a codec
MOMENTS = 6
PLAYED_SECONDS = 3.0
JOINT = 2  # pictures where two streams meet, or at the end of one that was cut off, that two decoders treat differently
FRAME = Frame(width=112, height=64)
SETTINGS = Settings(quality="draft")


@dataclass
class Verdict:
    """How a member fared.

    Attributes:
        group, name: of the member.
        outcome: right, refused, or wrong.
        told: why it was refused, or what is wrong.
        findings: what probing told of it.
    """

    group: str
    name: str
    outcome: str
    told: list[str] = field(default_factory=list)
    findings: list[str] = field(default_factory=list)


def check(member: Member, maker: Maker, folder: Path, *, follow: bool = True) -> Verdict:
    """Make a member and try all that people do with footage on it; letting a window follow only if that is asked."""
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    path = folder / member.file
    member.make(maker, path)
    before = {one.name for one in folder.iterdir()}
    try:
        info = probe(path, thorough=True)
        checks = _Checks(member, path, info, folder)
        wrong = checks.all()
        if follow and info.kind == "clip":
            checks.followed()
            wrong = checks.wrong
    except CadrageError as error:
        return _refused(member, path, error, sorted({one.name for one in folder.iterdir()} - before))
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    findings = [one.kind for one in info.findings]
    if member.expected == "refused":
        wrong = ["it should have been refused", *wrong]
    return Verdict(member.group, member.name, "wrong" if wrong else "right", wrong, findings)


def _refused(member: Member, path: Path, error: CadrageError, left: list[str]) -> Verdict:
    left = [name for name in left if not name.startswith("reference.")]
    wrong = [f"left behind: {left}"] if left else []
    readable = member.expected == "read" or (
        # A file may be cut so short that the other reader has nothing of it either.
        member.expected == "damaged" and len(read(path, path.parent).numbers) > 0
    )
    if readable:
        wrong.append(f"refused: {error}")
    if not (error.problem and error.remedy):
        wrong.append("refused without a word on what to do")
    return Verdict(member.group, member.name, "wrong" if wrong else "refused", wrong or [str(error)])


class _Checks:
    """Everything that is tried on one member."""

    def __init__(self, member: Member, path: Path, info: MediaInfo, folder: Path) -> None:
        self.member, self.path, self.info, self.folder = member, path, info, folder
        self.wrong: list[str] = []
        if member.numbers:
            self.wanted = Read(list(member.numbers), [], None)
        else:
            self.wanted = read(path, folder, picture=member.picture)
        self.damaged = member.expected == "damaged"

    def all(self) -> list[str]:
        self.pictures = self._linear()
        self._moments()
        self._delivered()
        if self.info.kind == "clip":
            self._played()
        if self.info.kind == "clip" and self.info.frames >= 12:
            self._range()
        return self.wrong

    def _linear(self) -> list[tuple[Fraction, int | None]]:
        """Every picture once, with the number it carries, at the time it is shown."""
        with open_footage(self.path, self.info) as reader:
            found = [(one.time, number_in(one.planes.luma8), one.end) for one in reader.frames()]
        if self.info.kind == "still":
            found = found[:1]
        numbers, times = [number for _, number, _ in found], [float(time) for time, _, _ in found]
        wanted = self.wanted
        loose = JOINT if self.damaged else 0
        loose += sum(one.count for one in self.info.damage if one.kind == "undecodable")
        if abs(len(numbers) - len(wanted.numbers)) > loose and self.member.count:
            self.wrong.append(f"{len(numbers)} pictures, {len(wanted.numbers)} in the other reader")
        elif self.member.count and not self.damaged and numbers != wanted.numbers:
            self.wrong.append(f"other pictures: {_apart(numbers, wanted.numbers)}")
        elif not self.damaged:
            self._timed(times)
        if any(later <= earlier for earlier, later in pairwise(times)):
            self.wrong.append("times do not rise")
        return [(time, number) for time, number, _ in found]

    def _timed(self, times: list[float]) -> None:
        """Each comes when the other reader has it, or when its number says; both readers make up times where there
        are none in the file.
        """
        wanted, length = self.wanted, float(1 / self.info.rate)
        far = [
            at
            for at, (time, other) in enumerate(zip(times, wanted.times, strict=False))
            if abs(time - other) > NEAR_SECONDS and abs(time - at * length) > NEAR_SECONDS
        ]
        if far:
            at = far[0]
            self.wrong.append(
                f"picture {at} at {times[at]:.4f} s, {wanted.times[at]:.4f} in the other reader ({len(far)})"
            )

    def _moments(self) -> None:
        """At a moment there is just the picture that is on screen then."""
        if self.info.kind == "still":
            return
        with open_footage(self.path, self.info) as reader:
            linear = [(one.time, one.end, [plane.copy() for plane in one.planes.arrays]) for one in reader.frames()]
        chance = random.Random(len(linear))
        some = chance.sample(range(len(linear)), min(MOMENTS, len(linear)))
        with open_footage(self.path, self.info) as reader:
            for number in [*some, 0, len(linear) - 1]:
                time, end, planes = linear[number]
                shown = reader.frame_at(time + (end - time) / 2)
                if shown.time != time:
                    self.wrong.append(f"at {float(time):.3f} s the picture of {float(shown.time):.3f} is shown")
                elif not all(np.array_equal(a, b) for a, b in zip(shown.planes.arrays, planes, strict=True)):
                    self.wrong.append(f"at {float(time):.3f} s the picture is another than from the start")

    def _plan(self, part: Range) -> Plan:
        return Plan(
            source=str(self.path),
            frame=FRAME,
            placement=Placement(sizing="stretch"),
            surround=Plain(),
            range=part,
        )

    def _convert(self, part: Range, name: str) -> tuple[Read, MediaInfo]:
        plan, target = self._plan(part), self.folder / name
        library = Library(lambda _: Material(self.path, self.info))
        render(plan, self.path, target, self.info, settings=SETTINGS, library=library)
        report = inspect_file(target, RenderRequest(plan, self.path, self.info, library, SETTINGS))
        self.wrong += [
            f"{part.start}: {line.name}: asked {line.asked}, found {line.found}"
            for line in report.lines
            if line.verdict == "wrong"
        ]
        return read(target, self.folder), probe(target)

    def _upright(self, read_back: Read) -> list[int | None]:
        """The numbers of delivered pictures, which were turned and mirrored as the clip says."""
        pictures = read_back.pictures[:, :, ::-1] if self.info.mirrored else read_back.pictures
        return [number_in(np.rot90(one, self.info.rotation // 90)) for one in pictures]

    def _delivered(self) -> None:
        found, _ = self._convert(Range(), "out.mp4")
        if self.info.kind == "clip" and self.member.count and not self.damaged:
            numbers = self._upright(found)
            wanted = self._filled()
            if numbers != wanted:
                self.wrong.append(f"delivered other pictures: {_apart(numbers, wanted)}")
        if self.member.sound and self.wanted.clicks is not None and not self.damaged:
            self._clicks(found)

    def _filled(self) -> list[int | None]:
        """The pictures as delivered: of a constant rate, with those repeated that are missing."""
        if self.info.rate_varies:
            return [number for _, number in self.pictures]
        slots = [round(time * self.info.rate) for time, _ in self.pictures]
        shown: list[int | None] = []
        for (_, number), following in zip(self.pictures, [*slots[1:], self.info.frames], strict=True):
            shown += [number] * (following - len(shown))
        return shown

    def _clicks(self, found: Read, ends: float | None = None) -> None:
        ends = float(self.info.duration) + 1 if ends is None else ends
        wanted = [time for time in self.wanted.clicks or [] if 0.008 < time < ends]
        got = [time for time in found.clicks or [] if 0.008 < time < ends]
        if len(wanted) != len(got):
            self.wrong.append(f"{len(got)} clicks, {len(wanted)} in the source: {got[:3]} {wanted[:3]}")
            return
        far = max((abs(a - b) for a, b in zip(wanted, got, strict=True)), default=0)
        if far > SOUND_SECONDS:
            self.wrong.append(f"sound is {far * 1000:.1f} ms off: {got[:3]} for {wanted[:3]}")

    def _played(self) -> None:
        """What plays is what is delivered, its sound as well."""
        request = PlayRequest((self._plan(Range()),), self.path, self.info, lines=FRAME.height)
        seconds = min(float(self.info.duration), PLAYED_SECONDS)
        picture, sound = play(request, seconds, self.folder)
        if self.damaged or not self.member.count:
            return
        found = read(picture, self.folder)
        numbers, wanted = self._upright(found), self._filled()
        until = bisect_left(found.times, seconds - NEAR_SECONDS)
        if numbers[:until] != wanted[:until]:
            self.wrong.append(f"plays other pictures: {_apart(numbers[:until], wanted[:until])}")
        if self.member.sound and self.wanted.clicks is not None and sound is not None:
            self._clicks(read_sound(sound, self.folder), seconds - SOUND_SECONDS)

    def followed(self) -> None:
        """What moves is looked at on pictures that there are, in their order, and a window finds its way over them."""
        store = AnalysisStore(self.folder / "analyses")
        seen = look(store, self.path, ClipIdentity.read(self.path).digest, self.info)
        if isinstance(seen, NotFound):
            if self.info.frames > 1:
                self.wrong.append(f"nothing to follow in {self.info.frames} pictures")
            return
        times, there = seen.evidence.times, {round(float(time), 6) for time, _ in self.pictures}
        if any(later <= earlier for earlier, later in pairwise(times)):
            self.wrong.append("samples that are followed do not rise")
        strange = [time for time in times if round(float(time), 6) not in there]
        if strange and not self.damaged:
            self.wrong.append(f"followed at times of no picture: {strange[:3]}")
        plan = with_follow(self._plan(Range()), self.info, seen, Follow())
        track = track_of(plan, self.info)
        for part in range(5):
            track.at(self.info.duration * part / 4)

    def _range(self) -> None:
        """A range has just the pictures that are asked for, at both ends."""
        info = self.info
        start, end = info.duration * Fraction(3, 10), info.duration * Fraction(7, 10)
        found, _ = self._convert(Range(start=start, end=end), "part.mp4")
        if not self.member.count or self.damaged:
            return
        if info.rate_varies:
            wanted = [number for time, number in self.pictures if start <= time < end]
            before = [number for time, number in self.pictures if time < start][-1:]
            options = (wanted, before + wanted)
        else:
            options = (self._filled()[floor(start * info.rate) : ceil(end * info.rate)],)
        numbers = self._upright(found)
        if numbers not in options:
            self.wrong.append(f"a range has other pictures: {_apart(numbers, options[0])}")


def _apart(found: list[int | None], wanted: list[int | None]) -> str:
    at = next((n for n, (a, b) in enumerate(zip(found, wanted, strict=False)) if a != b), len(wanted))
    return f"{len(found)} for {len(wanted)}, from {at} on {found[at : at + 4]} for {wanted[at : at + 4]}"
