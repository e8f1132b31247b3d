"""What a stream sends, taken apart into the two files that it consists of."""

from pathlib import Path

from cadrage.playing import PlayRequest, PlayStream
from cadrage.playing.fragments import BEGIN, KINDS


class Patient:
    """One who watches on a clock of their own, which goes on only while the stream waits for it."""

    def __init__(self) -> None:
        self.time = 0.0

    def now(self) -> float:
        """Seconds that have passed."""
        return self.time

    def wait(self, seconds: float) -> None:
        """Let some pass."""
        self.time += seconds


def pieces(data: bytes) -> dict[str, list[bytes]]:
    """The pieces of each kind."""
    names = {number: kind for kind, number in KINDS.items()}
    found: dict[str, list[bytes]] = {kind: [] for kind in KINDS}
    at = 0
    while at < len(data):
        kind, length = BEGIN.unpack_from(data, at)
        at += BEGIN.size
        found[names[kind]].append(data[at : at + length])
        at += length
    return found


def play(request: PlayRequest, seconds: float, folder: Path) -> tuple[Path, Path | None]:
    """Play so many seconds; gives the file of the picture and, where there is any, that of the sound."""
    patient = Patient()
    stream = PlayStream(request, now=patient.now, wait=patient.wait, wanted=lambda: patient.time < seconds)
    found = pieces(b"".join(stream.parts()))
    paths = {kind: folder / f"played-{kind}.mp4" for kind in found}
    for kind, path in paths.items():
        path.write_bytes(b"".join(found[kind]))
    return paths["picture"], paths["sound"] if found["sound"] else None
