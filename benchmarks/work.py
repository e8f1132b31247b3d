"""One measured piece of work in a process of its own: `python -m benchmarks.work NAME ARGUMENT …`.

Prints JSON: seconds of processor time and of waiting for the work alone (the start of the interpreter left out),
and the most memory the process has held, in MiB.
"""

import json
import re
import sys
import time
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from benchmarks.plan import PLAN
from cadrage import render as rendering
from cadrage.batch import DESK, helpers
from cadrage.compose import Compositor
from cadrage.footage import ClipReader, probe
from cadrage.output.settings import DEFAULT, encoder_config
from cadrage.pixels.planes import Layout
from cadrage.render import RenderRequest
from cadrage.render.encoder import blank, picture_track, tick_of
from cadrage.render.segments import finish
from cadrage.render.workspace import RenderWorkspace


def render(source: str, target: str) -> None:
    """The whole job."""
    rendering.render(PLAN, Path(source), Path(target), probe(source))


def decode(source: str) -> None:
    """Decode every picture and drop it."""
    with av.open(source) as container:
        container.streams.video[0].thread_type = "AUTO"
        for _ in container.decode(video=0):
            pass


def dump(source: str, raw: str) -> None:
    """Compose every frame and write its samples to a file."""
    info = probe(source)
    with ClipReader(source, info) as reader, Path(raw).open("wb") as file:
        compositor = None
        for decoded in reader.frames():
            compositor = compositor or Compositor(PLAN, decoded.planes.layout, info)
            file.writelines(plane.tobytes() for plane in compositor.compose(decoded.planes).arrays)


def encode(source: str, raw: str, target: str) -> None:
    """Encode composed frames from a raw file as the render does."""
    info = probe(source)
    with av.open(target, "w", format="mp4") as container:
        with ClipReader(source, info) as reader:
            layout = Compositor(PLAN, reader.frame_at(Fraction(0)).planes.layout, info).layout
        writing = encoder_config(DEFAULT, PLAN.frame)
        stream = picture_track(container, PLAN, layout, info, writing)
        tick = tick_of(info)
        for number, samples in enumerate(_raw_frames(Path(raw), layout)):
            frame, planes = blank(layout, number * tick, tick, writing)
            at = 0
            for plane in planes.arrays:
                plane[:] = samples[at : at + plane.size].reshape(plane.shape)
                at += plane.size
            container.mux(stream.encode(frame))
        container.mux(stream.encode(None))


def _raw_frames(raw: Path, layout: Layout) -> Iterator[np.ndarray]:
    size = sum(rows * columns for rows, columns in (layout.shape(plane) for plane in range(3)))
    with raw.open("rb") as file:
        while data := file.read(size):
            yield np.frombuffer(data, np.uint8)


def parts(source: str, target: str, workers: str) -> None:
    """The whole job in parts, by some processes."""
    path = Path(target)
    workspace = RenderWorkspace.create_or_resume(
        path.parent / f"{DESK}{path.name}", RenderRequest(PLAN, Path(source), probe(source))
    )
    with helpers(path.parent, int(workers) - 1):
        finish(workspace, path)
    workspace.clear()


WORK = {"render": render, "decode": decode, "dump": dump, "encode": encode, "parts": parts}


def main() -> None:
    """Do the named work and print what it took."""
    name, *arguments = sys.argv[1:]
    cpu, wall = time.process_time(), time.perf_counter()
    WORK[name](*arguments)
    taken = {"cpu": time.process_time() - cpu, "wall": time.perf_counter() - wall}
    print(json.dumps({**taken, "memory": most_memory()}))


def most_memory() -> float:
    """In MiB. Not `getrusage`, whose figure begins with that of the process that started this one."""
    found = re.search(r"VmHWM:\s+(\d+) kB", Path("/proc/self/status").read_text())
    assert found
    return int(found[1]) / 1024


if __name__ == "__main__":
    main()
