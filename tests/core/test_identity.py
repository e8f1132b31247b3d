"""Which file a file is, and when two results are the same."""

import hashlib
import os

import pytest

from cadrage.compose.identity import ENGINE_VERSION, clips_of, result_key
from cadrage.errors import MissingSource
from cadrage.footage import ClipIdentity, Library, Material
from cadrage.formats import Frame
from cadrage.geometry import Placement
from cadrage.plan import Plan
from cadrage.surrounds import Loop

PLAN = Plan(frame=Frame(width=320, height=180))


@pytest.fixture
def file(tmp_path):
    path = tmp_path / "clip.mov"
    path.write_bytes(b"pictures")
    return path


def test_the_digest_is_that_of_all_bytes_by_the_standard_library(file):
    found = ClipIdentity.read(file)
    assert found.digest == hashlib.blake2b(b"pictures", digest_size=16).hexdigest()
    assert found.stands(file)


def test_a_folder_counts_all_its_stills_in_order_and_nothing_hidden(tmp_path):
    for name, data in (("2.png", b"b"), ("1.png", b"a"), (".thumbs", b"x")):
        (tmp_path / name).write_bytes(data)
    assert ClipIdentity.read(tmp_path).digest == hashlib.blake2b(b"ab", digest_size=16).hexdigest()


def test_a_digest_is_believed_only_while_the_file_stands_as_it_was(file):
    known = ClipIdentity.read(file)
    assert ClipIdentity.of(file, known) == known
    file.write_bytes(b"Pictures")
    os.utime(file, ns=(1, 1))
    now = ClipIdentity.of(file, known)
    assert (now.digest, now.key == known.key, known.stands(file)) == ("", False, False)


def test_of_a_file_that_is_gone_only_what_was_known_is_told(file):
    known = ClipIdentity.read(file)
    file.unlink()
    assert ClipIdentity.of(file, known) == known
    with pytest.raises(MissingSource):
        ClipIdentity.of(file)


def key(plan=PLAN, clips="own", **more):
    return result_key(plan, {"": clips}, **more)


@pytest.mark.parametrize(
    "other",
    [
        {"plan": PLAN.model_copy(update={"placement": Placement(tightness=1)})},
        {"clips": "another"},
        {"analyses": {"bars": "1"}},
        {"engine": ENGINE_VERSION + 1},
        {"width": 320},
    ],
    ids=lambda other: next(iter(other)),
)
def test_whatever_makes_another_result_makes_another_key(other):
    assert key(**other) != key()


def test_what_the_source_is_called_makes_no_other_result():
    assert key(PLAN.model_copy(update={"source": "elsewhere.mov"})) == key()


def test_all_files_that_a_plan_uses_count(file, tmp_path):
    behind = tmp_path / "behind.png"
    behind.write_bytes(b"still")
    library = Library(lambda _: Material(behind))
    plan = PLAN.model_copy(update={"surround": Loop(of="behind")})
    before = result_key(plan, clips_of(plan, ClipIdentity.of(file), library))
    behind.write_bytes(b"another still")
    assert result_key(plan, clips_of(plan, ClipIdentity.of(file), library)) != before
