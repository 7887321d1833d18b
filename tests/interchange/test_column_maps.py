"""Other programs' tables through a column map: the demo's awkward exports, each way that a column may come, and what is
wrong told at its place."""

from __future__ import annotations

import dataclasses
import math
from pathlib import Path

import numpy as np
import pytest
import xlsxwriter
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.building.framing import frame
from handrail.interchange.bundle import read_bundle
from handrail.interchange.columnmap import bundled, read_map
from handrail.interchange.incoming import propose, read_model
from handrail.interchange.problems import BundleError
from handrail.interchange.understood import understand
from tests.bundles import DEMO, small, write

EXPORTS = DEMO / "exports"
MAP = (EXPORTS / "map.toml").read_text(encoding="utf-8")


@pytest.fixture(scope="module")
def both():
    return read_bundle(DEMO / "bundle"), read_model(EXPORTS, MAP)


def test_the_demo_s_exports_are_its_bundle(both):
    bundle, exports = both
    assert exports.xyz == pytest.approx(bundle.xyz, abs=0.01)
    assert exports.members == bundle.members
    assert (exports.supports, exports.cases, exports.combinations) == (
        bundle.supports,
        bundle.cases,
        bundle.combinations,
    )
    assert exports.results == bundle.results
    assert exports.forces == pytest.approx(bundle.forces, rel=1e-6, abs=10, nan_ok=True)
    assert exports.reactions.values == pytest.approx(bundle.reactions.values, rel=1e-6, abs=10)
    assert exports.node_loads.values == pytest.approx(bundle.node_loads.values, rel=1e-6, abs=10)
    for node, concrete in bundle.foundations.items():
        assert dataclasses.astuple(exports.foundations[node])[1:3] == pytest.approx(dataclasses.astuple(concrete)[1:3])
        assert exports.foundations[node].edges == pytest.approx(concrete.edges)
    assert exports.unread == () and exports.spliced == bundle.spliced


def test_they_are_framed_alike(both):
    one, other = (frame(b) for b in both)
    assert [(c.id, c.framing, c.member, c.support) for c in one.connections] == [
        (c.id, c.framing, c.member, c.support) for c in other.connections
    ]


HEAD = """map = 1
up = "Z"
forces = "internal"
units = {length = "m", section = "mm", force = "kN", moment = "kN*m"}
"""


def made(tmp_path: Path, table: str, text: str, source: str, file: str = "a.csv") -> list[str]:
    """The lines of `table` as a map makes them of one source."""
    folder, into = tmp_path / "in", tmp_path / "out"
    folder.mkdir()
    into.mkdir()
    (folder / file).write_text(source, encoding="utf-8")
    bundled(read_map(f'{HEAD}[tables.{table}]\nfile = "{file}"\n{text}'), folder, into)
    return (into / f"{table}.csv").read_text(encoding="utf-8").splitlines()


@pytest.mark.parametrize(
    ("text", "source", "lines"),
    [
        ('columns = {node = "N", x = {column = "X", unit = "mm"}}', "N,X\na,2500\n", ["node,x", "a,2.5"]),
        ('columns = {node = "N", x = {column = "X", unit = "cm", factor = -1}}', "N,X\na,50\n", ["node,x", "a,-0.5"]),
        ('delimiter = ";"\ndecimal = ","\ncolumns = {node = "N", x = "X"}', "N;X\na;1.234,5\n", ["node,x", "a,1234.5"]),
        ('columns = {node = "N", x = "X"}', 'N,X\na,"1,234.5"\n', ["node,x", "a,1234.5"]),
        ('columns = {node = "N", x = "X"}', 'N,X\na,"1,234,567"\n', ["node,x", "a,1234567.0"]),
        ('columns = {node = "N", x = "X"}', 'N,X\na,"4,572"\n', ["node,x", 'a,"4,572 (decimal or thousands?)"']),
        (
            'delimiter = ";"\ndecimal = ","\ncolumns = {node = "N", x = "X"}',
            "N;X\na;4.572\n",
            ["node,x", "a,4.572 (decimal or thousands?)"],
        ),
        ('delimiter = ";"\ndecimal = ","\ncolumns = {node = "N", x = "X"}', "N;X\na;45.72\n", ["node,x", "a,45.72"]),
        ('skip = 2\ncolumns = {node = "N", x = "X"}', "A title\nunits\nN,X\na,1\n", ["node,x", "a,1.0"]),
        ('columns = {node = {columns = ["N", "M"], join = "-"}, x = "X"}', "N,M,X\na,b,1\n", ["node,x", "a-b,1.0"]),
        ('only = {K = ["real"]}\ncolumns = {node = "N", x = "X"}', "N,K,X\na,real,1\nb,dummy,2\n", ["node,x", "a,1.0"]),
        ('columns = {node = "N", x = {column = "X", blank = "7"}}', "N,X\na,\nb,2\n", ["node,x", "a,7.0", "b,2.0"]),
        ('columns = {node = "N", x = {value = 4}}', "N\na\n", ["node,x", "a,4"]),
        (
            (
                'columns = {node = "N", diaphragm = {column = "D", values = {"Deck *" = "roof", none = ""}, others ='
                ' "keep"}}'
            ),
            "N,D\na,Deck 3\nb,none\nc,own\n",
            ["node,diaphragm", "a,roof", 'b,""', "c,own"],
        ),
        ('delimiter = "\\t"\ncolumns = {node = "N", x = "X"}', "N\tX\na\t1\n", ["node,x", "a,1.0"]),
        ('columns = {node = "N", x = "X"}', "N,X\na,1\n,\nb,2\n", ["node,x", "a,1.0", "b,2.0"]),
        ('columns = {node = "N (2)", x = "column 3"}', "N,N,\na,b,1\n", ["node,x", "b,1.0"]),
    ],
)
def test_columns(tmp_path, text, source, lines):
    assert made(tmp_path, "nodes", text, source) == lines


def test_releases_by_flags(tmp_path):
    text = 'columns = {member = "M", release_i = {flags = {My = "A", Mz = "B"}, yes = ["x"]}}'
    assert made(tmp_path, "members", text, "M,A,B\n1,x,X\n2,,x\n3,,\n") == [
        "member,release_i",
        "1,My Mz",
        "2,Mz",
        '3,""',
    ]


def test_combinations_in_one_row(tmp_path):
    text = 'layout = "cases"\ncolumns = {combination = "C"}\ncases = {Dead = "D", Live = "L"}'
    assert made(tmp_path, "combinations", text, "C,Dead,Live\nU1,1.2,1.6\nU2,1.4,0\nU3,,1\n") == [
        "combination,case,factor",
        "U1,D,1.2",
        "U1,L,1.6",
        "U2,D,1.4",
        "U3,L,1.0",
    ]


def test_both_ends_in_one_row(tmp_path):
    text = (
        'layout = "ends"\ncolumns = {member = "M", result = "R"}\nends.i = {Fx = {column = "N1", factor = -1}}\nends.j'
        ' = {Fx = "N2"}'
    )
    assert made(tmp_path, "end_forces", text, "M,R,N1,N2\n1,D,5,6\n") == [
        "member,result,Fx,end",
        "1,D,-5.0,i",
        "1,D,6.0,j",
    ]


def test_rows_along_a_member(tmp_path):
    """The nearest to i and the farthest, in whatever order; all of them stay as stations. At one place the first counts
    for i, the last for j."""
    text = (
        'layout = "stations"\ncolumns = {member = "M", result = "R", distance = {column = "S", unit = "mm"}, Fx = "N"}'
    )
    source = "M,R,S,N\n1,D,6000,3\n1,D,0,1\n1,D,0,9\n1,D,3000,2\n"
    assert made(tmp_path, "end_forces", text, source) == ["member,end,result,Fx", "1,i,D,1.0", "1,j,D,3.0"]
    stations = (tmp_path / "out/stations.csv").read_text().splitlines()
    assert stations == ["member,distance,result,Fx", "1,0.0,D,1.0", "1,3.0,D,2.0", "1,6.0,D,3.0"]


def test_one_row_along_a_member_is_no_end(tmp_path):
    text = 'layout = "stations"\ncolumns = {member = "M", result = "R", distance = "S", Fx = "N"}'
    assert made(tmp_path, "end_forces", text, "M,R,S,N\n1,D,0,3\n2,D,0,1\n2,D,4,2\n") == [
        "member,end,result,Fx",
        "2,i,D,1.0",
        "2,j,D,2.0",
    ]


@pytest.mark.parametrize("unit", ['unit = "ft"', 'unit = "mm"'])
def test_rows_that_do_not_reach_the_ends_are_told(unit):
    """Distances read in a wrong unit: the rows go short of the members, or far past them."""
    problems = told(MAP.replace('distance = {column = "At", unit = "m"}', f'distance = {{column = "At", {unit}}}'))
    assert any(
        "the rows along member C1 go from 0 to" in p and p.startswith("Bar forces.csv row 5") for p in problems
    ), problems[:2]


def told(text: str, folder: Path = EXPORTS) -> list[str]:
    with pytest.raises(BundleError) as error:
        read_model(folder, text)
    return [str(p) for p in error.value.problems]


def line_of(text: str, words: str) -> int:
    return next(k for k, line in enumerate(text.splitlines(), 1) if words in line)


@pytest.mark.parametrize(
    ("was", "now", "words"),
    [
        (
            'node = "Point"\nx =',
            'node = "Pint"\nx =',
            "'Pint' is no column of Points.csv; is Point meant? It has Point, East, North, Height, Floor",
        ),
        ('file = "Bars.csv"', 'file = "Bar.csv"', "there is no file 'Bar.csv'"),
        ('z = {column = "Height", unit = "m"}', 'z = {column = "Height", unit = "kN"}', "'kN' is not a unit of length"),
        ("role = {column", "rolle = {column", "'rolle' is not known; is roll meant?"),
        ('layout = "stations"', 'layout = "places"', "layout 'places' is none of rows, ends, stations"),
        ('factor = -1}\nFy = "V', 'factor = 0}\nFy = "V', "factor"),
        ("[tables.nodes]", "[tables.points]", "'points' is no table"),
        ('up = "Z"', 'up = "up"', "state Z or Y"),
        ("map = 1", "map = 2", "version 1"),
        ('force = "kip"\n', "", "units.force is not stated"),
        (
            'x = {column = "East", unit = "m"}',
            'x = {column = "East", unit = "m", value = 1}',
            "needs one of column, columns, value and flags",
        ),
        ("skip = 2", "skip = -1", "0 to 1000"),
        ('delimiter = ";"', 'delimiter = "#"', "it is one of"),
        ('member = "Bar"', "member = 3", "in quotes"),
    ],
)
def test_a_mistake_in_the_map_is_told_at_its_line(was, now, words):
    if was not in MAP:
        was, now = was.split("\n")[0], now.split("\n")[0]
    text = MAP.replace(was, now, 1)
    assert text != MAP
    line = next(k for k, (a, b) in enumerate(zip(MAP.splitlines(), [*text.splitlines(), ""]), 1) if a != b)
    problems = told(text)
    assert any(words in p for p in problems), problems
    near = next(p for p in problems if words in p)
    number = int(near.split("line ")[1].split(":")[0])
    assert number == line or (words.startswith(("there is no file", "units.force")) and number < line)


def test_what_is_no_toml_is_told():
    assert told(MAP.replace("map = 1", "map = = 1"))[0].startswith("the map line 2: is not TOML")


@pytest.mark.parametrize(
    ("file", "was", "now", "words"),
    [
        (
            "Bars.csv",
            "\nC2;n2;n3;",
            "\nC2;n2;n9999;",
            "Bars.csv row 5 column End: 'n9999' is not in nodes (line 36 of the map)",
        ),
        ("Points.csv", "\nn2;0;0;", "\nn2;0;abc;", "Points.csv row 5 column North: 'abc' is not a number"),
        (
            "Bars.csv",
            "\nC2;n2;n3;w14x90;Steel A992;Post",
            "\nC2;n2;n3;w14x90;Steel A992;Pillar",
            "Bars.csv row 5 column Kind: 'Pillar' is none of beam, column",
        ),
        (
            "Bar forces.csv",
            "C1;0;D;;354,80128",
            "C1;0;D;;many",
            "Bar forces.csv row 5 column Thrust: 'many' is not a number",
        ),
        ("Bar forces.csv", "C1;0;D;;354,80128", "C1;0;DD;;354,80128", "'DD' is not in cases or combinations"),
        ("Points.csv", "\nn2;", "\nn1;", "Points.csv row 5 column Point: n1 is already in row 4"),
    ],
)
def test_a_mistake_in_a_file_is_told_there(tmp_path, file, was, now, words):
    for path in EXPORTS.iterdir():
        text = path.read_bytes().decode()
        changed = text.replace(was.replace("\n", "\r\n"), now.replace("\n", "\r\n"), 1) if path.name == file else text
        assert path.name != file or changed != text
        (tmp_path / path.name).write_bytes(changed.encode())
    problems = told(MAP, tmp_path)
    assert any(words in p for p in problems), problems[:3]


@given(st.integers(0, len(MAP) - 1), st.integers(0, 40), st.text(max_size=8))
def test_any_damage_to_a_map_is_told_or_read(at, length, text):
    try:
        read_map(MAP[:at] + text + MAP[at + length :])
    except BundleError as exc:
        assert exc.problems and all(p.message for p in exc.problems)


def book(tables, path: Path) -> Path:
    """The tables as a workbook; numbers as numbers."""
    found = xlsxwriter.Workbook(str(path))
    sheet = found.add_worksheet("bundle")
    hand = tables["manifest"]["handrail"]
    pairs = [
        ("title", tables["manifest"]["title"]),
        *((k, v) for k, v in hand.items() if k != "units"),
        *((f"units.{k}", v) for k, v in hand["units"].items()),
    ]
    for row, pair in enumerate(pairs):
        sheet.write_row(row, 0, pair)
    for name, rows in tables.items():
        if name != "manifest":
            sheet, columns = found.add_worksheet(name), list(dict.fromkeys(k for row in rows for k in row))
            sheet.write_row(0, 0, columns)
            for k, row in enumerate(rows, 1):
                sheet.write_row(k, 0, [row.get(c, "") for c in columns])
    found.add_worksheet("notes").write(0, 0, "of the analyst")
    found.close()
    return path


def test_a_workbook_is_the_same_bundle(tmp_path):
    tables = small()
    as_folder, as_book = read_bundle(write(tables, tmp_path / "a")), read_model(book(tables, tmp_path / "a.xlsx"))
    assert as_book.members == as_folder.members and as_book.combinations == as_folder.combinations
    assert as_book.forces == pytest.approx(as_folder.forces)
    assert as_book.unread == ("notes",)


def test_a_workbook_s_mistakes_are_told_at_their_sheet(tmp_path):
    tables = small()
    tables["members"][1]["j"] = "nowhere"
    with pytest.raises(BundleError, match=r"a\.xlsx sheet members row 3 column j: 'nowhere' is not in nodes"):
        read_model(book(tables, tmp_path / "a.xlsx"))
    del tables["manifest"]["handrail"]["up"]
    with pytest.raises(BundleError, match=r"b\.xlsx sheet bundle: handrail\.up is None"):
        read_model(book(tables, tmp_path / "b.xlsx"))
    (tmp_path / "c.xlsx").write_bytes(b"PK no workbook")
    with pytest.raises(BundleError, match=r"c\.xlsx: cannot be read as a workbook"):
        read_model(tmp_path / "c.xlsx")


def test_sheets_of_another_program_s_workbook(tmp_path):
    """A map over sheets: the same small bay, a title above each."""
    tables = small()
    path = book(tables, tmp_path / "model.xlsx")
    text = HEAD.replace('"m"', '"ft"').replace('"mm"', '"in"').replace('"kN"', '"kip"').replace('"kN*m"', '"kip*ft"')
    for name, rows in tables.items():
        if name != "manifest":
            columns = ", ".join(f'{c} = "{c}"' for c in dict.fromkeys(k for row in rows for k in row))
            text += f'[tables.{name}]\nfile = "model.xlsx"\nsheet = "{name}"\ncolumns = {{{columns}}}\n'
    assert read_model(path, text).forces == pytest.approx(read_bundle(write(tables, tmp_path / "a")).forces)
    with pytest.raises(BundleError, match="say which with sheet"):
        read_model(path, text.replace('sheet = "nodes"', 'sheet = "knots"'))


@pytest.mark.parametrize(
    ("up", "toward", "along"),
    [
        ("Z", "Y", (0, 1, 0)),
        ("Z", "-X", (-1, 0, 0)),
        ("Z", "-Y", (0, -1, 0)),
        ("Z", "X", (1, 0, 0)),
        ("Y", "Z", (0, -1, 0)),
        ("Y", "X", (1, 0, 0)),
    ],
)
@pytest.mark.parametrize("downward", [False, True])
def test_local_y_of_vertical_members_as_the_model_says(tmp_path, up, toward, along, downward):
    tables = small()
    tables["manifest"]["handrail"] |= {"up": up, "vertical_y": toward}
    if up == "Y":
        for node in tables["nodes"]:
            node["y"], node["z"] = node["z"], -float(node["y"])
    if downward:
        column = tables["members"][0]
        column["i"], column["j"] = column["j"], column["i"]
    building = read_bundle(write(tables, tmp_path / "a"))
    assert building.axes[0, 1] == pytest.approx(along, abs=1e-9)
    beam = building.axes[2]
    assert beam[1] == pytest.approx((0, 0, 1), abs=1e-9) and math.isclose(np.linalg.det(beam), 1.0)


def test_a_proposed_map_reads_a_bundle_s_tables(tmp_path):
    """Of the small bay's own tables, with shears as they close, only what nothing states is asked for: units."""
    tables = small()
    for row in tables["end_forces"]:
        row["Fy"] = -float(row["Fy"])
    folder = write(tables, tmp_path / "a")
    (folder / "datapackage.json").unlink()
    text = propose(folder)
    assert text.count('"?"') == 4 and 'forces = "internal"' in text and "factor = -1" not in text
    for name, unit in (("length", "ft"), ("force", "kip"), ("moment", "kip*ft"), ("section", "in")):
        text = text.replace(f'{name} = "?"', f'{name} = "{unit}"')
    assert read_model(folder, text).forces == pytest.approx(read_bundle(write(tables, tmp_path / "b")).forces)


def test_what_is_proposed_of_awkward_exports():
    """Tables, separators, titles, roles, natures, releases, combinations in a row; what forces are meant by, tried."""
    text = propose(EXPORTS)
    for line in (
        'file = "Points.csv"\nskip = 2\ndelimiter = ";"\ndecimal = ","',
        'z = "Height"',
        'Post = "column"',
        'Imposed = "live"',
        'Mz = "Web bending at end"',
        'layout = "cases"',
        '"x WX+" = "WX+"',
        'layout = "stations"',
        'My = "Side bending"',
        'Clamped = "1"',
        "[tables.reactions]",
        "[tables.node_loads]",
        'grid = "Line"',
        'x2 = "To east"',
        'level = "Floor"',
        'z = "Height"',
        'length = "m"',
        'force = "kN"',
        'forces = "internal"',
        'Fx = {column = "Thrust", factor = -1}',
        'My = {column = "about Y", factor = -1}',
        'Line = "distributed"',
        'Height = "Z"',
        'Pier = "pedestal"',
        'stress = "MPa"',
    ):
        assert line in text, line
    assert read_map(text).tables


def test_what_is_understood_is_shown_with_its_units():
    found = understand(EXPORTS, MAP)
    assert (found.kind, found.problems, found.unread, found.whole) == ("tables", [], [], True)
    nodes = found.tables[0]
    assert (nodes.table, nodes.source, nodes.rows, nodes.unread) == ("nodes", "Points.csv", 505, ["Floor"])
    assert nodes.columns[3] == {"name": "z", "source": "Height", "unit": "ft"} and nodes.sample[1] == [
        "n2",
        "0",
        "0",
        "15",
    ]
    bundle = understand(DEMO / "bundle")
    assert (
        bundle.kind == "bundle"
        and [t.table for t in bundle.tables][:2] == ["nodes", "members"]
        and bundle.problems == []
    )


CELLS = ["", "Node", "X", "Y", "Z", "1", "2.5", "-3,4", "Member", "i", "j", "W14X90", "Case", "D", ";", '"', "yes"]


@given(st.lists(st.lists(st.sampled_from(CELLS), max_size=6), max_size=8))
def test_any_table_is_proposed_for_or_left(tmp_path_factory, rows):
    folder = tmp_path_factory.mktemp("any")
    (folder / "a.csv").write_text("\n".join(",".join(row) for row in rows), encoding="utf-8")
    text = propose(folder)
    with pytest.raises(BundleError):
        read_map(text)
