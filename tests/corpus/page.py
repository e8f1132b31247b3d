"""The page of which footage works, written by a run of the corpus."""

from collections import Counter
from itertools import groupby

from tests.corpus.checking import Verdict

HEAD = """# Which footage works

Written by `make corpus`, which makes every input below with `ffmpeg` and small scripts, and holds Cadrage against an
independent reader: `ffmpeg`'s own decode of every picture, by a number that is drawn into it, and of the sound, by
clicks. Of each input are tried: probing, reading from the start, the picture on screen at moments all over it,
converting all of it and a range, and inspecting what came out.

*Right* means: every picture once and at its time, sound in place, ranges exact at both ends, called right. *Refused*
means: in one clear line, with nothing left behind. What is damaged is read past, and told where an editor looks at the
source; a word behind an input says what was told of it.

"""
NOTES = {
    "leading": "pictures before the first key picture are told",
    "undecodable": "what cannot be decoded is told",
    "concealed": "what was patched up is told",
    "missing": "missing pictures are told",
    "held": "pictures that the file leaves out are told",
    "unreadable": "told that it cannot be read on",
    "cut_short": "told that it is cut short",
    "sound_damaged": "damaged sound is told",
    "clock_jumps": "told that the clock jumps",
    "size_changes": "the change of size is told",
    "samples_change": "the change of samples is told",
    "pixel_aspect_changes": "the change of the pixels' shape is told",
    "turned_askew": "told that it is no quarter turn",
    "other_pictures": "the other pictures are told",
    "sound_unknown": "sound that cannot be decoded is told",
    "captions_in_picture": "captions in the picture stream are told of",
    "active_format": "the active format description is told of",
    "subtitles_unknown": "subtitles that cannot be decoded are told of",
}


def page(verdicts: list[Verdict]) -> str:
    """The page, as Markdown."""
    counts = Counter(one.outcome for one in verdicts)
    summary = ", ".join(f"{counts[outcome]} {outcome}" for outcome in ("right", "refused", "wrong") if counts[outcome])
    parts = [HEAD, f"{len(verdicts)} inputs: {summary}.\n"]
    for group, members in groupby(verdicts, key=lambda one: one.group):
        rows = list(members)
        right = sum(one.outcome != "wrong" for one in rows)
        parts.append(f"\n## {group}\n\n{right} of {len(rows)} as they should be.\n\n")
        parts += [f"- {one.name.replace(chr(10), ' ')}: {_said(one)}\n" for one in rows]
    return "".join(parts)


def _said(verdict: Verdict) -> str:
    if verdict.outcome == "refused":
        return f"refused: {_short(verdict.told[0])}"
    notes = list(dict.fromkeys(NOTES[kind] for kind in verdict.findings))
    return verdict.outcome + (f"; {', '.join(notes)}" if notes else "")


def _short(text: str) -> str:
    """The first sentence, without the name of the file it is about."""
    return text.partition(": ")[2].split(". ")[0].rstrip(".") or text
