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
means: in one clear line, with nothing left behind. Damage is read past and reported in the Source step; the words after
an input say which findings were reported.

"""
NOTES = {
    "leading": "pictures before the first keyframe reported",
    "undecodable": "undecodable pictures reported",
    "concealed": "concealed damage reported",
    "missing": "missing pictures reported",
    "held": "pictures that the file leaves out reported",
    "unreadable": "unreadable end reported",
    "cut_short": "missing end reported",
    "sound_damaged": "damaged sound reported",
    "clock_jumps": "clock jumps reported",
    "size_changes": "change of size reported",
    "samples_change": "change of sample format reported",
    "pixel_aspect_changes": "change of pixel aspect ratio reported",
    "turned_askew": "rotation by other than a quarter turn reported",
    "other_pictures": "other video streams reported",
    "sound_unknown": "undecodable sound reported",
    "captions_in_picture": "captions in the picture stream reported",
    "active_format": "active format description reported",
    "subtitles_unknown": "undecodable subtitles reported",
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
