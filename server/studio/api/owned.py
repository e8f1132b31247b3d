"""Loading what belongs to the visitor. What belongs to others is not there for them: 404."""

from django.db.models import Manager
from django.http import HttpRequest
from django.shortcuts import get_object_or_404

from server.studio.models import (
    Analysis,
    Footage,
    Framing,
    Generation,
    Material,
    OwnFrame,
    OwnSettings,
    Plate,
    Project,
    ProjectFrame,
    Render,
    Treatment,
    Upload,
)


def project(request: HttpRequest, pk: int, among: Manager[Project] = Project.objects) -> Project:
    """A project of the visitor's; one that was removed only where it is looked for among all."""
    return get_object_or_404(among, pk=pk, owner=request.user)


def frame(request: HttpRequest, pk: int, among: Manager[ProjectFrame] = ProjectFrame.objects) -> ProjectFrame:
    """A frame in one of the visitor's projects; one that was removed only where it is looked for among all."""
    return get_object_or_404(among.select_related("project"), pk=pk, project__owner=request.user)


def treatment(request: HttpRequest, pk: int) -> Treatment:
    """A treatment that the visitor has saved."""
    return get_object_or_404(Treatment, pk=pk, owner=request.user)


def own_frame(request: HttpRequest, pk: int) -> OwnFrame:
    """A frame that the visitor has saved."""
    return get_object_or_404(OwnFrame, pk=pk, owner=request.user)


def own_settings(request: HttpRequest, pk: int) -> OwnSettings:
    """Settings that the visitor has saved."""
    return get_object_or_404(OwnSettings, pk=pk, owner=request.user)


def footage(request: HttpRequest, pk: int, among: Manager[Footage] = Footage.objects) -> Footage:
    """A clip in one of the visitor's projects; one that was removed only where it is looked for among all."""
    return get_object_or_404(among.select_related("project"), pk=pk, project__owner=request.user)


def analysis(request: HttpRequest, pk: int) -> Analysis:
    """What is found out about a clip in one of the visitor's projects."""
    return get_object_or_404(Analysis.objects.select_related("footage"), pk=pk, footage__project__owner=request.user)


def material(request: HttpRequest, pk: int) -> Material:
    """A picture or a file of captions in one of the visitor's projects."""
    return get_object_or_404(Material, pk=pk, project__owner=request.user)


def framing(request: HttpRequest, pk: int) -> Framing:
    """A framing in one of the visitor's projects."""
    related = Framing.present.select_related("footage__project", "frame")
    return get_object_or_404(related, pk=pk, footage__project__owner=request.user)


def plate(request: HttpRequest, pk: int) -> Plate:
    """A plate of a clip in one of the visitor's projects."""
    return get_object_or_404(Plate.objects.select_related("footage"), pk=pk, footage__project__owner=request.user)


def generation(request: HttpRequest, pk: int) -> Generation:
    """Pictures that an outside generator was asked for, for a framing in one of the visitor's projects."""
    related = Generation.objects.select_related("framing__footage")
    return get_object_or_404(related, pk=pk, framing__footage__project__owner=request.user)


def render(request: HttpRequest, pk: int) -> Render:
    """A render in one of the visitor's projects."""
    related = Render.objects.select_related("framing__footage__project", "framing__frame")
    return get_object_or_404(related, pk=pk, framing__footage__project__owner=request.user)


def upload(request: HttpRequest, token: str) -> Upload:
    """A file that the visitor sends."""
    return get_object_or_404(Upload.objects.select_related("project"), token=token, sender=request.user)
