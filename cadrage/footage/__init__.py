"""Source files: what they are, what they are taken to mean, and their pictures."""

from cadrage.footage.candidates import Candidate, candidates
from cadrage.footage.describe import Fact, describe
from cadrage.footage.facts import Facts, SoundFacts
from cadrage.footage.interpretation import Edges, Interpretation, Reading, read_as, taken_as
from cadrage.footage.library import EMPTY, Library, Material, library_of_files
from cadrage.footage.opening import open_footage
from cadrage.footage.pictures import DecodedFrame, PictureReader
from cadrage.footage.probe import picture_times, probe
from cadrage.footage.reader import ClipReader
from cadrage.footage.store import FrameStore
from cadrage.footage.upright import Upright

__all__ = [
    "EMPTY",
    "Candidate",
    "ClipReader",
    "DecodedFrame",
    "Edges",
    "Fact",
    "Facts",
    "FrameStore",
    "Interpretation",
    "Library",
    "Material",
    "PictureReader",
    "Reading",
    "SoundFacts",
    "Upright",
    "candidates",
    "describe",
    "library_of_files",
    "open_footage",
    "picture_times",
    "probe",
    "read_as",
    "taken_as",
]
