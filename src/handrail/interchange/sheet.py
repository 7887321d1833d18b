"""A list as a file: CSV, or a workbook with its header frozen and filters on."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from typing import Any

Rows = Sequence[Sequence[Any]]
_FORMULA = ("=", "+", "-", "@", "\t", "\r")  # what a spreadsheet would work out if a text began with it

WORKBOOK = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"  # its media type


def as_csv(head: Sequence[str], rows: Rows) -> str:
    """CSV of RFC 4180; a text that a spreadsheet would take for a formula stands behind an apostrophe."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(head)
    for row in rows:
        writer.writerow([held_back(v) if isinstance(v, str) else v for v in row])
    return out.getvalue()


def held_back(text: str) -> str:
    """The text as a cell of CSV: behind an apostrophe where a spreadsheet would take it for a formula."""
    return f"'{text}" if text.lstrip("'").startswith(_FORMULA) else text


def given_back(cell: str) -> str:
    """The text that such a cell holds."""
    return cell.removeprefix("'") if cell.lstrip("'").startswith(_FORMULA) else cell


def as_workbook(title: str, head: Sequence[str], rows: Rows) -> bytes:
    """A workbook (.xlsx) of one sheet: numbers stay numbers, texts are never formulas."""
    return as_sheets([(title, head, rows)])


def as_sheets(sheets: Sequence[tuple[str, Sequence[str], Rows]]) -> bytes:
    """The same of several sheets, each (title, names of its columns, rows)."""
    import xlsxwriter

    out = io.BytesIO()
    with xlsxwriter.Workbook(out, {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False}) as book:
        bold, two = book.add_format({"bold": True, "bottom": 1}), book.add_format({"num_format": "0.00"})
        for title, head, rows in sheets:
            _fill(book.add_worksheet(title[:31]), head, rows, bold, two)
    return out.getvalue()


def _fill(sheet: Any, head: Sequence[str], rows: Rows, bold: Any, two: Any) -> None:
    widths = [len(name) for name in head]
    sheet.write_row(0, 0, head, bold)
    for k, row in enumerate(rows, 1):
        for n, value in enumerate(row):
            sheet.write(k, n, value, two if isinstance(value, float) else None)
            widths[n] = max(widths[n], min(len(str(value)), 60))
    for n, width in enumerate(widths):
        sheet.set_column(n, n, width + 2)
    sheet.freeze_panes(1, 1)
    sheet.autofilter(0, 0, max(len(rows), 1), len(head) - 1)
