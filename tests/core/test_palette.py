import numpy as np

from cadrage.compose import Previewer
from cadrage.compose.palette import suggested_colours
from cadrage.footage import Interpretation, probe
from tests.clips import write_clip

STRIPES = [(20, 24, 30), (120, 40, 30), (60, 110, 70), (90, 120, 200), (240, 230, 200)]


def test_five_stripes_suggest_their_five_colours(tmp_path):
    def paint(_):
        image = np.empty((100, 250, 3), np.uint8)
        for number, colour in enumerate(STRIPES):
            image[:, 50 * number : 50 * number + 50] = colour
        return image

    path = write_clip(tmp_path / "stripes.mp4", size=(250, 100), frames=10, paint=paint, sound=None)
    found = suggested_colours(Previewer(), path, probe(path), Interpretation())
    values = [tuple(int(colour[at : at + 2], 16) for at in (1, 3, 5)) for colour in found]
    for colour in STRIPES:
        assert min(np.abs(np.array(colour) - value).max() for value in values) < 14
    lightness = [sum(value) for value in values]
    assert lightness == sorted(lightness)
