"""Tasks of the worker process. Their arguments are ids and names, never objects."""

from django.conf import settings
from django_tasks import task

from server.studio.actions import (
    analyses,
    extending,
    following,
    generations,
    plate_work,
    samples,
    sizes,
    turns,
    work,
)
from server.studio.actions.calls import answers
from server.studio.models import Analysis, Generation, Plate, Render, SampleClip, Size

BEFORE_RENDERS = 10  # a person waits for these, and they take seconds
BEFORE_ANALYSES = 20  # a person looks at the extended scene; drafts are the first of these
# Parts of a started render come before other renders. In Redis they have their own queue and need no priority.
BEFORE_OTHERS = 0 if settings.REDIS else 5


@task()
def render_task() -> None:
    """Run the next job when a render is queued."""
    turns.take("render")


@task(priority=BEFORE_OTHERS, queue_name="parts", backend=settings.PARTS_BACKEND)
def part_task(workspace: str) -> None:
    """Draw one part of a render."""
    work.draw_part(workspace)


@task(priority=BEFORE_RENDERS)
def analysis_task() -> None:
    """Run the next job when an analysis is queued."""
    turns.take("analysis")


@task(priority=BEFORE_RENDERS)
def following_task(project: int) -> None:
    """Compute the paths of all following windows of a project."""
    following.see_to(project)


@task(priority=BEFORE_ANALYSES)
def plate_task() -> None:
    """Run the next job when a plate is queued."""
    turns.take("plate")


@task(priority=BEFORE_RENDERS)
def generation_task() -> None:
    """Run the next job when pictures of an outside generator are requested."""
    turns.take("generation")


@task(priority=BEFORE_RENDERS)
def size_task() -> None:
    """Run the next job when a file size is to be estimated."""
    turns.take("size")


@task(priority=BEFORE_RENDERS)
def extending_task(project: int) -> None:
    """Queue the plates that the framings of a project need."""
    extending.see_to(project)


@task(priority=BEFORE_RENDERS)
def samples_task() -> None:
    """Run the next job when a sample clip is to be made."""
    turns.take("samples")


TASKS = {
    "render": render_task,
    "part": part_task,
    "analysis": analysis_task,
    "following": following_task,
    "plate": plate_task,
    "extending": extending_task,
    "generation": generation_task,
    "samples": samples_task,
    "size": size_task,
}
for name, one in TASKS.items():
    answers(name, one)

turns.performs(Plate, plate_work.perform_next)
turns.performs(Generation, generations.perform_next)
turns.performs(Size, sizes.perform_next)
turns.performs(SampleClip, samples.perform_next)
turns.performs(Analysis, analyses.perform_next)
turns.performs(Render, work.perform_for)
