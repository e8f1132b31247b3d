"""`manage.py work`: a worker process."""

import logging
import threading
import time
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.core.management import CommandError, CommandParser, call_command
from django.core.management.base import BaseCommand
from django.db import close_old_connections, connection
from django.db.utils import OperationalError

from server.studio.actions import analyses, generations, plate_work, plates, samples, sizes, work
from server.studio.actions.clearing import clear_due, sweep
from server.studio.actions.footage import read_anew
from server.studio.actions.removing import purge
from server.studio.actions.sweeping import Daily
from server.studio.health import note_worker

PICK_UP_SECONDS = 2
FORGET_DAYS = 1
log = logging.getLogger(__name__)


class Command(BaseCommand):
    """Takes tasks until it is stopped, and every few seconds picks up renders that a dead worker left."""

    help = (
        "Take render tasks; stop with Ctrl-C or SIGTERM, which lets the task at hand finish. "
        "With --parts it only draws parts of renders that it is told of through Redis, and needs the media folder "
        "but no database: so it can run on another machine."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        """One switch."""
        parser.add_argument("--parts", action="store_true", help="only draw parts of renders, told of through Redis")

    def handle(self, *args: Any, parts: bool = False, **options: Any) -> None:
        """Run until stopped."""
        if parts:
            if not settings.REDIS:
                raise CommandError("Set CADRAGE_REDIS to the address of a Redis server first.")
            call_command("rqworker", "parts", job_class="django_tasks_rq.Job", verbosity=0)
            return
        threading.Thread(target=_keep_house, name="house", daemon=True).start()
        names = "default" if settings.REDIS else "default,parts"
        while _take_tasks(names):
            time.sleep(PICK_UP_SECONDS)


def _take_tasks(names: str) -> bool:
    """Take tasks until told to stop; says whether to go on, since the database was locked for too long."""
    try:
        call_command("db_worker", queue_name=names, interval=0.25, startup_delay=False, reload=False, verbosity=1)
    except OperationalError as error:
        log.warning("The database was busy, tasks are taken again soon: %s", error)
        connection.close()
        return True
    return False


def _keep_house() -> None:
    while True:
        _do(note_worker)
        for chore in CHORES:
            _do(chore)
        close_old_connections()
        time.sleep(PICK_UP_SECONDS)


def _do(chore: Callable[[], None]) -> None:
    """Do a chore; what goes wrong in one keeps the house from none of the others, nor from doing it again."""
    try:
        chore()
    except OperationalError:
        connection.close()  # the database was busy; there is another time
    except Exception:
        log.exception("A chore failed: %s", chore.__qualname__)


def _forget_tasks() -> None:
    """Tasks that are over say nothing that anybody would ask."""
    call_command("prune_db_task_results", min_age_days=FORGET_DAYS, verbosity=0)


CHORES = (
    work.pick_up,
    analyses.pick_up,
    samples.pick_up,
    plate_work.pick_up,
    generations.pick_up,
    sizes.pick_up,
    read_anew,
    purge,
    clear_due,
    sweep,
    Daily().sweep,
    plates.collect,
    analyses.collect,
    _forget_tasks,
)
