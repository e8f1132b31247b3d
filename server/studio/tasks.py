"""Work that a worker process takes. Tasks are given ids and names, never objects."""

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

BEFORE_RENDERS = 10  # somebody waits for what is seen in a clip; it takes seconds
BEFORE_ANALYSES = 20  # somebody looks at what is to lie beyond a picture; drafts come first among those
# A render that was begun is finished before another is; a queue of their own in Redis needs no saying so.
BEFORE_OTHERS = 0 if settings.REDIS else 5


@task()
def render_task() -> None:
    """Do the job that is next; a render waits."""
    turns.take("render")


@task(priority=BEFORE_OTHERS, queue_name="parts", backend=settings.PARTS_BACKEND)
def part_task(workspace: str) -> None:
    """Draw one part of a render."""
    work.draw_part(workspace)


@task(priority=BEFORE_RENDERS)
def analysis_task() -> None:
    """Do the job that is next; an analysis waits."""
    turns.take("analysis")


@task(priority=BEFORE_RENDERS)
def following_task(project: int) -> None:
    """Find the ways of windows of a project that follow."""
    following.see_to(project)


@task(priority=BEFORE_ANALYSES)
def plate_task() -> None:
    """Do the job that is next; a plate waits."""
    turns.take("plate")


@task(priority=BEFORE_RENDERS)
def generation_task() -> None:
    """Do the job that is next; an order of pictures from elsewhere waits."""
    turns.take("generation")


@task(priority=BEFORE_RENDERS)
def size_task() -> None:
    """Do the job that is next; somebody waits for a size."""
    turns.take("size")


@task(priority=BEFORE_RENDERS)
def extending_task(project: int) -> None:
    """See that the plates of a project's framings are made."""
    extending.see_to(project)


@task(priority=BEFORE_RENDERS)
def samples_task() -> None:
    """Do the job that is next; a sample clip waits."""
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
