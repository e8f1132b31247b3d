"""Loading what belongs to the visitor. What belongs to others is not there for them: 404."""

from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from server.studio.models import Footage, Framing, OrderedFrame, Project, Render


def project(request: HttpRequest, pk: int) -> Project:
    """A project of the visitor's."""
    return get_object_or_404(Project, pk=pk, owner=request.user)


def frame(request: HttpRequest, pk: int) -> OrderedFrame:
    """A frame in one of the visitor's projects."""
    return get_object_or_404(OrderedFrame.objects.select_related("project"), pk=pk, project__owner=request.user)


def footage(request: HttpRequest, pk: int) -> Footage:
    """A clip in one of the visitor's projects."""
    return get_object_or_404(Footage.objects.select_related("project"), pk=pk, project__owner=request.user)


def framing(request: HttpRequest, pk: int) -> Framing:
    """A framing in one of the visitor's projects."""
    related = Framing.objects.select_related("footage__project", "frame")
    return get_object_or_404(related, pk=pk, footage__project__owner=request.user)


def render(request: HttpRequest, pk: int) -> Render:
    """A render in one of the visitor's projects."""
    related = Render.objects.select_related("framing__footage__project", "framing__frame")
    return get_object_or_404(related, pk=pk, framing__footage__project__owner=request.user)
