"""Work that a worker process takes. Tasks are given ids, never objects."""

from django_tasks import task

from server.studio.actions import footage, renders

BEFORE_RENDERS = 10  # somebody waits for what is seen in a clip; it takes seconds


@task()
def render_task(job_id: int) -> None:
    """Do one render."""
    renders.perform(job_id)


@task(priority=BEFORE_RENDERS)
def look_task(footage_id: int) -> None:
    """Look at the pictures of one clip."""
    footage.look(footage_id)
