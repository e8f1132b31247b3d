"""Error answers in the OpenAPI document: every operation names those that it can have."""

from typing import Any

from ninja import Schema

REF = "#/components/schemas/Problem"


class Problem(Schema):
    """What went wrong, as RFC 9457 describes it, and what to do next.

    `clip` names the clip it happened to. `changed` lists what happened to a framing in between, where a change is
    refused because of that; `uses` lists what uses a clip or a picture that is to be removed.
    """

    type: str
    status: int
    title: str
    remedy: str
    clip: str | None
    changed: list[str] = []
    uses: list[str] = []


OF_ALL = {
    401: "Nobody is signed in.",
    403: "The visitor may not do this, or the page is older than their sign-in.",
    500: "Something went wrong on the server.",
    503: "The server is busy; try again.",
}
OF_ONE = {404: "It does not exist, or the visitor may not see it.", 410: "A file that it needs is missing."}
OF_INPUT = {400: "The request cannot be read.", 422: "Something in the request cannot be used."}
OF_CHANGES = {
    409: "It was changed since, or is used elsewhere.",
    412: "Files are sent in pieces by another version of that protocol.",
    413: "The request is too large.",
    415: "The content type is not the one that is expected.",
    507: "There is no room for it.",
}


def document_errors(schema: dict[str, Any]) -> None:
    """Add the error answers of every operation to an OpenAPI document."""
    schema["components"]["schemas"]["Problem"] = Problem.model_json_schema()
    schema["components"]["responses"] = {
        f"Error{status}": {"description": meaning, "content": {"application/problem+json": {"schema": {"$ref": REF}}}}
        for status, meaning in (OF_ALL | OF_ONE | OF_INPUT | OF_CHANGES).items()
    }
    for path, operations in schema["paths"].items():
        for method, operation in operations.items():
            changes = method not in ("get", "head")
            of_input = OF_INPUT if changes or operation.get("parameters") else {}
            errors = OF_ALL | (OF_ONE if "{" in path else {}) | of_input | (OF_CHANGES if changes else {})
            operation["responses"] |= {status: {"$ref": f"#/components/responses/Error{status}"} for status in errors}
