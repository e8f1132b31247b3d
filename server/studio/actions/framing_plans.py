"""Reading framings with the plans that are in force; a framing that is not there yet begins."""

from collections.abc import Iterable, Iterator

from django.db import transaction
from django.db.models import F

from cadrage.plan import Design, Plan
from server.studio.actions.rules import RuleBook
from server.studio.models import Footage, Framing, Project, ProjectFrame, Step


def begin(footage: Footage, frame: ProjectFrame) -> Framing:
    """The framing of a clip in a frame; made, obeying its rule, where there is none yet."""
    with transaction.atomic():
        framing, new = Framing.objects.get_or_create(footage=footage, frame=frame)
        if new:
            Step.objects.create(framing=framing, number=0, label="Begun")
    return framing


def begin_all(project: Project, clips: list[Footage] | None = None) -> list[Framing]:
    """Every framing of a project, or of some of its clips, with its plan loaded; missing ones are created."""
    footage = list(project.footage.prefetch_related("analyses")) if clips is None else clips
    frames = list(project.frames.all())
    if _missing(footage, frames):
        with transaction.atomic():  # read again: another request may have created or removed some in between
            still = project.footage.filter(pk__in=[clip.pk for clip in footage])
            made = Framing.objects.bulk_create(_missing(list(still), list(project.frames.all())))
            Step.objects.bulk_create(Step(framing=framing, number=0, label="Begun") for framing in made)
    return _shared(Framing.present.filter(footage__in=footage, frame__in=frames), footage, frames)


def _missing(footage: list[Footage], frames: list[ProjectFrame]) -> list[Framing]:
    """The framings of clips in frames that are not in the database."""
    there = set(Framing.objects.filter(footage__in=footage).values_list("footage_id", "frame_id"))
    pairs = [(clip, frame) for clip in footage for frame in frames if (clip.pk, frame.pk) not in there]
    return [Framing(footage=clip, frame=frame) for clip, frame in pairs]


def fresh(rows: list[Framing]) -> list[Framing]:
    """Framings of one project as they are stored now, with all that their numbers are worked out from."""
    clips = Footage.objects.filter(framings__in=rows).distinct().select_related("project").prefetch_related("analyses")
    return _shared(
        Framing.present.filter(pk__in=[row.pk for row in rows]),
        clips,
        ProjectFrame.objects.filter(framings__in=rows).distinct(),
    )


def _shared(found: Iterable[Framing], footage: Iterable[Footage], frames: Iterable[ProjectFrame]) -> list[Framing]:
    """Framings with plans loaded that share one object for a clip and one for a frame: each is read from JSON once."""
    clips, shapes, rows = {clip.pk: clip for clip in footage}, {frame.pk: frame for frame in frames}, list(found)
    for row in rows:
        row.footage, row.frame = clips[row.footage_id], shapes[row.frame_id]
    return loaded(rows)


def loaded(rows: list[Framing]) -> list[Framing]:
    """Framings with their own plans and versions read, all of them at once."""
    steps = Step.objects.filter(framing__in=rows, number=F("framing__current"))
    current = {step.framing_id: step for step in steps}
    for row in rows:
        if (step := current.get(row.pk)) is not None:
            row.own, row.version = step.plan, step.pk
        else:
            row.own = None
    return rows


def all_with_plans(project_id: int) -> Iterator[tuple[Framing, Plan]]:
    """Every framing of a project with the plan that is in force; none where the project is gone."""
    project = Project.objects.filter(pk=project_id).first()
    if project is None:
        return
    book = RuleBook.of(project)
    for row in begin_all(project):
        yield row, book.plan(row, row.own)


def plan_of(framing: Framing, book: RuleBook | None = None) -> Plan:
    """The plan that is in force, with the clip's interpretation and the frame as they are now."""
    return (book or RuleBook.of(framing.footage.project)).plan(framing, framing.own)


def tried(framing: Framing, design: Design) -> Plan:
    """The plan that a design would make of a framing."""
    return design.on(RuleBook.of_sources(framing.footage.project).bare(framing))
