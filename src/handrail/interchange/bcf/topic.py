"""A query as other programs have it: plain data."""

from __future__ import annotations

from dataclasses import dataclass

VERSIONS = ("2.1", "3.0")
STATES = {"open": "Open", "answered": "Answered", "closed": "Closed"}
TYPE = "Request"
Place = tuple[float, float, float]


@dataclass(frozen=True)
class Comment:
    """What somebody said of it."""

    guid: str
    author: str
    made: str
    words: str


@dataclass(frozen=True)
class Look:
    """From where it is looked at, m: the `eye`, the `way` that it looks, what is `up`; which things are picked, by the
    numbers that IFC files have of them; a `picture` as PNG."""

    guid: str
    eye: Place
    way: Place
    up: Place
    picked: tuple[str, ...]
    picture: bytes = b""


@dataclass(frozen=True)
class Topic:
    """One query. `labels` say what it is about; `made` and comments' times are ISO, UTC."""

    guid: str
    title: str
    words: str
    state: str
    author: str
    made: str
    due: str
    to: str
    labels: tuple[str, ...]
    comments: tuple[Comment, ...]
    look: Look | None
    index: int = 0
