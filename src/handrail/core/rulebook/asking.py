"""Conditions as they are written under `when` of a rule, or `fits` of a design: each mistake told at its place."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from handrail.core.errors import InputError
from handrail.core.rulebook.conditions import JOINED, Condition, Joined, read_asked
from handrail.core.rulebook.facts import OF_RULE
from handrail.core.rulebook.reader import Reader, plain
from handrail.core.rulebook.tables import ROW_IN, HasRow, Table

DEEPEST = 6  # conditions in conditions


@dataclass
class Conditions:
    """Reads conditions that may ask `tables`, `layered` ones also which rule took it."""

    reader: Reader
    tables: Mapping[str, Table]
    layered: bool = False

    def read(self, when: dict[str, Any], depth: int = 0) -> list[Condition]:
        """What is asked under `when`, so many conditions deep; what cannot be read is told."""
        conditions: list[Condition] = []
        for name, value in when.items():
            part: Condition | None
            if name in JOINED:
                part = self._joined(when, name, value, depth + 1)
            elif name == ROW_IN:
                part = self._row_in(when, value)
            else:
                part = self.reader.attempt(when, name, self._asked, str(name), plain(value))
            if part is not None:
                conditions.append(part)
        return conditions

    def _asked(self, name: str, value: Any) -> Condition:
        if name in OF_RULE and not self.layered:
            raise InputError(f"'{name}' is what an also-rule can ask for: which rule took it is not known before")
        return read_asked(name, value)

    def _joined(self, when: Any, how: str, value: Any, depth: int) -> Joined | None:
        if depth > DEEPEST:
            self.reader.wrong(when, how, f"conditions are nested deeper than {DEEPEST}")
            return None
        entries = value if isinstance(value, list) else [value]
        if not entries or not all(isinstance(entry, dict) and entry for entry in entries):
            self.reader.wrong(
                when,
                how,
                f"{how} takes facts, or a list of them, like {how}: [{{skew: '> 5 deg'}}, {{slope: '> 5 deg'}}]",
            )
            return None
        if how == "any" and not isinstance(value, list):  # any of these facts
            parts: list[Condition] = self.read(value, depth)
        else:
            parts = [
                Joined("all", own) if len(own) != 1 else own[0]
                for own in (tuple(self.read(entry, depth)) for entry in entries)
                if own
            ]
        if how == "not" and isinstance(value, list):  # none of these
            return Joined("all", tuple(Joined("not", (part,)) for part in parts))
        return Joined(how, tuple(parts))

    def _row_in(self, when: Any, value: Any) -> Condition | None:
        names = value if isinstance(value, list) else [value]
        for name in names:
            if not isinstance(name, str) or name not in self.tables:
                self.reader.wrong(when, ROW_IN, f"there is no table '{str(name)[:40]}'; {there_is(self.tables)}")
                return None
            if self.tables[name].by_number:
                self.reader.wrong(when, ROW_IN, f"table {name} is not found by facts of a connection")
                return None
        parts = tuple(HasRow(self.tables[name]) for name in names)
        return parts[0] if len(parts) == 1 else Joined("any", parts)


def there_is(tables: Mapping[str, Table]) -> str:
    """The tables that there are, in words."""
    return f"there is {', '.join(tables)}" if tables else "write it under tables"
