"""Nothing that comes in holds the service up, and nothing is told that is nobody's business."""

from __future__ import annotations

import contextlib
import json
import socket
import subprocess
import sys

import httpx
import pytest

from handrail.service.api.limits import SIGN_IN, UPLOAD, USUAL, most_body
from handrail.store.accounts import WRONG
from tests.service.running import Service
from tests.wide import wide


def raw(service: Service, head: str, body: bytes = b"") -> bytes:
    """What the service says to bytes on the wire."""
    with socket.create_connection(("127.0.0.1", service.port), timeout=20) as wire:
        found = b""
        with contextlib.suppress(ConnectionError):  # it may hang up on what it does not want
            wire.sendall(head.encode() + b"\r\n\r\n" + body)
            while len(found) < 4096 and (more := wire.recv(4096)):
                found += more
        return found


@pytest.mark.parametrize(
    ("method", "path", "most"),
    [
        ("POST", "/api/v1/session", SIGN_IN),
        ("POST", "/api/v1/tokens", SIGN_IN),
        ("POST", "/api/v1/jobs/a/imports", UPLOAD),
        ("POST", "/api/v1/trial", USUAL),
        ("GET", "/api/v1/jobs/a/imports", USUAL),
        ("PUT", "/api/v1/jobs/a/rulebook", 8 * 1024**2),
    ],
)
def test_most_of_each_route(method, path, most):
    assert most_body(method, path) == most


@pytest.mark.parametrize(
    "path", ["/api/v1/session", "/api/v1/tokens", "/api/v1/trial", "/api/v1/jobs/alder-street/imports", "/anything"]
)
def test_a_large_body_from_nobody_is_refused_before_it_is_read(service, path):
    """The answer comes on the headers alone: 300 MB are announced and never sent."""
    said = raw(
        service, f"POST {path} HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 314572800"
    )
    assert said.startswith(b"HTTP/1.1 413") and b"bytes are taken here" in said


def test_a_chunked_body_is_bounded_too(service):
    chunks = b"".join(b"10000\r\n" + b"x" * 65536 + b"\r\n" for _ in range(8))
    said = raw(service, "POST /api/v1/session HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked", chunks)
    assert said.startswith(b"HTTP/1.1 413")


OUTSIDE = (
    "/..%2fapp.py",
    "/..%2f..%2fcore%2funits.py",
    "/..%2f..%2f..%2f..%2f..%2fetc%2fpasswd",
    "/%2e%2e/app.py",
    "/assets/..%2f..%2fapp.py",
)


@pytest.mark.parametrize("path", OUTSIDE)
def test_no_file_is_told_by_its_address(service, path):
    """What is there and what is not is answered alike: by the console's page."""
    there = raw(service, f"GET {path} HTTP/1.1\r\nHost: x\r\nConnection: close")
    gone = raw(service, f"GET {path}x9 HTTP/1.1\r\nHost: x\r\nConnection: close")
    assert there.split(b"\r\n")[0] == gone.split(b"\r\n")[0]


def test_deep_and_odd_requests_are_answered_in_words(service):
    client = service.client()
    headers = {
        "Authorization": f"Bearer {client._http.headers['Authorization'].removeprefix('Bearer ')}",
        "Content-Type": "application/json",
    }
    for body in (
        b"[" * 50_000,
        b'{"a":' * 20_000,
        b'{"V": ' + b"9" * 6000 + b"}",
        b'{"framing": "\\ud800"}',
        b"\xff\xfe",
        b"{",
        b"",
    ):
        found = httpx.post(f"{service.url}/api/v1/trial", content=body, headers=headers, trust_env=False, timeout=30)
        assert 400 <= found.status_code < 500, (body[:30], found.status_code, found.text[:200])
        assert found.headers["Content-Type"].startswith("application/problem+json") and json.loads(found.text)["detail"]


def test_a_quantity_is_nothing_to_work_out(service):
    client = service.client()
    from handrail.client import ServiceError

    for text in ("1 9**9**9**9", "1" + " " * 3000 + "kip", "1 kip**kip", "9" * 5000 + " kip"):
        with pytest.raises(ServiceError) as said:
            client.trial(
                {
                    "framing": "beam_to_column_flange",
                    "standard": "single_plate",
                    "supported": {"section": "W16X31", "grade": "A992"},
                    "support": {"section": "W12X65", "grade": "A992"},
                    "actions": [{"V": text}],
                }
            )
        assert said.value.status == 422


def test_healthz_and_headers(service):
    assert httpx.get(f"{service.url}/healthz", trust_env=False).text == "ok\n"
    answer = httpx.get(f"{service.url}/api/v1/me", trust_env=False)
    assert (answer.status_code, answer.headers["Cache-Control"], answer.headers["X-Content-Type-Options"]) == (
        401,
        "no-store",
        "nosniff",
    )


def test_the_ninth_wrong_password_is_not_even_asked(service):
    def sign_in(password: str) -> int:
        body = {"name": "nobody-here", "password": password}
        return httpx.post(f"{service.url}/api/v1/session", json=body, trust_env=False).status_code

    assert [sign_in("wrong") for _ in range(WRONG + 1)] == [401] * WRONG + [429]


def handrail(*words: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "handrail.cli.main", *words], capture_output=True, text=True, timeout=120, check=False
    )


def test_one_folder_is_served_once(service):
    again = handrail("serve", "--home", str(service.home), "--port", "8799")
    assert again.returncode == 2 and f"served already by process {service.process.pid}" in again.stderr
    assert again.stdout == ""
    back = handrail("restore", "--home", str(service.home), str(service.home / "records.sqlite"), "--replace")
    assert back.returncode == 2 and "served already" in back.stderr


@wide
def test_a_port_that_cannot_be(service, tmp_path):
    taken = handrail("serve", "--home", str(tmp_path / "a"), "--port", str(service.port))
    assert taken.returncode == 2 and "cannot listen" in taken.stderr and taken.stdout == ""
    assert not (tmp_path / "a/records.sqlite").exists()  # nothing was begun
    high = handrail("serve", "--home", str(tmp_path / "a"), "--port", "99999")
    assert high.returncode == 2 and "from 1 to 65535" in high.stderr


def test_head_does_not_turn_a_pass_into_a_fail():
    done = subprocess.run(
        [
            "bash",
            "-c",
            f"set -o pipefail; {sys.executable} -m handrail.cli.main trial docs/examples/trial.yaml | head -1",
        ],
        capture_output=True,
        text=True,
        timeout=120,
        check=False,
    )
    assert (done.returncode, done.stderr) == (0, "") and "pass" in done.stdout
