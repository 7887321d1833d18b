"""What is changed underneath shows: every field of a decision, releases, rulebooks, models, settings, cut tails, older
records, deleted jobs."""

from __future__ import annotations

import base64
import json
import sqlite3
from contextlib import closing
from typing import Any

import pytest

from handrail.store import heads
from handrail.store.database import backup, proxy
from handrail.store.ledger import SEALED
from tests.service.house import House
from tests.service.test_follow import override
from tests.service.test_living import loaded, release, revise

UNDER = "update override set {} = ? where id = ?"
OTHER = {
    "place": "[1,2,3,4,5,6]",
    "value": "9",
    "grounds": "{}",
    "before": "{}",
    "after": "{}",
    "look": '["x"]',
    "replaces": 77,
    "connection": "G2.j",
}


def verified(house: House) -> dict[str, Any]:
    return house.call("GET", "/jobs/bay/ledger/verify").json


def faults(house: House) -> list[str]:
    return verified(house)["faults"]


def underneath(house: House, statement: str, *values: Any) -> None:
    """Somebody who holds the records changes them."""
    with closing(sqlite3.connect(house.home / "records.sqlite")) as database, database:
        for name in ("ledger_no_update", "ledger_no_delete"):
            database.execute(f"drop trigger if exists {name}")
        database.execute(statement, values)


@pytest.fixture
def decided(house):
    """Sized, decided, accepted, released; all as it should be."""
    house.run()
    house.made = override(house, "B1.i")["id"]
    house.call("POST", "/jobs/bay/overrides/review", json={"act": "accept", "overrides": [house.made]})
    assert release(house).status_code == 200 and faults(house) == []
    return house


@pytest.mark.parametrize("field", SEALED)
def test_every_field_of_a_decision(decided, field):
    underneath(decided, UNDER.format(f'"{field}"'), OTHER.get(field, "another"), decided.made)
    found = faults(decided)
    assert found and any(
        f"override {decided.made}" in words and (field in words or "records" in words) for words in found
    ), found


@pytest.mark.parametrize(
    ("statement", "words"),
    [
        ("update connectionrow set released = 'bob' where key = 'G1.i'", "G1.i: is released by bob at"),
        (
            "update connectionrow set released = 'bob', released_at = '2026-01-01' where released = '' and key ="
            " 'C1.i'",
            "by no entry of the ledger",
        ),
        (
            "update connectionrow set released = '', released_at = '' where key = 'G1.i'",
            "G1.i: is not released in the records, by entry",
        ),
        ("update rulebookrevision set text = text || '# more'", "is not the one that was adopted"),
        ("update job set rulebook = rulebook || '# more'", "is not the newest revision"),
        ("delete from rulebookrevision", "was adopted and is not there any more"),
        ("update memberforces set data = zeroblob(length(data)) where member = 1", "are not those that came in"),
        ("update revision set model = zeroblob(3)", "are not those that came in"),
        ("update job set method = 'ASD'", "method: is ASD in the records, LRFD by the ledger"),
        ("update ledger set words = 'x' where event = 'run'", "was changed after it was written"),
        ("delete from ledger where event = 'accepted'", "does not follow"),
        ("delete from override", "the ledger knows it, the records do not"),
    ],
)
def test_what_else_is_changed(decided, statement, words):
    if "C1.i" in statement:
        keys = [
            c["connection"] for c in decided.call("GET", "/jobs/bay/connections").json["items"] if not c["released"]
        ]
        statement = statement.replace("C1.i", keys[0])
    underneath(decided, statement)
    found = faults(decided)
    assert any(words in one for one in found), found


def test_results_other_than_the_last_run_left_them(decided):
    decided.run()
    assert verified(decided)["notes"] == [
        f"results are as run {decided.call('GET', '/jobs/bay/runs').json['items'][0]['id']} left them"
    ]
    underneath(decided, "update connectionrow set utilisation = 0.1 where key = 'G1.i'")
    assert "other than run" in verified(decided)["notes"][0]


def test_falls_and_everything_else_have_entries(decided, tmp_path):
    revise(decided, tmp_path, loaded(12.0))
    said = [e["event"] for e in decided.call("GET", "/jobs/bay/ledger?limit=1000").json["items"]]
    assert {"rulebook", "imported", "run", "set", "accepted", "released", "fell"} <= set(said) and said.count(
        "imported"
    ) == 2
    assert faults(decided) == [] and verified(decided)["entries"] == len(said)


def test_a_cut_tail_and_older_records_show_by_themselves(decided, tmp_path):
    """Signed at a start; then the last entries go, or a copy of before is put in place by hand."""
    records = decided.home / "records.sqlite"
    with proxy.connection_context():
        assert heads.watch(decided.home, "start", records) == []
    backup(records, tmp_path / "older.sqlite")
    override(decided, "G1.i")
    with proxy.connection_context():
        assert heads.watch(decided.home, "day", records) == [] and faults(decided) == []
    ((last,),) = sqlite3.connect(records).execute("select max(number) from ledger").fetchall()
    underneath(decided, "delete from ledger where number = ?", last)
    assert any("it ends before that" in words for words in faults(decided))
    with proxy.connection_context():
        assert any("it ends before that" in words for words in heads.watch(decided.home, "start", records))
    assert any("it ends before that" in words for words in decided.call("GET", "/jobs/bay").json["ledger_faults"])
    heads.sign(decided.home, "restore", tmp_path / "older.sqlite")
    assert heads.faults(decided.home, tmp_path / "older.sqlite") == {} and "put back" in heads.restored(decided.home)[0]


@pytest.mark.parametrize("change", ["word", "line", "key"])
def test_the_file_of_heads_itself(decided, change):
    records, path = decided.home / "records.sqlite", decided.home / heads.FILE
    for why in ("start", "day", "day"):
        heads.sign(decided.home, why, records)
    lines = path.read_text().splitlines()
    if change == "word":
        lines[1] = lines[1].replace('"day"', '"days"')
    elif change == "line":
        del lines[1]
    else:
        lines[1] = json.dumps(json.loads(lines[1]) | {"signature": base64.b64encode(b"0" * 64).decode()})
    path.write_text("\n".join(lines) + "\n")
    assert any("line 2" in words for words in faults(decided))


def test_a_deleted_job_leaves_its_head(decided):
    records = decided.home / "records.sqlite"
    heads.sign(decided.home, "day", records)
    head = verified(decided)
    assert decided.call("DELETE", "/jobs/bay").status_code == 204
    (closed,) = decided.call("GET", "/closed").json["items"]
    assert (closed["job"], closed["entries"], closed["head"], closed["author"]) == (
        "bay",
        head["entries"],
        head["head"],
        "ann",
    )
    assert heads.faults(decided.home, records) == {}
    underneath(decided, "delete from closed")
    assert "nobody closed it" in heads.faults(decided.home, records)["bay"][0]
