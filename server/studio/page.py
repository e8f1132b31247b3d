"""The page: one document, the same at every address; the browser shows what belongs there."""

from django.conf import settings
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_GET


@require_GET
@login_required
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The document of the application."""
    document = settings.WEB_DIR / "index.html"
    if not document.exists():
        return HttpResponse("The page is not built yet. Run `make web`.", status=503, content_type="text/plain")
    return HttpResponse(document.read_bytes())
