"""The one document of the page."""

import re

import pytest

pytestmark = pytest.mark.django_db


@pytest.fixture
def document(ida, settings, tmp_path):
    (tmp_path / "index.html").write_text("<html><head><title>Page</title></head><body></body></html>")
    settings.WEB_DIR = tmp_path
    return lambda address: ida.get(address).content.decode()


@pytest.mark.parametrize(
    ("address", "wanted"),
    [
        ("/", ["visitor"]),
        ("/projects/12", ["visitor", "projects/12?head=true", "projects/12/renders"]),
        ("/projects/12/framings/7", ["visitor", "projects/12?head=true", "projects/12/renders", "framings/7"]),
        ("/projects/x%22%3E", ["visitor"]),
        ("/projects/" + "9" * 40, ["visitor"]),
    ],
)
def test_it_names_ahead_what_it_asks_for_first(document, address, wanted):
    found = re.findall(r'rel="preload" as="fetch" crossorigin="anonymous" href="/api/([^"]*)">', document(address))
    assert found == wanted
    assert document(address).index("preload") < document(address).index("</head>")


def test_where_it_is_not_built_that_is_said(ida, settings, tmp_path):
    settings.WEB_DIR = tmp_path
    assert ida.get("/").status_code == 503
