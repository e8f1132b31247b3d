"""Sharing projects."""

from django.http import HttpRequest
from ninja import Router

from server.studio.access import Needs
from server.studio.actions import people
from server.studio.actions import sharing as actions
from server.studio.api import owned
from server.studio.api.schemas import InvitedOut, InviteHereIn, LinkIn, LinkOut, MemberIn, MemberOut, SharingOut
from server.studio.models import Invitation, LookLink

router = Router(tags=["sharing"])


@router.get("/projects/{project_id}/sharing", response=SharingOut)
def sharing(request: HttpRequest, project_id: int) -> SharingOut:
    """With whom a project is shared, and by which links. Only its owner sees that."""
    project = owned.project(request, project_id, needs=Needs.OWN)
    return SharingOut(
        members=[MemberOut.of(row) for row in project.members.select_related("person")],
        links=[LinkOut.of(row) for row in LookLink.good.filter(project=project)],
        invitations=[InvitedOut.of(row) for row in Invitation.good.filter(project=project)],
    )


@router.post("/projects/{project_id}/invitations", response=InvitedOut)
def invite(request: HttpRequest, project_id: int, given: InviteHereIn) -> InvitedOut:
    """Invite somebody who has no account: whoever follows it makes one, and the project is shared with them."""
    project = owned.project(request, project_id, needs=Needs.OWN)
    return InvitedOut.of(actions.invite(project, given.role))


@router.delete("/invitations/{invitation_id}", response={204: None})
def uninvite(request: HttpRequest, invitation_id: int) -> tuple[int, None]:
    """Take an invitation into a project back."""
    people.uninvite(owned.invitation(request, invitation_id))
    return 204, None


@router.post("/projects/{project_id}/members", response=MemberOut)
def share(request: HttpRequest, project_id: int, given: MemberIn) -> MemberOut:
    """Let somebody see a project, or work in it."""
    project = owned.project(request, project_id, needs=Needs.OWN)
    return MemberOut.of(actions.share(project, given.name, given.role))


@router.delete("/members/{member_id}", response={204: None})
def unshare(request: HttpRequest, member_id: int) -> tuple[int, None]:
    """Let somebody do nothing more in a project; people may leave by themselves."""
    actions.unshare(owned.member(request, member_id))
    return 204, None


@router.post("/projects/{project_id}/links", response=LinkOut)
def make_link(request: HttpRequest, project_id: int, given: LinkIn) -> LinkOut:
    """Make a link for looking at a project."""
    project = owned.project(request, project_id, needs=Needs.OWN)
    return LinkOut.of(actions.make_link(project, given.days, downloads=given.downloads))


@router.delete("/links/{link_id}", response={204: None})
def revoke(request: HttpRequest, link_id: int) -> tuple[int, None]:
    """Revoke a link: it opens nothing from now on, also where it was opened."""
    actions.revoke(owned.link(request, link_id))
    return 204, None
