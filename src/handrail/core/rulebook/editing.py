"""Changes of a rulebook's text that leave every comment and every other line as it is written."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Mapping
from typing import Any

from handrail.core.errors import InputError
from handrail.core.rulebook.language import Text
from handrail.core.rulebook.yaml import NotYaml, load

_PLAIN = re.compile(r"^[A-Za-z0-9][A-Za-z0-9 ./_+()-]*$")
_SCALAR = re.compile(r"""(?:"(?:[^"\\]|\\.)*"|'(?:[^']|'')*'|[^,}\]\n#]*[^,}\]\n#\s])""")


def _data(text: str) -> Any:
    try:
        data = load(text, comments=True)
    except NotYaml as exc:
        raise InputError(f"line {exc.line} column {exc.column}: {exc.words}; mend this first") from exc
    if not isinstance(data, dict):
        raise InputError("a rulebook is a mapping with practice and rules")
    return data


def _rules(text: str) -> tuple[list[str], list[int], int]:
    """(lines, where each own rule begins with the comments above it, where the last one ends), lines from 0."""
    rules = _data(text).get("rules")
    if not isinstance(rules, list) or not rules or rules.fa.flow_style():  # type: ignore[attr-defined]
        raise InputError("rules: written as a list, each rule behind a dash of its own line, they can be moved")
    lines = text.splitlines()
    starts = [_with_comments(lines, rules.lc.item(k)[0]) for k in range(len(rules))]  # type: ignore[attr-defined]
    indent = rules.lc.item(0)[1] - 2  # type: ignore[attr-defined]
    end = rules.lc.item(len(rules) - 1)[0] + 1  # type: ignore[attr-defined]
    while end < len(lines) and (not lines[end].strip() or len(lines[end]) - len(lines[end].lstrip()) > indent):
        end += 1
    while not lines[end - 1].strip():
        end -= 1
    return lines, starts, end


def _with_comments(lines: list[str], start: int) -> int:
    """The line that something begins at with the comments right above it."""
    while start and lines[start - 1].lstrip().startswith("#"):
        start -= 1
    return start


def move_rule(text: str, rule: int, to: int) -> str:
    """The rulebook with rule number `rule` in place `to`, both from 0. Raises InputError."""
    lines, starts, end = _rules(text)
    if not (0 <= rule < len(starts) and 0 <= to < len(starts)):
        raise InputError(f"there are {len(starts)} rules of its own, numbered from 0")
    blocks = [_trimmed(lines[a:b]) for a, b in zip(starts, [*starts[1:], end], strict=True)]
    blocks.insert(to, blocks.pop(rule))
    gap = [""] if any(not line.strip() for line in lines[starts[0] : end]) else []
    moved = [line for k, block in enumerate(blocks) for line in (*(gap if k else ()), *block)]
    return "\n".join([*lines[: starts[0]], *moved, *lines[end:]]) + "\n"


def _trimmed(block: list[str]) -> list[str]:
    while block and not block[-1].strip():
        block = block[:-1]
    return block


def with_rule(text: str, rule: Mapping[str, Any]) -> str:
    """The rulebook with one more rule, before all others. Raises InputError."""
    lines, starts, _ = _rules(text)
    at = starts[0]
    indent = " " * (_data(text)["rules"].lc.item(0)[1] - 2)
    return "\n".join([*lines[:at], *written(rule, indent), "", *lines[at:]]) + "\n"


def written(rule: Mapping[str, Any], indent: str) -> list[str]:
    """A rule as its lines."""
    found = []
    for k, (name, value) in enumerate(rule.items()):
        before = f"{indent}- " if not k else f"{indent}  "
        if isinstance(value, Mapping):
            found += [f"{before}{name}:", *(f"{indent}    {key}: {_scalar(said)}" for key, said in value.items())]
        else:
            found.append(f"{before}{name}: {_scalar(value)}")
    return found


def _scalar(value: Any) -> str:
    """A value as YAML, in quotes where it needs them."""
    if isinstance(value, bool):
        return "true" if value else "false"
    text = str(value)
    return (
        text
        if _PLAIN.match(text) and text not in ("true", "false", "null", "yes", "no")
        else json.dumps(text, ensure_ascii=False)
    )


def without_practice(text: str, name: str) -> str:
    """The rulebook whose practice does not say `name` (bolt, by use bolts.moment, of one standard double_angle.bolt)
    any more. Raises InputError."""
    data = _data(text)
    node: Any = data.get("practice") or {}
    inner, _, key = name.rpartition(".")
    parent = node.get(inner) if inner and isinstance(node, dict) else node
    if not isinstance(parent, dict) or key not in parent:
        raise InputError(f"practice of this rulebook does not say {name}; it is at its default, or inherited")
    if getattr(parent, "fa", None) is not None and parent.fa.flow_style():  # type: ignore[attr-defined]
        return _without_in_line(text, parent, key)
    line = parent.lc.key(key)[0]  # type: ignore[attr-defined]
    lines = text.splitlines()
    end, indent = line + 1, len(lines[line]) - len(lines[line].lstrip())
    while end < len(lines) and lines[end].strip() and len(lines[end]) - len(lines[end].lstrip()) > indent:
        end += 1
    return "\n".join([*lines[:line], *lines[end:]]) + "\n"


def _without_in_line(text: str, parent: Any, key: str) -> str:
    """The same in a mapping written in braces."""
    lines = text.splitlines()
    line, column = parent.lc.key(key)
    value_line, value_column = parent.lc.value(key)
    if line != value_line:
        raise InputError(f"{key} is written over several lines: take it out by hand")
    match = _SCALAR.match(lines[line], value_column)
    end = match.end() if match else value_column
    after = re.match(r"\s*,\s*", lines[line][end:])
    before = re.search(r",\s*$", lines[line][:column])
    if after:
        end += after.end()
    elif before:
        column = before.start()
    lines[line] = lines[line][:column] + lines[line][end:]
    return "\n".join(lines) + "\n"


def with_cell(given: Text, table: str, row: int, column: str, value: str) -> Text:
    """The rulebook with another value in one cell of a table, row from 0, wherever its rows are written. Raises
    InputError."""
    node = (_data(given.text).get("tables") or {}).get(table)
    if not isinstance(node, dict):
        raise InputError(f"this rulebook has no table '{table}' of its own")
    if "\n" in value or "\r" in value:
        raise InputError("a cell is one line")
    if "file" in node:
        name = str(node["file"])
        if name not in given.files:
            raise InputError(f"there is no file '{name}' beside the rulebook")
        return Text(given.text, {**given.files, name: _in_csv(given.files[name], row, column, value)})
    if "csv" in node:
        return Text(_in_block(given.text, node, row, column, value), given.files)
    return Text(_in_rows(given.text, node, row, column, value), given.files)


def _in_csv(text: str, row: int, column: str, value: str) -> str:
    """CSV with another cell; all other lines stay as they are."""
    lines = text.splitlines()
    told = [k for k, line in enumerate(lines) if line.strip(" ,\t") and not line.lstrip().startswith("#")]
    head = [cell.split("[")[0].strip() for cell in next(csv.reader([lines[told[0]]], skipinitialspace=True))]
    if column not in head or not 0 <= row < len(told) - 1:
        raise InputError(f"there is no cell {column} in row {row + 1}")
    at = told[row + 1]
    cells = next(csv.reader([lines[at]], skipinitialspace=True))
    cells[head.index(column)] = value
    out = io.StringIO()
    csv.writer(out, lineterminator="").writerow(cells)
    lines[at] = (
        out.getvalue()
        if ", " not in lines[at]
        else out.getvalue().replace(",", ", ")
        if '"' not in out.getvalue()
        else out.getvalue()
    )
    return "\n".join(lines) + "\n"


def _in_block(text: str, node: Any, row: int, column: str, value: str) -> str:
    lines = text.splitlines()
    first = node.lc.value("csv")[0] + 1
    count = len(str(node["csv"]).splitlines())
    block = lines[first : first + count]
    indent = min((len(line) - len(line.lstrip()) for line in block if line.strip()), default=0)
    changed = _in_csv("\n".join(line[indent:] for line in block), row, column, value).splitlines()
    return "\n".join([*lines[:first], *(" " * indent + line for line in changed), *lines[first + count :]]) + "\n"


def _in_rows(text: str, node: Any, row: int, column: str, value: str) -> str:
    rows = node.get("rows")
    if not isinstance(rows, list) or not 0 <= row < len(rows) or column not in rows[row]:
        raise InputError(f"there is no cell {column} in row {row + 1}: write it in the text")
    line, at = rows[row].lc.value(column)
    lines = text.splitlines()
    match = _SCALAR.match(lines[line], at)
    if match is None:
        raise InputError(f"{column} is written over several lines: change it in the text")
    said = value if re.fullmatch(r"[0-9]+", value) else _scalar(value)
    lines[line] = lines[line][:at] + said + lines[line][match.end() :]
    return "\n".join(lines) + "\n"
