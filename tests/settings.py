"""The server's settings over a data folder of the tests' own."""

import os
import tempfile

os.environ.setdefault("CADRAGE_DATA", tempfile.mkdtemp(prefix="cadrage-tests-"))

from server.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
