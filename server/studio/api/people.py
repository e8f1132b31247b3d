"""People and what the server does, for those who administer it."""

from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from server.studio.access import NotLet
from server.studio.actions import people as actions
from server.studio.api.schemas import HouseOut, InvitationOut, InviteIn, PersonIn, PersonOut
from server.studio.models import Invitation

router = Router(tags=["house"])


@router.get("/house", response=HouseOut)
def house(request: HttpRequest) -> HouseOut:
    """Who is at home here and uses how much, what is at work, and how the server was set up."""
    _check(request)
    return HouseOut.now()


@router.patch("/house/people/{person_id}", response=PersonOut)
def change(request: HttpRequest, person_id: int, given: PersonIn) -> PersonOut:
    """Change what somebody is and may use."""
    _check(request)
    person: User = get_object_or_404(get_user_model(), pk=person_id)
    return PersonOut.of(actions.change(person, **given.model_dump()))


@router.post("/house/invitations", response=InvitationOut)
def invite(request: HttpRequest, given: InviteIn) -> InvitationOut:
    """Make a link by which somebody makes an account for themselves, once."""
    _check(request)
    return InvitationOut.of(actions.invite(administrator=given.administrator, days=given.days))


@router.delete("/house/invitations/{invitation_id}", response={204: None})
def uninvite(request: HttpRequest, invitation_id: int) -> tuple[int, None]:
    """Take an invitation back."""
    _check(request)
    actions.uninvite(get_object_or_404(Invitation, pk=invitation_id))
    return 204, None


def _check(request: HttpRequest) -> None:
    if not request.user.is_staff:
        raise NotLet("This is for administrators.", remedy="Ask one of them.")
