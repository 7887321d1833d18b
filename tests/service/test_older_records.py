"""Records that an earlier version wrote are brought to the newest schema, and go on being worked with."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from pathlib import Path

import pytest

from handrail import __version__
from handrail.service.api.app import create_app
from handrail.store import connections
from handrail.store.database import proxy, writing
from handrail.store.migrations import STEPS, TooNew
from handrail.store.models import Connection, Job
from handrail.store.opening import open_database
from tests.service.house import House, false_results

OLD = Path(__file__).parent / "records_of_schema_3.sql"


class OldHouse(House):
    """The service over records of schema 3: the small bay, run once, with an override."""

    def __init__(self, home: Path) -> None:
        home.mkdir()
        with closing(sqlite3.connect(home / "records.sqlite")) as records:
            records.executescript(OLD.read_text(encoding="utf-8"))
        self.home, self.app = home, create_app(home)
        self.token = self.call("POST", "/tokens", json={"name": "ann", "password": "long-enough"}).json["token"]


@pytest.fixture
def house(tmp_path):
    made = OldHouse(tmp_path / "home")
    yield made
    made.close()


def columns(path: Path) -> dict[str, dict[str, tuple[str, int]]]:
    """table -> column -> (type, not null)."""
    with closing(sqlite3.connect(path)) as records:
        tables = [
            name
            for (name,) in records.execute(
                "select name from sqlite_master where type = 'table' and name not like 'sqlite%'"
            )
        ]
        return {
            t: {row[1]: (row[2].lower(), row[3]) for row in records.execute(f'pragma table_info("{t}")')}
            for t in tables
        }


def test_its_tables_are_those_of_new_records(house, tmp_path):
    open_database(tmp_path / "new.sqlite").close()
    new, old = columns(tmp_path / "new.sqlite"), columns(house.home / "records.sqlite")
    assert {t: set(c) for t, c in old.items()} == {t: set(c) for t, c in new.items()}
    assert {(t, n) for t, c in old.items() for n, (_, held) in c.items() if held and not new[t][n][1]} == set()


def test_what_stood_in_prose_stands_in_columns(house):
    """How a result was made and by which checks stood in its digest, why it is stale in its reason; members and who
    stands opposite in its facts."""
    with proxy.connection_context(), writing():  # as the server does at its start
        assert connections.mark_other_engines(__version__) == 5
    with proxy.connection_context():
        sized, stood = (Connection.get(Connection.key == key) for key in ("G1.i", "B1.i"))
    assert (sized.made, stood.made, sized.engine) == ("sized", "verified", "0.1.0")
    assert stood.stale.startswith("another version") and not stood.digest and not stood.asks
    assert [(p["role"], p["member"], p["section"]) for p in stood.pieces] == [
        ("supported", "B1", "W14X26"),
        ("support", "G2", "W18X50"),
    ]
    assert sized.pieces[1]["ends_here"] and sized.relations == [] and "skew" not in sized.facts
    rows = house.call("GET", "/jobs/bay/connections?where=stale=1").json["items"]
    assert {"G1.i", "B1.i"} <= {row["connection"] for row in rows}


def test_everything_is_there_and_goes_on(house):
    """What was decided stands; results of the older checks are stale until a run; then all is as it would be worked out
    now."""
    shown = house.call("GET", "/jobs/bay/connections/B1.i").json
    assert {p["name"]: (p["text"], p["source"]) for p in shown["parameters"]}["rows"] == ("4", "override")
    assert shown["status"] == "unchecked" and shown["reason"].startswith("stale")
    assert shown["history"][0]["words"] == "rows = 4: kept since the first version" and shown["drawing"]
    verified = house.call("GET", "/jobs/bay/ledger/verify").json  # what was written before there was a chain is chained
    assert verified["sound"] and verified["entries"] == 5, (
        verified
    )  # with the settings, rulebook and model that came into the ledger
    assert (
        house.call("GET", "/jobs/bay").json["joints"] == 5
        and len(house.call("GET", "/jobs/bay/joints").json["items"]) == 5
    )
    house.run()
    assert house.call("GET", "/jobs/bay/runs").json["items"][0]["state"] == "done"
    with proxy.connection_context():
        assert false_results(Job.get(Job.name == "bay")) == []
    rows = {c["connection"]: c for c in house.call("GET", "/jobs/bay/connections").json["items"]}
    assert (
        rows["B1.i"]["overridden"] == 1
        and rows["B1.i"]["summary"].startswith("(4) ")
        and rows["G1.i"]["status"] == "pass"
    )


def test_records_of_a_later_version_are_left_alone(house):
    with closing(sqlite3.connect(house.home / "records.sqlite")) as records, records:
        records.execute("insert into schema_step values (?)", (len(STEPS) + 1,))
    with pytest.raises(TooNew, match="newer version"):
        open_database(house.home / "records.sqlite")
