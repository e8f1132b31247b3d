"""What whoever watches over the server counts, in the form that Prometheus reads."""

import secrets
import time
from collections.abc import Callable, Iterator

from django.conf import settings
from django.contrib.auth import get_user_model
from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_safe
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, Counter, Histogram, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.registry import Collector

from server.studio.models import Analysis, Project, Render, Upload
from server.studio.room import free

SECONDS = (0.01, 0.03, 0.1, 0.3, 1.0, 3.0, 10.0, 30.0)
requests = Counter("cadrage_requests", "Answers, by method and kind of status", ["method", "status"])
seconds = Histogram("cadrage_request_seconds", "Until an answer is made", ["method"], buckets=SECONDS)
METHODS = ("GET", "HEAD", "OPTIONS", "POST", "PUT", "PATCH", "DELETE")


class Measure:
    """Counts requests and how long they take."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer, and count."""
        method = request.method if request.method in METHODS else "other"
        begun = time.monotonic()
        response = self.get_response(request)
        seconds.labels(method).observe(time.monotonic() - begun)
        requests.labels(method, f"{response.status_code // 100}xx").inc()
        return response


class House(Collector):
    """What there is in the database and on the disk, counted when it is asked for."""

    def describe(self) -> list[GaugeMetricFamily]:
        """Nothing is counted before it is asked for."""
        return []

    def collect(self) -> Iterator[GaugeMetricFamily]:
        """All of it."""
        for name, rows in (("renders", Render.objects), ("analyses", Analysis.objects)):
            gauge = GaugeMetricFamily(f"cadrage_{name}", f"All {name}, by where they stand", labels=["state"])
            for state, count in rows.order_by().values_list("state").annotate(Count("pk")):
                gauge.add_metric([state], count)
            yield gauge
        people = get_user_model().objects.filter(is_active=True).count()
        yield GaugeMetricFamily("cadrage_people", "Active accounts", value=people)
        yield GaugeMetricFamily("cadrage_projects", "Projects", value=Project.objects.count())
        yield GaugeMetricFamily("cadrage_uploads", "Files on their way in", value=Upload.objects.count())
        yield GaugeMetricFamily("cadrage_free_bytes", "Free where footage arrives", value=free())


REGISTRY.register(House())


@require_safe
def metrics(request: HttpRequest) -> HttpResponse:
    """For administrators, and for whoever has the token of the settings."""
    _, _, given = request.headers.get("Authorization", "").partition("Bearer ")
    known = settings.METRICS_TOKEN and secrets.compare_digest(given.encode(), settings.METRICS_TOKEN.encode())
    if not (known or request.user.is_staff):
        return HttpResponse("Send the token of CADRAGE_METRICS_TOKEN.\n", status=403, content_type="text/plain")
    return HttpResponse(generate_latest(REGISTRY), content_type=CONTENT_TYPE_LATEST)
