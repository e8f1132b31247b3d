"""The page: one document, the same at every address; the browser shows what belongs there."""

import re

from django.conf import settings
from django.contrib.auth.views import redirect_to_login
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_GET

from cadrage.lettering.fonts import TYPEFACE
from server.studio.access import links_of


@require_GET
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The document of the application; for strangers where a link leads them, elsewhere they are asked to sign in."""
    if not (request.user.is_authenticated or _shown(request)):
        return redirect_to_login(request.get_full_path())
    document = settings.WEB_DIR / "index.html"
    if not document.exists():
        return HttpResponse("The page is not built yet. Run `make web`.", status=503, content_type="text/plain")
    return HttpResponse(document.read_text().replace("</head>", f"{_ahead(request.path)}</head>"))


@require_GET
def typeface(request: HttpRequest) -> HttpResponse:
    """The typeface of the sign-in pages, which is public."""
    kept = {"Cache-Control": "public, max-age=31536000, immutable"}
    return HttpResponse(TYPEFACE.read_bytes(), content_type="font/woff2", headers=kept)


def _shown(request: HttpRequest) -> bool:
    """Whether a link that was opened leads to the project of this address."""
    found = PROJECT.match(request.path)
    return found is not None and links_of(request).filter(project=int(found[1])).exists()


PROJECT = re.compile(r"^/projects/(\d{1,18})(?:/framings/(\d{1,18}))?(?!\d)")


def _ahead(path: str) -> str:
    """Links to what the page at an address asks for first, so that the browser fetches it while it reads the script."""
    found = PROJECT.match(path)
    wanted = ["/api/visitor"]
    if found:
        wanted += [f"/api/projects/{found[1]}?head=true", f"/api/projects/{found[1]}/renders"]
    if found and found[2]:
        wanted.append(f"/api/framings/{found[2]}")
    return "".join(f'<link rel="preload" as="fetch" crossorigin="anonymous" href="{address}">' for address in wanted)
