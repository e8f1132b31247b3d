"""Source files: what they are, what they are taken to mean, and their pictures."""

from cadrage.footage.candidates import Candidate, candidates
from cadrage.footage.describe import Fact, describe
from cadrage.footage.facts import Facts, SoundFacts
from cadrage.footage.interpretation import Edges, Interpretation, Reading, read_as, taken_as
from cadrage.footage.opening import open_footage
from cadrage.footage.pictures import DecodedFrame, PictureReader
from cadrage.footage.probe import probe
from cadrage.footage.reader import ClipReader

__all__ = [
    "Candidate",
    "ClipReader",
    "DecodedFrame",
    "Edges",
    "Fact",
    "Facts",
    "Interpretation",
    "PictureReader",
    "Reading",
    "SoundFacts",
    "candidates",
    "describe",
    "open_footage",
    "probe",
    "read_as",
    "taken_as",
]
