"""Errors meet HTTP here and nowhere else. One body for all: RFC 9457, problem details."""

import errno
import logging
import sys
from typing import Any

import pydantic
from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, ValidationError, ValidationErrorContext
from ninja.openapi.schema import OpenAPISchema

from cadrage.errors import Busy, CadrageError, Cancelled, MissingSource, Stale
from server.studio.access import NotLet
from server.studio.actions.uses import InUse
from server.studio.api.documented_errors import document_errors
from server.studio.room import NoRoom, TooMuch

log = logging.getLogger(__name__)
JSON = "application/problem+json"


def problem(
    status: int, title: str, *, remedy: str = "", clip: str | None = None, **lists: tuple[str, ...]
) -> JsonResponse:
    """Return the body that every error has: what happened, to which clip, what to do next; and lists of some errors:
    `changed` in between, `uses` of what is to be removed.
    """
    body = {"type": "about:blank", "status": status, "title": title, "remedy": remedy, "clip": clip}
    body |= {name: list(each) for name, each in lists.items() if each}
    return JsonResponse(body, status=status, content_type=JSON)


WORDS = {
    400: ("That was not understood.", "Correct it and try again."),
    401: ("You are not signed in.", "Sign in and try again."),
    403: ("The page is older than your sign-in.", "Load it again."),
    404: ("There is nothing here.", "Go back to your projects."),
    405: ("That cannot be done with this.", "Look into the description of the API."),
    413: ("That was too much at once.", "Send less."),
}
BROKEN = ("Something went wrong on the server.", "Try again; if it happens again, tell the administrator.")


def usual(status: int) -> JsonResponse:
    """The answer for a status without further details."""
    title, remedy = WORDS.get(status, BROKEN)
    return problem(status, title, remedy=remedy)


def of_disk(error: OSError) -> JsonResponse:
    """The answer if a file cannot be read or written."""
    status, title = 500, "The server could not read or write a file."
    if error.errno in (errno.ENOSPC, errno.EDQUOT, errno.EFBIG):
        status, title = 507, "There is no more room on the server."
    elif error.errno in (errno.EROFS, errno.EACCES, errno.EPERM):
        title = "The server may not write where it keeps files."
    return problem(status, title, remedy=TELL)


def of_database(error: DatabaseError) -> JsonResponse:
    """The answer if the database cannot be written: a full disk, or another writer that has held it for too long."""
    if "full" in str(error):
        return problem(507, "There is no more room on the server.", remedy=TELL)
    if "locked" in str(error) or "readonly" in str(error):
        return problem(503, "The database is busy, or cannot be written.", remedy="Try again in a moment.")
    return usual(500)


def broken(request: HttpRequest) -> HttpResponse:
    """The answer to a request that ended in an exception that nothing else has answered."""
    error = sys.exc_info()[1]
    return of_database(error) if isinstance(error, DatabaseError) else usual(500)


TELL = "Tell the administrator, then try again."
STATUS: dict[type, int] = {
    MissingSource: 410,
    Busy: 503,
    Cancelled: 503,
    TooMuch: 413,
    NoRoom: 507,
    Stale: 409,
    InUse: 409,
    NotLet: 403,
}


def of_error(error: CadrageError) -> JsonResponse:
    """The answer to an error of ours."""
    status = next((STATUS[kind] for kind in type(error).__mro__ if kind in STATUS), 422)
    changed = error.changed if isinstance(error, Stale) else ()
    uses = error.uses if isinstance(error, InUse) else ()
    return problem(status, error.problem, remedy=error.remedy, clip=error.clip, changed=changed, uses=uses)


class Api(NinjaAPI):
    """Releases the requests that it refuses, and documents its error answers."""

    def get_openapi_schema(self, **given: Any) -> OpenAPISchema:
        """See `NinjaAPI`."""
        schema = super().get_openapi_schema(**given)
        document_errors(schema)
        return schema

    def validation_error_from_error_contexts(
        self, error_contexts: list[ValidationErrorContext[Any]]
    ) -> ValidationError:
        """See `NinjaAPI`.

        What a validator of ours raised is held by pydantic's error, and by its traceback holds the frames below it, one
        of which holds pydantic's error: a circle that the collector cannot see, which would keep the request for good.
        """
        for context in error_contexts:
            for one in context.pydantic_validation_error.errors(include_url=False):
                raised = one.get("ctx", {}).get("error")
                if isinstance(raised, BaseException):
                    raised.__traceback__ = raised.__context__ = raised.__cause__ = None
        return super().validation_error_from_error_contexts(error_contexts)


def install(api: NinjaAPI) -> None:
    """Make every endpoint answer errors in this form."""

    @api.exception_handler(CadrageError)
    def ours(request: HttpRequest, error: CadrageError) -> HttpResponse:
        return of_error(error)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0]
        where = " ".join(str(part) for part in first.get("loc", ())[2:]).replace("_", " ")
        return problem(
            422, f"{where}: {first.get('msg', 'not valid')}.".lstrip(": "), remedy="Correct it and try again."
        )

    @api.exception_handler(pydantic.ValidationError)
    def impossible(request: HttpRequest, error: pydantic.ValidationError) -> HttpResponse:
        return problem(422, f"{error.errors()[0]['msg']}.", remedy="Correct it and try again.")

    @api.exception_handler(OSError)
    def disk(request: HttpRequest, error: OSError) -> HttpResponse:
        log.error("%s %s failed", request.method, request.path, exc_info=error)
        return of_disk(error)

    @api.exception_handler(DatabaseError)
    def database(request: HttpRequest, error: DatabaseError) -> HttpResponse:
        log.error("%s %s failed", request.method, request.path, exc_info=error)
        return of_database(error)

    @api.exception_handler(Http404)
    @api.exception_handler(OverflowError)  # a number that no row can have
    def missing(request: HttpRequest, error: Http404 | OverflowError) -> HttpResponse:
        return usual(404)

    @api.exception_handler(AuthenticationError)
    def stranger(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return usual(401)

    @api.exception_handler(RequestDataTooBig)
    def heavy(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return usual(413)
