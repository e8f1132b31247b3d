"""What is said of files on their way in."""

from ninja import Schema
from pydantic import Field

from server.studio.models import Upload


class UploadOut(Schema):
    """A file that has not arrived: how much of it has, in bytes."""

    token: str
    name: str
    size: int
    received: int

    @classmethod
    def of(cls, row: Upload) -> "UploadOut":
        """What is said of a row."""
        return cls(token=row.token, name=row.name, size=row.size, received=row.received)


class SentIn(Schema):
    """Files that have arrived, by their tokens."""

    uploads: list[str] = Field(min_length=1, max_length=20_000)
