"""Who may come in, for how long, and how that ends."""

from __future__ import annotations

import time

import httpx
import pytest

from handrail.core.errors import InputError
from handrail.service.api import auth
from handrail.store import accounts
from handrail.store.database import proxy
from handrail.store.models import Ledger, Token, Wrong
from tests.service.house import House


@pytest.fixture
def house(house):
    """With one more person."""
    with proxy.connection_context():
        accounts.add_user("ben", "long-enough-too")
    return house


def browser(house: House, name: str = "ben", password: str = "long-enough-too"):
    """A browser that has signed in."""
    client = house.app.test_client()
    assert client.post("/api/v1/session", json={"name": name, "password": password}).status_code == 200
    return client


def test_signing_out_ends_the_session_on_the_server(house):
    client = browser(house)
    stolen = client.get_cookie("handrail").value
    assert client.get("/api/v1/me").json["name"] == "ben"
    assert client.delete("/api/v1/session", headers={auth.CSRF_HEADER: "1"}).status_code == 204
    other = house.app.test_client()
    other.set_cookie("handrail", stolen)
    assert other.get("/api/v1/me").status_code == 401


def test_a_session_is_no_token_and_a_token_no_session(house):
    client = browser(house)
    session = client.get_cookie("handrail").value
    assert house.app.test_client().get("/api/v1/me", headers={"Authorization": f"Bearer {session}"}).status_code == 401
    other = house.app.test_client()
    other.set_cookie("handrail", house.token)
    assert other.get("/api/v1/me").status_code == 401


def test_the_cookie_is_for_tls_alone_where_that_is_set(house):
    house.app.config[auth.SECURE] = True
    said = (
        house.app.test_client()
        .post("/api/v1/session", json={"name": "ben", "password": "long-enough-too"})
        .headers["Set-Cookie"]
    )
    assert "Secure" in said and "HttpOnly" in said and "SameSite=Lax" in said


def test_tokens_have_names_and_end(house):
    made = house.call("POST", "/tokens", json={"name": "ann", "password": "long-enough", "label": "nightly", "days": 1})
    shown = {t["label"]: t for t in house.call("GET", "/tokens").json["items"]}
    assert (
        shown["nightly"]["expires"][:10] <= time.strftime("%Y-%m-%d", time.gmtime(time.time() + 86400))
        and "token" not in shown["nightly"]
    )
    own = {"Authorization": f"Bearer {made.json['token']}"}
    assert house.call("GET", "/me", headers=own).status_code == 200
    with proxy.connection_context():
        Token.update(expires="2026-01-01T00:00:00Z").where(Token.label == "nightly").execute()
    assert house.call("GET", "/me", headers=own).status_code == 401
    assert "nightly" not in {t["label"] for t in house.call("GET", "/tokens").json["items"]}


def test_a_token_is_revoked_by_its_owner_alone(house):
    house.call("POST", "/tokens", json={"name": "ann", "password": "long-enough", "label": "mine"})
    number = next(t["id"] for t in house.call("GET", "/tokens").json["items"] if t["label"] == "mine")
    client = browser(house)
    assert client.delete(f"/api/v1/tokens/{number}", headers={auth.CSRF_HEADER: "1"}).status_code == 404
    assert house.call("DELETE", f"/tokens/{number}").status_code == 204
    assert house.call("DELETE", f"/tokens/{number}").status_code == 404


def test_a_new_password_ends_every_other_way_in(house):
    first, second = browser(house), browser(house)
    ask = {"old": "long-enough-too", "new": "another-one"}
    assert (
        first.put("/api/v1/me/password", json=ask | {"old": "guess"}, headers={auth.CSRF_HEADER: "1"}).status_code
        == 401
    )
    assert (
        first.put("/api/v1/me/password", json=ask | {"new": "short"}, headers={auth.CSRF_HEADER: "1"}).status_code
        == 422
    )
    assert first.put("/api/v1/me/password", json=ask, headers={auth.CSRF_HEADER: "1"}).status_code == 204
    assert first.get("/api/v1/me").status_code == 200 and second.get("/api/v1/me").status_code == 401
    assert browser(house, password="another-one")


@pytest.mark.parametrize(
    ("password", "words"),
    [
        ("short-one", "at least 10 characters"),
        ("password123", "the first that anybody tries"),
        ("1234567890", "the first that anybody tries"),
        ("handrail2026", "the first that anybody tries"),
        ("cleopatra1", "the first that anybody tries"),  # the name itself
    ],
)
def test_passwords_that_are_guessed_first_are_refused(house, password, words):
    made = house.call("POST", "/users", json={"name": "cleopatra", "password": password})
    assert made.status_code == 422 and words in made.json["detail"]


def test_one_name_however_it_is_typed(house):
    """Composed or not, in whatever case: it signs in, and its wrong passwords are counted together."""
    made = house.call("POST", "/users", json={"name": "Zo\u00eb", "password": "tall cedar lamp"})
    assert made.status_code == 201
    for typed in ("Zo\u00eb", "Zoe\u0308", "zo\u00eb", "ZO\u00cb"):
        house.token, token = "", house.token
        assert house.call("POST", "/tokens", json={"name": typed, "password": "tall cedar lamp"}).status_code == 201
        house.token = token
    codes = [
        house.call("POST", "/tokens", json={"name": typed, "password": "wrong"}).status_code
        for typed in ["zo\u00eb", "Zo\u00eb", "Zoe\u0308"] * 3
    ]
    assert codes[-1] == 429 and codes[:8] == [401] * 8
    assert house.call("PUT", "/jobs/bay/roles/zo\u00eb", json={"role": "viewer"}).status_code == 204


def test_signing_out_by_cookie_wants_the_proof_of_any_change(house):
    own = browser(house)
    assert own.delete("/api/v1/session").status_code == 403 and own.get("/api/v1/me").status_code == 200
    assert own.delete("/api/v1/session", headers={auth.CSRF_HEADER: "1"}).status_code == 204
    assert own.get("/api/v1/me").status_code == 401


@pytest.mark.parametrize("body", [{}, {"parameter": []}, {"nonsense": 1}])
def test_who_calls_is_known_before_what_they_send_is_looked_at(house, body):
    """Whoever is nobody, or may not see the job, learns nothing of what a request takes."""
    path = "/jobs/bay/connections/B1.i/overrides"
    assert house.call("POST", path, json=body).status_code == 422
    mine = {auth.CSRF_HEADER: "1"}
    assert browser(house).post(f"/api/v1{path}", json=body, headers=mine).status_code == 404
    house.token = ""
    assert house.call("POST", path, json=body).status_code == 401
    assert house.call("POST", "/jobs", json=body).status_code == 401
    assert house.call("GET", "/jobs/bay/connections?limit=no").status_code == 401


def test_somebody_removed_is_gone_and_their_history_stays(house):
    house.call("PUT", "/jobs/bay/roles/ben", json={"role": "detailer"})
    house.run()
    client = browser(house)
    made = client.post(
        "/api/v1/jobs/bay/connections/B1.i/overrides",
        json={"parameter": "rows", "value": 4, "reason": "wish"},
        headers={auth.CSRF_HEADER: "1"},
    )
    assert made.status_code == 201, made.json
    assert house.call("DELETE", "/users/ben").status_code == 204
    assert client.get("/api/v1/me").status_code == 401
    assert client.post("/api/v1/session", json={"name": "ben", "password": "long-enough-too"}).status_code == 401
    assert [u["name"] for u in house.call("GET", "/users").json["items"]] == ["ann"]
    with proxy.connection_context():
        assert [event.author for event in Ledger.select() if event.override_id] == ["ben"]
    again = house.call("POST", "/users", json={"name": "ben", "password": "long-enough-too"})
    assert again.status_code == 422 and "stays with its history" in again.json["detail"]
    last = house.call("DELETE", "/users/ann")
    assert last.status_code == 422 and "only administrator" in last.json["detail"]


@pytest.mark.parametrize(
    "name", [" carl", "carl ", "ca  rl", "car\u200bl", "ca\x1brl", "c\u202earl", "ANN", "аnn", "Вen", "bén", "ben\n"]
)
def test_names_that_mislead_are_refused(house, name):
    """Blanks around, characters that nobody sees, and what looks like `ann` or `ben`."""
    with proxy.connection_context(), pytest.raises(InputError):
        accounts.add_user(name, "long-enough")


@pytest.mark.parametrize("name", ["carl", "Carl Lind", "José", "Ольга", "anna", "be"])
def test_other_names_are_taken(house, name):
    assert house.call("POST", "/users", json={"name": name, "password": "long-enough"}).status_code == 201


def test_wrong_passwords_are_counted_for_all_processes(house):
    with proxy.connection_context():
        for _ in range(accounts.WRONG):
            assert accounts.wait("ann", "1.2.3.4") == 0
            accounts.count_wrong("ann", "1.2.3.4")
        assert accounts.wait("ann", "1.2.3.4") > 0
        assert accounts.wait("ann", "1.2.3.5") == 0 and accounts.wait("ben", "1.2.3.4") == 0
        Wrong.update(at=Wrong.at - accounts.WINDOW - 1).execute()
        assert accounts.wait("ann", "1.2.3.4") == 0


def test_the_records_are_their_owners_alone(service):
    for path in (service.home, service.home / "records.sqlite", service.home / "uploads"):
        assert path.stat().st_mode & 0o077 == 0, path


def test_metrics_count_over_all_processes(service):
    def counted() -> float:
        lines = httpx.get(f"{service.url}/metrics", trust_env=False).text.splitlines()
        return sum(
            float(line.split()[-1])
            for line in lines
            if line.startswith('handrail_requests_total{method="GET",route="/healthz"')
        )

    before = counted()
    for _ in range(20):
        httpx.get(f"{service.url}/healthz", trust_env=False)
    assert counted() == before + 20
