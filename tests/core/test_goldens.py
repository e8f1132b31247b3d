"""Every surround and finish against the rendering that was looked at and kept."""

import json

import numpy as np
import pytest
from PIL import Image

from tests.golden_frames import FOLDER, NOTE, drawn, kept_of, plans

MEAN, LARGEST = 0.6, 24  # codes of 255: rounding of other processors; letters may be hinted otherwise


@pytest.fixture(scope="module")
def frames(tmp_path_factory):
    return drawn(tmp_path_factory.mktemp("goldens"))


def test_there_is_one_for_each_and_no_other(tmp_path):
    assert {path.stem for path in FOLDER.glob("*.png")} == set(plans(tmp_path))


def test_goldens_change_only_with_the_version_of_the_engine():
    """Else caches would show what an older version made."""
    assert json.loads(NOTE.read_text()) == kept_of()


@pytest.mark.parametrize("path", sorted(FOLDER.glob("*.png")), ids=lambda path: path.stem)
def test_it_is_as_it_was(frames, path):
    kept = np.asarray(Image.open(path).convert("RGB")).astype(int)
    difference = np.abs(frames[path.stem].astype(int) - kept)
    assert difference.mean() <= MEAN
    assert np.percentile(difference, 99.9) <= LARGEST


def test_no_two_are_alike(frames):
    """A golden that another passes too would prove nothing."""
    names = sorted(frames)
    for number, name in enumerate(names):
        for other in names[number + 1 :]:
            difference = np.abs(frames[name].astype(int) - frames[other])
            assert difference.mean() > MEAN or np.percentile(difference, 99.9) > LARGEST, (name, other)
