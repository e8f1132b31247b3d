"""Following an invitation."""

from django.contrib.auth import login
from django.contrib.auth.forms import UserCreationForm
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from server.studio.actions.people import follow
from server.studio.models import Invitation

BACKEND = "django.contrib.auth.backends.ModelBackend"


@require_http_methods(["GET", "HEAD", "POST"])
def invited(request: HttpRequest, token: str) -> HttpResponse:
    """Make an account, and be signed in to it; an invitation that is no good is told so."""
    invitation = Invitation.good.filter(token=token).first()
    if invitation is None:
        return render(request, "registration/no_link.html", status=404)
    form = UserCreationForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        login(request, follow(invitation, form.save(commit=False)), backend=BACKEND)
        return redirect("/")
    return render(request, "registration/invited.html", {"form": form})
