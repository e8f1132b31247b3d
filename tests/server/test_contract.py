"""The contract between server and page."""

import re
from pathlib import Path

from django.conf import settings

from server.studio.management.commands.schema import SNAPSHOT, text


def test_the_snapshot_is_current():
    """If this fails the contract has changed: `make api`, and look at the difference."""
    assert SNAPSHOT.read_text() == text()


def test_the_page_asks_only_for_what_there_is():
    known = set(re.findall(r'"(/api/[^"]*)":', SNAPSHOT.read_text()))
    asked = set()
    for source in (Path(settings.BASE_DIR) / "web" / "src").rglob("*.ts*"):
        if source.name != "generated.ts":
            asked |= set(re.findall(r'"(/api/[^"?`]*)"', source.read_text()))
    assert asked
    assert asked <= known
