"""Calling workers. What they are called for is said here by name; the tasks themselves are told of when they are made,
so that verbs can call workers, and tasks can call verbs.
"""

from django.db import transaction
from django_tasks.base import Task
from django_tasks_db.models import DBTaskResult

_tasks: dict[str, Task] = {}


def answers(name: str, task: Task) -> Task:
    """Let a task answer calls under a name."""
    _tasks[name] = task
    return task


def call(name: str, *given: object) -> None:
    """Call a worker, once what is being stored is."""
    transaction.on_commit(lambda: _tasks[name].enqueue(*given))


def call_now(name: str, *given: object) -> None:
    """Call a worker at once, without asking anything of the database."""
    _tasks[name].enqueue(*given)


def called(name: str) -> bool:
    """Whether a call stands that no worker has heard yet."""
    return DBTaskResult.objects.ready().filter(task_path=_tasks[name].module_path).exists()
