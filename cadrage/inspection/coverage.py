"""Reading what is transparent in a finished file."""

from pathlib import Path

import numpy as np

from cadrage.footage import MediaInfo
from cadrage.footage.container import opened, picture_stream
from cadrage.footage.decoding import picture_context
from cadrage.footage.still_files import read_rgba
from cadrage.footage.stills import stills_of


def covered_share(path: Path, info: MediaInfo) -> float | None:
    """How much of the first frame is covered, 0 to 1; None where the file holds no coverage.

    Raises:
        MissingSource, UnreadableFile: the file cannot be read.
    """
    if info.kind == "sequence":
        rgba = read_rgba(stills_of(path)[0])
        return float(rgba[..., 3].mean() / 255)
    with opened(path) as container:
        stream = picture_stream(container, path)
        decoder = picture_context(stream)
        for packet in container.demux(stream):
            for frame in decoder.decode(packet):
                parts = frame.format.components
                if len(parts) < 4:
                    return None
                plane = frame.planes[3]
                top = 2 ** parts[3].bits - 1
                memory = np.frombuffer(plane, np.uint8 if parts[3].bits == 8 else np.uint16)  # type: ignore[call-overload]
                stride = plane.line_size // memory.itemsize
                rows = memory[: frame.height * stride].reshape(frame.height, stride)[:, : frame.width]
                return float(rows.mean() / top)
    return None
