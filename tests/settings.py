"""The server's settings over a data folder of the tests' own."""

import os
import tempfile

# Playwright's event loop stands in the thread that tests run in; it has nothing to do with the database.
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "1")
if "PYTEST_XDIST_WORKER" in os.environ:  # it has its own database, and so must have its own files
    os.environ["CADRAGE_DATA"] = tempfile.mkdtemp(prefix="cadrage-tests-")
    os.environ["OPENCV_FOR_THREADS_NUM"] = "1"  # there is a worker for every core already
os.environ.setdefault("CADRAGE_DATA", tempfile.mkdtemp(prefix="cadrage-tests-"))
os.environ["XDG_CACHE_HOME"] = os.environ["CADRAGE_DATA"]  # what the command line finds out is not kept for later

from server.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
