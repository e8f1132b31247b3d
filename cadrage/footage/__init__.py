"""Source files: what they are, what they are taken to mean, and their pictures."""

from cadrage.footage.candidates import Candidate, candidates
from cadrage.footage.describe import Fact, describe
from cadrage.footage.identity import ClipIdentity
from cadrage.footage.interpretation import (
    Edges,
    Interpretation,
    ResolvedInterpretation,
    check_takes_effect,
    effective_timing,
    resolve,
)
from cadrage.footage.library import EMPTY, Contents, Library, Material, library_of_files
from cadrage.footage.media_info import MediaInfo, SoundInfo
from cadrage.footage.opening import open_footage
from cadrage.footage.orient import Orient
from cadrage.footage.pictures import DecodedFrame, PictureReader
from cadrage.footage.probe import picture_times, probe
from cadrage.footage.reader import ClipReader
from cadrage.footage.store import FrameStore

__all__ = [
    "EMPTY",
    "Candidate",
    "ClipIdentity",
    "ClipReader",
    "Contents",
    "DecodedFrame",
    "Edges",
    "Fact",
    "FrameStore",
    "Interpretation",
    "Library",
    "Material",
    "MediaInfo",
    "Orient",
    "PictureReader",
    "ResolvedInterpretation",
    "SoundInfo",
    "candidates",
    "check_takes_effect",
    "describe",
    "effective_timing",
    "library_of_files",
    "open_footage",
    "picture_times",
    "probe",
    "resolve",
]
