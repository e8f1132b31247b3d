"""`manage.py work`: a worker process."""

import threading
import time
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import close_old_connections, connection
from django.db.utils import OperationalError

from server.studio.actions.footage import purge
from server.studio.actions.renders import pick_up

PICK_UP_SECONDS = 5


class Command(BaseCommand):
    """Takes tasks until it is stopped, and every few seconds picks up renders that a dead worker left."""

    help = "Take render tasks; stop with Ctrl-C or SIGTERM, which lets the task at hand finish."

    def handle(self, *args: Any, **options: Any) -> None:
        """Run until stopped."""
        threading.Thread(target=_keep_picking_up, name="pick up", daemon=True).start()
        call_command("db_worker", interval=0.25, startup_delay=False, reload=False, verbosity=1)


def _keep_picking_up() -> None:
    while True:
        try:
            pick_up()
            purge()
        except OperationalError:
            connection.close()  # the database was busy; there is another time
        close_old_connections()
        time.sleep(PICK_UP_SECONDS)
