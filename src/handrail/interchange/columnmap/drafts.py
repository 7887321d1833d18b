"""A map as it is drafted: tables and columns with the reason for each, and its text in TOML."""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from typing import Any

from handrail.interchange.columnmap.language import SourceMap

Spec = dict[str, Any]  # of a column, as in the map: column, unit, factor, values ...


@dataclass
class Draft:
    """One table: where it stands, its layout, its columns as a map says them, and `why` each (and how sure)."""

    table: str
    source: SourceMap
    layout: Spec = field(default_factory=dict)  # layout, across, only, not
    columns: dict[str, Spec] = field(default_factory=dict)
    ends: dict[str, dict[str, Spec]] = field(default_factory=dict)
    cases: dict[str, str] = field(default_factory=dict)
    why: dict[str, str] = field(default_factory=dict)
    notes: list[str] = field(default_factory=list)
    texts: dict[str, list[str]] = field(default_factory=dict)  # what stands in a column

    def specs(self, name: str) -> list[Spec]:
        """What is said of one of our columns, at both ends where it is said so."""
        return [s for s in (self.columns.get(name), *(own.get(name) for own in self.ends.values())) if s is not None]


@dataclass
class Whole:
    """The map: what is stated, with reasons, its look-ups and tables; `missing` what was not recognised."""

    stated: dict[str, Any] = field(default_factory=dict)
    units: dict[str, str] = field(default_factory=dict)
    why: dict[str, str] = field(default_factory=dict)
    lookups: dict[str, tuple[SourceMap, str]] = field(default_factory=dict)  # name -> (source, key)
    tables: list[Draft] = field(default_factory=list)
    missing: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)

    def table(self, name: str) -> Draft | None:
        return next((t for t in self.tables if t.table == name), None)


HEAD = "# Proposed from the files, with a reason behind each line. Where there is a ?, the files do not say: write it."


def text_of(whole: Whole) -> str:
    """The map in TOML."""
    lines = [HEAD, "map = 1", *(_line(name, value, whole.why.get(name, "")) for name, value in whole.stated.items())]
    lines += ["", "[units]              # of the job; a column in another unit says so"]
    lines += [_line(name, unit, whole.why.get(f"units.{name}", "")) for name, unit in whole.units.items()]
    if whole.unread:
        lines += ["", "# Not recognised: " + ", ".join(whole.unread)]
    for name, (source, key) in whole.lookups.items():
        lines += ["", f"[lookups.{name}]", *_source(source), f"key = {quoted(key)}"]
    parts = [_table(t) for t in whole.tables] + whole.missing
    return "\n".join(lines) + "\n\n" + "\n\n".join(parts) + "\n"


def _table(draft: Draft) -> str:
    name = draft.table
    lines = [
        f"[tables.{name}]",
        *_source(draft.source),
        *(f"{key} = {value_of(value)}" for key, value in draft.layout.items()),
    ]
    if draft.cases:
        lines.append(f"cases = {value_of(draft.cases)}")
    lines += [f"# {note}" for note in draft.notes]
    lines.append(f"[tables.{name}.columns]")
    lines += [_line(ours, spec, draft.why.get(ours, "")) for ours, spec in draft.columns.items()]
    for end, own in draft.ends.items():
        lines.append(f"[tables.{name}.ends.{end}]")
        lines += [_line(ours, spec, draft.why.get(ours, "")) for ours, spec in own.items()]
    return "\n".join(lines)


def _line(name: str, value: Any, why: str) -> str:
    said = f"{name} = {spec_of(value) if isinstance(value, dict) else value_of(value)}"
    return f"{said:<34} # {why}" if why else said


def _source(source: SourceMap) -> list[str]:
    """Where a table stands, as a map says it; nothing that is as unless stated."""
    return [f"{key} = {value_of(value)}" for key, value in source_keys(source).items()]


def source_keys(source: SourceMap) -> dict[str, Any]:
    """Where a table stands by the map's own keys."""
    one = {"file": list(source.file), "sheet": list(source.sheet), "after": list(source.after)}
    plain: list[tuple[str, Any, Any]] = [
        ("skip", source.skip, 0),
        ("head", source.head, 1),
        ("units_row", source.units_row, False),
        ("until", list(source.until), []),
        ("ignore", list(source.ignore), []),
        ("written", source.written, ""),
        ("starts", list(source.starts), []),
        ("delimiter", source.delimiter, ","),
        ("decimal", source.decimal, "."),
        ("thousands", source.thousands, ""),
        ("encoding", source.encoding, ""),
        ("turned", source.turned, False),
        ("fill", list(source.fill), []),
        ("headings", dict(source.headings), {}),
        ("only", {k: list(v) for k, v in source.only.items()}, {}),
        ("not", {k: list(v) for k, v in source.without.items()}, {}),
    ]
    return {key: texts[0] if len(texts) == 1 else texts for key, texts in one.items() if texts} | {
        k: v for k, v, usual in plain if v != usual
    }


def spec_of(spec: Spec) -> str:
    """A column's own way, in one line."""
    return (
        value_of(spec["column"])
        if list(spec) == ["column"]
        else value_of({k: v for k, v in spec.items() if not (k == "factor" and v == 1)})
    )


def value_of(value: Any) -> str:
    """A value in TOML."""
    if isinstance(value, dict):
        return "{" + ", ".join(f"{k if _is_bare(k) else quoted(k)} = {value_of(v)}" for k, v in value.items()) + "}"
    if isinstance(value, list | tuple):
        return "[" + ", ".join(map(value_of, value)) + "]"
    if isinstance(value, bool):
        return "true" if value else "false"
    return str(value) if isinstance(value, int | float) else quoted(str(value))


def _is_bare(key: str) -> bool:
    return key.isascii() and any(c.isalnum() for c in key) and all(c.isalnum() or c in "_-" for c in key)


def quoted(text: str) -> str:
    return json.dumps(text, ensure_ascii=False).replace("\x7f", "\\u007f")
