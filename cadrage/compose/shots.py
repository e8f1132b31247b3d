"""A plan shot by shot, and where its picture is at every moment."""

from bisect import bisect_right
from dataclasses import dataclass
from fractions import Fraction

from cadrage.compose.framed import placed_in, stage_of
from cadrage.footage import MediaInfo, ResolvedInterpretation, effective_timing, resolve
from cadrage.geometry import FrameRect, Placed
from cadrage.motion import ConstantTrack, MovingTrack, PlacementTrack
from cadrage.motion.keys import KeyedPose
from cadrage.motion.moves import MovedPose
from cadrage.motion.spline import SplinePose
from cadrage.motion.track import TimeSpan, around
from cadrage.plan import Plan, Range

MOST_TOLD = 24


@dataclass(frozen=True, slots=True)
class PlannedShot:
    """One shot of a plan.

    Attributes:
        start: time of its first picture, in seconds of the clip.
        end: where the next begins, or the clip ends.
        first, last: times of the first and the last picture of it that are delivered; moves go from one to the other.
        plan: of this shot by itself.
    """

    start: Fraction
    end: Fraction
    first: Fraction
    last: Fraction
    plan: Plan

    def delivered(self, info: MediaInfo) -> Range:
        """What of the clip is delivered of it."""
        return Range(start=self.first, end=self.last + 1 / effective_timing(info, self.plan.interpretation).rate)


def planned_shots(plan: Plan, info: MediaInfo) -> tuple[PlannedShot, ...]:
    """The shots of a plan, in the order of time; one where the clip is one."""
    taken = effective_timing(info, plan.interpretation)
    starts = [shot.start for shot in plan.shots] or [Fraction(0)]
    ends = [*starts[1:], max(taken.duration, starts[-1] + 1 / taken.rate)]
    return tuple(
        PlannedShot(start, end, *_delivered(plan, start, end, 1 / taken.rate), alone)
        for start, end, alone in zip(starts, ends, plan.each_shot, strict=True)
    )


def _delivered(plan: Plan, start: Fraction, end: Fraction, length: Fraction) -> tuple[Fraction, Fraction]:
    """First and last picture of a shot within the range, or of the whole shot where the range leaves it out."""
    part = plan.range
    first, after = max(start, part.start), end if part.end is None else min(end, part.end)
    if after <= first:
        first, after = start, end
    return first, max(first, after - length)


def _shot_track(shot: PlannedShot, reading: ResolvedInterpretation) -> PlacementTrack:
    """Where the picture is throughout a shot."""
    plan = shot.plan
    motion = plan.motion
    if motion.still:
        return ConstantTrack(placed_in(plan, reading))
    stage = stage_of(plan, reading)
    if motion.move is not None:
        return MovingTrack(MovedPose(motion.move, stage, shot.first, shot.last), stage, inside=motion.inside)
    poses = SplinePose(motion.follow.path, stage) if motion.follow is not None else KeyedPose(motion.keys, stage)
    return MovingTrack(poses, stage, inside=motion.inside)


def _tracks_of(shots: tuple[PlannedShot, ...], reading: ResolvedInterpretation) -> list[PlacementTrack]:
    """Where the picture is throughout each shot; those that stand and share a placement share a track."""
    shared: dict[int, PlacementTrack] = {}
    tracks = []
    for shot in shots:
        still = shot.plan.motion.still
        track = shared.get(id(shot.plan.placement)) if still else None
        track = track or _shot_track(shot, reading)
        if still:
            shared[id(shot.plan.placement)] = track
        tracks.append(track)
    return tracks


class ShotsTrack(PlacementTrack):
    """Where the picture is in a clip of several shots.

    Args:
        shots: in the order of time.
        info: what the clip is.
    """

    def __init__(self, shots: tuple[PlannedShot, ...], info: MediaInfo) -> None:
        self.shots = shots
        self._starts = [shot.start for shot in shots]
        reading = resolve(info, shots[0].plan.interpretation)  # all are of one clip, taken one way
        self._tracks = _tracks_of(shots, reading)

    @property
    def constant(self) -> bool:
        """Whether all of them are, and the same."""
        first = self._tracks[0]
        return all(track.constant and track.at(Fraction(0)) == first.at(Fraction(0)) for track in self._tracks)

    @property
    def gaps(self) -> int:
        """How many stretches between two moments there are in which something moves, or may; at least one."""
        return sum(1 + len(track.times) if isinstance(track, MovingTrack) else 1 for track in self._tracks)

    def shot_at(self, time: Fraction) -> int:
        """The number of the shot that a time lies in."""
        return max(0, bisect_right(self._starts, time) - 1)

    def track(self, number: int) -> PlacementTrack:
        """That of one shot."""
        return self._tracks[number]

    def at(self, time: Fraction) -> Placed:
        """The placement at a time, in seconds of the clip."""
        return self._tracks[self.shot_at(time)].at(time)

    def taken(self, span: TimeSpan) -> FrameRect:
        """What holds it, as it is turned, at every moment of a span that was looked at."""
        return around([track.taken(part) for track, part in self._during(span)])

    def extent(self, span: TimeSpan) -> FrameRect:
        """What holds the picture at every moment of a span that was looked at."""
        return around([track.extent(part) for track, part in self._during(span)])

    def _during(self, span: TimeSpan) -> list[tuple[PlacementTrack, TimeSpan]]:
        """The shots of a span, each with its part of it; at least one."""
        inside = [
            (track, (max(shot.start, span[0]), min(shot.end, span[1])))
            for shot, track in zip(self.shots, self._tracks, strict=True)
            if shot.start <= span[1] and span[0] < shot.end
        ]
        return inside or [(self._tracks[self.shot_at(span[0])], span)]


def track_of(plan: Plan, info: MediaInfo) -> ShotsTrack:
    """Where the picture of a clip is at every moment of a plan."""
    return ShotsTrack(planned_shots(plan, info), info)


def telling_moments(plan: Plan, info: MediaInfo) -> tuple[Fraction, ...]:
    """Moments that tell a framing: the middle of the clip where nothing moves, else the first, the middle and the last
    picture of each shot, of at most so many.
    """
    track = track_of(plan, info)
    if len(track.shots) == 1 and track.constant:
        return (effective_timing(info, plan.interpretation).duration / 2,)
    shots = track.shots[:MOST_TOLD]
    return tuple(time for shot in shots for time in (shot.first, (shot.first + shot.last) / 2, shot.last))
