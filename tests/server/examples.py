"""The smallest bodies that the OpenAPI document allows."""

from typing import Any

Json = Any


class Examples:
    """Bodies by the schemas of a document."""

    def __init__(self, document: Json) -> None:
        self.document = document

    def body(self, operation: Json) -> dict[str, Any]:
        """What a request of an operation is sent with, for Django's test client."""
        content = operation.get("requestBody", {}).get("content", {})
        if "application/json" in content:
            value = self.of(content["application/json"]["schema"])
            return {"data": value, "content_type": "application/json"}
        return {}

    def takes_files(self, operation: Json) -> bool:
        """Whether it is sent with files."""
        return "multipart/form-data" in operation.get("requestBody", {}).get("content", {})

    def of(self, schema: Json) -> Json:
        """The smallest value of a schema."""
        if "$ref" in schema:
            return self.of(self.document["components"]["schemas"][schema["$ref"].rpartition("/")[2]])
        for one in ("const", "default"):
            if one in schema:
                return schema[one]
        if "enum" in schema:
            return schema["enum"][0]
        for many in ("anyOf", "oneOf", "allOf"):
            if many in schema:
                return self.of(schema[many][0])
        return self._plain(schema)

    def _plain(self, schema: Json) -> Json:
        kind = schema.get("type")
        if kind == "object":
            needed = schema.get("required", [])
            return {name: self.of(schema["properties"][name]) for name in needed}
        if kind == "array":
            return [self.of(schema["items"])] * schema.get("minItems", 0)
        if kind in ("integer", "number"):
            return max(schema.get("minimum", 0), schema.get("exclusiveMinimum", -1) + 1, 16)
        if kind == "string":
            return "1" * max(1, schema.get("minLength", 0))
        return {"boolean": False, "null": None}.get(kind)
