"""Each way that programs write tables, read by what a map says of it: worked by hand."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from pathlib import Path

import numpy as np
import pytest
import xlsxwriter
from hypothesis import given
from hypothesis import strategies as st

from handrail.interchange.columnmap import applying, bundled, proposed, read_map, records
from handrail.interchange.columnmap.language import fits
from handrail.interchange.incoming import read_model
from handrail.interchange.problems import BundleError
from tests.bundles import DEMO
from tests.interchange.test_column_maps import HEAD

NONE_FITS = 'fits none of the values that the map gives: write it there, or others = "keep"'


def made(tmp_path: Path, files: dict[str, str | bytes], text: str, *tables: str) -> list[list[str]]:
    """The lines of each of `tables` as a map makes them of some files."""
    folder, into = tmp_path / "in", tmp_path / "out"
    folder.mkdir(exist_ok=True)
    into.mkdir(exist_ok=True)
    for name, content in files.items():
        (folder / name).write_bytes(content.encode() if isinstance(content, str) else content)
    bundled(read_map(HEAD + text), folder, into)
    return [(into / f"{table}.csv").read_text(encoding="utf-8").splitlines() for table in tables]


def told(tmp_path: Path, files: dict[str, str | bytes], text: str) -> list[str]:
    with pytest.raises(BundleError) as error:
        made(tmp_path, files, text)
    return [str(p) for p in error.value.problems]


PAGES = """FRAME REPORT      Page 1

POINTS
Point    X      Y
------------------
a      0.0    1.5
b     12.0   -1.5

FRAME REPORT      Page 2
POINTS
Point    X      Y
------------------
c     24.0    3.0
Total points: 3

BARS
Bar  From  To
M1   a     b
"""


def test_a_report_of_pages_and_sections(tmp_path):
    """What stands over the rows comes again on the next page and is no row; a section ends where the next title or the
    total stands."""
    text = """
[tables.nodes]
file = "r.out"
after = "POINTS"
until = ["Total*", "BARS"]
ignore = "FRAME REPORT*"
written = "fixed"
starts = [0, 5, 11]
columns = {node = "Point", x = "X", y = "Y"}
[tables.members]
file = "r.out"
after = "BARS"
delimiter = " "
columns = {member = "Bar", i = "From", j = "To"}
"""
    nodes, members = made(tmp_path, {"r.out": PAGES}, text, "nodes", "members")
    assert nodes == ["node,x,y", "a,0.0,1.5", "b,12.0,-1.5", "c,24.0,3.0"] and members == ["member,i,j", "M1,a,b"]


def test_a_row_of_a_report_is_told_at_its_line(tmp_path):
    text = """[tables.nodes]
file = "r.out"
after = "POINTS"
until = "Total*"
ignore = "FRAME*"
delimiter = " "
columns = {node = "Point", x = {column = "X", values = {none = "0"}}}
"""
    assert made(tmp_path, {"r.out": PAGES}, text, "nodes")[0][1:] == [
        "a,0.0",
        "b,12.0",
        "c,24.0",
    ]  # numbers that no entry fits are numbers
    problems = told(tmp_path, {"r.out": PAGES.replace("24.0", "xx.0")}, text)
    assert problems == [f"r.out row 13 column X: 'xx.0' {NONE_FITS} (line 11 of the map; one row)"]


def test_the_case_stands_between_the_rows(tmp_path):
    report = "LOAD CASE: D\nBar N\nM1 1.0\nM2 2.0\n\nLOAD CASE: W1\nBar N\nM1 3.0\n"
    text = """[tables.end_forces]
file = "r.txt"
skip = 1
delimiter = " "
headings = {case = "LOAD CASE: *"}
columns = {member = "Bar", result = "@case", Fx = "N"}
"""
    assert made(tmp_path, {"r.txt": report}, text, "end_forces")[0] == [
        "member,result,Fx",
        "M1,D,1.0",
        "M2,D,2.0",
        "M1,W1,3.0",
    ]


def test_a_member_in_its_first_row_alone(tmp_path):
    text = (
        '[tables.end_forces]\nfile = "a.csv"\nfill = ["M", "C"]\ncolumns = {member = "M", result = "C", end = "E", Fx ='
        ' "N"}\n'
    )
    source = "M,C,E,N\n1,D,i,1\n,,j,2\n,L,i,3\n2,D,i,4\n"
    assert made(tmp_path, {"a.csv": source}, text, "end_forces")[0][1:] == [
        "1,D,i,1.0",
        "1,D,j,2.0",
        "1,L,i,3.0",
        "2,D,i,4.0",
    ]


def test_names_of_two_rows_and_units_below(tmp_path):
    book = xlsxwriter.Workbook(str(tmp_path / "b.xlsx"))
    sheet = book.add_worksheet("F")
    rows = [
        ["Alder Street Library"],
        ["Bar", "D", "", "W", ""],
        ["", "N", "V", "N", "V"],
        ["", "kN", "kN", "N", "N"],
        ["1", 2.5, 3, 4000, 5000],
    ]
    for k, row in enumerate(rows):
        sheet.write_row(k, 0, row)
    book.close()
    files = {"b.xlsx": (tmp_path / "b.xlsx").read_bytes()}
    text = """[tables.end_forces]
file = "b.xlsx"
skip = 1
head = 2
units_row = true
across = ["case"]
columns = {member = "Bar", result = "@case", Fx = "{case} N", Fy = "{case} V"}
"""
    assert made(tmp_path, files, text, "end_forces")[0][1:] == ["1,D,2.5,3.0", "1,W,4.0,5.0"]
    problems = told(tmp_path, {}, text.replace('Fx = "{case} N"', 'Fx = {column = "{case} N", unit = "kip"}'))
    assert any("says that 'D N' is in kN, and the map (line 11) says kip" in p for p in problems), problems


@pytest.mark.parametrize(
    ("name", "unit", "x"),
    [
        ("X [mm]", "", "2.5"),
        ("X_mm", "", "2.5"),
        ("X (cm)", "", "25.0"),
        ("X, m", "", "2500.0"),
        ("X", ', unit = "cm"', "25.0"),
    ],
)
def test_a_unit_in_a_column_s_name_counts(tmp_path, name, unit, x):
    text = (
        f'[tables.nodes]\nfile = "a.csv"\ndelimiter = ";"\ncolumns = {{node = "N", x = {{column = "{name}"{unit}}}}}\n'
    )
    assert made(tmp_path, {"a.csv": f"N;{name}\na;2500\n"}, text, "nodes")[0][1] == f"a,{x}"


def test_several_files_are_one_table_and_their_names_say_the_case(tmp_path):
    text = """[tables.end_forces]
file = "forces *.csv"
columns = {member = "M", end = "E", result = {column = "@file", pick = "forces *"}, Fx = "N"}
"""
    files = {"forces D.csv": "M,E,N\n1,i,5\n", "forces WX+.csv": "N,M,E\n6,1,i\n", "other.csv": "M\n1\n"}
    assert made(tmp_path, files, text, "end_forces")[0] == ["member,end,result,Fx", "1,i,D,5.0", "1,i,WX+,6.0"]
    problems = told(
        tmp_path,
        {"forces WX+.csv": "N,M,E\n6,1,i\nx,1,j\n"},
        text.replace('Fx = "N"', 'Fx = {column = "N", values = {"-" = "0"}}'),
    )
    assert [p.split(" fits")[0] for p in problems] == ["forces WX+.csv row 3 column N: 'x'"]


def test_an_end_a_file(tmp_path):
    text = """[tables.end_forces]
file = ["start.csv", "far.csv"]
columns = {member = "M", end = {column = "@file", values = {start = "i", far = "j"}}, result = "C", Fx = "N"}
"""
    assert made(tmp_path, {"start.csv": "M,C,N\n1,D,5\n", "far.csv": "M,C,N\n1,D,6\n"}, text, "end_forces")[0][1:] == [
        "1,i,D,5.0",
        "1,j,D,6.0",
    ]


def test_a_case_and_an_end_across(tmp_path):
    text = """[tables.end_forces]
file = "a.csv"
across = ["case", "end"]
columns = {member = "M", result = "@case", end = {column = "@end", values = {"1" = "i", "2" = "j"}}, Fx = "{case} N {end}"}
"""  # noqa: E501
    found = made(tmp_path, {"a.csv": "M,D N 1,D N 2,L N 1,L N 2\nA,1,2,3,4\n"}, text, "end_forces")[0]
    assert found == ["member,result,end,Fx", "A,D,i,1.0", "A,D,j,2.0", "A,L,i,3.0", "A,L,j,4.0"]


def test_a_row_a_component(tmp_path):
    text = """[tables.end_forces]
file = "a.csv"
[tables.end_forces.columns]
member = "M"
end = "E"
result = "C"
Fx = {column = "V", where = {K = "N"}}
Mz = {column = "V", where = {K = "M*"}, factor = -1}
"""
    source = "M,E,C,K,V\n1,i,D,N,5\n1,i,D,Mz,7\n1,j,D,N,6\n1,j,D,other,9\n"
    assert made(tmp_path, {"a.csv": source}, text, "end_forces")[0] == [
        "member,end,result,Fx,Mz",
        "1,i,D,5.0,-7.0",
        '1,j,D,6.0,""',
    ]
    assert told(tmp_path, {"a.csv": source + "1,i,D,N,8\n"}, text) == [
        "a.csv row 6: 1 i D: Fx is given 2 times (line 11 of the map)"
    ]


def test_cases_across_and_components_down(tmp_path):
    text = """[tables.reactions]
file = "a.csv"
across = ["case"]
columns = {node = "P", result = "@case", Fx = {column = "{case}", where = {K = "H"}}, Fz = {column = "{case}", where = {K = "V"}}}
"""  # noqa: E501
    found = made(tmp_path, {"a.csv": "P,K,D,W-\na,H,1,2\na,V,3,4\n"}, text, "reactions")[0]
    assert sorted(found[1:]) == ["a,D,1.0,3.0", "a,W-,2.0,4.0"]


def test_a_table_turned_round(tmp_path):
    text = '[tables.nodes]\nfile = "a.csv"\nturned = true\ncolumns = {node = "Node", x = "X", y = "Y"}\n'
    assert made(tmp_path, {"a.csv": "Node,a,b\nX,1,2\nY,3,4\n"}, text, "nodes")[0] == [
        "node,x,y",
        "a,1.0,3.0",
        "b,2.0,4.0",
    ]


LOOKED = """[lookups.steel]
file = "steel.csv"
key = "Id"
[lookups.hinge]
file = "hinge.csv"
key = "Code"
[tables.members]
file = "bars.csv"
[tables.members.columns]
member = "Bar"
grade = {from = "steel", by = "Mat", column = "Name", values = {"Steel 50" = "A992"}}
release_i = {from = "hinge", by = "H", yes = ["x"], flags = {My = "my", Mz = "mz"}}
"""


def test_codes_are_looked_up(tmp_path):
    files = {
        "steel.csv": "Id,Name\n1,Steel 50\n2,A36\n",
        "hinge.csv": "Code,my,mz\nP,x,x\nQ,,x\n",
        "bars.csv": "Bar,Mat,H\na,1,P\nb,2,\nc,1,Q\n",
    }
    assert made(tmp_path, files, LOOKED, "members")[0] == [
        "member,grade,release_i",
        "a,A992,My Mz",
        'b,A36,""',
        "c,A992,Mz",
    ]
    assert told(tmp_path, {"bars.csv": "Bar,Mat,H\na,7,P\n"}, LOOKED) == [
        "bars.csv row 2 column Mat: '7' is not in look-up steel (line 15 of the map)"
    ]
    assert told(tmp_path, {"bars.csv": files["bars.csv"], "steel.csv": "Id,Name\n1,A36\n1,A992\n2,A36\n"}, LOOKED) == [
        "steel.csv row 3 column Id: '1' is there more than once, and the map looks it up (line 5)"
    ]


def test_rows_kept_and_left_out_by_pattern(tmp_path):
    text = (
        '[tables.nodes]\nfile = "a.csv"\nonly = {K = ["frame*", "roof"]}\nnot = {N = "*max"}\ncolumns = {node = "N"}\n'
    )
    assert made(tmp_path, {"a.csv": "N,K\na,frame 1\nb,deck\nc max,frame 2\nd,roof\ne,my roof\n"}, text, "nodes")[0][
        1:
    ] == ["a", "d"]


@pytest.mark.parametrize(
    ("pattern", "text", "yes"),
    [
        ("FFFFRR*", "FFFFRRFFFFFF", True),
        ("FFFFRR*", "FFFFFFFFFFRR", False),
        ("*RR", "FFRR", True),
        ("*RR", "RRFF", False),
        ("a?c", "abc", True),
        ("a?c", "abbc", False),
        ("a.c", "abc", False),
        ("", "", True),
        ("*", "", True),
        ("W 14*", "W 14 x 90", True),
    ],
)
def test_a_pattern_fits_the_whole_text(pattern, text, yes):
    assert fits(pattern, text) is yes


def test_of_two_patterns_the_longer_and_what_none_fits_stops(tmp_path):
    """Two codes of six marks, the free ones at the end: a code that begins with neither is no hinge."""
    text = """[tables.members]
file = "a.csv"
columns = {member = "M", release_i = {column = "R", values = {"FFFF*" = "", "FFFFRR" = "My Mz", "FFFFR*" = "My"}}}
"""
    source = "M,R\na,FFFFRR\nb,FFFFRF\nc,FFFFFF\n"
    assert made(tmp_path, {"a.csv": source}, text, "members")[0][1:] == ["a,My Mz", "b,My", 'c,""']
    problems = told(tmp_path, {"a.csv": source + "d,FRFFFF\ne,FRFFFF\n"}, text)
    assert problems == [f"a.csv row 5 column R: 'FRFFFF' {NONE_FITS} (line 7 of the map; 2 rows)"]
    kept = text.replace('"My"}}', '"My"}, others = "keep"}')
    assert made(tmp_path, {}, kept, "members")[0][4] == "d,FRFFFF"


@pytest.mark.parametrize(
    ("cell", "how", "number"),
    [
        ("1.234", 'decimal = ","\nthousands = "."', "1234.0"),
        ("1,234", 'thousands = ","', "1234.0"),
        ("1 234,5", 'decimal = ","\nthousands = " "', "1234.5"),
        ("1'234.5", 'thousands = "\'"', "1234.5"),
        ("1.5 m", "", "1.5"),
        ("1.5m", "", "1.5"),
        ("0.15D+01", "", "1.5"),
        ("−2.5", "", "-2.5"),
        ("1e3", "", "1000.0"),
    ],
)
def test_numbers_as_they_are_stated(tmp_path, cell, how, number):
    text = (
        f'[tables.nodes]\nfile = "a.csv"\ndelimiter = ";"\n{how}\ncolumns = {{node = "N", x = {{column = "X", unit ='
        ' "m"}}\n'
    )
    text = text.replace('unit = "m"', 'unit = "mm"') if cell[0] == "1" and "m" not in cell else text
    scale = 0.001 if 'unit = "mm"' in text else 1.0
    assert float(made(tmp_path, {"a.csv": f"N;X\na;{cell}\n"}, text, "nodes")[0][1].split(",")[1]) == pytest.approx(
        float(number) * scale
    )


@pytest.mark.parametrize(
    ("encoding", "ends"),
    [("utf-16", "\r\n"), ("utf-16-le", "\n"), ("utf-8-sig", "\r"), ("utf-8", "\r"), ("cp1252", "\r\n")],
)
def test_encodings_and_line_ends(tmp_path, encoding, ends):
    stated = 'encoding = "cp1252"\n' if encoding == "cp1252" else ""
    text = f'[tables.nodes]\nfile = "a.csv"\n{stated}columns = {{node = "Nœud", x = "X"}}\n'
    source = ends.join(["Nœud,X", "é1,2.5", "b,3", ""]).encode(encoding)
    assert made(tmp_path, {"a.csv": source}, text, "nodes")[0] == ["node,x", "é1,2.5", "b,3.0"]


def test_a_dump_in_json(tmp_path):
    bar = {"id": 7, "ends": {"i": "a", "j": "b"}, "forces": [{"case": "D", "N": [1, 2]}]}
    data = {"model": {"nodes": {"a": {"at": [0, 1.5, 2]}, "b": {"at": [3, 4, 5]}}, "bars": [bar]}}
    text = """[tables.nodes]
file = "d.json"
sheet = "model.nodes"
columns = {node = "key", x = "at.0", y = "at.1"}
[tables.members]
file = "d.json"
sheet = "model.bars"
columns = {member = "id", i = "ends.i", j = "ends.j"}
[tables.end_forces]
file = "d.json"
sheet = "model.bars.forces"
layout = "ends"
columns = {member = "bars.id", result = "case"}
ends.i = {Fx = "N.0"}
ends.j = {Fx = "N.1"}
"""
    nodes, members, forces = made(tmp_path, {"d.json": json.dumps(data)}, text, "nodes", "members", "end_forces")
    assert (
        nodes == ["node,x,y", "a,0.0,1.5", "b,3.0,4.0"]
        and members[1] == "7,a,b"
        and forces == ["member,result,Fx,end", "7,D,1.0,i", "7,D,2.0,j"]
    )


def test_a_dump_in_sqlite(tmp_path):
    with closing(sqlite3.connect(tmp_path / "d.sqlite")) as base:
        base.execute("create table node (id, x)")
        base.executemany("insert into node values (?, ?)", [("a", 1.5), ("b", None)])
        base.commit()
    text = (
        '[tables.nodes]\nfile = "d.sqlite"\nsheet = "node"\ncolumns = {node = "id", x = {column = "x", blank = "9"}}\n'
    )
    assert made(tmp_path, {"d.sqlite": (tmp_path / "d.sqlite").read_bytes()}, text, "nodes")[0] == [
        "node,x",
        "a,1.5",
        "b,9.0",
    ]


def test_a_view_without_end_is_stopped(tmp_path, monkeypatch):
    monkeypatch.setattr(records, "LONGEST", 0.2)
    with closing(sqlite3.connect(tmp_path / "d.sqlite")) as base:
        base.execute(
            "create view node as with recursive n(k) as (select 1 union all select k + 1 from n) select count(*) as id"
            " from n"
        )
        base.commit()
    text = '[tables.nodes]\nfile = "d.sqlite"\nsheet = "node"\ncolumns = {node = "id"}\n'
    problems = told(tmp_path, {"d.sqlite": (tmp_path / "d.sqlite").read_bytes()}, text)
    assert "cannot be read as SQLite" in problems[0] and "interrupted" in problems[0]


@pytest.mark.parametrize(
    ("unit", "places"),
    [("share", (0, 0.5, 1)), ("percent", (0, 50, 100)), ("steps", (1, 2, 3)), ("mm", (0, 3000, 6000))],
)
def test_places_along_a_member(tmp_path, unit, places):
    text = f"""[tables.nodes]
file = "n.csv"
columns = {{node = "N", x = "X", y = "Y", z = "Z"}}
[tables.members]
file = "m.csv"
columns = {{member = "M", i = "I", j = "J"}}
[tables.end_forces]
file = "f.csv"
layout = "stations"
columns = {{member = "M", result = "C", distance = {{column = "S", unit = "{unit}"}}, Fx = "N"}}
"""
    files = {
        "n.csv": "N,X,Y,Z\na,0,0,0\nb,6,0,0\n",
        "m.csv": "M,I,J\n1,a,b\n",
        "f.csv": "M,C,S,N\n" + "".join(f"1,D,{p},{k}\n" for k, p in enumerate(places)),
    }
    forces, stations = made(tmp_path, files, text, "end_forces", "stations")
    assert forces[1:] == ["1,i,D,0.0", "1,j,D,2.0"]
    assert [float(s.split(",")[1]) for s in stations[1:]] == [0, 3, 6]


def test_an_end_told_by_its_node(tmp_path):
    text = """[tables.members]
file = "m.csv"
columns = {member = "M", i = "I", j = "J"}
[tables.end_forces]
file = "f.csv"
columns = {member = "M", end = "P", result = "C", Fx = "N"}
"""
    files = {"m.csv": "M,I,J\n1,a,b\n2,b,c\n", "f.csv": "M,P,C,N\n1,a,D,5\n1,b,D,6\n2,c,D,7\n2,b,D,8\n"}
    assert made(tmp_path, files, text, "end_forces")[0][1:] == ["1,i,D,5.0", "1,j,D,6.0", "2,j,D,7.0", "2,i,D,8.0"]


def test_combinations_as_sums(tmp_path):
    text = """[tables.cases]
file = "c.csv"
columns = {case = "C", nature = "K"}
[tables.combinations]
file = "s.csv"
layout = "terms"
columns = {combination = "Name", factor = "Sum"}
"""
    files = {
        "c.csv": "C,K\nD,dead\nDL,dead\nWX+,wind\n",
        "s.csv": "Name,Sum\nU1,1.2*D + 1.6 DL\nU2,0.9D - WX+\nU3,D\nU4,1.0*D + -0.5*WX+\n",
    }
    found = made(tmp_path, files, text, "combinations")[0]
    assert found == [
        "combination,factor,case",
        "U1,1.2,D",
        "U1,1.6,DL",
        "U2,0.9,D",
        "U2,-1.0,WX+",
        "U3,1.0,D",
        "U4,1.0,D",
        "U4,-0.5,WX+",
    ]
    assert "'*X' is no case with its factor" in told(tmp_path, {"s.csv": "Name,Sum\nU1,1.2*X\n"}, text)[0].replace(
        "1.2", ""
    )


def test_combinations_across_and_cases_down(tmp_path):
    text = """[tables.combinations]
file = "a.csv"
across = ["combination"]
columns = {case = "Case", combination = "@combination", factor = "{combination}"}
"""
    found = made(tmp_path, {"a.csv": "Case,U1,0.9D-W-\nD,1.2,0.9\nW-,,1\nL,1.6,0\n"}, text, "combinations")[0]
    assert sorted(found[1:]) == ["D,0.9D-W-,0.9", "D,U1,1.2", "L,U1,1.6", "W-,0.9D-W-,1.0"]


def test_a_lone_workbook_is_read_by_whatever_name(tmp_path):
    book = xlsxwriter.Workbook(str(tmp_path / "b.xlsx"))
    book.add_worksheet("N").write_row(0, 0, ["N", "X"])
    book.close()
    text = '[tables.nodes]\nfile = "revision B.xlsx"\nsheet = "N"\ncolumns = {node = "N", x = "X"}\n'
    assert made(tmp_path, {"revision C.xlsx": (tmp_path / "b.xlsx").read_bytes()}, text, "nodes")[0] == ["node,x"]


MARKS = st.text(alphabet="aA1 .,;|\t\"'-+x/\n\r\x00é½", max_size=200)


@given(MARKS)
def test_any_text_is_proposed_for_or_left(tmp_path_factory, text):
    folder = tmp_path_factory.mktemp("any")
    (folder / "a.txt").write_bytes(text.encode())
    with pytest.raises(BundleError):
        read_map(proposed(folder))


@given(
    st.dictionaries(
        st.sampled_from(
            [
                "skip",
                "head",
                "until",
                "after",
                "fill",
                "starts",
                "headings",
                "turned",
                "units_row",
                "delimiter",
                "thousands",
            ]
        ),
        st.sampled_from([0, 1, 3, True, "a*", ["a", "b"], [0, 4], {"case": "D *"}, " ", ";", "x"]),
        max_size=4,
    ),
    MARKS,
)
def test_any_way_of_writing_is_told_or_read(tmp_path_factory, how, text):
    from handrail.interchange.columnmap.drafts import value_of

    folder = tmp_path_factory.mktemp("any")
    (folder / "in").mkdir()
    (folder / "out").mkdir()
    (folder / "in/a.txt").write_bytes(b"Node,X\na,1\n" + text.encode())
    lines = "".join(f"{key} = {value_of(value)}\n" for key, value in how.items())
    try:
        bundled(
            read_map(f'{HEAD}[tables.nodes]\nfile = "a.txt"\n{lines}columns = {{node = "Node", x = "X"}}\n'),
            folder / "in",
            folder / "out",
        )
    except BundleError as exc:
        assert exc.problems and all(p.message for p in exc.problems)


def stream_and_whole(folder: Path, text: str, monkeypatch):
    by_stream = read_model(folder, text)
    monkeypatch.setattr(applying, "streamed", lambda *_: None)
    return by_stream, read_model(folder, text)


def test_a_stream_reads_what_the_whole_does(monkeypatch):
    """Rows along the members with decimal commas, the sense in a column of its own, splices whose stations are put
    by."""
    folder = DEMO / "exports"
    one, other = stream_and_whole(folder, (folder / "map.toml").read_text(encoding="utf-8"), monkeypatch)
    assert one.results == other.results and one.spliced == other.spliced and one.members == other.members
    assert np.array_equal(one.forces, other.forces, equal_nan=True)


ROWS = st.lists(
    st.tuples(
        st.sampled_from("AB"), st.sampled_from(("D", "L")), st.sampled_from((0, 1, 2, 5, 10)), st.integers(-9, 9)
    ),
    min_size=1,
    max_size=30,
)


@given(ROWS, st.sampled_from(("stations", "rows")))
def test_a_stream_of_any_rows_is_what_the_whole_is(tmp_path_factory, rows, layout):
    """Given twice, short of an end, in whatever order: the same forces, or told."""
    folder = tmp_path_factory.mktemp("any")
    files = {
        "n.csv": "N,X,Y,Z\na,0,0,0\nb,10,0,0\nc,0,0,10\n",
        "m.csv": "M,I,J,S,G\nA,a,b,W12X65,A992\nB,a,c,W12X65,A992\n",
        "s.csv": "N\na\n",
        "c.csv": "C,K\nD,dead\nL,live\n",
        "k.csv": "U,S,M,C,F\nU1,strength,LRFD,D,1.4\n",
        "f.csv": "M,C,P,E,V\n" + "".join(f"{m},{c},{p},{'i' if p < 5 else 'j'},{v}\n" for m, c, p, v in rows),
    }
    for name, content in files.items():
        (folder / name).write_text(content)
    held = ", ".join(f"{n} = {{value = 1}}" for n in ("ux", "uy", "uz", "rx", "ry", "rz"))
    six = ", ".join(f'{n} = "V"' for n in ("Fx", "Fy", "Fz", "Mx", "My", "Mz"))
    place = 'distance = "P"' if layout == "stations" else 'end = "E"'
    text = f"""{HEAD}tables.nodes = {{file = "n.csv", columns = {{node = "N", x = "X", y = "Y", z = "Z"}}}}
tables.members = {{file = "m.csv", columns = {{member = "M", i = "I", j = "J", section = "S", grade = "G"}}}}
tables.supports = {{file = "s.csv", columns = {{node = "N", {held}}}}}
tables.cases = {{file = "c.csv", columns = {{case = "C", nature = "K"}}}}
tables.combinations = {{file = "k.csv", columns = {{combination = "U", set = "S", method = "M", case = "C", factor = "F"}}}}
tables.end_forces = {{file = "f.csv", layout = "{layout}", columns = {{member = "M", result = "C", {place}, {six}}}}}
"""  # noqa: E501
    found = []
    for way in (applying.streamed, lambda *_: None):
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr(applying, "streamed", way)
            try:
                found.append(read_model(folder, text))
            except BundleError as exc:
                found.append([str(p) for p in exc.problems])
    one, other = found
    if isinstance(one, list) or isinstance(other, list):
        assert one == other
    else:
        assert one.results == other.results and np.array_equal(one.forces, other.forces, equal_nan=True)
