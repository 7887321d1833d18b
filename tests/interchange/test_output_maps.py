"""Our rows under another program's names: what a map writes comes in again through the column map that it was turned
from; codes, units and signs by hand; what does not fit is told by its line."""

from __future__ import annotations

import csv
import io
import json
import shutil

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from python_calamine import CalamineWorkbook

from handrail.core.checking.by_end import forces
from handrail.interchange.columnmap import read_map
from handrail.interchange.incoming import map_in, propose, read_model
from handrail.interchange.outputmap import files, is_output, made, read_output, turned
from handrail.interchange.problems import BundleError
from tests.bundles import DEMO
from tests.styles import STYLES, Demo

EXPORTS = DEMO / "exports"
HEAD = ["member", "end", "standard", "utilisation", "V largest, kip", "M largest, kip*ft", "plates, in", "weight (lb)"]
ROWS = [
    ["B1", "i", "single_plate", 0.5, 10.0, 0.0, "1.5; 4.5", 12],
    ["B1", "j", "double_angle", 0.913, -2.5, 4.0, "", 20],
    ["B2", "i", "", "", "", "", "", ""],
]


def wrote(text, head=HEAD, rows=ROWS):
    return files(made(read_output(text), lambda name: (head, rows)))


def lines(body, encoding="utf-8", **how):
    return list(csv.reader(io.StringIO(body.decode(encoding)), **how))


def told(text):
    with pytest.raises(BundleError) as caught:
        made(read_output(text), lambda name: (HEAD, ROWS))
    return [(p.row, p.message) for p in caught.value.problems]


def forces_again(folder, text, tmp_path):
    """A folder of tables with its end forces written by the map turned round; what comes in of either."""
    before = read_model(folder, text)
    column_map = read_map(text)
    output = turned(column_map, {}, "Again", before.results)
    written = files(made(read_output(output), lambda name: forces(before)))
    again = tmp_path / "again"
    shutil.copytree(folder, again)
    for old in next(t for t in column_map.tables if t.name == "end_forces").file:
        for path in again.glob(old):
            path.unlink()
    for name, body in written.items():
        (again / name).write_bytes(body)
    return before, read_model(again, text)


def assert_same_forces(before, after):
    assert before.results == after.results and [m.name for m in before.members] == [m.name for m in after.members]
    scale = np.nanmax(np.abs(before.forces), axis=(0, 1, 2))
    off = np.abs(before.forces - after.forces) / np.maximum(scale, 1.0)
    assert np.nanmax(off) < 1e-9 and (np.isnan(before.forces) == np.isnan(after.forces)).all()


def test_the_demo_goes_out_and_comes_in_again(tmp_path):
    """Its exports state internal forces, compression positive, kN along each bar, decimal commas, cases by other names,
    and two bars that are spliced: all of that is written as it was read."""
    text = map_in(EXPORTS)
    before, after = forces_again(EXPORTS, text, tmp_path)
    assert len(before.spliced) == 2 and len(before.members) > 600
    assert_same_forces(before, after)
    wrote_ = lines((tmp_path / "again" / "Bar forces.csv").read_bytes(), delimiter=";")
    theirs = lines((EXPORTS / "Bar forces.csv").read_bytes(), delimiter=";")
    assert set(wrote_[2]) == set(theirs[2])


@pytest.mark.parametrize("style", ["french", "german"])
def test_other_ways_of_writing_come_in_again(style, tmp_path):
    folder = tmp_path / style
    STYLES[style](folder, Demo())
    assert_same_forces(*forces_again(folder, propose(folder), tmp_path))


@pytest.mark.parametrize(
    ("style", "there", "here"),
    [
        ("wide", ('file = "Alder Street frame.xlsx"\nsheet = "Element forces"\nskip = 3\nhead = 2', "units_row = true"),
         'file = "again.xlsx"\nsheet = "Element forces"\nunits_row = true'),
        ("paged", ('file = "frame report.out"\nafter = "FORCES', 'fill = ["Bar"]'),
         'file = "forces.csv"\nskip = 1\nunits_row = true'),
    ],
)  # fmt: skip
def test_what_stood_in_a_sheet_or_a_report_among_others(style, there, here, tmp_path):
    """A case across the columns of a sheet, or a section of a report: written as a file of its own, read by the map
    with the place of that table changed."""
    folder = tmp_path / style
    STYLES[style](folder, Demo())
    text = propose(folder)
    before = read_model(folder, text)
    output = turned(read_map(text), {}, "Again", before.results).replace("Alder Street frame.xlsx", "again.xlsx")
    for name, body in files(made(read_output(output), lambda name: forces(before))).items():
        (folder / name).write_bytes(body)
    start, end = text.index(there[0]), text.index(there[1], text.index(there[0]))
    assert_same_forces(before, read_model(folder, text[:start] + here + text[end + len(there[1]) :]))


def test_codes_units_and_signs_by_hand():
    """10 kip = 44.482 kN; 4 kip*ft = 5.423 kN*m; 1.5 in = 38.1 mm; 12 lb = 5.443 kg."""
    body = wrote(
        """
        output = 1
        [tables.results]
        file = "Ends of bars.txt"
        delimiter = ";"
        decimal = ","
        encoding = "cp1252"
        units_row = true
        above = ["Größen der Anschlüsse", "-"]
        [tables.results.columns]
        Stab = {column = "member", within = "S-*"}
        Ende = {column = "end", values = {i = "1", j = "2"}}
        Art = {column = "standard", values = {single_plate = "FB", "double*" = "W"}, blank = "-"}
        Querkraft = {column = "V largest", unit = "kN", factor = -1, decimals = 2}
        Moment = {column = "M largest", unit = "kN*m", decimals = 3}
        Lage = {column = "plates", unit = "mm"}
        Gewicht = {column = "weight", unit = "kg", decimals = 1}
        Quelle = {value = "HR"}
        Ort = {columns = ["member", "end"], join = "/"}
        """
    )["Ends of bars.txt"]
    assert lines(body, "cp1252", delimiter=";") == [
        ["Größen der Anschlüsse"],
        ["-"],
        ["Stab", "Ende", "Art", "Querkraft", "Moment", "Lage", "Gewicht", "Quelle", "Ort"],
        ["", "", "", "kN", "kN*m", "mm", "kg", "", ""],
        ["S-B1", "1", "FB", "-44,48", "0,000", "38,1; 114,3", "5,4", "HR", "B1/i"],
        ["S-B1", "2", "W", "11,12", "5,423", "", "9,1", "HR", "B1/j"],
        ["S-B2", "1", "-", "", "", "", "", "HR", "B2/i"],
    ]


def test_both_ends_in_one_row_and_rows_left_out():
    body = wrote(
        """
        output = 1
        [tables.bars]
        rows = "results"
        file = "bars.csv"
        one_row = ["member"]
        not = {member = ["B2"]}
        [tables.bars.columns]
        Bar = "member"
        "Kind at start" = {column = "standard", where = {end = "i"}}
        "Kind at end" = {column = "standard", where = {end = "j"}}
        "Used at end" = {column = "utilisation", where = {end = "j"}, factor = 100, decimals = 0}
        """
    )["bars.csv"]
    assert lines(body) == [
        ["Bar", "Kind at start", "Kind at end", "Used at end"],
        ["B1", "single_plate", "double_angle", "91"],
    ]


def test_sheets_of_a_workbook_and_json():
    body = wrote(
        """
        output = 1
        [tables.first]
        rows = "results"
        file = "all.xlsx"
        sheet = "Ends"
        units_row = true
        columns = {Bar = "member", V = {column = "V largest", unit = "kN"}}
        [tables.second]
        rows = "results"
        file = "all.xlsx"
        columns = {Used = "utilisation"}
        [tables.third]
        rows = "results"
        file = "all.json"
        columns = {bar = "member", used = "utilisation"}
        """
    )
    book = CalamineWorkbook.from_filelike(io.BytesIO(body["all.xlsx"]))
    assert book.sheet_names == ["Ends", "second"]
    ends = book.get_sheet_by_name("Ends").to_python()
    assert ends[:2] == [["Bar", "V"], ["", "kN"]] and ends[2] == ["B1", pytest.approx(44.4822, rel=1e-5)]
    assert json.loads(body["all.json"])[1] == {"bar": "B1", "used": 0.913}


@settings(max_examples=30, deadline=None)
@given(st.floats(-1e6, 1e6).filter(lambda v: v == 0 or abs(v) > 1e-6), st.sampled_from(["kN", "N", "lbf", "kip"]))
def test_numbers_come_back(value, unit):
    text = f"""
        output = 1
        [tables.results]
        file = "a.csv"
        columns = {{V = {{column = "V", unit = "{unit}", factor = -1}}}}
        """
    back = """
        output = 1
        [tables.results]
        file = "a.csv"
        columns = {V = {column = "V", unit = "kip", factor = -1}}
        """
    out = lines(wrote(text, ["V, kip"], [[value]])["a.csv"])[1][0]
    again = lines(wrote(back, [f"V, {unit}"], [[float(out)]])["a.csv"])[1][0]
    assert float(again) == pytest.approx(value, rel=1e-9, abs=1e-12)


def test_a_text_that_a_spreadsheet_would_work_out_is_held_back():
    rows = [["=1+1", -2.0, "-", "-3,5", "@x"]]
    body = wrote(
        'output = 1\n[tables.results]\nfile = "a.csv"\ncolumns = {a = "a", b = "b", c = "c", d = "d", e = "e"}\n',
        ["a", "b", "c", "d", "e"],
        rows,
    )["a.csv"]
    assert lines(body)[1] == ["'=1+1", "-2", "-", "-3,5", "'@x"]


WRONG = """
output = 1
[tables.results]
file = "a.csv"
[tables.results.columns]
Bar = "membr"
Used = {column = "utilisation", unit = "kN"}
V = {column = "V largest", unit = "kN*m"}
Art = {column = "standard", values = {single_plate = "FB"}}
"""


def test_what_does_not_fit_our_rows_is_told_by_its_line():
    found = told(WRONG)
    assert [row for row, _ in found] == [7, 8, 6]
    assert "is member meant?" in found[2][1] and "has no unit" in found[0][1] and "unit of force" in found[1][1]
    found = told(WRONG.replace("membr", "member").replace(', unit = "kN"', "").replace('unit = "kN*m"', 'unit = "kN"'))
    assert [row for row, _ in found] == [9] and "double_angle" in found[0][1] and 'others = "keep"' in found[0][1]


@pytest.mark.parametrize(
    ("text", "line", "words"),
    [
        ("output = 2\n[tables.results]\nfile = 'a.csv'\ncolumns = {a = 'member'}", 1, "write 'output = 1'"),
        ("output = 1\n[tables.result]\nfile = 'a.csv'\ncolumns = {a = 'member'}", 2, "are results meant?"),
        ("output = 1\n[tables.results]\nfile = '../a.csv'\ncolumns = {a = 'member'}", 3, "a name without a folder"),
        ("output = 1\n[tables.results]\nfile = 'a.exe'\ncolumns = {a = 'member'}", 3, "ends in"),
        ("output = 1\n[tables.results]\nfile = 'a.csv'", 2, "give the columns"),
        ("output = 1\n[tables.results]\nfile = 'a.csv'\ndecimal = ','\ncolumns = {a = 'member'}", 2, "are both ','"),
        ("output = 1\n[tables.results]\nfile = 'a.csv'\nencoding = 'hex'\ncolumns = {a = 'member'}", 4, "no encoding"),
        ("output = 1\n[tables.results]\nfile = 'a.csv'\ncolumns = {a = {column = 'member', factor = 0}}", 4, "factor"),
        (
            "output = 1\n[tables.results]\nfile = 'a.csv'\ncolumns = {a = {column = 'x', value = 'y'}}",
            4,
            "needs one of",
        ),
        ("output = 1\n[tables.results]\nfile = 'a.csv'\ncolums = {a = 'member'}", 4, "is columns meant?"),
        ("output = 1\n[tables]", 2, "give 1 to 50 tables"),
        ("output = 1\nx = ?\n", 2, "is not TOML"),
        ("output = 1\n[tables.results]\nfile = 'a.xlsx'\nhead = false\ncolumns = {a = 'member'}", 4, "goes with text"),
        (
            "output = 1\n[tables.a]\nrows = 'ends'\nfile = 'a.csv'\ncolumns = {a = 'member'}\n"
            "[tables.b]\nrows = 'holes'\nfile = 'A.csv'\ncolumns = {a = 'member'}",
            8,
            "is written by tables.a already",
        ),
    ],
)
def test_mistakes_are_told_at_their_line(text, line, words):
    with pytest.raises(BundleError) as caught:
        read_output(text)
    assert any(p.row == line and words in p.message for p in caught.value.problems), caught.value.problems


def test_two_values_for_one_row_are_told():
    found = told(
        'output = 1\n[tables.results]\nfile = "a.csv"\none_row = ["member"]\n[tables.results.columns]\n'
        'Bar = "member"\nArt = "standard"\n'
    )
    assert found[0][0] == 7 and "B1 has 2 values of Art" in found[0][1]


def test_which_way_a_map_goes():
    assert is_output("output = 1") and is_output("output = 1\nbroken = ") and not is_output("map = 1\n")
