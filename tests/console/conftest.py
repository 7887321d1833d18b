"""What every test of the console begins with."""

from __future__ import annotations

from functools import lru_cache

import pytest

from handrail.client import Client
from tests.service.running import Service

JOB = "alder-street"


@lru_cache(maxsize=2)
def _engineer(service: Service) -> Client:
    return service.client()


@pytest.fixture(autouse=True)
def judged(request):
    """Whatever another test left stale in the demo that many look at is run again first."""
    if "service" not in request.fixturenames:
        return
    client = _engineer(request.getfixturevalue("service"))
    if client.job(JOB)["stale"]:
        client.wait(JOB, client.start_run(JOB, where="stale=1")["id"])
