"""Materials: pictures and captions that plans use besides clips."""

from django.http import HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile

from cadrage.compose.identity import result_key
from cadrage.compose.preview import picture_alone
from cadrage.footage import ClipIdentity, Interpretation
from server.studio.actions import materials as actions
from server.studio.actions import removing
from server.studio.actions.previews import kept, previewer
from server.studio.api import owned
from server.studio.api.footage import AN_HOUR
from server.studio.api.schemas import MaterialOut
from server.studio.models import Material

router = Router(tags=["materials"])
WIDEST = 640


@router.get("/projects/{project_id}/materials", response=list[MaterialOut])
def materials(request: HttpRequest, project_id: int) -> list[MaterialOut]:
    """Every picture and every file of captions of a project."""
    return [MaterialOut.of(row) for row in owned.project(request, project_id).materials.all()]


@router.post("/projects/{project_id}/materials", response=MaterialOut)
def add(request: HttpRequest, project_id: int, file: File[UploadedFile]) -> MaterialOut:
    """Add a picture or captions. They are read before they are accepted."""
    project = owned.project(request, project_id)
    return MaterialOut.of(actions.accept(project, file.name or "picture", file))


@router.delete("/materials/{material_id}", response={204: None})
def remove(request: HttpRequest, material_id: int, *, confirmed: bool = False) -> tuple[int, None]:
    """Take a material out of its project; for a while it can be brought back. One that is used is refused, 409, with
    what uses it, unless that is confirmed.
    """
    removing.remove(owned.material(request, material_id), confirmed=confirmed)
    return 204, None


@router.post("/materials/{material_id}/restore", response=MaterialOut)
def restore(request: HttpRequest, material_id: int) -> MaterialOut:
    """Bring a removed material back."""
    return MaterialOut.of(removing.bring_back(owned.material(request, material_id, Material.everything)))


@router.get("/materials/{material_id}/picture")
def picture(request: HttpRequest, material_id: int, width: int = 160) -> HttpResponse:
    """A picture, small, as a JPEG; 204 for captions."""
    row = owned.material(request, material_id)
    info, path, width = row.info, row.path, min(max(width, 16), WIDEST)
    if info is None:
        return HttpResponse(status=204)
    identity = ClipIdentity.of(path)
    key = result_key(picture_alone(info, Interpretation()), {"": identity.key}, width=width)
    heavy = previewer.is_heavy(info, identity)
    data = kept(key, lambda: previewer.picture(path, info, Interpretation(), 0, width, identity), heavy=heavy)
    return HttpResponse(data, content_type="image/jpeg", headers={"Cache-Control": AN_HOUR})
