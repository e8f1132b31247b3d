"""What a finished frame's samples are: size, depth, chroma, colour."""

from cadrage.footage.interpretation import TALLEST_SD
from cadrage.formats import Frame
from cadrage.pixels.colour import UNSPECIFIED, Colour, Matrix
from cadrage.pixels.planes import CHROMA_420, Layout

CODE_OF_MATRIX: dict[Matrix, int] = {"bt709": 1, "bt601": 6, "bt2020": 9}  # ITU-T H.273, table 4
BT2020_CURVE = 14  # ITU-T H.273, table 3: the 10-bit curve of BT.2020


def target_colour(source: Colour, frame: Frame) -> Colour:
    """What the finished samples mean: limited range, BT.601 for frames up to 576 lines, BT.709 above, BT.2020 kept.

    Primaries and transfer are carried over, since only the matrix is changed; where the file did not say, they are
    those that go with the frame's matrix. (The curves of BT.601 and BT.709 are the same.)
    """
    lines = min(frame.width, frame.height)
    matrix: Matrix = "bt601" if lines <= TALLEST_SD else "bt709"
    if source.matrix == "bt2020":
        matrix = "bt2020"
    kept = source.matrix == matrix and source.matrix_code not in (UNSPECIFIED, 0)
    own = CODE_OF_MATRIX[matrix]
    curve = BT2020_CURVE if matrix == "bt2020" else own
    return Colour(
        matrix,
        full_range=False,
        matrix_code=source.matrix_code if kept else own,
        primaries=own if source.primaries == UNSPECIFIED else source.primaries,
        transfer=curve if source.transfer == UNSPECIFIED else source.transfer,
    )


def target_layout(source: Colour, frame: Frame, size: tuple[int, int] | None = None, depth: int = 8) -> Layout:
    """The layout of finished frames: 4:2:0, left-sited, at the frame's own size or at another for looking at."""
    width, height = size or (frame.width, frame.height)
    return Layout(width, height, depth, CHROMA_420, target_colour(source, frame))
