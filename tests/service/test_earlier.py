"""Earlier designs: found between like members in the jobs that one sees, tried here, taken over."""

from __future__ import annotations

import pytest

from handrail.client import Client
from tests.bundles import small, write

BOOK = (
    "rulebook: 1\nrules:\n  - {name: All, when: {framing: [beam_to_girder, beam_to_column_flange, beam_to_column_web]},"
    " use: %s}\n"
)


@pytest.fixture(scope="module")
def two(service, tmp_path_factory):
    """Two jobs with the same bay: plates in the first, nothing by rule in the second."""
    admin: Client = service.client("admin")
    for name, book in (
        ("plates", BOOK % "single_plate"),
        ("bare", "rulebook: 1\nrules:\n  - {name: Bases, use: base_plate}\n"),
    ):
        admin.new_job(name)
        admin.import_bundle(name, write(small(), tmp_path_factory.mktemp(name) / "bundle"))
        admin.put_rulebook(name, book)
        admin.wait(name, admin.start_run(name)["id"])
    return admin


def test_what_no_rule_takes_is_offered_what_stands_elsewhere(two: Client) -> None:
    key = next(c["connection"] for c in two.connections("plates") if c["status"] == "pass")
    assert two.connection("bare", key)["status"] == "unassigned"
    there = two.connection("plates", key)
    for exact in (False, True):
        found = two.earlier("bare", key, exact)
        assert found["looked"] >= 1
        best = next(
            i
            for i in found["items"]
            if i["standard"] == "single_plate" and i["utilisation"] == pytest.approx(there["utilisation"], abs=1e-6)
        )
        assert best["status"] == "pass" and best["changes"]["standard"] == "single_plate", "the same members and forces"
    two.change("bare", key, best["changes"], "as in the other job")
    here = two.connection("bare", key)
    assert (here["status"], here["standard"]) == ("pass", "single_plate") and here["utilisation"] == pytest.approx(
        there["utilisation"], abs=1e-6
    )
    assert {o["state"] for o in here["overrides"]} == {"awaiting"}


def test_jobs_that_one_does_not_see_are_not_looked_in(service, two: Client) -> None:
    detailer = service.client("detailer")
    two.set_role("plates", "detailer", "detailer")
    key = next(c["connection"] for c in two.connections("plates") if c["status"] == "pass")
    assert {i["job"] for i in detailer.earlier("plates", key)["items"]} <= {"plates", "alder-street"}
