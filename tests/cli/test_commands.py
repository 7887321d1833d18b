"""The commands that talk to a service, run against a real one; backup and restore."""

from __future__ import annotations

import json
import re
import subprocess
import sys
import zipfile

import pytest

from tests.bundles import in_si, small, write
from tests.cli.typed import typed

JOB = "alder-street"


@pytest.fixture(scope="module")
def handrail(service, tmp_path_factory):
    config = tmp_path_factory.mktemp("config")

    def run(*words: str, code: int = 0) -> str:
        asked = {"HANDRAIL_CONFIG": str(config), "HANDRAIL_SERVER": service.url, "HANDRAIL_PASSWORD": "alder-street"}
        done = typed(*words, environment=asked)
        assert done.returncode == code, (words, done.stdout, done.stderr)
        return done.stdout if code < 2 else done.stderr

    run("login", "engineer")
    return run


@pytest.fixture(autouse=True)
def judged(service, handrail):
    """Whatever another test left stale is run again first."""
    if service.client().job(JOB)["stale"]:
        handrail("run", JOB, "--where", "stale=1")


def test_reading(handrail):
    assert "engineer in alder-street" in handrail("whoami")
    assert JOB in handrail("jobs")
    assert "0 warnings" in handrail("audit", JOB)
    assert "507 joints" in handrail("joints", JOB, "--limit", "2")
    found = json.loads(handrail("connections", JOB, "--where", "status=pass, section=W24X68", "--json"))
    assert found and all(c["section"] == "W24X68" for c in found)
    shown = handrail("show", JOB, "B5.i", "--trace")
    for words in ("plate_shear_rupture", "practice", "rung", "0.60 Fu Anv", "V", "kip"):
        assert words in shown
    assert "Alder Street shop practice" in handrail("rulebook", "get", JOB)


def test_override_and_run(handrail):
    made = json.loads(handrail("override", "set", JOB, "B12.i", "rows=4", "--reason", "erector asked", "--json"))
    assert made["after"]["value"] == "4"
    assert "erector asked" in handrail("override", "list", JOB)
    assert "done" in handrail("run", JOB, "--where", "section=W16X31")
    assert "done" in handrail("run", JOB, code=1)  # some connections of the demo fail
    listed = json.loads(handrail("connections", JOB, "--where", "overridden>0, connection=B12.i", "--json"))
    assert [(c["connection"], c["overridden"]) for c in listed] == [("B12.i", 1)] and "(4)" in listed[0]["summary"]
    assert "cleared" in handrail("override", "clear", JOB, str(made["id"]), "--reason", "done")


def test_decisions_and_the_team(handrail, service, tmp_path):
    """Put forward for many, reviewed, exported, proved without the service; labelled, released, told how far it is."""
    service.client("admin").put_causes(["erection", "other"])
    where = "section=W16X40, level=2, framing=beam_to_column_web, utilisation<0.5"
    seen = handrail(
        "override", "set", JOB, "--where", where, "rows=4", "plate_thickness=3/8 in", "--cause", "erection", "--preview"
    )
    assert "preview, nothing kept" in seen and "the worst after it" in seen
    made = json.loads(handrail("override", "set", JOB, "--where", where, "rows=4", "--cause", "erection", "--json"))
    numbers = [str(n) for n in made["overrides"]]
    assert made["kept"] and len(numbers) > 2
    waiting = json.loads(handrail("override", "list", JOB, "--state", "awaiting", "--cause", "erection", "--json"))
    assert sorted(str(o["id"]) for o in waiting) == sorted(numbers)
    assert " awaiting, " in handrail("override", "list", JOB, "--state", "awaiting")
    assert "say why it is returned" in handrail("override", "return", JOB, numbers[0], code=2)
    assert "1 decisions: accepted" in handrail("override", "accept", JOB, numbers[0], "--word", "as drawn")
    sketch = tmp_path / "sketch.txt"
    sketch.write_text("a sketch")
    assert "SHA-256" in handrail("override", "attach", JOB, numbers[0], str(sketch))
    assert "sketch.txt" in handrail("override", "files", JOB, numbers[0])
    for ending, more in (("json", ()), ("csv", ("--csv",))):
        export = tmp_path / f"ledger.{ending}"
        text = handrail("override", "export", JOB, *more)
        export.write_text(text)
        sound = handrail("override", "verify", "--file", str(export))
        head = re.search(r"head ([0-9a-f]{64})", sound)
        assert "sound" in sound and head
        assert "sound" in handrail("override", "verify", JOB, "--head", head[1])
        export.write_text(text.replace("as drawn", "as dream"))
        assert "was changed after it was written" in handrail("override", "verify", "--file", str(export), code=1)
    assert "no entry has the digest" in handrail("override", "verify", JOB, "--head", "0" * 64, code=1)
    assert "is no export" in handrail("override", "verify", "--file", str(sketch), code=2)
    assert "cleared" in handrail("override", "clear", JOB, "--cause", "erection")
    assert "2 of 2 connections" in handrail(
        "label", JOB, "B41.i", "B42.i", "--tag", "rush", "--person", "ann", "--sequence", "1"
    )
    assert "history of B41.i" in handrail("comment", JOB, "B41.i", "ask the erector")
    assert "1 connections: released" in handrail("release", JOB, "B41.i")
    shown = handrail("progress", JOB)
    assert "sequence" in shown and "ann" in shown and "level" in shown
    assert "first revision" in handrail("revised", JOB)
    assert "release withdrawn" in handrail("release", JOB, "B41.i", "--withdraw", "--word", "not yet")
    for ending in ("csv", "xlsx"):
        file = tmp_path / f"table.{ending}"
        assert "wrote" in handrail(
            "table", JOB, str(file), "--where", "tag=rush", "--columns", "connection,status,utilisation,tags"
        )
        assert file.stat().st_size > 50
    assert (tmp_path / "table.csv").read_bytes().splitlines()[0] == b"connection,status,utilisation,tags"
    assert "no column 'x'" in handrail("table", JOB, str(tmp_path / "t.csv"), "--columns", "x", code=2)
    assert "erection" in handrail("causes")


def test_a_metric_asd_job_by_commands_alone(service, handrail, tmp_path):
    """What the README says for a building of one's own; everything shown is metric, B1's 10 kip is 44.48 kN."""
    tables = small()
    in_si(tables)
    login = ("--token", service.client("admin").login("admin", "alder-street"))
    handrail("job", "new", "mill", "--title", "The mill", "--method", "ASD", *login)
    counted = handrail("import", "mill", str(write(tables, tmp_path / "b")), *login)
    assert re.search(r"members +5\b", counted), counted
    handrail("rulebook", "put", "mill", "docs/examples/rulebook.yaml", *login)
    assert "3 pass" in handrail("run", "mill", *login)
    assert "PL 6.35 mm" in handrail("connections", "mill", *login)
    joints = handrail("joints", "mill", *login)
    assert "height, m" in joints and "3.66" in joints  # 12 ft
    shown = handrail("show", "mill", "B1.i", "--trace", *login)
    assert "AISC 360-22 ASD" in shown and "44.48 kN" in shown and "Rn/Omega" in shown
    assert not re.findall(r"\d in\b|kip|ksi", shown)
    changed = handrail("job", "set", "mill", "--method", "LRFD", *login)
    assert "The mill, AISC 360-22 LRFD" in changed and "5 unchecked" in changed  # what stood by ASD is stale
    assert "3 pass" in handrail("run", "mill", *login)


def test_refusals(handrail, tmp_path):
    assert "no connection 'nope'" in handrail("show", JOB, "nope", code=2)
    assert "is not a filter" in handrail("connections", JOB, "--where", "x", code=2)
    assert "needs an administrator" in handrail("job", "new", "mine", code=2)
    bad = small()
    bad["members"][0]["i"] = "zz"
    refused = handrail("import", JOB, str(write(bad, tmp_path / "b")), code=2)
    assert "members.csv row 2 i: 'zz' is not in nodes" in refused
    (tmp_path / "r.yaml").write_text("rulebook: 1\nrules:\n  - {use: nothing}\n")
    assert "line 3" in handrail("rulebook", "put", JOB, str(tmp_path / "r.yaml"), code=2)


def test_what_leaves_the_house_is_proved(handrail, tmp_path):
    made = tmp_path / "t.zip"
    asked = ("transmittal", "make", JOB, "--to", "Elm Fabricators", "--why", "for a look", "--where", "connection=B1.i")
    would = handrail(*asked, "--anyway", "a look", "--preview")
    assert "this is what would be in it" in would and "1 connections in 1 marks" in would
    said = handrail(*asked, "--anyway", "a look", "--file", str(made))
    name = said.split()[0]
    assert name.startswith("T") and "wrote" in said and "not released and go anyway: a look" in said
    assert name in handrail("transmittal", "list", JOB) and "Elm Fabricators" in handrail(
        "transmittal", "show", JOB, name
    )
    assert f"✓ {name} of {JOB}" in handrail("transmittal", "verify", str(made))
    again = tmp_path / "again.zip"
    handrail("transmittal", "show", JOB, name, "--to", str(again))
    assert again.read_bytes() == made.read_bytes()
    with zipfile.ZipFile(made, "a") as packed:
        packed.writestr("more.txt", "put in later")
    wrong = handrail("transmittal", "verify", str(made), code=1)
    assert "more.txt is not among its contents" in wrong and "is not as it was sent" in wrong
    assert "no transmittal" in handrail("transmittal", "verify", str(tmp_path / "no.zip"), code=2)


def test_backup_and_restore(service, tmp_path):
    def local(*words, code=0):
        done = subprocess.run(
            [sys.executable, "-m", "handrail.cli.main", *words],
            capture_output=True,
            text=True,
            timeout=240,
            check=False,
        )
        assert done.returncode == code, done.stderr
        return done.stdout + done.stderr

    copy = tmp_path / "copy.sqlite"
    local("backup", str(copy), "--home", str(service.home))
    assert copy.stat().st_mode & 0o777 == 0o600  # as the records: their owner's alone
    service.client("detailer")  # who was let in before is in the copy
    assert "signs in again" in local("restore", str(copy), "--home", str(tmp_path / "new"))
    assert "say --replace" in local("restore", str(copy), "--home", str(tmp_path / "new"), code=2)
    local("restore", str(copy), "--home", str(tmp_path / "new"), "--replace")
    import sqlite3

    with sqlite3.connect(tmp_path / "new/records.sqlite") as database:
        assert database.execute("select count(*) from connection").fetchone()[0] >= 1115
        assert database.execute("select count(*) from token").fetchone()[0] == 0
    with sqlite3.connect(copy) as database:
        assert database.execute("select count(*) from token").fetchone()[0] > 0
    (tmp_path / "junk.sqlite").write_bytes(b"junk" * 100)
    assert "no backup" in local("restore", str(tmp_path / "junk.sqlite"), "--home", str(tmp_path / "other"), code=2)


def test_rules_by_command(handrail, tmp_path):
    """A rulebook with a CSV beside it is tried, put, compared, written back with its file, gone back over; why,
    practice and words are told."""
    text = handrail("rulebook", "get", JOB)
    table = "tables:\n  beams: {by: supported.section, match: prefix, file: beams.csv}\n"
    rule = (
        "rules:\n  - name: Shop sizes\n    when: {framing: beam_to_girder, row_in: beams}\n    use: single_plate\n   "
        " sizes: beams\n"
    )
    (tmp_path / "r.yaml").write_text(text.replace("rules:\n", table + rule, 1))
    assert "beams.csv" in handrail("rulebook", "try", JOB, str(tmp_path / "r.yaml"), code=2)
    (tmp_path / "beams.csv").write_text("supported.section, rows\nW16X31, 4\n")
    tried = handrail("rulebook", "try", JOB, str(tmp_path / "r.yaml"), "--limit", "3")
    for words in ("Shop sizes", "connections would be otherwise", "field bolts:", "nothing was changed"):
        assert words in tried
    on_one = handrail(
        "rulebook",
        "try",
        JOB,
        str(tmp_path / "r.yaml"),
        "--on",
        "B60.j",
        "--table",
        "beams",
        "--formula",
        "rows * pitch",
    )
    assert "row W16X31: rows 4" in on_one and "taken by Shop sizes" in on_one and "value 12 in" in on_one
    assert "adopted as revision" in handrail("rulebook", "put", JOB, str(tmp_path / "r.yaml"), "--name", "shop sizes")
    try:
        assert "table" in handrail("rulebook", "compare", JOB) and "shop sizes" in handrail(
            "rulebook", "revisions", JOB
        )
        handrail("rulebook", "get", JOB, "--to", str(tmp_path / "out"))
        assert (tmp_path / "out/beams.csv").read_text() == (tmp_path / "beams.csv").read_text()
        assert "taken by Shop sizes" in handrail("rulebook", "why", JOB, "B60.j") and "row_in: beams" in handrail(
            "rulebook", "why", JOB, "B1.j"
        )
        assert "Like B12.i" in handrail("rulebook", "like", JOB, "B12.i", str(tmp_path / "r.yaml"), "--free", "rows")
    finally:
        assert "as revision" in handrail("rulebook", "back", JOB)
        backs = [handrail("rulebook", "back", JOB) for _ in range(2)]  # forward to it, and back again
        assert "shop sizes" in backs[0] and [text.count("as revision") for text in backs] == [
            2,
            2,
        ]  # the one that it makes, the one that it is again
    assert handrail("rulebook", "get", JOB) == text
    assert "What sizing aims at" in handrail("rulebook", "practice", JOB) and "supported.depth" in handrail(
        "rulebook", "words"
    )
    assert "a draft" in handrail("house", "put", "by-command", str(tmp_path / "r.yaml"))
    assert "by-command R1" in handrail("house") and "administrator" in handrail(
        "house", "approve", "by-command", "R1", code=2
    )


def test_marks_sweeps_and_tables_by_command(handrail, tmp_path):
    assert "marks," in handrail("schedule", JOB) and "wrote" in handrail("schedule", JOB, str(tmp_path / "s.csv"))
    assert (tmp_path / "s.csv").read_text().startswith("mark,")
    assert "each merge keeps every check passing" in handrail("marks", JOB)
    as_one = handrail("run", JOB, "--where", "section=W12X26", "--as-one")
    assert "nothing was kept" in as_one and "single_plate" in as_one
    swept = handrail("sweep", "docs/examples/sweep.yaml", "--picture", str(tmp_path / "s.svg"))
    assert "the first that passes is" in swept and (tmp_path / "s.svg").read_text().startswith("<svg")
    (tmp_path / "values.yaml").write_text("sweep: {values: [{rows: 2 .. 4}]}\n")
    assert "candidates tried" in handrail("sweep", str(tmp_path / "values.yaml"), JOB, "B12.i")
    assert "V, kip" in handrail("capacity", "docs/examples/capacity.yaml", "--section", "W16X31", "--shear", "40 kip")
    assert "wrote" in handrail("capacity", "docs/examples/capacity.yaml", str(tmp_path / "c.xlsx"))
    assert "designs between like members" in handrail("earlier", JOB, "B150.j")
