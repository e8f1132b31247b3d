"""Small renderings of every surround and finish, kept to be held against.

`python -m tests.golden_frames` draws them anew. Look at what has changed before keeping it.
"""

import json
import sys
import tempfile
from fractions import Fraction
from hashlib import blake2b
from pathlib import Path

import numpy as np
from PIL import Image

from cadrage.analysis import AnalysisStore, Subject
from cadrage.compose import Compositor
from cadrage.compose.extending import plates_asked
from cadrage.compose.identity import ENGINE_VERSION
from cadrage.extend.request import PlateSide
from cadrage.finish import Captions, Finish, Title, offered_parts
from cadrage.footage import ClipReader, Library, Material, MediaInfo, library_of_files, probe
from cadrage.formats import Frame
from cadrage.pixels.rgb import to_rgb
from cadrage.plan import Plan
from cadrage.plates import finder, make_all
from cadrage.surrounds import SURROUND_KINDS, AnimatedPattern, Extended, Plain, Sides
from cadrage.surrounds.animated_pattern import PATTERNS
from cadrage.wording import wording
from tests.clips import write_clip

FOLDER = Path(__file__).resolve().parent / "goldens"
NOTE = FOLDER / "engine.json"
FRAME = Frame(width=240, height=136)
TIME = Fraction(1, 5)


def scene(number: int) -> np.ndarray:
    """A picture with edges, a slope and colours of its own."""
    picture = np.empty((160, 100, 3), np.uint8)
    picture[..., 0] = np.linspace(60, 190, 100).astype(np.uint8)
    picture[..., 1] = np.linspace(150, 70, 160).astype(np.uint8)[:, None]
    picture[..., 2] = 110
    picture[100:] = (70, 66, 60)
    picture[60:110, 20 + number : 60 + number] = (46, 92, 78)
    picture[70:85, 26 + number : 54 + number] = (239, 226, 194)
    return picture


def plans(folder: Path) -> dict[str, Plan]:
    """Every rendering by its name."""
    captions = folder / "words.srt"
    captions.write_text("1\n00:00:00,000 --> 00:00:09,000\nAll aboard\n")
    plain = Plan(frame=FRAME, surround=Plain(colour="#9098a0"))
    made = {f"surround {name}": Plan(frame=FRAME, surround=kind()) for name, kind in SURROUND_KINDS.items()}
    made |= {
        f"drift {wording(name)}": Plan(frame=FRAME, surround=AnimatedPattern(pattern=name))
        for name in PATTERNS
        if name != "clouds"
    }
    # Mirrored, since what is completed may differ in a patch on another kind of processor.
    soft = PlateSide(way="mirrored", melt=1)
    made["surround extended"] = Plan(frame=FRAME, surround=Extended(left=soft, right=soft, match_grain=False))
    made["surround sides"] = Plan(frame=FRAME, surround=Sides(second=AnimatedPattern()))
    for part in offered_parts():
        made[f"finish {part.name}"] = plain.model_copy(
            update={"finish": Finish.model_validate({part.name: part.example})}
        )
    made["finish titles"] = plain.model_copy(
        update={"finish": Finish(titles=(Title(text="Number 7", size=16, plate=50),))}
    )
    made["finish captions"] = plain.model_copy(update={"finish": Finish(captions=Captions(of=str(captions), size=9))})
    return made


def library_with_plate(folder: Path, path: Path, info: MediaInfo) -> Library:
    """What plans may use, with the plate of the one that extends, whatever plate is asked for."""
    store, subject = AnalysisStore(folder / "plates"), Subject(path, path.name, info)
    plan = plans(folder)["surround extended"]
    make_all(store, subject, plan, library_of_files(Material(path, info)))
    (made,) = plates_asked(plan, info)
    there = finder(store, subject)(made.asked.model_dump_json())
    assert there is not None
    return library_of_files(Material(path, info), plates=lambda _: there)


def drawn(folder: Path) -> dict[str, np.ndarray]:
    """All of them, as R'G'B'."""
    path = write_clip(folder / "scene.mp4", size=(100, 160), frames=25, paint=scene, sound=None)
    info = probe(path)
    library = library_with_plate(folder, path, info)
    with ClipReader(path, info) as reader:
        stored = reader.frame_at(TIME).planes
    return {
        name: to_rgb(Compositor(plan, stored.layout, info, library=library).compose(stored, time=TIME))
        for name, plan in plans(folder).items()
    }


def kept_of() -> dict[str, object]:
    """The version of the engine and what stands for all goldens."""
    digest = blake2b(digest_size=16)
    for path in sorted(FOLDER.glob("*.png")):
        digest.update(path.name.encode() + path.read_bytes())
    return {"engine": ENGINE_VERSION, "goldens": digest.hexdigest()}


def main() -> None:
    """Draw them anew, under a version of the engine that has none yet."""
    if json.loads(NOTE.read_text())["engine"] == ENGINE_VERSION:
        sys.exit("Raise ENGINE_VERSION first: what was made with this version must not be shown for the new one.")
    FOLDER.mkdir(exist_ok=True)
    for old in FOLDER.glob("*.png"):
        old.unlink()
    with tempfile.TemporaryDirectory() as folder:
        for name, image in drawn(Path(folder)).items():
            Image.fromarray(image).save(FOLDER / f"{name}.png", optimize=True)
    NOTE.write_text(json.dumps(kept_of()) + "\n")


if __name__ == "__main__":
    main()
