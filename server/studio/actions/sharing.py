"""Sharing a project with members, and by view-only links."""

from datetime import timedelta

from django.contrib.auth import get_user_model
from django.utils import timezone

from cadrage.errors import BadRequest
from server.studio.actions import people
from server.studio.actions.framing_plans import loaded, plan_of
from server.studio.actions.history import only, recorded
from server.studio.actions.rules import RuleBook
from server.studio.models import Framing, Invitation, LookLink, Member, Project

MOST_LINKS = 50
MOST_INVITATIONS = 20


def share(project: Project, name: str, role: Member.Role) -> Member:
    """Make a person a member of a project, or change their role.

    Raises:
        BadRequest: no other account has that name, or the project uses files of other projects.
    """
    people = get_user_model().objects.filter(is_active=True)
    person = people.filter(username__iexact=name.strip()).exclude(pk=project.owner_id).first()
    if person is None:
        raise BadRequest(
            f"No other account is named “{name.strip()}”.", remedy="Enter the name that they sign in with."
        )
    _check_own_things(project)
    with recorded(project, f"Share with {person.get_username()}", project.members.filter(person=person)):
        return Member.objects.update_or_create(project=project, person=person, defaults={"role": role})[0]


def invite(project: Project, role: Member.Role) -> Invitation:
    """Return an invitation to create an account that becomes a member of a project.

    Raises:
        BadRequest: the limit of invitations is reached, or the project uses files of other projects.
    """
    if Invitation.good.filter(project=project).count() >= MOST_INVITATIONS:
        raise BadRequest(f"There are {MOST_INVITATIONS} invitations already.", remedy="Revoke some first.")
    _check_own_things(project)
    return people.invite(project=project, role=role)


def _check_own_things(project: Project) -> None:
    """Check that a project uses only its own files: its members can use every file that it uses.

    Raises:
        BadRequest: it uses a file of another project.
    """
    own = {row.ref for row in (*project.footage.only("pk"), *project.materials.only("pk"))}
    book = RuleBook.of(project)
    related = Framing.present.filter(footage__project=project).select_related("footage__project", "frame")
    for row in loaded(list(related)):
        if foreign := set(plan_of(row, book).asset_refs) - own - {""}:
            raise BadRequest(
                f"In {row.frame.value.name} it uses a picture of another project ({len(foreign)}).",
                remedy="Add that picture to this project and choose it there, then share.",
                clip=row.footage.name,
            )


def make_link(project: Project, days: int, *, downloads: bool) -> LookLink:
    """Create a view-only link that expires after some days.

    Raises:
        BadRequest: the limit of links is reached.
    """
    if LookLink.good.filter(project=project).count() >= MOST_LINKS:
        raise BadRequest(f"There are {MOST_LINKS} links already.", remedy="Revoke some first.")
    expires = timezone.now() + timedelta(days=days)
    with recorded(project, "Make link", project.links.all()):
        return LookLink.objects.create(project=project, downloads=downloads, expires=expires)


def unshare(member: Member) -> None:
    """Remove a member from a project."""
    with recorded(member.project, f"Stop sharing with {member.person.get_username()}", only(member)):
        member.delete()


def revoke(link: LookLink) -> None:
    """Revoke a view-only link."""
    with recorded(link.project, "Revoke link", only(link)):
        link.delete()


def forget_old_links() -> None:
    """Delete links that expired a month ago. Workers run this periodically."""
    LookLink.objects.filter(expires__lt=timezone.now() - timedelta(days=30)).delete()
