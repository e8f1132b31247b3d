"""Source files: what they are, what they are taken to mean, and their pictures."""

from cadrage.footage.candidates import Candidate, candidates
from cadrage.footage.describe import Fact, describe
from cadrage.footage.facts import Facts, SoundFacts
from cadrage.footage.interpretation import Interpretation, Reading, read_as
from cadrage.footage.probe import probe
from cadrage.footage.reader import ClipReader, DecodedFrame

__all__ = [
    "Candidate",
    "ClipReader",
    "DecodedFrame",
    "Fact",
    "Facts",
    "Interpretation",
    "Reading",
    "SoundFacts",
    "candidates",
    "describe",
    "probe",
    "read_as",
]
