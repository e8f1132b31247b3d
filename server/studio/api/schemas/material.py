"""Materials."""

from typing import Literal

from ninja import Schema

from server.studio.models import Material


class MaterialOut(Schema):
    """A picture or a file of captions. `ref` is the name that plans know it by; `origin`, where it comes from."""

    id: int
    ref: str
    name: str
    kind: Literal["picture", "captions"]
    origin: str

    @classmethod
    def of(cls, row: Material) -> "MaterialOut":
        """From its row."""
        return cls(id=row.pk, ref=row.ref, name=row.name, kind=row.kind, origin=row.origin)
