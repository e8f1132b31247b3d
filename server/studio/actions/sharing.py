"""Sharing a project with people, and with whoever has a link."""

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
    """Let somebody see a project, or work in it; who is let already is let do that from now on.

    Raises:
        BadRequest: there is nobody of that name, or it is the owner; or the project uses what lies in others.
    """
    people = get_user_model().objects.filter(is_active=True)
    person = people.filter(username__iexact=name.strip()).exclude(pk=project.owner_id).first()
    if person is None:
        raise BadRequest("There is nobody else of that name here.", remedy="See how they sign in, and write it so.")
    _check_own_things(project)
    with recorded(project, f"Share with {person.get_username()}", project.members.filter(person=person)):
        return Member.objects.update_or_create(project=project, person=person, defaults={"role": role})[0]


def invite(project: Project, role: Member.Role) -> Invitation:
    """Return an invitation to make an account, with which a project is shared then.

    Raises:
        BadRequest: there are many already, or the project uses what lies in others.
    """
    if Invitation.good.filter(project=project).count() >= MOST_INVITATIONS:
        raise BadRequest(f"There are {MOST_INVITATIONS} invitations already.", remedy="Take some back first.")
    _check_own_things(project)
    return people.invite(project=project, role=role)


def _check_own_things(project: Project) -> None:
    """See that a project uses nothing of other projects: whoever works in it may use all that it may.

    Raises:
        BadRequest: it does.
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
    """A link for looking that is good for some days.

    Raises:
        BadRequest: there are many already.
    """
    if LookLink.good.filter(project=project).count() >= MOST_LINKS:
        raise BadRequest(f"There are {MOST_LINKS} links already.", remedy="Revoke some first.")
    expires = timezone.now() + timedelta(days=days)
    with recorded(project, "Make link", project.links.all()):
        return LookLink.objects.create(project=project, downloads=downloads, expires=expires)


def unshare(member: Member) -> None:
    """Let somebody do nothing more in a project."""
    with recorded(member.project, f"Stop sharing with {member.person.get_username()}", only(member)):
        member.delete()


def revoke(link: LookLink) -> None:
    """Have a link open nothing from now on."""
    with recorded(link.project, "Revoke link", only(link)):
        link.delete()


def forget_old_links() -> None:
    """Forget links that open nothing any more. Called by a worker, now and then."""
    LookLink.objects.filter(expires__lt=timezone.now() - timedelta(days=30)).delete()
