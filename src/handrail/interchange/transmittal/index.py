"""The page of a transmittal that any browser opens, with nothing that it needs from elsewhere."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

from jinja2 import Environment, FileSystemLoader, StrictUndefined, Template


@dataclass(frozen=True)
class Index:
    """What it says; `loud` what is wrong with what is sent, `changes` against when it was last sent."""

    firm: Sequence[str]
    name: str
    title: str
    to: str
    why: str
    made: str
    author: str
    model: str
    judged_by: str
    asked: str
    holds: str
    supersedes: str
    loud: Sequence[str]
    files: Sequence[Mapping[str, Any]]
    changes: Sequence[Mapping[str, Any]]
    unchanged: str
    rows: Sequence[Mapping[str, Any]]
    more: Sequence[str]  # what is said under changes, and under rows, where not all are shown


@lru_cache(maxsize=1)
def _template() -> Template:
    found = Environment(loader=FileSystemLoader(Path(__file__).parent), autoescape=True, undefined=StrictUndefined)
    return found.get_template("index.html.jinja")


def index_page(it: Index) -> bytes:
    """As HTML."""
    return _template().render(it=it).encode()
