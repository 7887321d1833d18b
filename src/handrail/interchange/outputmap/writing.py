"""Writes our rows by an output map: their columns, codes, units and signs; text, workbooks, JSON."""

from __future__ import annotations

import csv
import difflib
import io
import json
import math
import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import ROUND_HALF_UP, Decimal

from handrail.core.errors import InputError
from handrail.core.quantities.units import factor
from handrail.interchange.columnmap.language import fits, is_pattern
from handrail.interchange.outputmap.language import BRACES, Column, Given, OutputMap, TableOut, columns_of
from handrail.interchange.problems import MAP, Problems
from handrail.interchange.sheet import as_sheets

Cell = str | float | int
Row = Sequence[Cell]
Ours = tuple[Sequence[str], Iterable[Row]]
MOST_PARTS = 200
UNFIT = re.compile(r'[/\\:*?"<>|\x00-\x1f]')  # what no file's name has
NO_SHEET = re.compile(r"[\[\]:*?/\\]|^'|'$")
MOST_ROWS, MOST_IN_A_SHEET = 1_000_000, 1_000_000
DIGITS = 12  # significant, of a number that is to no decimals
TURNED = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")
LIST = "; "  # between the numbers of a cell that has several
_RISKY = re.compile(r"^[=@\t\r]|^[+-](?=.)(?![0-9.,]+$)", re.DOTALL)  # a sign alone, or of a number, is none


@dataclass(frozen=True)
class Made:
    """A table as it is written: the file, the sheet, names and units of its columns, its rows."""

    table: TableOut
    file: str
    sheet: str
    head: tuple[str, ...]
    units: tuple[str, ...]
    rows: list[list[Cell]] = field(repr=False)


def made(output: OutputMap, ours: Callable[[str], Ours]) -> list[Made]:
    """The tables of a map, of our rows by their name. Raises BundleError with every line of the map that does not fit
    our rows, and with what stands there."""
    problems = Problems()
    found = [
        one for table in output.tables for one in _Writer(table, ours(table.rows), output.internal, problems).made()
    ]
    problems.raise_any()
    return found


class _Writer:
    """One table's: finds our columns once, then makes row after row."""

    def __init__(self, table: TableOut, ours: Ours, internal: bool, problems: Problems) -> None:
        self.table, self.internal, self.problems = table, internal, problems
        head, self.ours = ours
        self.columns = columns_of(head)
        self.at = {column.name: k for k, column in enumerate(self.columns)}
        self.scales = {name: self._scale(name, given) for name, given in table.columns.items()}
        self.unfit: dict[tuple[str, str], int] = {}

    def made(self) -> list[Made]:
        """The table; several, where it is parted."""
        table = self.table
        self._known()
        if any(problem.file == MAP for problem in self.problems.found):
            return []
        head = tuple(table.columns)
        units = tuple(self._unit(given) for given in table.columns.values())
        found = []
        for (file, sheet), chosen in self._parted().items():
            found.append(Made(table, file, sheet or table.name, head, units, self._written(chosen)))
        self._tell()
        return found

    def _parted(self) -> dict[tuple[str, str], list[Row]]:
        """Our rows by the file and sheet that they go into."""
        table = self.table
        if not table.apart:
            return {(table.file, table.sheet): list(self._chosen())}
        parted: dict[tuple[str, str], list[Row]] = {}
        for row in self._chosen():
            file, sheet = (
                BRACES.sub(lambda m: _text(row[self.at[m[1]]]), text)  # noqa: B023
                for text in (table.file, table.sheet)
            )
            parted.setdefault((UNFIT.sub("-", file), sheet[:31]), []).append(row)
            if len(parted) > MOST_PARTS:
                raise InputError(
                    f"{table.name} is parted into more than {MOST_PARTS} files or sheets; part it by another column"
                )
        return parted

    def _written(self, chosen: list[Row]) -> list[list[Cell]]:
        table = self.table
        return self._in_one(chosen) if table.one_row else [[self._given(n, g, row) for n, g in table.columns.items()]
                                                          for row in chosen]  # fmt: skip

    def _tell(self) -> None:
        """Of what stands there and is none of the values."""
        table = self.table
        for (name, text), count in self.unfit.items():
            of = table.columns[name]
            more = f" in {count} rows" if count > 1 else ""
            self.problems.add(
                MAP,
                f"{table.name}: {of.columns[0]} is '{text[:60]}'{more}, and no value of {name} fits it; say what it is"
                ' there, or others = "keep"',
                of.line,
            )

    def _known(self) -> None:
        """Every column of ours that the map names is there."""
        table = self.table
        for name, given in table.columns.items():
            for own in (*given.columns, *(own for own, _ in given.where)):
                self._there(own, f"{name}: ", given.line)
        for own in (*table.only, *table.without, *table.one_row, *table.apart):
            self._there(own, "", table.line)

    def _there(self, own: str, of: str, line: int) -> None:
        if own not in self.at:
            near = difflib.get_close_matches(own, self.at, 1)
            self.problems.add(
                MAP,
                f"{self.table.name}: {of}there is no column '{own}' in {self.table.rows}"
                f"{f'; is {near[0]} meant?' if near else '.'} There are {', '.join(self.at)}",
                line,
            )

    def _scale(self, name: str, given: Given) -> float:
        """What numbers are times, from our unit to theirs."""
        own = self._one(given)
        if not given.unit or own is None:
            return given.factor
        if not own.kind:
            self.problems.add(MAP, f"{self.table.name}: {name}: {own.name} has no unit", given.line)
            return given.factor
        try:
            return given.factor * factor(own.unit, own.kind) / factor(given.unit, own.kind)
        except InputError as exc:
            self.problems.add(MAP, f"{self.table.name}: {name}: {exc}", given.line)
            return given.factor

    def _one(self, given: Given) -> Column | None:
        return self.columns[self.at[given.columns[0]]] if given.columns and given.columns[0] in self.at else None

    def _unit(self, given: Given) -> str:
        own = self._one(given)
        return given.unit or (own.unit if own is not None and len(given.columns) == 1 else "")

    def _chosen(self) -> Iterable[Row]:
        """Our rows that the map keeps, each put into its sense."""
        only, without = ([(self.at[n], patterns) for n, patterns in of.items()]
                         for of in (self.table.only, self.table.without))  # fmt: skip
        turned = [self.at[n] for n in TURNED] if self.internal and self.table.rows == "forces" else []
        count = 0
        for row in self.ours:
            if not all(_is_one(row[k], patterns) for k, patterns in only):
                continue
            if any(_is_one(row[k], patterns) for k, patterns in without):
                continue
            count += 1
            if count > MOST_ROWS:
                raise InputError(
                    f"{self.table.name} has more than {MOST_ROWS:,} rows; write fewer at once:"
                    ' only = {result = ["D", "L"]}'
                )
            if turned and row[self.at["end"]] == "i":
                row = [_other_way(value) if k in turned else value for k, value in enumerate(row)]
            yield row

    def _in_one(self, chosen: list[Row]) -> list[list[Cell]]:
        """Rows that agree in what says which row they are, as one."""
        keys = [self.at[name] for name in self.table.one_row]
        groups: dict[tuple[Cell, ...], list[Row]] = {}
        for row in chosen:
            groups.setdefault(tuple(row[k] for k in keys), []).append(row)
        return [
            [self._agreed(name, given, key, group) for name, given in self.table.columns.items()]
            for key, group in groups.items()
        ]

    def _agreed(self, name: str, given: Given, key: tuple[Cell, ...], group: list[Row]) -> Cell:
        own = [row for row in group if self._stands(given, row)]
        cells = list(dict.fromkeys(self._cell(name, given, row) for row in own)) or [given.blank]
        said = [cell for cell in cells if cell not in ("", given.blank)] or cells
        if len(said) > 1:
            self.problems.add(
                MAP,
                f"{self.table.name}: {' '.join(map(str, key))} has {len(said)} values of {name} ({said[0]}, {said[1]});"
                " say with where which row's it is, or leave rows out",
                given.line,
            )
        return said[0]

    def _stands(self, given: Given, row: Row) -> bool:
        return all(_is_one(row[self.at[own]], (pattern,)) for own, pattern in given.where)

    def _given(self, name: str, given: Given, row: Row) -> Cell:
        return self._cell(name, given, row) if self._stands(given, row) else given.blank

    def _cell(self, name: str, given: Given, row: Row) -> Cell:
        if given.value is not None:
            return given.value
        cell = row[self.at[given.columns[0]]]
        if len(given.columns) > 1:
            cell = given.join.join(_text(row[self.at[own]]) for own in given.columns)
        cell = self._meant(name, given, self._number(name, given, cell))
        if cell == "":
            return given.blank
        return given.within.replace("*", self._shown(cell)) if given.within else cell

    def _number(self, name: str, given: Given, cell: Cell) -> Cell:
        """A number in their unit and sense; of a cell with several, each."""
        scale = self.scales[name]
        if isinstance(cell, str):
            own = self._one(given)
            if scale == 1.0 or own is None or not own.kind or not cell:
                return cell
            try:
                return LIST.join(
                    _text(_rounded(float(part) * scale, given.decimals)).replace(".", self.table.decimal)
                    for part in cell.split(LIST)
                )
            except ValueError:
                return cell  # words in place of a number
        if isinstance(cell, int) and scale == 1.0:
            return cell
        return _rounded(cell * scale, given.decimals)

    def _meant(self, name: str, given: Given, cell: Cell) -> Cell:
        if not given.values:
            return cell
        text = _text(cell)
        exact = dict(given.values)
        if text in exact:
            return exact[text]
        patterns = [(p, v) for p, v in given.values if is_pattern(p) and text and fits(p, text)]
        if patterns:
            return max(patterns, key=lambda pair: len(pair[0]))[1]
        if text and not given.others:
            self.unfit[name, text] = self.unfit.get((name, text), 0) + 1
        return cell

    def _shown(self, cell: Cell) -> str:
        return _text(cell).replace(".", self.table.decimal) if isinstance(cell, float) else _text(cell)


def _other_way(value: Cell) -> Cell:
    return 0.0 - value if isinstance(value, float | int) else value


def _is_one(cell: Cell, patterns: Sequence[str]) -> bool:
    text = _text(cell)
    return any(fits(p, text) if is_pattern(p) else p == text for p in patterns)


def _rounded(number: float, decimals: int | None) -> float:
    """To so many decimals, halves away from 0 as on paper (6.35 to 6.4), else to DIGITS."""
    text = f"{number:.{DIGITS}g}"
    if decimals is not None and math.isfinite(number):
        text = str(Decimal(text).quantize(Decimal(1).scaleb(-decimals), ROUND_HALF_UP))
    return float(text) + 0.0


def _text(cell: Cell, decimals: int | None = None) -> str:
    """A cell as text: a number without exponent, to its decimals where these are stated."""
    if isinstance(cell, str):
        return cell
    if isinstance(cell, int) or not math.isfinite(cell):
        return str(cell)
    if decimals is not None:
        return f"{cell:.{decimals}f}"
    text = f"{cell:.{DIGITS}g}"
    if "e" in text:
        text = f"{cell:.20f}".rstrip("0")
    return text.removesuffix(".0").removesuffix(".")


def files(tables: Sequence[Made]) -> dict[str, bytes]:
    """File -> what is in it, in the map's order. Raises InputError where a text cannot be written in its encoding."""
    written: dict[str, bytes] = {}
    books: dict[str, list[Made]] = {}
    for table in tables:
        if table.table.kind == "xlsx":
            books.setdefault(table.file, []).append(table)
            written.setdefault(table.file, b"")
        elif table.file in written:
            raise InputError(f"{table.file} would be written twice; name the files so that they differ")
        else:
            written[table.file] = _as_json(table) if table.table.kind == "json" else _as_text(table)
    return written | {file: _as_book(file, sheets) for file, sheets in books.items()}


def _as_book(file: str, sheets: Sequence[Made]) -> bytes:
    for one in sheets:
        if len(one.rows) > MOST_IN_A_SHEET:
            raise InputError(f"{file}: a sheet has at most {MOST_IN_A_SHEET:,} rows; write .csv")
    names = [one.sheet.lower() for one in sheets]
    if bad := next((n for n in names if names.count(n) > 1 or NO_SHEET.search(n)), ""):
        raise InputError(f"{file}: '{bad}' cannot be a sheet, or is one twice; give it another name")
    return as_sheets([(one.sheet, *_with_heads(one)) for one in sheets])


def _with_heads(one: Made) -> tuple[Sequence[str], Sequence[Row]]:
    """The names of the columns, and rows with the units above them; what stands above goes into text files alone."""
    return one.head, [*([list(one.units)] if one.table.units_row else []), *one.rows]


def _as_json(one: Made) -> bytes:
    rows = [dict(zip(one.head, row, strict=True)) for row in one.rows]
    return (json.dumps(rows, ensure_ascii=False, indent=1) + "\n").encode("utf-8")


def _as_text(one: Made) -> bytes:
    table, out = one.table, io.StringIO()
    for line in table.above:
        out.write(f"{line}\r\n")
    writer = csv.writer(out, delimiter=table.delimiter, lineterminator="\r\n")
    if table.head:
        writer.writerow(one.head)
    if table.units_row:
        writer.writerow(one.units)
    decimals = [given.decimals for given in table.columns.values()]
    writer.writerows(
        [_in_text(cell, places, table.decimal) for cell, places in zip(row, decimals, strict=True)] for row in one.rows
    )
    try:
        return out.getvalue().encode(table.encoding)
    except UnicodeEncodeError as exc:
        raise InputError(
            f"{one.file}: {exc.object[exc.start : exc.end][:10]!r} is not in {table.encoding}; write utf-8, or say"
            " with values what it is there"
        ) from exc


def _in_text(cell: Cell, decimals: int | None, decimal: str) -> str:
    """A text that a spreadsheet would work out stands behind an apostrophe."""
    if isinstance(cell, str):
        return f"'{cell}" if _RISKY.match(cell) else cell
    return _text(cell, decimals).replace(".", decimal)


def shown(one: Made, most: int) -> list[list[str]]:
    """The first rows as text, as they are written."""
    decimals = [given.decimals for given in one.table.columns.values()]
    return [
        [_in_text(cell, places, one.table.decimal) for cell, places in zip(row, decimals, strict=True)]
        for row in one.rows[:most]
    ]


def named(tables: Mapping[str, bytes], name: str) -> str:
    """What the whole is called: its file, or a zip of them."""
    return next(iter(tables)) if len(tables) == 1 else f"{name}.zip"
