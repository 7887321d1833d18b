"""Editing a rulebook's text: comments and other lines stay, and what is read of it is what was asked."""

from __future__ import annotations

import pytest

from handrail.core.errors import InputError
from handrail.core.rulebook import Text, read_rulebook
from handrail.core.rulebook.editing import move_rule, with_cell, with_rule, without_practice
from handrail.core.rulebook.practice import said
from tests.bundles import DEMO

BOOK = """# The shop's rules, as agreed
rulebook: 1
practice:
  bolt: 3/4 A325-N   # what is in the yard
  bolts: {moment: 7/8 A490-X, shear: 7/8 A325-N}
  single_plate:
    gap: 3/4 in
  pitch: 3 in
tables:
  beams:
    by: supported.section
    csv: |
      supported.section, rows, plate_thickness [in]
      # light ones
      W16, 3, 1/4
      W18, 4, 1/4
    match: prefix
  deep:
    by: supported.section
    rows:
      - {supported.section: W24X68, rows: 5, note: "so, it is"}   # since May
rules:
  # first of all
  - name: A
    use: single_plate       # a comment within

  # what B is for
  # and more of it
  - name: B
    use: double_angle
    set:
      rows: 3

  - name: C
    sizes: deep
    use: single_plate
# the end
"""


def names(text: str) -> list[str]:
    return [rule.name for rule in read_rulebook(text, {"b.csv": "x"}).rules]


def comments(text: str) -> list[str]:
    return sorted(line.split("#", 1)[1].strip() for line in text.splitlines() if "#" in line)


@pytest.mark.parametrize(
    ("rule", "to", "wanted"), [(0, 2, "BCA"), (2, 0, "CAB"), (1, 0, "BAC"), (1, 1, "ABC"), (0, 1, "BAC")]
)
def test_a_rule_moves_with_its_comments(rule: int, to: int, wanted: str) -> None:
    found = move_rule(BOOK, rule, to)
    assert "".join(names(found)) == wanted and comments(found) == comments(BOOK)
    lines = found.splitlines()
    assert lines[lines.index("  - name: B") - 1] == "  # and more of it" and lines[-1] == "# the end"
    assert move_rule(found, to, rule) == BOOK, "back where it was"


def test_every_move_of_the_demos_rules() -> None:
    text = (DEMO / "rulebook.yaml").read_text()
    own = names(text)
    for rule in range(len(own)):
        for to in (0, len(own) // 2, len(own) - 1):
            wanted = own[:]
            wanted.insert(to, wanted.pop(rule))
            found = move_rule(text, rule, to)
            assert names(found) == wanted and comments(found) == comments(text)


def test_one_more_rule() -> None:
    rule = {
        "name": "Like B5.i, in a way",
        "when": {"framing": "beam_to_girder", "V": "<= 20 kip", "released": True},
        "use": "single_plate",
        "set": {"rows": 3, "bolt": "3/4 A325-N", "plate_depth": "= 3 * pitch"},
    }
    found = with_rule(BOOK, rule)
    assert names(found) == ["Like B5.i, in a way", "A", "B", "C"] and comments(found) == comments(BOOK)
    assert read_rulebook(found).rules[0].set["plate_depth"].value == "= 3 * pitch"


@pytest.mark.parametrize(("name", "gone"), [
    ("bolt", ("single_plate", "bolt", "7/8 A325-N")), ("bolts.shear", ("single_plate", "bolt", "3/4 A325-N")),
    ("bolts.moment", ("beam_flange_splice", "flange_bolt", None)), ("single_plate.gap", ("single_plate", "gap", None)),
    ("pitch", ("single_plate", "pitch", None)),
])  # fmt: skip
def test_practice_goes_back_to_its_default(name: str, gone: tuple[str, str, str | None]) -> None:
    before = read_rulebook(BOOK).practice[gone[0]][gone[1]]
    assert said(before.source, gone[1]) == (name if name != "bolt" else "bolts.shear")  # which entry to take out
    found = read_rulebook(without_practice(BOOK, name)).practice
    size = found[gone[0]].get(gone[1])
    assert (size.value if size else None) == gone[2]
    with pytest.raises(InputError, match="does not say"):
        without_practice(without_practice(BOOK, name), name)


def test_practice_that_is_no_mapping_has_nothing_to_take_out() -> None:
    for name in ("bolt", "bolts.shear"):
        with pytest.raises(InputError, match="does not say"):
            without_practice("rulebook: 1\npractice: [bolt]\nrules: []\n", name)


def test_a_cell_changes_and_nothing_else() -> None:
    found = with_cell(Text(BOOK), "beams", 1, "plate_thickness", "5/16")
    assert found.text == BOOK.replace("W18, 4, 1/4", "W18, 4, 5/16")
    assert with_cell(Text(BOOK), "deep", 0, "rows", "6").text == BOOK.replace("rows: 5", "rows: 6")
    assert with_cell(Text(BOOK), "deep", 0, "note", "a, b: c").text == BOOK.replace('"so, it is"', '"a, b: c"')
    files = {"b.csv": "supported.section,rows\n\nW16,3\nW18,4\n"}
    text = (
        "rulebook: 1\ntables: {t: {by: supported.section, file: b.csv}}\nrules:\n  - {name: A, use: single_plate,"
        " sizes: t}\n"
    )
    found = with_cell(Text(text, files), "t", 0, "rows", "5")
    assert found.text == text and found.files == {"b.csv": "supported.section,rows\n\nW16,5\nW18,4\n"}
    for table, row, column in (("beams", 9, "rows"), ("beams", 0, "columns"), ("nothing", 0, "rows")):
        with pytest.raises(InputError):
            with_cell(Text(BOOK), table, row, column, "1")
