"""In a job whose model is in metres nothing is told in inches or kip, whatever is asked, done wrong or refused; and the
other way round."""

from __future__ import annotations

from contextlib import contextmanager

import pytest

from handrail.interchange.archive import zip_folder
from tests.bundles import in_si, small, write
from tests.service.house import House
from tests.units_of import foreign

PAGES = [
    "",
    "/connections",
    "/joints",
    "/audit",
    "/survey",
    "/patterns",
    "/patterns/P1",
    "/overrides",
    "/ledger",
    "/schedule",
    "/schedule/fewer",
    "/reserve?below=1",
    "/progress",
    "/revised",
    "/rulebook/practice",
    "/rulebook/revisions",
    "/rulebook/compare",
    "/combinations",
    "/connections/B1.i",
    "/connections/B1.i/matrix",
    "/connections/B1.i/why",
    "/connections/B1.i/earlier",
]
WRONG = [  # what is sent, with what is wrong in it
    ("POST", "/connections/B1.i/overrides", {"parameter": "plate_thickness", "value": "1 mm", "reason": "x"}),
    ("POST", "/connections/B1.i/overrides", {"parameter": "pitch", "value": "900 mm", "reason": "x"}),
    ("POST", "/connections/B1.i/overrides", {"parameter": "actions", "value": "V = 1 mm", "reason": "x"}),
    ("POST", "/changes", {"where": "", "changes": {"plate_thickness": "1 mm"}, "preview": True}),
    ("POST", "/connections/B1.i/alternatives", {"alternatives": [{"parameters": {"pitch": "1 mm"}}]}),
    ("PUT", "/rulebook", {"text": "rulebook: 1\npractice: {plate_thickness: 1 mm, pitch: 900 mm}\nrules: []\n"}),
    ("POST", "/rulebook/read", {"text": "rulebook: 1\npractice: {plate_thickness: 1 mm}\nrules: [{name: A}]\n"}),
    ("POST", "/rulebook/try", {"text": "rulebook: 1\nrules: [{name: A, use: single_plate, set: {gap: 9999 mm}}]\n"}),
]


WRITTEN = (".lines: ", ".merges.changes.")  # as somebody wrote it; and as it is to be sent back, every digit


@contextmanager
def opened(folder, tables):
    """A house with the small bay in the tables' units, run, with a decision and two rulebooks."""
    folder.mkdir()
    made = House(folder)
    zip_folder(write(tables, folder / "model"), folder / "model.zip")
    made.send((folder / "model.zip").read_bytes())
    made.run()
    made.call(
        "POST", "/jobs/bay/connections/B1.i/overrides", json={"parameter": "plate_thickness", "value": 8, "reason": "x"}
    )
    book = made.call("GET", "/jobs/bay/rulebook").json["text"]
    made.call("PUT", "/jobs/bay/rulebook", json={"text": book.replace("1/4 in", "10 mm")})
    made.run()
    yield made
    made.close()


@pytest.mark.parametrize("system", ["si", "us"])
def test_nothing_is_told_in_the_other_units(tmp_path, system):
    """What somebody wrote stays as written (the rulebook's text); every other text is looked through."""
    tables = small()
    if system == "si":
        in_si(tables)
    with opened(tmp_path / "house", tables) as house:
        found, answered = [], 0
        for page in PAGES:
            answer = house.call("GET", f"/jobs/bay{page}")
            assert answer.status_code in (200, 404), (page, answer.json)
            answered += answer.status_code == 200
            found += [f"{page} {text}" for text in foreign(answer.json, system) if not text.startswith(WRITTEN)]
        for method, path, body in WRONG if system == "si" else []:
            answer = house.call(method, f"/jobs/bay{path}", json=body)
            assert answer.status_code in (200, 409, 422), (path, answer.json)
            found += [f"{path} {text}" for text in foreign(answer.json, system)]
        assert answered > 15 and not found, "\n".join(found)
