"""A second project like a first: the same clips, frames, rules and framings, to be gone on with apart."""

import json
import os
import re
import secrets
import shutil
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from django.conf import settings
from django.db import models, transaction
from django.db.models import F

from cadrage.files import remove
from server.studio.actions import analyses, following, plates
from server.studio.actions.people import check_allowed
from server.studio.actions.projects import check_project_count
from server.studio.actions.streams import ConcurrencyLimit
from server.studio.models import Footage, Framing, Material, Project, ProjectFrame, Step, Treatment

LONGEST_NAME = 120
Row = TypeVar("Row", bound=models.Model)
_at_once = ConcurrencyLimit(2, "Other projects are being duplicated.", limit_each=1)
Renamed = Callable[[object], object]
REF = re.compile(r'"(footage|material):(\d+)"')


def duplicate(project: Project) -> Project:
    """A project with all of another but its renders and its history.

    Files are linked, and copied where they cannot be.

    Raises:
        NoRoom: the owner's quota does not hold them twice. Busy: another of their projects is being duplicated.
        BadRequest: they have `MAX_PROJECTS` already.
    """
    with _at_once.slot(str(project.owner_id)):
        return _duplicated(project)


def _duplicated(project: Project) -> Project:
    check_project_count(project.owner)
    clips, materials = list(project.footage.all()), list(project.materials.all())
    check_allowed(project, sum(clip.size for clip in clips if clip.file))
    kept = [row for row in (*clips, *materials) if row.file]
    again = {(type(row), row.pk): _again(row.path) for row in kept}
    try:
        with transaction.atomic():
            made = _copied(project, clips, materials, again)
    except BaseException:
        for name in again.values():
            remove(Path(settings.FOOTAGE_DIR) / name)
        raise
    for clip in made.footage.all():  # what was found out about the same file is found by its key
        analyses.ask(clip)
    following.call_if_any_follows(made)
    plates.call_if_any_extends(made)
    return made


def _copied(
    project: Project, clips: list[Footage], materials: list[Material], files: dict[tuple[type, int], str]
) -> Project:
    made = Project.objects.create(
        owner_id=project.owner_id,
        name=f"{project.name[: LONGEST_NAME - 5]} copy",
        keep_days=project.keep_days,
        keep_gigabytes=project.keep_gigabytes,
    )
    frames = {row.pk: _row(row, project=made) for row in project.frames.all()}
    new_clips = {row.pk: _row(row, project=made, file=files.get((Footage, row.pk), "")) for row in clips}
    new_materials = {row.pk: _row(row, project=made, file=files[Material, row.pk]) for row in materials}
    refs = {"footage": new_clips, "material": new_materials}

    def renamed(value: object) -> object:
        """What is stored, with what it names in the new project."""

        def other(found: re.Match[str]) -> str:
            row = refs[found[1]].get(int(found[2]))
            return found[0] if row is None else f'"{found[1]}:{row.pk}"'

        return json.loads(REF.sub(other, json.dumps(value)))

    for rule in project.framing_rules.filter(frame__removed=None):
        _row(rule, project=made, frame=frames[rule.frame_id], rule_json=renamed(rule.rule_json))
    for source in project.source_rules.all():
        _row(source, project=made)
    treatments = {
        row.pk: _row(row, project=made, treatment_json=renamed(row.treatment_json)) for row in project.treatments.all()
    }
    _copy_framings(new_clips, frames, treatments, renamed)
    return made


def _copy_framings(
    clips: dict[int, Footage], frames: dict[int, ProjectFrame], treatments: dict[int, Treatment], renamed: Renamed
) -> None:
    """Framings with the plan that each has now; what led to it stays behind."""
    rows = Framing.present.filter(footage__in=clips).order_by("pk")
    plans = dict(
        Step.objects.filter(framing__in=rows, number=F("framing__current")).values_list("framing", "plan_json")
    )
    for row in rows:
        treatment = row.treatment if row.treatment_id is None else treatments.get(row.treatment_id, row.treatment)
        made = Framing.objects.create(
            footage=clips[row.footage_id], frame=frames[row.frame_id], treatment=treatment, ways_json=row.ways_json
        )
        Step.objects.create(framing=made, number=0, label="Begun", plan_json=renamed(plans[row.pk]))


def _row(row: Row, **changed: object) -> Row:
    """A new row like another, but for what is given."""
    columns = row._meta.concrete_fields  # noqa: SLF001 - documented by Django
    fields = {one.attname: getattr(row, one.attname) for one in columns if not one.primary_key}
    made = type(row)(**fields)
    for name, value in changed.items():
        setattr(made, name, value)
    made.save(force_insert=True)
    return made


def _again(path: Path) -> str:
    """The same file, or folder of stills, under another name; the name."""
    target = path.with_name(f"{secrets.token_hex(8)}{path.suffix}")
    if path.is_dir():
        shutil.copytree(path, target, copy_function=_linked)
    else:
        _linked(path, target)
    return target.name


def _linked(source: str | Path, target: str | Path) -> None:
    try:
        os.link(source, target)
    except OSError:
        shutil.copy2(source, target)
