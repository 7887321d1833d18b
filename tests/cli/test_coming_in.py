"""Commands by which models come in: maps of the house, a watched folder, an import that waits; a job that begins with
the house's rulebook."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
import time

import pytest

from handrail.cli.watching import stamp
from tests.bundles import DEMO, small, write
from tests.cli.typed import typed
from tests.wide import wide


@pytest.fixture(scope="module")
def environment(service, tmp_path_factory):
    return os.environ | {
        "HANDRAIL_CONFIG": str(tmp_path_factory.mktemp("config")),
        "HANDRAIL_SERVER": service.url,
        "HANDRAIL_PASSWORD": "alder-street",
    }


@pytest.fixture(scope="module")
def handrail(environment):
    def run(*words: str, code: int = 0) -> str:
        done = typed(*words, environment=environment)
        assert done.returncode == code, (words, done.stdout, done.stderr)
        return done.stdout if code < 2 else done.stderr

    run("login", "admin")
    return run


def test_maps_of_the_house(handrail, tmp_path):
    text = (DEMO / "exports/map.toml").read_text(encoding="utf-8")
    (tmp_path / "m.toml").write_text(text, encoding="utf-8")
    assert "kept as demo-exports, revision 1" in handrail(
        "maps", "put", "demo-exports", str(tmp_path / "m.toml"), "--note", "the demo's"
    )
    assert "demo-exports" in handrail("maps") and handrail("maps", "get", "demo-exports") == text
    assert "0 problem(s)" in handrail("map", str(DEMO / "exports"), "--house", "demo-exports")
    assert "proposed no more" in handrail("maps", "leave", "demo-exports")
    assert "has no map" in handrail("maps", "get", "demo-exports", code=2)
    assert "required: FILE; see 'handrail maps put --help'" in handrail("maps", "put", "demo-exports", code=2)


def test_a_folder_is_watched_and_what_comes_waits_for_a_look(handrail, environment, service, tmp_path):
    """Half a bundle is there when the watch begins; it is sent once the rest is written and nothing moves any more."""
    handrail("job", "new", "watched", "--rulebook", "none")
    whole, folder = write(small(), tmp_path / "whole"), tmp_path / "written"
    folder.mkdir()
    shutil.copy(whole / "nodes.csv", folder)
    words = [sys.executable, "-m", "handrail.cli.main", "watch", "watched", str(folder), "--still", "0.6", "--once"]
    watching = subprocess.Popen(words, stdout=subprocess.PIPE, text=True, env=environment)
    try:
        assert watching.stdout is not None and "watching" in watching.stdout.readline()
        for path in sorted(whole.iterdir()):
            shutil.copy(path, folder)
            time.sleep(0.05)
        out, _ = watching.communicate(timeout=60)
    finally:
        watching.kill()
    number = out.split("handrail confirm watched ")[1].split()[0]
    assert json.loads(handrail("confirm", "watched", number, "--json"))["state"] in ("queued", "running", "done")
    client = service.client("admin")
    while (found := client.get_import("watched", int(number)))["state"] in ("queued", "running"):
        time.sleep(0.1)
    assert (found["state"], found["revision"]) == ("done", 1)
    assert "not held" in handrail("confirm", "watched", number, code=2)
    assert "no such folder" in handrail("watch", "watched", str(tmp_path / "nowhere"), code=2)


@wide
def test_a_map_that_nobody_looked_at_is_not_confirmed(handrail, service, tmp_path):
    """What was only proposed waits for a look; given by somebody, it is taken."""
    folder = shutil.copytree(DEMO / "exports", tmp_path / "exports", ignore=shutil.ignore_patterns("map.toml"))
    handrail("job", "new", "unseen", "--rulebook", "none")
    client = service.client("admin")
    number = client.send_model("unseen", folder, hold=True)["id"]
    assert "nobody has looked at it" in handrail("confirm", "unseen", str(number), code=2)
    client.set_map("unseen", number, (DEMO / "exports/map.toml").read_text(encoding="utf-8"))
    assert "its audit: handrail audit unseen" in handrail("confirm", "unseen", str(number))


def test_a_stamp_changes_with_the_files(tmp_path):
    before = stamp(tmp_path)
    (tmp_path / "a.csv").write_text("x")
    (tmp_path / ".b").write_text("x")
    assert before == () and [name for name, _, _ in stamp(tmp_path)] == ["a.csv"]


def test_a_job_begins_with_the_house_s_rulebook(handrail, service, tmp_path):
    client = service.client("admin")
    assert not [own for own in client.house() if own["state"] == "approved"]
    client.put_house("first-practice", (DEMO / "rulebook.yaml").read_text(encoding="utf-8"), {})
    client.review_house("first-practice", 1, "approved")
    assert "by first-practice R1" in handrail("job", "new", "begun")
    assert "first-practice R1" in client.rulebook("begun")["text"]
    client.put_house("second-practice", (DEMO / "rulebook.yaml").read_text(encoding="utf-8"), {})
    client.review_house("second-practice", 1, "approved")
    assert "say which rulebook of the house it begins with" in handrail("job", "new", "begun-2", code=2)
    assert "made job begun-2" in handrail("job", "new", "begun-2", "--rulebook", "second-practice R1")
    assert "made job begun-3" in handrail("job", "new", "begun-3", "--rulebook", "none")
    for name in ("first-practice", "second-practice"):
        client.review_house(name, 1, "retired")
