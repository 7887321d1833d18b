"""Another value in one cell of a table written as CSV."""

from __future__ import annotations

import csv
import io
import re

from handrail.core.errors import InputError

_CELL = re.compile(r'[ \t]*("(?:[^"]|"")*"|[^,\r\n]*)')


def with_csv_cell(text: str, row: int, column: str, value: str) -> str:
    """CSV with `value` in `column` (a name of its first line) of `row`, from 0, comments and blank lines not counted;
    all else stays as it is written. Raises InputError."""
    lines = text.splitlines(keepends=True)
    told = [k for k, line in enumerate(lines) if line.strip(" ,\t\r\n\ufeff") and not line.lstrip().startswith("#")]
    head = [cell.split("[")[0].strip() for cell in _cells(lines[told[0]].lstrip("\ufeff"))] if told else []
    if column not in head or not 0 <= row < len(told) - 1:
        raise InputError(f"there is no cell {column} in row {row + 1}")
    at, k = told[row + 1], head.index(column)
    line = lines[at]
    wanted = _cells(line)
    if len(wanted) != len(head) or line.count('"') % 2:
        raise InputError(
            f"row {row + 1} has {len(wanted)} cells, the first line names {len(head)}: mend it in the text"
        )
    wanted[k] = value
    start, end = _where(line, k)
    lines[at] = line[:start] + _quoted(value) + line[end:]
    if _bare(_cells(lines[at])) != _bare(wanted) or not any(_bare(wanted)):
        raise InputError(f"row {row + 1}: with {column} so it would be no row any more: change it in the text")
    return "".join(lines)


def _cells(line: str) -> list[str]:
    return next(csv.reader(io.StringIO(line), skipinitialspace=True), [])


def _bare(cells: list[str]) -> list[str]:
    return [cell.strip() for cell in cells]


def _where(line: str, k: int) -> tuple[int, int]:
    """From where to where cell `k` of a line stands, without the blanks around it."""
    match = _CELL.match(line)
    for _ in range(k):
        match = _CELL.match(line, match.end() + 1 if match else 0)
    assert match is not None  # it fits nothing at all too
    return match.start(1), match.start(1) + len(match[1].rstrip())


def _quoted(value: str) -> str:
    """A value as a cell: in quotes where it needs them."""
    needs = value != value.strip() or value.startswith("#") or any(c in value for c in ',"')
    return '"' + value.replace('"', '""') + '"' if needs else value
