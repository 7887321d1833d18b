"""What is wrong with a file: collected, each with its place, and raised together."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from handrail.core.errors import InputError

MOST = 200
MAP = "the map"  # as a file


@dataclass(frozen=True)
class Problem:
    """One error: where it stands and what was expected. Rows count from 1, the header."""

    file: str
    message: str
    row: int | None = None
    column: str = ""

    def __str__(self) -> str:
        place = (
            self.file
            + (f" {'line' if self.file == MAP else 'row'} {self.row}" if self.row else "")
            + (f" column {self.column}" if self.column else "")
        )
        return f"{place}: {self.message}"

    def as_dict(self) -> dict[str, Any]:
        return {"file": self.file, "row": self.row, "column": self.column, "message": self.message}


class BundleError(InputError):
    """A bundle that cannot be taken in; `problems` says everything found (the first 200)."""

    def __init__(self, problems: list[Problem], more: int = 0) -> None:
        self.problems = problems[:MOST]
        self.more = more + max(0, len(problems) - MOST)
        first = str(problems[0]) if problems else "unreadable"
        rest = len(self.problems) + self.more - 1
        super().__init__(first + (f" (and {rest} more)" if rest > 0 else ""))


@dataclass
class Problems:
    """The collector that a reader fills."""

    found: list[Problem] = field(default_factory=list)
    more: int = 0

    def add(self, file: str, message: str, row: int | None = None, column: str = "") -> None:
        if len(self.found) < MOST:
            self.found.append(Problem(file, message, row, column))
        else:
            self.more += 1

    def raise_any(self) -> None:
        if self.found:
            raise BundleError(self.found, self.more)
