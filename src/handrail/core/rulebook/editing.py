"""Changes of a rulebook's text that leave every comment and every other character as it is written.

The YAML library says from where to where each key and value stands; what is asked is spliced in there. A change is
given back only when the library reads of the new text what was asked, and nothing else."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Mapping
from typing import Any

from handrail.core.errors import InputError
from handrail.core.rulebook.cells import with_csv_cell
from handrail.core.rulebook.language import Text
from handrail.core.rulebook.yaml import NotYaml, load, tree


def move_rule(text: str, rule: int, to: int) -> str:
    """The rulebook with rule number `rule` in place `to`, both from 0; blank lines between rules stay where they are.
    Raises InputError."""
    data, lines, starts, end = _rules(text)
    if not (0 <= rule < len(starts) and 0 <= to < len(starts)):
        raise InputError(f"there are {len(starts)} rules of its own, numbered from 0")
    ends = [_trimmed(lines, a, b) for a, b in zip(starts, [*starts[1:], end], strict=True)]
    blocks = [_ended(lines[a:b], _newline(text)) for a, b in zip(starts, ends, strict=True)]
    gaps = [lines[b:a] for b, a in zip(ends, [*starts[1:], end], strict=True)]
    blocks.insert(to, blocks.pop(rule))
    moved = [line for block, gap in zip(blocks, gaps, strict=True) for line in (*block, *gap)]

    def asked(data: Any) -> None:
        data["rules"].insert(to, data["rules"].pop(rule))

    return _proven(data, "".join([*lines[: starts[0]], *moved, *lines[end:]]), asked)


def with_rule(text: str, rule: Mapping[str, Any]) -> str:
    """The rulebook with one more rule, before all others. Raises InputError."""
    data, lines, starts, _ = _rules(text)
    dash = _under(tree(text), "rules").start_mark.column
    more = [line + _newline(text) for line in [*_written(rule, " " * dash), ""]]

    def asked(data: Any) -> None:
        data["rules"].insert(0, _plain(rule))

    return _proven(data, "".join([*lines[: starts[0]], *more, *lines[starts[0] :]]), asked)


def without_practice(text: str, name: str) -> str:
    """The rulebook whose practice does not say `name` (bolt, by use bolts.moment, of one standard double_angle.bolt)
    any more. Raises InputError."""
    inner, _, key = name.rpartition(".")
    path = ("practice", inner) if inner else ("practice",)
    data = _data(text)
    parent = tree(text)
    for step in path:
        parent = _under(parent, step)
    keys = [k.value for k, _ in parent.value] if parent is not None and parent.id == "mapping" else []
    if key not in keys:
        raise InputError(f"practice of this rulebook does not say {name}; it is at its default, or inherited")
    at = keys.index(key)
    changed = _without_in_line(text, parent, at) if parent.flow_style else _without_lines(text, parent, at)

    def asked(data: Any) -> None:
        for step in path:
            data = data[step]
        del data[key]

    return _proven(data, changed, asked)


def with_cell(given: Text, table: str, row: int, column: str, value: str) -> Text:
    """The rulebook with another value in one cell of a table, row from 0, wherever its rows are written. Raises
    InputError."""
    data = _data(given.text)
    told = (data.get("tables") or {}).get(table)
    if not isinstance(told, dict):
        raise InputError(f"this rulebook has no table '{table}' of its own")
    if "\n" in value or "\r" in value:
        raise InputError("a cell is one line")
    node = _under(_under(tree(given.text), "tables"), table)
    if "file" in told:
        name = str(told["file"])
        if name not in given.files:
            raise InputError(f"there is no file '{name}' beside the rulebook")
        return Text(given.text, {**given.files, name: with_csv_cell(given.files[name], row, column, value)})
    if "csv" in told:
        return Text(_in_block(given.text, data, _under(node, "csv"), table, row, column, value), given.files)
    return Text(_in_rows(given.text, data, _under(node, "rows"), table, row, column, value), given.files)


def _data(text: str) -> dict[str, Any]:
    try:
        data = load(text)
    except NotYaml as exc:
        raise InputError(f"line {exc.line} column {exc.column}: {exc.words}; mend this first") from exc
    if not isinstance(data, dict):
        raise InputError("a rulebook is a mapping with practice and rules")
    return data


def _proven(before: Any, after: str, asked: Callable[[Any], None]) -> str:
    """The text `after`, when what is read of it is the data `before` with `asked` done to it. Raises InputError."""
    wanted = _plain(before)
    asked(wanted)
    try:
        written = _plain(load(after))
    except NotYaml:
        written = None
    if not _same(written, wanted):
        raise InputError(
            "as this is written (with an anchor, or over several lines) it cannot be changed without changing more:"
            " change it in the text"
        )
    return after


def _plain(node: Any) -> Any:
    """The data with every alias written out."""
    if isinstance(node, Mapping):
        return {key: _plain(value) for key, value in node.items()}
    return [_plain(value) for value in node] if isinstance(node, list) else node


def _same(a: Any, b: Any) -> bool:
    """Whether both are the same to who reads a rulebook: 3 and "3" are, and an empty mapping and nothing."""
    if isinstance(a, dict) and isinstance(b, dict):
        return a.keys() == b.keys() and all(_same(a[key], b[key]) for key in a)
    if isinstance(a, list) and isinstance(b, list):
        return len(a) == len(b) and all(map(_same, a, b))
    return str(a) == str(b) or (a in (None, {}) and b in (None, {}))


def _under(node: Any, key: str) -> Any:
    """What stands under `key` of a mapping in the text; None."""
    pairs = node.value if node is not None and node.id == "mapping" else ()
    return next((value for name, value in pairs if name.value == key), None)


def _rules(text: str) -> tuple[dict[str, Any], list[str], list[int], int]:
    """(data, lines with their ends, where each own rule begins with the comments above it, where the last one ends),
    lines from 0."""
    data = _data(text)
    rules = _under(tree(text), "rules")
    if rules is None or rules.id != "sequence" or not rules.value or rules.flow_style:
        raise InputError("rules: written as a list, each rule behind a dash of its own line, they can be moved")
    lines, dash = text.splitlines(keepends=True), rules.start_mark.column
    starts = [_with_comments(lines, _dash_of(lines, item.start_mark.line, dash)) for item in rules.value]
    if any(a >= b for a, b in zip(starts, starts[1:], strict=False)):
        raise InputError("rules: one stands for another (*): change it in the text")
    end = rules.value[-1].start_mark.line + 1
    while end < len(lines) and (not lines[end].strip() or _indent(lines[end]) > dash):
        end += 1
    return data, lines, starts, _trimmed(lines, starts[-1], end)


def _dash_of(lines: list[str], line: int, column: int) -> int:
    """The line of the dash before what begins in `line`."""
    while line and lines[line][column : column + 1] != "-":
        line -= 1
    return line


def _indent(line: str) -> int:
    return len(line) - len(line.lstrip())


def _with_comments(lines: list[str], start: int) -> int:
    """The line that something begins at with the comments right above it."""
    while start and lines[start - 1].lstrip().startswith("#"):
        start -= 1
    return start


def _trimmed(lines: list[str], start: int, end: int) -> int:
    """Where the lines from `start` to before `end` end without the blank ones at their end."""
    while end > start and not lines[end - 1].strip():
        end -= 1
    return end


def _newline(text: str) -> str:
    return "\r\n" if "\r\n" in text else "\n"


def _ended(block: list[str], newline: str) -> list[str]:
    """The lines, the last one with its end too."""
    return block if block[-1].endswith(("\n", "\r")) else [*block[:-1], block[-1] + newline]


def _written(rule: Mapping[str, Any], indent: str) -> list[str]:
    """A rule as its lines."""
    lines = []
    for k, (name, value) in enumerate(rule.items()):
        before = f"{indent}- " if not k else f"{indent}  "
        if isinstance(value, Mapping):
            lines += [f"{before}{name}:", *(f"{indent}    {key}: {_scalar(said)}" for key, said in value.items())]
        else:
            lines.append(f"{before}{name}: {_scalar(value)}")
    return lines


def _scalar(value: Any) -> str:
    """A value as YAML: as it is where it is read as it is, else in quotes."""
    text = str(value).lower() if isinstance(value, bool) else str(value)
    try:
        read = load(f"[{text}]")
    except NotYaml:
        read = None
    kept = isinstance(read, list) and len(read) == 1 and str(read[0]) == str(value)
    return text if kept and isinstance(read[0], str | int | float) else json.dumps(text, ensure_ascii=False)


def _without_lines(text: str, parent: Any, at: int) -> str:
    """The text without an entry of a mapping written in lines, and what is deeper under it."""
    lines = text.splitlines(keepends=True)
    line = parent.value[at][0].start_mark.line
    end, indent = line + 1, _indent(lines[line])
    while end < len(lines) and lines[end].strip() and _indent(lines[end]) > indent:
        end += 1
    return "".join([*lines[:line], *lines[end:]])


def _without_in_line(text: str, parent: Any, at: int) -> str:
    """The same in a mapping written in braces."""
    key, value = parent.value[at]
    start, end = key.start_mark.index, value.end_mark.index
    after = re.match(r"\s*,[ \t]*", text[end:])
    if after and at + 1 < len(parent.value):
        end += after.end()
    elif at:
        start = parent.value[at - 1][1].end_mark.index
    return text[:start] + text[end:]


def _in_block(text: str, data: Any, node: Any, table: str, row: int, column: str, value: str) -> str:
    if node.style != "|":
        raise InputError("csv: written as lines behind | its cells can be changed; change this one in the text")
    lines = text.splitlines(keepends=True)
    first = node.start_mark.line + 1
    last = first + len(node.value.splitlines())
    indent = min((_indent(line) for line in lines[first:last] if line.strip()), default=0)
    margins = [line[:indent] if line.strip() else "" for line in lines[first:last]]
    block = "".join(line[len(margin) :] for line, margin in zip(lines[first:last], margins, strict=True))
    changed = with_csv_cell(block, row, column, value).splitlines(keepends=True)
    own = [margin + line for margin, line in zip(margins, changed, strict=True)]

    def asked(data: Any) -> None:
        told = data["tables"][table]
        told["csv"] = with_csv_cell(str(told["csv"]), row, column, value)

    return _proven(data, "".join([*lines[:first], *own, *lines[last:]]), asked)


def _in_rows(text: str, data: Any, rows: Any, table: str, row: int, column: str, value: str) -> str:
    known = rows is not None and rows.id == "sequence" and 0 <= row < len(rows.value)
    cell = _under(rows.value[row], column) if known else None
    if cell is None:
        raise InputError(f"there is no cell {column} in row {row + 1}: write it in the text")
    if cell.id != "scalar" or cell.style in ("|", ">"):
        raise InputError(f"{column} is written over several lines: change it in the text")
    gap = "" if text[cell.start_mark.index - 1] in " \t" else " "
    changed = text[: cell.start_mark.index] + gap + _scalar(value) + text[cell.end_mark.index :]

    def asked(data: Any) -> None:
        data["tables"][table]["rows"][row][column] = value

    return _proven(data, changed, asked)
