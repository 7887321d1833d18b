"""Collects what is wrong in a rulebook, each at its line and column."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from difflib import get_close_matches
from typing import Any

from handrail.core.errors import InputError

MOST_PROBLEMS = 200


class RulebookError(InputError):
    """Everything that is wrong in a rulebook: `problems` of (line, column, message), counted from 1, the messages with
    their quantities as they are held."""

    def __init__(self, problems: list[tuple[int, int, str]]) -> None:
        self.problems = problems[:MOST_PROBLEMS]
        line, column, text = problems[0]
        more = f" (and {len(problems) - 1} more)" if len(problems) > 1 else ""
        super().__init__(f"line {line} column {column}: {text}{more}")


@dataclass
class Reader:
    """`problems` found so far."""

    problems: list[tuple[int, int, str]] = field(default_factory=list)

    def wrong(self, node: Any, key: Any, text: str, of_value: bool = True, below: int = 0) -> None:
        """Something is wrong at `key` of `node` (at the node itself where it has none such), so many lines `below`
        it."""
        line = column = 0
        lc = getattr(node, "lc", None)
        if lc is not None and lc.data and key in lc.data:
            line, column = (lc.value(key) if of_value else lc.key(key)) if isinstance(node, dict) else lc.item(key)
        elif lc is not None:
            line, column = lc.line, lc.col
        self.problems.append((line + 1 + below, 1 if below else column + 1, text))

    def attempt(self, node: Any, key: Any, read: Callable[..., Any], *given: Any) -> Any:
        """What `read` makes of what is given; None where that is wrong, which is told."""
        try:
            return read(*given)
        except InputError as exc:
            self.wrong(node, key, exc.words)
            return None

    def keys(self, node: dict[str, Any], known: tuple[str, ...], what: str) -> None:
        """Tells of keys that are not among those known."""
        for name in node:
            if name not in known:
                near = get_close_matches(str(name)[:60], known, 1, 0.6)
                meant = f"; did you mean {near[0]}?" if near else ""
                self.wrong(
                    node,
                    name,
                    f"'{str(name)[:60]}' is not known{meant}; {what} takes {', '.join(known)}",
                    of_value=False,
                )

    def mapping(self, node: dict[str, Any], key: str, words: str) -> dict[str, Any]:
        """The mapping at `key`; empty where there is none, or something else, which is told."""
        given = node.get(key)
        if given is None:
            return {}
        if not isinstance(given, dict):
            self.wrong(node, key, words)
            return {}
        return given


def line_of(node: Any) -> int:
    """The line that something begins at, from 1."""
    return int(node.lc.line) + 1 if getattr(node, "lc", None) is not None else 1


def plain(value: Any) -> Any:
    """Lists and mappings without what the reader of YAML keeps beside them."""
    if isinstance(value, list):
        return [plain(v) for v in value]
    return {str(k): plain(v) for k, v in value.items()} if isinstance(value, dict) else value


def tell_of_table(reader: Reader, node: Any, place: Any, words: str) -> None:
    """Something is wrong in the table `node`: at one of its keys, at ("row", number from 0), or at ("line", number from
    1) of its CSV."""
    if not isinstance(place, tuple):
        reader.wrong(node, place, words)
    elif place[0] == "row":
        reader.wrong(node["rows"], place[1], words)
    elif "csv" in node:
        reader.wrong(node, "csv", words, below=place[1])
    else:
        reader.wrong(node, "file", f"{node['file']} line {place[1]}: {words}")
