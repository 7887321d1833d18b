"""Reads a map's TOML, with every mistake told at its line."""

from __future__ import annotations

import difflib
import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from handrail.core.errors import InputError
from handrail.core.quantities import units
from handrail.interchange.columnmap.language import Pairs
from handrail.interchange.problems import MAP, Problems

LONGEST = 512 * 1024
Path = tuple[str, ...]


def toml(text: str, problems: Problems) -> dict[str, Any]:
    if len(text) > LONGEST:
        problems.add(MAP, f"is {len(text)} characters long; at most {LONGEST}")
        problems.raise_any()
    try:
        return tomllib.loads(text)
    except (tomllib.TOMLDecodeError, RecursionError) as exc:
        place = re.search(r"at line (\d+)", str(exc))
        problems.add(MAP, f"is not TOML: {exc}", int(place[1]) if place else None)
        problems.raise_any()
        raise


class Lines:
    """Where each key of a TOML text stands."""

    def __init__(self, text: str) -> None:
        self.found: dict[Path, int] = {}
        header: Path = ()
        for number, line in enumerate(text.splitlines(), 1):
            if match := re.match(r"^\s*\[+\s*([^\]]+?)\s*\]+", line):
                header = _keys(match[1])
                self.found.setdefault(header, number)
            elif match := re.match(
                r"""^\s*((?:"[^"]*"|'[^']*'|[\w-]+)(?:\s*\.\s*(?:"[^"]*"|'[^']*'|[\w-]+))*)\s*=""", line
            ):
                self.found.setdefault((*header, *_keys(match[1])), number)

    def of(self, *path: str) -> int:
        """The line of a key, or of what it is in."""
        for length in range(len(path), 0, -1):
            if path[:length] in self.found:
                return self.found[path[:length]]
        return 1


def _keys(dotted: str) -> Path:
    return tuple((a or b or c) for a, b, c in re.findall(r"""\s*(?:"([^"]*)"|'([^']*)'|([\w-]+))\s*\.?""", dotted))


@dataclass
class TomlReader:
    """What readers of maps have in common; each mistake is one of `problems`."""

    lines: Lines
    problems: Problems

    def wrong(self, words: str, *path: str) -> None:
        self.problems.add(MAP, words, self.lines.of(*path))

    def known(self, node: Mapping[str, Any], known: tuple[str, ...], what: str, *path: str) -> None:
        for name in node:
            if name not in known:
                near = difflib.get_close_matches(str(name), known, 1)
                self.wrong(
                    f"'{name}' is not known{f'; is {near[0]} meant?' if near else '.'} {what} takes {', '.join(known)}",
                    *path,
                    str(name),
                )

    def unit(self, unit: str, kind: str, *path: str) -> None:
        try:
            units.factor(unit, kind)
        except InputError as exc:
            self.wrong(str(exc), *path)

    def texts(self, given: Any, *path: str) -> tuple[str, ...]:
        """A text or several."""
        texts = given if isinstance(given, list) else [given]
        if not all(isinstance(t, str) and t for t in texts):
            self.wrong(f"{path[-1]} is a text in quotes, or several in a list", *path)
            return ()
        return tuple(texts)

    def rows(self, node: Any, key: str, *path: str) -> dict[str, tuple[str, ...]]:
        if not isinstance(node, dict):
            which = "kept" if key == "only" else "left out"
            self.wrong(
                f'{key} is a table of columns with the values that are {which}, like {{Kind = ["Beam"]}}', *path, key
            )
            return {}
        return {
            str(name): tuple(map(str, values if isinstance(values, list) else [values]))
            for name, values in node.items()
        }

    def pairs(self, node: Any, words: str, *path: str) -> Pairs:
        if not isinstance(node, dict):
            self.wrong(f"{path[-1]} is a table of {words}", *path)
            return ()
        return tuple((str(name), as_text(value)) for name, value in node.items())


def as_text(value: Any) -> str:
    if isinstance(value, bool):
        return str(int(value))
    return str(value)
