"""People: inviting them, letting them go, and what each may use of the server and uses."""

from datetime import timedelta

from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.db import transaction
from django.db.models import Sum
from django.utils import timezone

from cadrage.errors import BadRequest
from cadrage.values import Value
from server.studio.models import Allowance, Footage, Invitation, Material, Member, Project, Render
from server.studio.room import GIGABYTE, NoRoom

State = Render.State
INVITED_DAYS = 7


class Use(Value):
    """What somebody may use and uses.

    Attributes:
        used: bytes of their projects' clips, materials and results on this server; linked clips are not.
        gigabytes: that they may use; None for as much as there is.
        renders: of theirs that may be made at a time; None for as many as there are workers.
        running: renders that are being made.
        waiting: that wait.
    """

    used: int
    gigabytes: float | None
    renders: int | None
    running: int
    waiting: int


def used_by(person: User) -> int:
    """Return how many bytes a person's projects take on this server."""
    clips = Footage.everything.filter(project__owner=person, linked="").aggregate(bytes=Sum("size"))["bytes"] or 0
    shelf = Material.everything.filter(project__owner=person)
    pictures = sum(row.path.stat().st_size for row in shelf if row.path.exists())
    done = Render.objects.filter(framing__footage__project__owner=person, state=State.DONE, cleared=None)
    return clips + pictures + sum(row.size for row in done.only("state", "settings_json", "cleared") if row.file_exists)


def allowed_to(person: User) -> tuple[float | None, int | None]:
    """Return how many gigabytes, and renders at a time, a person may use; None is unlimited."""
    own = Allowance.objects.filter(person=person).first()
    gigabytes = own.gigabytes if own and own.gigabytes is not None else settings.QUOTA_GIGABYTES
    renders = own.renders if own and own.renders is not None else settings.QUOTA_RENDERS
    return gigabytes or None, renders or None


def use_of(person: User) -> Use:
    """Return what a person may use and uses."""
    gigabytes, renders = allowed_to(person)
    rows = Render.objects.filter(framing__footage__project__owner=person)
    running, waiting = rows.filter(state=State.RUNNING).count(), rows.filter(state=State.QUEUED).count()
    return Use(used=used_by(person), gigabytes=gigabytes, renders=renders, running=running, waiting=waiting)


def check_allowed(project: Project, length: int = 0) -> None:
    """See that so many bytes more may lie in a project of its owner's.

    Raises:
        NoRoom: they may not.
    """
    gigabytes, _ = allowed_to(project.owner)
    if gigabytes is None:
        return
    arriving = project.owner.projects.aggregate(bytes=Sum("uploads__size"))["bytes"] or 0
    used = used_by(project.owner) + arriving
    if used + length > gigabytes * GIGABYTE:
        whose = project.owner.get_username()
        raise NoRoom(
            f"{used / GIGABYTE:.1f} of {gigabytes:g} GB of {whose}'s projects are used; {length / GIGABYTE:.1f} more "
            "do not fit.",
            remedy="Delete clips or results that are not needed, or ask an administrator for more.",
        )


def change(
    person: User,
    *,
    active: bool | None = None,
    administrator: bool | None = None,
    gigabytes: float | None = None,
    renders: int | None = None,
) -> User:
    """Change what somebody is and may use; what is None stays, and 0 is as for everybody.

    Raises:
        BadRequest: nobody would be left who administers.
    """
    with transaction.atomic():
        person.is_active = person.is_active if active is None else active
        person.is_staff = person.is_staff if administrator is None else administrator
        person.save(update_fields=["is_active", "is_staff"])
        if not get_user_model().objects.filter(is_active=True, is_staff=True).exists():
            raise BadRequest("Nobody would be left who administers.", remedy="Make somebody else administrator first.")
        given = {"gigabytes": gigabytes, "renders": renders}
        changed = {name: value or None for name, value in given.items() if value is not None}
        if changed:
            Allowance.objects.update_or_create(person=person, defaults=changed)
    if not person.is_active:
        sign_out(person)
    return person


def sign_out(person: User) -> None:
    """End all sessions of a person."""
    for session in Session.objects.filter(expire_date__gt=timezone.now()).iterator():
        if session.get_decoded().get("_auth_user_id") == str(person.pk):
            session.delete()


def invite(
    *,
    administrator: bool = False,
    days: int = INVITED_DAYS,
    project: Project | None = None,
    role: Member.Role = Member.Role.SEE,
) -> Invitation:
    """Return an invitation that can be followed once, within some days.

    Args:
        administrator: whether the person will be one.
        days: for which it is good.
        project: that is shared with the person then, or None.
        role: what the person may do in that project.
    """
    expires = timezone.now() + timedelta(days=days)
    return Invitation.objects.create(administrator=administrator, expires=expires, project=project, role=role)


def uninvite(invitation: Invitation) -> None:
    """Take an invitation back."""
    invitation.delete()


def follow(invitation: Invitation, person: User) -> User:
    """Create an account from an invitation, which can then not be used again.

    Raises:
        BadRequest: it was used meanwhile.
    """
    with transaction.atomic():
        if not Invitation.good.select_for_update().filter(pk=invitation.pk).delete()[0]:
            raise BadRequest("This invitation was used.", remedy="Ask for another.")
        person.is_staff = invitation.administrator
        person.save()
        if invitation.project is not None:
            Member.objects.create(project=invitation.project, person=person, role=invitation.role)
    return person


def may_render_more(person: int) -> bool:
    """Whether a person has fewer renders running than they may have at a time."""
    _, most = allowed_to(get_user_model().objects.get(pk=person))
    at_work = Render.objects.filter(**{Render.owner_path: person}, state=State.RUNNING).count()
    return most is None or at_work < most
