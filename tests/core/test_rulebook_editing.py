"""Editing a rulebook's text: comments and other lines stay, and what is read of it is what was asked."""

from __future__ import annotations

import csv

import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.errors import InputError
from handrail.core.rulebook import Text, read_rulebook
from handrail.core.rulebook.editing import move_rule, with_cell, with_rule, without_practice
from handrail.core.rulebook.practice import said
from handrail.core.rulebook.yaml import load
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
        for to in {0, len(own) // 2, len(own) - 1} if rule % 4 == 0 else {(rule * 7) % len(own)}:
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


WIDE = BOOK.replace(
    "  - name: A\n    use: single_plate       #", "  -   name: A\n      use: single_plate       #"
).replace(
    "  - name: B\n    use: double_angle\n    set:\n      rows: 3\n",
    "  -\n    name: B\n    use: double_angle\n    set: {rows: 3}\n\n\n",
)


def test_a_list_in_any_hand_moves_and_grows() -> None:
    for to, wanted in ((0, "BAC"), (2, "ACB")):
        found = move_rule(WIDE, 1, to)
        assert "".join(names(found)) == wanted and move_rule(found, to, 1) == WIDE
    found = with_rule(WIDE, {"name": "D", "use": "single_plate", "set": {"rows": 3}})
    assert names(found) == ["D", "A", "B", "C"] and comments(found) == comments(WIDE)


def test_line_ends_stay_as_they_are() -> None:
    book = BOOK.replace("\n", "\r\n")
    changed = (
        move_rule(book, 2, 0),
        with_rule(book, {"name": "D", "use": "single_plate"}),
        without_practice(book, "bolts.shear"),
        without_practice(book, "single_plate.gap"),
        with_cell(Text(book), "beams", 1, "rows", "7").text,
        with_cell(Text(book), "deep", 0, "rows", "7").text,
    )
    for text in changed:
        assert text.count("\n") == text.count("\r\n") > 30 and text != book
    assert with_cell(Text(book), "beams", 1, "rows", "7").text == book.replace("W18, 4,", "W18, 7,")
    end = BOOK.removesuffix("# the end\n").removesuffix("\n")  # nothing ends the last line
    assert names(move_rule(end, 2, 0)) == ["C", "A", "B"]


@pytest.mark.parametrize(
    "value",
    [
        "NULL",
        "1e3",
        "2026-01-02",
        "010",
        "true",
        "no",
        "",
        " x ",
        "# x",
        "a: b",
        "[a",
        "3/4",
        "-1.50",
        '"',
        "*a",
        "0x1F",
    ],
)
def test_a_cell_holds_what_was_written_whatever_it_looks_like(value: str) -> None:
    found = with_cell(Text(BOOK), "deep", 0, "note", value).text
    before, after = load(BOOK), load(found)
    assert after["tables"]["deep"]["rows"][0]["note"] == (-1.5 if value == "-1.5" else value)
    before["tables"]["deep"]["rows"][0]["note"] = after["tables"]["deep"]["rows"][0]["note"]
    assert after == before


@given(st.text(st.characters(codec="utf-8", exclude_categories=("Cs", "Cc", "Zl", "Zp")), max_size=30))
def test_any_text_in_a_cell_is_read_as_it_was_written_or_refused(value: str) -> None:
    for table, row, column in (("deep", 0, "note"), ("beams", 1, "plate_thickness"), ("beams", 0, "supported.section")):
        try:
            found = load(with_cell(Text(BOOK), table, row, column, value).text)["tables"][table]
        except InputError:
            continue
        if table == "deep":
            assert str(found["rows"][row][column]) == value
        else:
            cells = list(csv.reader(found["csv"].splitlines(), skipinitialspace=True))
            assert [cells[2], cells[3]][row][0 if column == "supported.section" else 2] == value


ANCHORED = """rulebook: 1
practice:
  single_plate: &plain
    gap: &gap 3/4 in
    pitch: 3 in
  double_angle: *plain
  bolts:
    shear: {<<: {a: 1}}
tables:
  t:
    by: supported.section
    rows:
      - {supported.section: W16, rows: &three 3}
      - supported.section: W18
        rows: *three
        gap: *gap
        note: >
          folded
rules:
  - {name: A, use: single_plate}
  - &rule
    name: B
    use: single_plate
  - *rule
"""


def test_what_would_change_elsewhere_too_is_refused() -> None:
    for change in (
        lambda: with_cell(Text(ANCHORED), "t", 0, "rows", "4"),
        lambda: with_cell(Text(ANCHORED), "t", 1, "rows", "4"),
        lambda: with_cell(Text(ANCHORED), "t", 1, "note", "4"),
        lambda: without_practice(ANCHORED, "single_plate.gap"),
        lambda: without_practice(ANCHORED, "double_angle.pitch"),
        lambda: without_practice(ANCHORED, "single_plate"),
        lambda: move_rule(ANCHORED, 2, 0),
    ):
        with pytest.raises(InputError, match="change it in the text"):
            change()
    assert "pitch" not in load(without_practice(ANCHORED, "double_angle"))["practice"]
    assert with_cell(Text(ANCHORED), "t", 1, "supported.section", "W21").text == ANCHORED.replace("W18", "W21")


def test_a_row_of_a_file_keeps_how_it_is_written() -> None:
    text = "rulebook: 1\ntables: {t: {by: supported.section, file: b.csv}}\nrules:\n  - {name: A, use: single_plate}\n"
    rows = '\ufeffsupported.section,\trows , note\r\n# a, b\r\nW16  ,   3,  "so, it is"  \r\nW18,4\r\n'
    given = Text(text, {"b.csv": rows})
    assert with_cell(given, "t", 0, "rows", "5").files["b.csv"] == rows.replace("   3,", "   5,")
    assert with_cell(given, "t", 0, "note", "no").files["b.csv"] == rows.replace('"so, it is"', "no")
    with pytest.raises(InputError, match="row 2 has 2 cells"):
        with_cell(given, "t", 1, "rows", "5")
