"""Queries as a list on paper: a row each, then each with its picture."""

from __future__ import annotations

import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import BinaryIO

from reportlab.platypus import CondPageBreak, Flowable, Image, KeepTogether, Spacer

from handrail.interchange.printed.page import BODY, H2, SMALL, TITLE, Head, Story, pairs, said, table, write

HIGH = 150.0  # points that a picture takes


@dataclass(frozen=True)
class Row:
    """One query; `connections` is how many it concerns."""

    name: str
    title: str
    words: str
    state: str
    author: str
    made: str
    to: str
    due: str
    holds: bool
    of: str
    answer: str
    answered_by: str
    answered: str
    connections: int
    picture: bytes


def write_queries(rows: Sequence[Row], head: Head, stream: BinaryIO) -> None:
    """The list as PDF."""
    write(Story(_story(rows, head)), head, stream)


def _story(rows: Sequence[Row], head: Head) -> Iterator[Flowable]:
    wide, _ = head.room
    counts = ", ".join(f"{sum(r.state == s for r in rows)} {s}" for s in ("open", "answered", "closed"))
    yield said("Queries", TITLE)
    yield said(f"{len(rows)} in all: {counts}.", BODY)
    yield Spacer(0, 6)
    names = ("query", "asked", "of", "to", "asked on", "due", "state")
    body = [[r.name, r.title, r.of, r.to, r.made[:10], r.due, r.state + (", holds" if r.holds else "")] for r in rows]
    yield table(names, body, (36, wide - 376, 100, 70, 56, 54, 60))
    for r in rows:
        yield CondPageBreak(HIGH + 120)
        yield said(f"{r.name}: {r.title}", H2)
        about = [
            ("of", f"{r.of or 'nothing in the model'}; {r.connections} connection{'s' * (r.connections != 1)}"),
            ("asked", f"by {r.author} on {r.made[:10]}" + (f", to {r.to}" if r.to else "")),
            ("due", r.due),
            ("state", r.state + (", holds the release of what it is of" if r.holds and r.state == "open" else "")),
            ("answered", f"by {r.answered_by} on {r.answered[:10]}" if r.answer else ""),
        ]
        yield pairs([row for row in about if row[1]], (60, wide - 60))
        yield from (said(line, BODY) for line in r.words.splitlines() if line.strip())
        if r.answer:
            yield said("Answer", SMALL)
            yield from (said(line, BODY) for line in r.answer.splitlines() if line.strip())
        if r.picture:
            yield KeepTogether([Spacer(0, 4), Image(io.BytesIO(r.picture), HIGH * 1.5, HIGH, hAlign="LEFT")])
