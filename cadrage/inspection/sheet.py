"""The delivery sheet: every file with expected and measured values, to print, to calculate with, to send."""

import csv
import hashlib
import io
import json
from base64 import b64encode
from collections.abc import Sequence
from datetime import datetime
from functools import cache
from html import escape
from pathlib import Path
from typing import Literal

from cadrage.compose import measure
from cadrage.compose.extension_shares import shares_at, shares_summary
from cadrage.compose.over_time import movement_summary, over_time
from cadrage.files import files_of, pieces_of
from cadrage.inspection.inspect import Inspection
from cadrage.inspection.report import RESULTS
from cadrage.lettering.fonts import TYPEFACE
from cadrage.render.offers import settings_summary
from cadrage.render.request import RenderRequest
from cadrage.values import Value

Pictures = Sequence[Sequence[bytes]]
"""Of each file as many as tell it: one where nothing moves, else the first, the middle and the last of each shot."""
SheetForm = Literal["html", "csv", "json"]
PAPER = """
body { font: 13px/1.4 Archivo, sans-serif; color: #24211c; margin: 24px; }
h1 { font-size: 22px; margin: 0 0 2px; }
article { display: grid; grid-template-columns: 200px 1fr; gap: 16px; border-top: 1px solid #b9b09c; padding: 14px 0;
  break-inside: avoid; }
.seen { margin: 0; line-height: 0; } img { max-width: 200px; max-height: 160px; }
.seen img + img, .seen img:has(+ img) { max-width: 64px; max-height: 64px; margin: 0 2px 2px 0; }
h2 { font-size: 15px; margin: 0; }
dl { display: grid; grid-template-columns: 110px 1fr; margin: 6px 0; }
dt, .soft { color: #6b6456; } dd { margin: 0; }
table { border-collapse: collapse; margin-top: 6px; }
td, th { text-align: left; padding: 1px 12px 1px 0; font-size: 12px; }
.right { color: #3e6640; } .wrong { color: #9c3b1c; font-weight: bold; }
code { font-size: 11px; word-break: break-all; }
@page { margin: 14mm; }
@media print { body { margin: 0; color: #000; } dt, .soft { color: #444; } h2 { break-after: avoid; }
  img { print-color-adjust: exact; } }
"""


class SheetRow(Value):
    """One file.

    Attributes:
        file: its name.
        clip, source: the clip's name, and what it is.
        part: the range of it that was delivered.
        frame: what it was put into.
        placement, movement: as text.
        kept_percent, covered_percent, enlargement: what that cost; of what moves the least kept and covered, and the
            most enlarged.
        surround, finish: as text.
        settings: how the file is written, as text.
        bytes: of the file.
        sha256: of all its bytes.
        finished: when, as ISO 8601.
        inspection: of the file.
    """

    file: str
    clip: str
    source: str
    part: str
    frame: str
    placement: str
    movement: str
    kept_percent: float
    covered_percent: float
    enlargement: float
    surround: str
    finish: str
    settings: str
    bytes: int
    sha256: str
    finished: str
    inspection: Inspection

    @classmethod
    def of(
        cls, file: str, request: RenderRequest, path: Path, sha256: str, finished: datetime, report: Inspection
    ) -> "SheetRow":
        """From a request and its result.

        Args:
            file: what the file is called.
            request: what was asked for; its source's name is the clip's.
            path: where the file lies.
            sha256: of its bytes.
            finished: when.
            report: of the inspection.
        """
        numbers, frame = measure(request.plan, request.info), request.plan.frame
        over, cost = over_time(request.plan, request.info), numbers.cost
        return cls(
            file=file,
            clip=request.clip or request.source.name,
            source=request.info.summary,
            part=_part(request),
            frame=f"{frame.name} {frame.width}×{frame.height}".strip(),
            placement=numbers.summary.placement,
            movement=movement_summary(request.plan),
            kept_percent=round(float(over.kept_least.value if over else cost.kept_percent), 2),
            covered_percent=round(float(over.covered_least.value if over else cost.covered_percent), 2),
            enlargement=round(float(over.enlarged_most.value if over else cost.enlargement), 4),
            surround=_surround(request, numbers.summary.surround),
            finish=numbers.summary.finish,
            settings=settings_summary(frame, request.settings),
            bytes=sum(file.stat().st_size for file in files_of(path)),
            sha256=sha256,
            finished=finished.isoformat(timespec="seconds"),
            inspection=report,
        )


def _surround(request: RenderRequest, words: str) -> str:
    """The surround; of an extended scene, the share of the frame that is real."""
    shares = shares_at(request.plan, request.info, request.library, request.timing.start)
    return words if shares is None else f"{words}: {shares_summary(shares)}"


def _part(request: RenderRequest) -> str:
    timing = request.timing
    end = timing.start + timing.info.duration * timing.speed
    whole = request.plan.range.whole or request.settings.range == "whole_clip"
    return "whole clip" if whole else f"{float(timing.start):.3f} to {float(end):.3f} s"


def digest_of(path: Path) -> str:
    """The SHA-256 of a file's bytes, in hexadecimal digits; of a folder's files, one behind the other."""
    found = hashlib.sha256()
    for piece in pieces_of(path):
        found.update(piece)
    return found.hexdigest()


def sheet_json(title: str, rows: list[SheetRow]) -> str:
    """All of it."""
    made = {"title": title, "files": [row.model_dump(mode="json") for row in rows]}
    return json.dumps(made, indent=1, ensure_ascii=False) + "\n"


def sheet_csv(rows: list[SheetRow]) -> str:
    """A line for each file, with its measured values behind one another."""
    out = io.StringIO()
    fields = [name for name in SheetRow.model_fields if name != "inspection"]
    names = list(dict.fromkeys(line.name for row in rows for line in row.inspection.lines))
    writer = csv.writer(out)
    writer.writerow([*fields, "right", *names])
    for row in rows:
        found = {line.name: line.found for line in row.inspection.lines}
        values = [_plain(getattr(row, name)) for name in fields]
        writer.writerow(
            [*values, "yes" if row.inspection.right else "no", *(_plain(found.get(name, "")) for name in names)]
        )
    return out.getvalue()


def _plain(value: object) -> object:
    """A value that no spreadsheet takes for a formula."""
    return f"'{value}" if isinstance(value, str) and value[:1] in ("=", "+", "-", "@") else value


@cache
def _typeface() -> str:
    """The page's own typeface, in the page itself: the sheet is sent to people who do not have it."""
    data = b64encode(TYPEFACE.read_bytes()).decode()
    return f'@font-face {{ font-family: Archivo; src: url("data:font/woff2;base64,{data}"); font-weight: 100 900; }}'


def sheet_html(title: str, rows: list[SheetRow], pictures: Pictures) -> str:
    """A page that prints well; the pictures, JPEG, are in it."""
    right = sum(row.inspection.right for row in rows)
    articles = "".join(_article(row, each) for row, each in zip(rows, pictures, strict=True))
    return (
        f'<!doctype html><html lang="en"><meta charset="utf-8"><title>{escape(title)}: delivery sheet</title>'
        f"<style>{_typeface()}{PAPER}</style><h1>{escape(title)}: delivery sheet</h1>"
        f'<p class="soft">Files: {len(rows)}; passed: {right}</p>{articles}</html>\n'
    )


def sheet_forms(title: str, rows: list[SheetRow], pictures: Pictures) -> dict[SheetForm, str]:
    """The sheet in every form."""
    return {
        "html": sheet_html(title, rows, pictures),
        "csv": sheet_csv(rows),
        "json": sheet_json(title, rows),
    }


def _article(row: SheetRow, pictures: Sequence[bytes]) -> str:
    info = {
        "Source": f"{row.clip}, {row.source}; {row.part}",
        "Frame": row.frame,
        "Placement": f"{row.placement}; {row.kept_percent:g}% kept, covers {row.covered_percent:g}%, "
        f"enlarged {row.enlargement:g}×",
        "Movement": row.movement,
        "Surround": row.surround,
        "Finish": row.finish,
        "File": f"{row.settings}, {row.bytes:,} bytes, {row.finished}",
    }
    described = "".join(f"<dt>{name}</dt><dd>{escape(text)}</dd>" for name, text in info.items())
    lines = "".join(
        f"<tr><td>{escape(line.name)}</td><td>{escape(line.asked)}</td><td>{escape(line.found)}</td>"
        f'<td class="{line.verdict}">{RESULTS[line.verdict]} {escape(line.remedy)}</td></tr>'
        for line in row.inspection.lines
    )
    verdict = '<span class="right">Pass</span>' if row.inspection.right else '<span class="wrong">Fail</span>'
    shown = "".join(f'<img alt="" src="data:image/jpeg;base64,{b64encode(one).decode()}">' for one in pictures)
    return (
        f"<article><p class=seen>{shown}</p><div>"
        f"<h2>{escape(row.file)} {verdict}</h2><dl>{described}</dl>"
        f"<table><tr><th><th>Expected<th>Measured<th>Result</tr>{lines}</table>"
        f"<p class=soft>SHA-256 <code>{row.sha256}</code></p></div></article>"
    )
