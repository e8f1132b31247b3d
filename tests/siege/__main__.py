"""`make siege`: run attacks and mistakes against a local server and measure their cost, in a few minutes.

It writes docs/siege.md. Everything is bounded, and nothing leaves 127.0.0.1.
"""

import argparse
import tempfile
import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from tests.application import Application
from tests.clips import write_clip
from tests.siege import attacks, clips, texts
from tests.siege.attacks import Field
from tests.siege.kills import killed
from tests.siege.people import Person
from tests.siege.watch import Watch, quantile

CLIENTS, CLIENT_SECONDS = 20, 60.0
KILLS, KILL_SECONDS = 200, 180.0
PATIENCE = 20.0
"""Seconds for one request with a long text."""
KNOWN = {"framing_id": "id", "footage_id": "footage", "frame_id": "frame"}
MB = 1e6
HEAD = """# Under siege

Cost of attacks and mistakes against a server with one worker on {cores} cores, by `make siege`. The columns are the
time, the peak memory of the web process, the wait for pictures of another person at the bench (640 wide, each with
another placement), and the slowest answer to a health check.

| what | answer | seconds | memory, MB | pictures: median, s | 95 of 100, s | health, s | errors |
|---|---|---|---|---|---|---|---|
"""


def prepared(application: Application, clip: Path) -> Field:
    """A server with a person who has a rendered framing, and with a large file to download."""
    person = Person(application.address)
    project = person.project("Siege")
    person.add(project, clip)
    framing = person.framing(project)
    number = person.rendered(project, framing["id"])
    (file,) = (application.folder / "renders").glob(f"{number}.*")
    file.write_bytes(bytes(attacks.LARGE))
    return Field(application, person, project, framing, f"/api/renders/{number}/file")


def row(name: str, answer: str, watch: Watch) -> str:
    """A line of the table."""
    pictures = f"{quantile(watch.pictures, 0.5):.2f} | {quantile(watch.pictures, 0.95):.2f}"
    felt = f"{pictures} | {max(watch.health, default=0):.2f} | {len(watch.errors)}"
    return f"| {name} | {answer} | {watch.seconds:.0f} | {watch.peak / MB:.0f} | {felt} |\n"


def under(field: Field, name: str, attack: Callable[[], str]) -> str:
    """Run an attack while another person works, and return its line of the table."""
    assert field.application.web is not None
    with Watch(Person(field.address), field.framing, field.application.web.pid) as watch:
        answer = attack()
    line = row(name, answer, watch)
    print(line, end="", flush=True)
    for error in watch.errors[:3]:
        print("   ", error, flush=True)
    return line


def many_clients(field: Field) -> str:
    """20 people at the bench for a minute."""
    over, times, errors, lock = time.monotonic() + CLIENT_SECONDS, list[float](), list[str](), threading.Lock()

    def work(number: int) -> None:
        person, shift = Person(field.address), 1000 * number + 1
        while time.monotonic() < over:
            started = time.monotonic()
            answer = person.preview(field.framing, shift)
            with lock:
                times.append(time.monotonic() - started)
                errors.extend([] if answer.status_code == 200 else [answer.text[:80]])
            shift += 1

    with ThreadPoolExecutor(CLIENTS) as many:
        list(many.map(work, range(CLIENTS)))
    assert not errors, errors[:3]
    return f"{len(times)} pictures, 95 of 100 within {quantile(times, 0.95):.2f} s"


def every_text(field: Field) -> str:
    """Texts of 10 KB to 10 MB in every place of the API that takes one."""
    known = {name: field.framing[of] for name, of in KNOWN.items()} | {"project_id": field.project}
    found = texts.measured(field.person, known, PATIENCE)
    slowest = ", ".join(f"{found.slowest[size][0]:.2f} s of {size // 1000} KB" for size in texts.SIZES)
    return f"{found.asked} requests to {found.places} places; the slowest {slowest}"


def first_line(attack: Callable[[Field], str]) -> str:
    """What an attack is."""
    return str(attack.__doc__).partition("\n")[0].rstrip(".")


ALL: tuple[Callable[[Field], str], ...] = (
    attacks.slow_posts,
    attacks.stalled_downloads,
    attacks.unwelcome_bodies,
    attacks.many_sign_ins,
    attacks.long_texts,
    every_text,
    attacks.long_captions,
    attacks.forty_photographs,
    attacks.small_files_large_pictures,
    clips.strangers_posts,
    clips.many_samples,
    clips.small_file_long_clip,
    clips.held_streams,
)


def main() -> None:
    """All of it."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--page", type=Path, help="where to write the table")
    parser.add_argument("--only", help="part of a name")
    given = parser.parse_args()
    text = HEAD.format(cores="two")
    with tempfile.TemporaryDirectory() as place:
        clip = write_clip(Path(place) / "clip.mp4", size=(640, 360), frames=50)
        with Application(Path(place) / "data") as application:
            field = prepared(application, clip)
            chosen: dict[str, tuple[str, Callable[[], str]]] = {
                attack.__name__: (first_line(attack), lambda attack=attack: attack(field)) for attack in ALL
            }
            chosen["many_cells"] = (first_line(attacks.many_cells), lambda: attacks.many_cells(field, clip))
            chosen["many_clients"] = ("20 people at the bench for a minute", lambda: many_clients(field))
            # Last, since the analyses of these clips keep the one worker for minutes.
            chosen["heavy_clips"] = (first_line(clips.heavy_clips), lambda: clips.heavy_clips(field))
            chosen["heavy_playing"] = (first_line(clips.heavy_playing), lambda: clips.heavy_playing(field))
            for name, (title, attack) in chosen.items():
                if not given.only or given.only in name:
                    text += under(field, title, attack)
        if not given.only or given.only in "kills":
            with Application(Path(place) / "killed") as application:
                started = time.monotonic()
                answer = killed(application, clip, KILLS, KILL_SECONDS)
                text += f"\nWeb and worker killed at random moments: {answer}, in {time.monotonic() - started:.0f} s.\n"
                text += "Afterwards the database was whole, nothing waited, and nothing half made lay in the folders.\n"
    print(text)
    if given.page:
        given.page.write_text(text)


if __name__ == "__main__":
    main()
