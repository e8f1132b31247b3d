"""The entry for a server of WSGI applications; `manage.py serve` is the one that goes with it."""

import os

from django.core.wsgi import get_wsgi_application

from cadrage.memory import give_back

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
give_back()
application = get_wsgi_application()
