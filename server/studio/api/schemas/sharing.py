"""What is said of sharing."""

from datetime import datetime

from django.urls import reverse
from ninja import Schema
from pydantic import Field

from server.studio.models import Invitation, LookLink, Member


class MemberIn(Schema):
    """Somebody, by the name they sign in with, and what they may do."""

    name: str = Field(min_length=1, max_length=150)
    role: Member.Role


class MemberOut(Schema):
    """Somebody with whom a project is shared."""

    id: int
    name: str
    role: Member.Role

    @classmethod
    def of(cls, row: Member) -> "MemberOut":
        """From its row."""
        return cls(id=row.pk, name=row.person.get_username(), role=Member.Role(row.role))


class LinkIn(Schema):
    """A link: for how many days it is good, and whether files may be taken along."""

    days: int = Field(ge=1, le=365)
    downloads: bool = False


class LinkOut(Schema):
    """A link; `path` is where it leads on this server."""

    id: int
    path: str
    downloads: bool
    expires: datetime

    @classmethod
    def of(cls, row: LookLink) -> "LinkOut":
        """From its row."""
        path = reverse("look", kwargs={"token": row.token})
        return cls(id=row.pk, path=path, downloads=row.downloads, expires=row.expires)


class InviteHereIn(Schema):
    """What somebody who is invited may do in the project."""

    role: Member.Role


class InvitedOut(Schema):
    """An invitation; `path` is where it leads on this server."""

    id: int
    path: str
    role: Member.Role
    expires: datetime

    @classmethod
    def of(cls, row: Invitation) -> "InvitedOut":
        """From its row."""
        path = reverse("invited", kwargs={"token": row.token})
        return cls(id=row.pk, path=path, role=Member.Role(row.role), expires=row.expires)


class SharingOut(Schema):
    """With whom a project is shared, by which links, and who is invited."""

    members: list[MemberOut]
    links: list[LinkOut]
    invitations: list[InvitedOut]
