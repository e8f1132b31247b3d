"""Sound that runs faster or slower."""

from collections.abc import Iterator
from fractions import Fraction

import av
from av.filter import Graph


class Speed:
    """Lets sound run faster or slower with its pitch kept (FFmpeg's atempo)."""

    def __init__(self, rate: int, layout: str, sample_format: str, speed: Fraction) -> None:
        self.speed = speed
        self._graph = Graph()
        source = self._graph.add_abuffer(
            sample_rate=rate, format=sample_format, layout=layout, time_base=Fraction(1, rate)
        )
        tempo, sink = self._graph.add("atempo", f"{float(speed):.12f}"), self._graph.add("abuffersink")
        source.link_to(tempo)
        tempo.link_to(sink)
        self._graph.configure()

    def change(self, frame: av.AudioFrame | None) -> Iterator[av.AudioFrame]:
        """What comes out for a frame; None drains it."""
        self._graph.push(frame)
        while True:
            try:
                made = self._graph.pull()
            except (av.error.BlockingIOError, av.error.EOFError):
                return
            assert isinstance(made, av.AudioFrame)
            yield made
