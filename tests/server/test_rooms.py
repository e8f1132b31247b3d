"""Endpoints call actions; only actions write what is stored."""

import ast
from pathlib import Path

import pytest

STUDIO = Path(__file__).resolve().parents[2] / "server" / "studio"
WRITES = {"save", "create", "update", "delete", "bulk_create", "bulk_update", "get_or_create", "update_or_create"}
ROWS = {"objects", "everything", "_base_manager", "row", "project", "footage", "framing"}


def writes(path):
    """Calls that write through the ORM: of a manager, of what a query gave, or of a row."""
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr in WRITES:
            of = node.func.value
            name = of.attr if isinstance(of, ast.Attribute) else of.id if isinstance(of, ast.Name) else ""
            if name in ROWS or isinstance(of, ast.Call):
                yield f"{path.name}:{node.lineno}"


@pytest.mark.parametrize("path", sorted((STUDIO / "api").rglob("*.py")), ids=lambda path: path.stem)
def test_no_endpoint_writes(path):
    assert list(writes(path)) == []


def test_the_check_sees_writing_where_there_is_some():
    assert sum(len(list(writes(path))) for path in (STUDIO / "actions").glob("*.py")) > 20
