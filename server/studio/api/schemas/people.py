"""What administrators are told, and tell."""

from datetime import datetime

from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.urls import reverse
from ninja import Schema
from pydantic import Field

from server.studio.actions.people import Use, use_of
from server.studio.models import Invitation, Render
from server.studio.room import free
from server.studio.understood import understood

MOST_AT_WORK = 50


class PersonIn(Schema):
    """What is to be otherwise about somebody; what is null stays, and 0 is as for everybody."""

    active: bool | None = None
    administrator: bool | None = None
    gigabytes: float | None = Field(default=None, ge=0, le=1e6)
    renders: int | None = Field(default=None, ge=0, le=1000)


class PersonOut(Schema):
    """Somebody who is at home here."""

    id: int
    name: str
    active: bool
    administrator: bool
    seen: datetime | None
    projects: int
    use: Use

    @classmethod
    def of(cls, person: User) -> "PersonOut":
        """From their row."""
        return cls(
            id=person.pk,
            name=person.get_username(),
            active=person.is_active,
            administrator=person.is_staff,
            seen=person.last_login,
            projects=person.projects.filter(removed=None).count(),
            use=use_of(person),
        )


class InviteIn(Schema):
    """Whom an invitation is for."""

    administrator: bool = False
    days: int = Field(default=7, ge=1, le=90)


class InvitationOut(Schema):
    """An invitation; `path` is where it leads on this server."""

    id: int
    path: str
    administrator: bool
    expires: datetime

    @classmethod
    def of(cls, row: Invitation) -> "InvitationOut":
        """From its row."""
        path = reverse("invited", kwargs={"token": row.token})
        return cls(id=row.pk, path=path, administrator=row.administrator, expires=row.expires)


class AtWork(Schema):
    """A render that is being made."""

    id: int
    person: str
    project: str
    clip: str
    percent: int


class Understood(Schema):
    """How something was set up."""

    name: str
    value: str
    meaning: str


class HouseOut(Schema):
    """The server, for those who administer it; `free` is in bytes."""

    people: list[PersonOut]
    invitations: list[InvitationOut]
    at_work: list[AtWork]
    waiting: int
    free: int
    settings: list[Understood]

    @classmethod
    def now(cls) -> "HouseOut":
        """As it is now."""
        related = Render.objects.select_related("framing__footage__project__owner")
        running = related.filter(state=Render.State.RUNNING)[:MOST_AT_WORK]
        return cls(
            people=[PersonOut.of(person) for person in get_user_model().objects.order_by("username")],
            invitations=[InvitationOut.of(row) for row in Invitation.good.all()],
            at_work=[_at_work(job) for job in running],
            waiting=Render.objects.filter(state=Render.State.QUEUED).count(),
            free=free(),
            settings=[Understood(name=name, value=value, meaning=meaning) for name, value, meaning in understood()],
        )


def _at_work(job: Render) -> AtWork:
    project = job.framing.footage.project
    return AtWork(
        id=job.pk,
        person=project.owner.get_username(),
        project=project.name,
        clip=job.framing.footage.name,
        percent=100 * job.done // max(1, job.total),
    )
