"""Composed pictures with sound, streamed in real time."""

import time
from collections.abc import Callable, Generator, Iterator
from contextlib import closing
from fractions import Fraction

import av

from cadrage.footage import FrameStore
from cadrage.playing.clock import Clock
from cadrage.playing.fragments import PICTURE_TYPE, SOUND_TYPE, PictureTrack, SoundTrack, piece
from cadrage.playing.pictures import Painter, Shown, read
from cadrage.playing.request import PlayRequest
from cadrage.playing.sound import RATE, heard, played_track
from cadrage.render.pipeline import map_in_thread, prefetch, started
from cadrage.values import Value

SOUND_AHEAD = 0.25  # seconds that sound is sent before the picture it belongs to
PATIENCE = 0.05  # seconds between checks whether the stream is still watched


class PlayHead(Value):
    """Properties that a player needs to play a stream.

    Attributes:
        picture, sound: media types (RFC 6381); sound is None without sound.
        width, height: of the whole picture at full size, in square pixels.
        across, down: number of tiles in a row, and of rows.
        start: time of the first picture, in seconds of the clip.
        loop_start: time at which the loop restarts, in seconds of the clip.
        loop_length: duration of the loop, in seconds of playback.
        speed: seconds of the clip per second of playback.
    """

    picture: str
    sound: str | None
    width: int
    height: int
    across: int
    down: int
    start: float
    loop_start: float
    loop_length: float
    speed: float


class PlayStream:
    """Composes and encodes slightly ahead of the viewer's playhead.

    Args:
        request: the plans to play.
        wanted: called several times a second; the stream ends when it returns false.
        store: source of the clip's reader, which is often near the right position already.
        now: monotonic clock, in seconds.
        wait: sleeps for some seconds.
    """

    def __init__(
        self,
        request: PlayRequest,
        wanted: Callable[[], bool] = lambda: True,
        store: FrameStore | None = None,
        now: Callable[[], float] = time.monotonic,
        wait: Callable[[float], None] = time.sleep,
    ) -> None:
        self.request, self.wanted, self._wait = request, wanted, wait
        self._store = store or FrameStore()
        self.clock = Clock(now)
        self._track = played_track(request)

    @property
    def head(self) -> PlayHead:
        """Properties of the stream.

        Raises:
            BadRequest: the clip cannot be delivered with these settings.
        """
        request, loop, first = self.request, self.request.loop, next(self.request.passes()).timing
        (wide, tall), (across, down) = request.tile(), request.grid
        return PlayHead(
            picture=PICTURE_TYPE,
            sound=None if self._track is None else SOUND_TYPE,
            width=wide * across,
            height=tall * down,
            across=across,
            down=down,
            start=float(first.start),
            loop_start=float(loop.start),
            loop_length=float(loop.info.duration),
            speed=float(loop.speed),
        )

    def parts(self) -> Generator[bytes, None, None]:
        """Yield pieces of the picture file and the sound file without end, each with the header of `piece`.

        Raises:
            MissingSource, UnreadableFile: the clip cannot be read.
        """
        request = self.request
        with self._store.lent(request.source, request.info, request.interpretation) as reader:
            painter = Painter(request, self.clock)
            start = reader.picture_start  # before other reads move it: sound times count from it
            with (
                closing(self._heard(start)) as sound,
                closing(prefetch(read(request, reader, self.clock))) as pictures,
                closing(map_in_thread(pictures, painter.draw)) as drawn,
            ):
                yield from self._sent(drawn, sound)

    def _heard(self, picture_start: Fraction) -> Generator[av.AudioFrame, None, None]:
        frames = heard(self.request, self._track, picture_start) if self._track is not None else iter(())
        return started(frames)

    def _sent(
        self, drawn: Iterator[Shown | None], sound: Generator[av.AudioFrame, None, None]
    ) -> Generator[bytes, None, None]:
        rate = self.request.loop.info.rate
        pictures: PictureTrack | None = None
        sounds = _Sounds(sound)
        for shown in self._while_wanted(drawn):
            held = b""
            if pictures is None or pictures.layout != shown.layout:
                held = pictures.finish() if pictures else b""
                pictures = PictureTrack(shown.layout, rate)
            picture = piece("picture", held + pictures.show(shown))
            if not sounds.begun:  # send the first picture without waiting for sound
                yield picture
                picture = b""
            yield picture + piece("sound", sounds.until(float(shown.time) + SOUND_AHEAD))
            self.clock.tick(float(shown.time + 1 / rate))

    def _while_wanted(self, drawn: Iterator[Shown | None]) -> Iterator[Shown]:
        """Yield pictures in time, without the skipped ones, until the stream is no longer wanted."""
        for shown in drawn:
            if not self.wanted():
                return
            if shown is not None:
                yield shown
                if not self._rested(float(shown.time)):
                    return

    def _rested(self, made: float) -> bool:
        """Wait while the stream is far enough ahead; return whether it is still wanted."""
        while (early := self.clock.too_early(made)) > 0:
            if not self.wanted():
                return False
            self._wait(min(early, PATIENCE))
        return True


class _Sounds:
    """Encoded sound, up to any time."""

    def __init__(self, frames: Iterator[av.AudioFrame]) -> None:
        self._frames = frames
        self._track: SoundTrack | None = None

    @property
    def begun(self) -> bool:
        """Whether any sound was encoded."""
        return self._track is not None

    def until(self, time: float) -> bytes:
        """Return the encoded sound up to a time, in seconds."""
        sent = []
        while self._track is None or self._track.position < time * RATE:
            frame = next(self._frames, None)
            if frame is None:
                break
            self._track = self._track or SoundTrack(frame.layout.name)
            sent.append(self._track.hear(frame))
        return b"".join(sent)
