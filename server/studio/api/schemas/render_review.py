"""What people see before they render."""

from ninja import Schema

from cadrage.render.offers import BarsChoice, bars_choice
from cadrage.render.review import FileFact
from cadrage.values import Exact
from server.studio.actions.render_review import FrameFiles, Notice, Review


class FilesOut(Schema):
    """The files of one frame: how they are written, and how long and large they are together.

    `name` and `first_seconds` are those of the file of the first framing. `bytes` is null if quality decides: then an
    estimate of the first framing tells how large the others are. `expected_seconds` is how long rendering takes, null
    before anything was rendered.
    """

    frame: int
    title: str
    bars: BarsChoice | None
    facts: list[FileFact]
    name: str
    framings: list[int]
    first_seconds: Exact
    seconds: Exact
    bytes: int | None
    expected_seconds: float | None

    @classmethod
    def of(cls, files: FrameFiles) -> "FilesOut":
        """From the files of a frame."""
        row = files.row
        return cls(
            frame=row.pk,
            title=row.value.name,
            bars=bars_choice(row.value, row.settings),
            facts=list(files.facts),
            name=files.name,
            framings=files.framings,
            first_seconds=files.first_seconds,
            seconds=files.seconds,
            bytes=files.bytes,
            expected_seconds=files.expected_seconds,
        )


class ReviewOut(Schema):
    """Files by frame, and reasons to look at them, the most important first; `fingerprint` changes with either."""

    files: list[FilesOut]
    notices: list[Notice]
    fingerprint: str

    @classmethod
    def of(cls, review: Review) -> "ReviewOut":
        """From a review."""
        return cls(
            files=[FilesOut.of(one) for one in review.files],
            notices=review.notices,
            fingerprint=review.fingerprint,
        )
