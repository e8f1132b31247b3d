"""Opening a link for looking."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET

from server.studio.access import LINKS
from server.studio.models import LookLink

MOST_KEPT = 20


@require_GET
def look(request: HttpRequest, token: str) -> HttpResponse:
    """Remember the link for this browser, and go to its project; a link that is no good is told so."""
    link = LookLink.good.filter(token=token).first()
    if link is None:
        return render(request, "registration/no_link.html", status=404)
    if not request.user.is_authenticated:
        kept = [one for one in request.session.get(LINKS, []) if one != token]
        request.session[LINKS] = [*kept, token][-MOST_KEPT:]
    return redirect(f"/projects/{link.project_id}")
