"""Nothing that Cadrage did not write is replaced or removed, however it is asked for."""

import ast
import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from cadrage import files
from cadrage.errors import BadRequest, CannotWrite
from cadrage.files import files_of, sweep, write_data, written
from cadrage.marking import MARK, marked
from cadrage.output import OUTPUT_FORMATS
from tests.clips import write_clip
from tests.core.test_cli import cadrage, process

CORE = Path(__file__).parents[2] / "cadrage"
STILLS = ["--write", "kind=png-stills", "--frame", "64x48"]


@pytest.fixture
def clip(tmp_path):
    return write_clip(tmp_path / "clip.mp4", size=(64, 48), frames=5)


@pytest.fixture
def theirs(tmp_path):
    folder = tmp_path / "theirs"
    folder.mkdir()
    (folder / "letter.txt").write_text("keep me")
    return folder


def refused(run, *words):
    assert run.returncode == 2
    assert run.stderr.startswith("cadrage: ")
    assert run.stderr.count("\n") == 1
    assert all(word in run.stderr for word in words)


@pytest.mark.parametrize("ending", ["", "/", "/.", "/../theirs"])
@pytest.mark.parametrize("kind", [[], ["--write", "kind=mp4-h264"], STILLS])
def test_a_folder_is_never_replaced(clip, theirs, ending, kind):
    refused(cadrage("convert", clip, f"{theirs}{ending}", *kind))
    assert (theirs / "letter.txt").read_text() == "keep me"
    assert clip.exists()


def test_nor_is_one_in_which_the_source_lies(clip, tmp_path):
    refused(cadrage("convert", clip, tmp_path, *STILLS))
    refused(cadrage("convert", clip, f"{tmp_path}/..", "--write", "kind=mp4-h264"))
    assert clip.exists()


@pytest.mark.parametrize("command", ["frame", "lineup", "convert"])
def test_nothing_is_written_over_its_own_source(tmp_path, command):
    still = write_clip(tmp_path / "still.mp4", size=(64, 48), frames=3)
    target = tmp_path / ("source.png" if command != "convert" else "source.mp4")
    still.rename(target)
    before = target.read_bytes()
    link, hard = tmp_path / f"link{target.suffix}", tmp_path / f"hard{target.suffix}"
    link.symlink_to(target)
    hard.hardlink_to(target)
    for name in (target, link, hard):
        refused(cadrage(command, target, name, "--frame", "64x48", "--replace"))
    assert target.read_bytes() == before
    assert link.is_symlink()


def test_devices_pipes_and_links_stay(clip, tmp_path):
    pipe, link = tmp_path / "pipe.mp4", tmp_path / "dangling.mp4"
    os.mkfifo(pipe)
    link.symlink_to(tmp_path / "nowhere")
    for name in (pipe, link):
        refused(cadrage("convert", clip, name, "--frame", "64x48", "--replace"), "is no file")
    assert pipe.is_fifo()
    assert link.is_symlink()


def test_a_file_of_others_is_replaced_only_on_their_word(clip, tmp_path):
    target = tmp_path / "film.mp4"
    target.write_bytes(b"another film")
    refused(cadrage("convert", clip, target, "--frame", "64x48"), "did not write it", "--replace")
    assert target.read_bytes() == b"another film"
    assert cadrage("convert", clip, target, "--frame", "64x48", "--replace").returncode == 0
    assert cadrage("convert", clip, target, "--frame", "64x48").returncode == 0  # now it is ours
    image = tmp_path / "frame.png"
    assert cadrage("frame", clip, image, "--frame", "64x48").returncode == 0
    assert cadrage("frame", clip, image, "--frame", "64x48").returncode == 0


@pytest.mark.parametrize(
    "kind", [kind for kind in OUTPUT_FORMATS.values() if not kind.folder], ids=lambda kind: kind.name
)
def test_every_kind_carries_the_mark(clip, tmp_path, kind):
    target = tmp_path / f"out{kind.suffix}"
    run = cadrage("convert", clip, target, "--frame", "256x144", "--write", f"kind={kind.name}")
    assert run.returncode == 0, run.stdout + run.stderr
    assert files.is_ours(target)
    assert not files.is_ours(clip)


def test_marks_do_not_hurt_images():
    for head in (b"\x89PNG\r\n\x1a\n" + bytes(30), b"\xff\xd8\xff\xe0", b"<svg></svg>\n", b"<!doctype html>"):
        assert MARK.encode() in marked(head)
    assert marked(b"a,b\n") == b"a,b\n"


def test_a_folder_of_stills_keeps_what_else_lies_in_it(clip, tmp_path):
    folder = tmp_path / "stills"
    assert cadrage("convert", clip, folder, *STILLS).returncode == 0
    assert len(files_of(folder)) == 5
    (folder / "notes.txt").write_text("theirs")
    assert cadrage("convert", clip, folder, *STILLS, "--range", "0,0.1").returncode == 0
    assert sorted(one.suffix for one in files_of(folder)) == [".png", ".png", ".png", ".txt"]
    empty = tmp_path / "empty"
    empty.mkdir()
    assert cadrage("convert", clip, empty, *STILLS).returncode == 0


def test_a_result_is_there_whole_or_not_at_all(tmp_path):
    target = tmp_path / "out.bin"
    with pytest.raises(FileNotFoundError), written(target) as part:
        part.write_bytes((tmp_path / "nowhere").read_bytes())
    assert list(tmp_path.iterdir()) == []
    with pytest.raises(CannotWrite, match="no such folder"):
        write_data(tmp_path / "nowhere" / "out.png", b"")
    with pytest.raises(BadRequest, match="own source"):
        write_data(target.parent / "a", b"", sources=[tmp_path])


FULL_DISK = (
    "import resource, sys; resource.setrlimit(resource.RLIMIT_FSIZE, (2000, 2000));"
    "sys.argv = ['cadrage', *sys.argv[1:]]; from cadrage.cli import main; main()"
)


@pytest.mark.parametrize("command", ["frame", "lineup", "convert"])
def test_a_full_disk_leaves_nothing_half_done(clip, tmp_path, command):
    out = tmp_path / "out"
    out.mkdir()
    target = out / ("made.mp4" if command == "convert" else "made.png")
    line = [sys.executable, "-c", FULL_DISK, command, str(clip), str(target), "--frame", "640x480"]
    run = subprocess.run(line, capture_output=True, text=True, check=False)
    refused(run, "could not be written")
    assert list(out.iterdir()) == []


@pytest.mark.parametrize("sent", [signal.SIGTERM, signal.SIGHUP, signal.SIGINT, signal.SIGKILL])
def test_a_signal_leaves_nothing_or_the_next_run_takes_it_away(tmp_path, sent):
    clip = write_clip(tmp_path / "clip.mp4", size=(320, 180), frames=250, sound=None)
    out, scratch = tmp_path / "out", tmp_path / "scratch"
    out.mkdir()
    scratch.mkdir()
    line = [sys.executable, "-m", "cadrage", "convert", str(clip), str(out / "made.mp4"), "--write", "by=rate,rate=500"]
    started = subprocess.Popen(line, env=os.environ | {"TMPDIR": str(scratch)}, stderr=subprocess.PIPE)
    for _ in range(600):
        if any(out.iterdir()) or any(scratch.iterdir()):
            break
        time.sleep(0.05)
    started.send_signal(sent)
    started.communicate(timeout=60)
    assert started.returncode in (128 + sent, -sent)
    if sent == signal.SIGKILL:
        assert any(out.iterdir()) or any(scratch.iterdir())
        sweep(out)
        sweep(scratch)
    assert list(out.iterdir()) == list(scratch.iterdir()) == []


def test_a_signal_that_a_library_swallowed_ends_it_soon_after(tmp_path):
    """One may come while a library calls back, and what is raised there goes no further."""
    clip = write_clip(tmp_path / "clip.mp4", size=(320, 180), frames=120, sound=None)
    swallowed = """
import os, signal, sys
from cadrage.cli import running
from cadrage.render.encoder import picture_track
from cadrage.render import drawing
def opened(*given):
    try:
        os.kill(os.getpid(), signal.SIGINT)
        for _ in range(1000): pass
    except BaseException: pass
    return picture_track(*given)
drawing.picture_track = opened
from cadrage.cli.main import main
main()
"""
    out = tmp_path / "out"
    out.mkdir()
    line = [sys.executable, "-c", swallowed, "convert", str(clip), str(out / "made.mp4")]
    done = subprocess.run(line, capture_output=True, text=True, check=False)
    assert done.returncode == 130, done.stderr
    assert "Stopped." in done.stderr
    assert list(out.iterdir()) == []


def test_a_helper_that_is_stopped_says_nothing(tmp_path):
    line = [sys.executable, "-m", "cadrage", "parts", str(tmp_path)]
    started = subprocess.Popen(line, stdout=subprocess.PIPE, stderr=subprocess.PIPE)
    for _ in range(600):
        caught = Path(f"/proc/{started.pid}/status").read_text().split("SigCgt:")[1].split()[0]
        if int(caught, 16) >> (signal.SIGTERM - 1) & 1:  # now it listens
            break
        time.sleep(0.05)
    started.send_signal(signal.SIGTERM)
    assert started.communicate(timeout=30) == (b"", b"")
    assert started.returncode == 0


def test_what_others_are_writing_is_not_swept(tmp_path):
    theirs = [tmp_path / name for name in (".film.mp4.part", "cadrage-notes", ".cadrage-00000000-1-00000000.part")]
    for path in theirs:
        path.touch()
    with written(tmp_path / "out.bin") as part:
        part.touch()
        sweep(tmp_path)
        assert part.exists()
    assert all(path.exists() for path in theirs)


def test_names_are_names(clip, tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    for name in ("take 1: wide.mp4", "http:part.mp4", "clip%03d.mp4", "x" * 246 + ".mp4"):
        assert cadrage("convert", clip, name, "--frame", "64x48").returncode == 0
        assert (tmp_path / name).stat().st_size > 0


def test_output_to_nowhere_ends_in_words(clip):
    with Path("/dev/full").open("w") as full:
        line = [sys.executable, "-m", "cadrage", "probe", str(clip)]
        run = subprocess.run(line, stdout=full, stderr=subprocess.PIPE, text=True, check=False)
    assert run.returncode == 2
    assert run.stderr.startswith("cadrage: The output could not be written")
    plain = os.environ | {"LC_ALL": "C", "PYTHONUTF8": "0", "PYTHONIOENCODING": "ascii"}
    run = subprocess.run([*line[:3], "inspect", str(clip)], env=plain, capture_output=True, text=True, check=False)
    assert run.returncode == 0
    assert "64?48" in run.stdout


@pytest.mark.parametrize(
    "line",
    [
        ["nonsense"],
        ["frame", "a", "b.png", "--at", "soon"],
        *(pytest.param(line, marks=pytest.mark.long) for line in (["probe"], ["probe", "--nope"], ["convert", "a"])),
    ],
)
def test_errors_of_the_line_itself_are_one_line(line):
    refused(process(*line))
    told = process(*line, "--json")
    assert told.returncode == 2
    assert told.stdout.startswith('{"error": {"problem": ')


def test_the_version_and_examples():
    assert process("--version").stdout.startswith("cadrage ")
    assert process("convert", "--help").stdout.count("cadrage convert") >= 2
    assert "python -m" not in process("--help").stdout


WRITES = {
    "write_bytes",
    "write_text",
    "unlink",
    "rmtree",
    "rmdir",
    "mkdir",
    "touch",
    "rename",
    "symlink_to",
    "hardlink_to",
}


def test_no_other_code_of_the_core_writes_or_removes():
    """Only `files` does; encoders are given names by it."""
    found = []
    for path in CORE.rglob("*.py"):
        if path == Path(files.__file__):
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute):
                modes = [one.value for one in node.args if isinstance(one, ast.Constant)]
                opens = node.func.attr == "open" and any(mode in ("w", "wb", "a", "ab", "x", "r+b") for mode in modes)
                if node.func.attr in WRITES or opens:
                    found.append(f"{path.relative_to(CORE)}: {ast.unparse(node)[:70]}")
    allowed = (
        "av.open(self._pipe",
        "av.open(os.devnull",
        "av.open(f'file:{part}'",
        "av.open(memory",
        "av.open(io.BytesIO()",
    )
    assert [one for one in found if not any(text in one for text in allowed)] == []
