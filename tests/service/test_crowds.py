"""Half-open, slow and silent connections take nobody's place."""

from __future__ import annotations

import socket
from contextlib import ExitStack
from types import SimpleNamespace

import httpx
import pytest

from handrail.service.api import limits
from handrail.service.api.limits import Channel


def test_hundreds_of_half_open_connections_shut_nobody_out(service):
    client = service.client()
    with ExitStack() as open_ones:
        for k in range(2 * limits.OF_ONE_ADDRESS + 50):
            wire = open_ones.enter_context(socket.create_connection(("127.0.0.1", service.port), timeout=10))
            if k % 3:
                wire.sendall(
                    b"GET /api/v1/me HTTP/1.1\r\nHost: "
                    if k % 2
                    else b"POST /api/v1/session HTTP/1.1\r\nContent-Length: 900\r\n\r\n{"
                )
            if k % 100 == 99:
                assert httpx.get(f"{service.url}/healthz", trust_env=False, timeout=20).text == "ok\n"
        assert len(client.connections("alder-street")) == 1115
        assert service.client().whoami()["name"] == "engineer"


def channel(**more):
    """A connection as the server sees it, at rest."""
    request = SimpleNamespace(headers_finished=True, body_bytes_received=0)
    return SimpleNamespace(
        **({"requests": [], "total_outbufs_len": 0, "request": request, "last_activity": 100.0, "begun": 100.0} | more)
    )


@pytest.mark.parametrize(
    ("now", "late", "more"),
    [
        (100 + limits.IDLE + 1, True, {"request": None}),
        (100 + limits.IDLE - 1, False, {"request": None}),
        (
            100 + limits.HEADERS + 1,
            True,
            {"request": SimpleNamespace(headers_finished=False, body_bytes_received=0), "last_activity": 119.0},
        ),
        (100 + limits.HEADERS - 1, False, {"request": SimpleNamespace(headers_finished=False, body_bytes_received=0)}),
        (100 + limits.HEADERS + 1, True, {}),  # a body that does not come
        (
            100 + limits.HEADERS + 1,
            False,
            {"request": SimpleNamespace(headers_finished=True, body_bytes_received=5 * limits.SLOWEST)},
        ),
        (
            100 + limits.HEADERS + 6,
            True,
            {"request": SimpleNamespace(headers_finished=True, body_bytes_received=5 * limits.SLOWEST)},
        ),
        (1e9, False, {"requests": [1]}),  # being answered: it waits for us
        (100 + limits.IDLE + 1, True, {"requests": [1], "total_outbufs_len": 9}),  # does not take its answer
    ],
)
def test_who_keeps_the_service_waiting_is_dropped(now, late, more):
    assert Channel.late(channel(**more), now) is late
