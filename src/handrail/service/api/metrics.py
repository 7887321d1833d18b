"""`/metrics`: what the service does, in the Prometheus text format, summed over its processes."""

from __future__ import annotations

import os
from collections.abc import Iterator
from typing import Any

from flask import Response
from peewee import fn
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, Counter, Histogram, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.multiprocess import MultiProcessCollector

from handrail.service.counters import FOLDER
from handrail.store.models import Connection
from handrail.store.works import KINDS, OPEN

ANSWERED = Counter("handrail_requests", "Requests answered", ["method", "route", "status"])
TOOK = Histogram(
    "handrail_request_seconds",
    "Time to answer",
    ["route"],
    buckets=(0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10, 30),
)


METHODS = frozenset(("GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"))


def note(method: str, route: str, status: int, seconds: float) -> None:
    """Count one answer. `route` is the pattern of the address, never the address."""
    ANSWERED.labels(method if method in METHODS else "other", route, str(status)).inc()
    TOOK.labels(route).observe(seconds)


class _Records:
    """What the records hold, read when asked."""

    def collect(self) -> Iterator[Any]:
        works = GaugeMetricFamily(
            "handrail_works", "Runs and imports that wait or are under way", labels=["kind", "state"]
        )
        for kind in KINDS:
            counts = dict(kind.select(kind.state, fn.COUNT()).where(kind.state.in_(OPEN)).group_by(kind.state).tuples())
            for state in OPEN:
                works.add_metric([kind.__name__.lower(), state], counts.get(state, 0))
        yield works
        states = GaugeMetricFamily("handrail_connections", "Connections of all jobs", labels=["status"])
        for status, count in Connection.select(Connection.status, fn.COUNT()).group_by(Connection.status).tuples():
            states.add_metric([status], count)
        yield states


def answer() -> Response:
    """Everything that is counted."""
    together = CollectorRegistry()
    if os.environ.get(FOLDER):
        MultiProcessCollector(together)  # type: ignore[no-untyped-call]
    else:
        together.register(REGISTRY)
    together.register(_Records())
    return Response(generate_latest(together), content_type=CONTENT_TYPE_LATEST)
