"""Work that a worker process takes. Tasks are given ids, never objects."""

from django_tasks import task

from server.studio.actions import renders


@task()
def render_task(job_id: int) -> None:
    """Do one render."""
    renders.perform(job_id)
