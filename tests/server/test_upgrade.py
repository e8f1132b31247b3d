"""A database of version 1 is brought to this one: nothing that anybody decided, found or ordered is lost.

`stored/version-1.sql` is a dump of a data folder that version 1 made, with every value that has another form since.
"""

import json
import os
import sqlite3
import subprocess
import sys
from pathlib import Path

import pytest

from tests.clips import write_clip

ROOT = Path(__file__).resolve().parents[2]
DUMP = Path(__file__).parent / "stored" / "version-1.sql"
TELL = """
import json
from server.studio.actions import framing_plans, undoing, work
from server.studio.models import Footage, Framing, ProjectFrame, Render, Treatment
def redone(row):
    project = row.footage.project
    undoing.walk(project, project.owner, redo=True)
    undoing.walk(project, project.owner, redo=True)
    return framing_plans.plan_of(Framing.objects.get(pk=row.pk))
rows = framing_plans.loaded(list(Framing.objects.select_related("footage__project", "frame").order_by("pk")))
told = {
    "plans": [framing_plans.plan_of(row).model_dump(mode="json") for row in rows],
    "obeys": [row.own is None for row in rows],
    "labels": [list(row.steps.values_list("label", flat=True)) for row in rows],
    "undone": str(undoing.walk(rows[0].footage.project, rows[0].footage.project.owner, redo=False).change.label),
    "redone": redone(rows[0]).model_dump(mode="json"),
    "settings": [row.settings.model_dump(mode="json") for row in ProjectFrame.objects.order_by("pk")],
    "found": {row.name: sorted(row.found) for row in Footage.objects.all()},
    "bars": Footage.objects.get(name="Depot.mp4").bars.kind,
    "ranges": [row.range.model_dump(mode="json") for row in Footage.objects.order_by("pk")],
    "treatment": Treatment.objects.get().value.surround.pattern,
    "before": list(Render.objects.order_by("pk").values_list("state", flat=True)),
}
while Render.objects.filter(state="queued").exists():
    work.perform_next()
told["after"] = list(Render.objects.order_by("pk").values_list("state", "problem"))
print(json.dumps(told))
"""


def manage(folder, *command):
    environment = {**os.environ, "CADRAGE_DATA": str(folder), "DJANGO_SETTINGS_MODULE": "server.settings"}
    command = [sys.executable, "manage.py", *command]
    return subprocess.run(command, cwd=ROOT, env=environment, check=True, capture_output=True, text=True).stdout


@pytest.fixture(scope="module")
def told(tmp_path_factory):
    folder = tmp_path_factory.mktemp("stored")
    database = sqlite3.connect(folder / "cadrage.sqlite3")
    database.executescript(DUMP.read_text())
    files = dict(database.execute("select name, file from studio_footage"))
    database.close()
    (folder / "footage").mkdir()
    write_clip(folder / "footage" / files["Depot.mp4"], size=(180, 320), frames=25, sound=None)
    write_clip(folder / "footage" / files["Points.mp4"], size=(320, 180), frames=10, sound=None)
    manage(folder, "migrate", "--verbosity", "0")
    return json.loads(manage(folder, "shell", "--verbosity", "0", "-c", TELL))


def test_what_people_decided_is_as_it_was(told):
    first, second, _, fourth = told["plans"]
    assert {plan["version"] for plan in told["plans"]} == {2}
    ground = first["surround"]["ground"]
    assert (first["surround"]["heading"], first["surround"]["size"]) == ("where it is free", "6.5")
    assert (first["surround"]["place"], ground["pattern"], ground["period"]) == ("free_area", "water_light", "12.5")
    assert (second["surround"]["way"], second["surround"]["second"]["pattern"]) == ("left_right", "rising_specks")
    assert fourth["surround"]["pattern"] == told["treatment"] == "fine_weave"
    assert first["frame"]["fields"] == "upper_first"
    assert first["interpretation"]["deinterlace"] == "one_per_field"
    assert first["interpretation"]["burned_in_bars"] == {"left": "0", "right": "0", "top": "2", "bottom": "2"}
    assert told["ranges"] == [{"start": "0.2", "end": "0.8"}, {"start": "0", "end": None}]


def test_their_history_goes_back_and_forth(told):
    assert told["labels"] == [
        ["Begun", "Changed", "Changed"],
        ["Begun", "Changed"],
        ["Begun"],
        ["Begun", "Card"],
    ]
    assert told["obeys"] == [False, False, True, False]
    (title,) = told["redone"]["finish"]["titles"]
    assert (title["text"], title["x"]) == ("upper first", "33.3")


def test_how_files_are_written_is_as_it_was(told):
    wall, totem = told["settings"]
    assert (wall["rate_control"], wall["quality"], wall["bars"]) == (
        "quality",
        "nearly_lossless",
        "active_picture_only",
    )
    assert wall["filename_template"] == "{clip}-{frame}"
    assert (totem["rate_control"], totem["rate"]) == ("constant_rate", 400)


def test_what_was_found_is_found_and_what_was_not_is_looked_for(told):
    assert told["found"] == {"Depot.mp4": ["bars", "fields", "quiet_copy"], "Points.mp4": []}
    assert told["bars"] == "none"


def test_what_was_ordered_is_rendered(told):
    assert sorted(told["before"]) == ["done", "queued"]
    assert told["after"] == [["done", ""], ["done", ""]]
