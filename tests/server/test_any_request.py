"""Requests that nobody would think of: every route of the OpenAPI document, by schemathesis, with a seed."""

import re

import hypothesis
import pytest
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, settings

from server.studio.access import SAFE
from server.wsgi import application

pytestmark = pytest.mark.django_db
EACH = 6
"""Requests of one route; `make test-long` makes many more."""
STREAMS = re.compile(r"/play$")


@pytest.fixture(scope="module")
def schema():
    return schemathesis.openapi.from_wsgi("/api/openapi.json", application)
