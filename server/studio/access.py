"""Access rights: owners may do everything, others what their role allows, strangers what a link shows."""

import re
from enum import IntEnum

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser, AnonymousUser
from django.db.models import Q, QuerySet
from django.http import HttpRequest
from ninja.security import SessionAuth

from cadrage.errors import CadrageError
from server.studio.methods import SAFE
from server.studio.models import LookLink, Member, Project

LINKS = "links"
"""In a session: the tokens of links that were opened in it."""
LOOKING = re.compile(r"^/api/framings/\d+/(measure|over-time|path|preview|scope|play|legible|quiet)$")
"""POST requests that change nothing; they use POST because of long bodies."""
SHOWN = re.compile(
    r"^/api/(visitor|projects/\d+(/changes|/renders)?|framings/\d+/thumbnail|renders/\d+/(file|picture))$"
)
TAKEN = re.compile(r"^/api/projects/\d+/delivery/(files|sheet)$")


class Needs(IntEnum):
    """The right that a request needs."""

    SEE = 1
    WORK = 2
    OWN = 3


class NotLet(CadrageError):
    """A person may view a project but not do this in it."""


def needs_of(request: HttpRequest) -> Needs:
    """The right that a request needs, by its kind."""
    return Needs.SEE if request.method in SAFE or LOOKING.match(request.path) else Needs.WORK


def projects_for(request: HttpRequest, needs: Needs = Needs.SEE) -> QuerySet[Project]:
    """Projects in which a visitor may do something; also removed ones."""
    person = request.user
    if not person.is_authenticated:
        opened = links_of(request) if needs == Needs.SEE else LookLink.good.none()
        return Project.everything.filter(pk__in=opened.values("project"))
    if needs == Needs.OWN:
        return Project.everything.filter(owner=person)
    return shared_with(person, needs)


def shared_with(person: AbstractBaseUser | AnonymousUser, needs: Needs = Needs.SEE) -> QuerySet[Project]:
    """The projects of a person, and those shared with them with at least a right."""
    roles = [Member.Role.WORK] if needs == Needs.WORK else list(Member.Role)
    let = Member.objects.filter(person=person, role__in=roles)
    return Project.everything.filter(Q(owner=person) | Q(pk__in=let.values("project")))


def role_in(request: HttpRequest, project: Project) -> str:
    """What the visitor is in a project: its owner, or one who works in it or sees it."""
    person = request.user
    if not person.is_authenticated:
        return Member.Role.SEE
    if project.owner_id == person.pk:
        return "own"
    return Member.objects.filter(project=project, person=person).values_list("role", flat=True).first() or "see"


def may_take(request: HttpRequest, project: Project) -> bool:
    """Whether the visitor may download files: signed-in members may, and holders of a link that allows it."""
    return request.user.is_authenticated or links_of(request).filter(project=project, downloads=True).exists()


def links_of(request: HttpRequest) -> QuerySet[LookLink]:
    """The links that a visitor has opened and that are good."""
    session = getattr(request, "session", None)
    tokens = session.get(LINKS, []) if session is not None else []
    return LookLink.good.filter(token__in=tokens)


class Visitors(SessionAuth):
    """Lets in who is signed in; and who has opened a link to what links show."""

    param_name = settings.SESSION_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> object | None:
        """Who it is; None for a stranger."""
        if request.user.is_authenticated:
            return request.user
        if request.method not in SAFE or not request.session.get(LINKS):
            return None
        taken = TAKEN.match(request.path) or "download" in request.GET
        links = links_of(request).filter(downloads=True) if taken else links_of(request)
        shown = SHOWN.match(request.path) or TAKEN.match(request.path)
        return links.first() if shown else None
