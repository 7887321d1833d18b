"""One thing that an audit sees."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

SEVERITIES = ("error", "warning", "note")


@dataclass(frozen=True)
class Finding:
    """One thing that the audit saw. `severity` is error, warning or note; `value` is what it measured."""

    code: str
    severity: str
    message: str
    node: str = ""
    member: str = ""
    value: float = 0.0
    place: str = ""  # where its node stands, by grid lines and level
    combination: str = ""
    piece: str = ""  # the physical member that it is of
    cause: str = ""  # by which findings of one code belong together

    def as_dict(self) -> dict[str, Any]:
        return self.__dict__


def several(words: list[str], most: int = 6) -> str:
    """The first of some words."""
    return ", ".join(words[:most]) + (" ..." if len(words) > most else "")


def members(names: list[str]) -> str:
    """Some members in a few words."""
    return f"{len(names)} members" if len(names) > 1 else f"member {names[0]}"
