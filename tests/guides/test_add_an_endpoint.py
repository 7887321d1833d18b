"""A newcomer's endpoint answers as any does: described, asked by its client's call, refused with its cause."""

from __future__ import annotations

import pytest

from handrail.service.api import app
from tests.guides import toy_busiest
from tests.service.house import House


@pytest.fixture
def house(tmp_path, monkeypatch):
    """A service with one part more; the one line that `service/api/app.py` would have."""
    monkeypatch.setattr(app, "PARTS", (*app.PARTS, toy_busiest))
    (tmp_path / "home").mkdir()
    made = House(tmp_path / "home")
    yield made
    made.close()


def test_it_answers_and_refuses(house):
    early = house.call("GET", "/jobs/bay/busiest")
    assert early.status_code == 404 and early.json["detail"] == "nothing of 'bay' is sized yet: run it"
    house.run()
    found = house.call("GET", "/jobs/bay/busiest").json
    rows = house.call("GET", "/jobs/bay/connections?sort=-utilisation").json["items"]
    assert found["connection"] == rows[0]["connection"]
    assert found["utilisation"] == pytest.approx(rows[0]["utilisation"])
    assert house.call("GET", "/jobs/none/busiest").status_code == 404
    unsigned = house.app.test_client().get("/api/v1/jobs/bay/busiest")
    assert unsigned.status_code == 401
