"""Every check at every combination: the same numbers as the page's, any one opened with its worked lines."""

from __future__ import annotations

import pytest

from handrail.client import ServiceError
from tests.service.running import Service

JOB = "alder-street"


@pytest.fixture(scope="module")
def client(tmp_path_factory):
    service = Service(tmp_path_factory.mktemp("matrix") / "home").start()
    yield service.client()
    service.stop()


def one_of(client, standard: str) -> str:
    return client.connections(JOB, where=f"standard={standard}", sort="-utilisation")[0]["connection"]


@pytest.mark.parametrize(
    "standard",
    ["single_plate", "double_angle", "shear_end_plate", "base_plate", "beam_flange_splice", "column_flange_splice"],
)
def test_the_matrix_has_what_the_page_has(client, standard):
    """Each check's largest is the page's, in the same combination; the governing one of all is the connection's own."""
    key = one_of(client, standard)
    page, found = client.connection(JOB, key), client.matrix(JOB, key)
    assert len(found["utilisations"]) == len(found["checks"]) == len(page["checks"])
    shown = sorted((c["check"], c["part"], round(c["utilisation"], 5)) for c in page["checks"])
    largest = [max((v for v in row if v is not None), default=0.0) for row in found["utilisations"]]
    assert sorted((c["check"], c["part"], round(v, 5)) for c, v in zip(found["checks"], largest)) == shown
    assert found["unknown"] == []
    counts = [v if not c["limit"] or v > 1 else 0.0 for c, v in zip(found["checks"], largest)]
    assert max(counts) == pytest.approx(page["utilisation"], abs=1e-5)
    first = [c for c, v in zip(found["checks"], counts) if v > max(counts) - 1e-6]  # some are used alike
    assert (page["check"], page["action"]) in [
        (c["check"], found["combinations"][c["governs"]]["action"]) for c in first
    ]


@pytest.mark.parametrize("standard", ["single_plate", "base_plate"])
def test_any_one_is_opened_with_its_lines(client, standard):
    key = one_of(client, standard)
    found = client.matrix(JOB, key)
    opened = 0
    for n in range(0, len(found["checks"]), 5):
        for k in range(0, len(found["combinations"]), 7):
            value = found["utilisations"][n][k]
            if value is None:
                with pytest.raises(ServiceError, match="is not judged by"):
                    client.matrix_check(JOB, key, n, k)
                continue
            one = client.matrix_check(JOB, key, n, k)
            assert (one["check"], one["action"]) == (found["checks"][n]["check"], found["combinations"][k]["action"])
            assert min(one["utilisation"], 9999) == pytest.approx(value, abs=1e-5) and one["lines"]
            opened += 1
    assert opened > 5


def test_columns_name_what_governs_them(client):
    """The figures of a base say the same of each combination."""
    key = one_of(client, "base_plate")
    found = client.matrix(JOB, key)
    by = {
        (c["action"], c["method"], c["set"]): c
        for c in client._call("GET", f"/jobs/{JOB}/connections/{key}/figures")["combinations"]
    }
    for column in found["combinations"]:
        figure = by[(column["action"], column["method"], column["set"])]
        assert found["checks"][column["governs"]]["check"] == figure["check"]


@pytest.mark.parametrize(("key", "words"), [("X1.i", "is not sized"), ("nope", "there is no connection")])
def test_where_there_is_none_it_says_why(client, key, words):
    with pytest.raises(ServiceError, match=words):
        client.matrix(JOB, key)


def test_a_cell_outside_is_refused(client):
    key = one_of(client, "single_plate")
    with pytest.raises(ServiceError, match="the matrix has checks 0 to"):
        client.matrix_check(JOB, key, 999, 0)
