"""A connection on one page, to be sent to a person: what it is, how it stands, its drawing, sizes, the checks that ask
most of it, and where it is to be looked at."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import BinaryIO
from xml.sax.saxutils import escape, quoteattr

from reportlab.platypus import Flowable, KeepInFrame, Paragraph, Spacer

from handrail.interchange.printed.calculation import BAD, GOOD, LOUD, Calculation, checks_table, view_of
from handrail.interchange.printed.page import BODY, CELL, H2, SMALL, TITLE, Head, beside, pairs, said, table, write

USUAL = ("default", "practice")  # where sizes come from that say little of this one
NOTHING = ("none", "no", "0", "0 in", "0 mm")
CHECKS, NOTES, SIZES, ACTIONS = 8, 3, 24, 8  # that a page has room for
MAIN, ROW = (0.6, 0.4), 3  # shares of the first view and of the picture; how many others stand beside each other
TALL, LOW = 70.0, 44.0  # mm that these take


def write_page(own: Calculation, made_of: Sequence[str], head: Head, link: str, stream: BinaryIO) -> None:
    """The page as PDF: `made_of` is a line for each kind of piece, `link` empty where there is no address to be
    given."""
    wide, high = head.room
    story = list(_page(own, made_of, head, link))
    write([KeepInFrame(wide, high - 12, story, mode="shrink", hAlign="LEFT")], head, stream)


def _page(own: Calculation, made_of: Sequence[str], head: Head, link: str) -> Iterator[Flowable]:
    wide, _ = head.room
    yield said(f"{own.name}: {own.title}", TITLE)
    if own.warning:
        yield said(own.warning, LOUD)
    yield said(own.verdict, GOOD if own.passes else BAD)
    yield pairs([row for row in own.about if row[0] != "standard"], (80, wide - 80))
    yield Spacer(0, 6)
    yield from _drawn(own, head)
    half = wide / 2
    sizes = [f"{label}: {value}" for label, value, source in own.sizes if _tells(value, source)]
    yield beside(
        ([said("Made of", H2), *(said(line, CELL) for line in made_of)], half),
        ([said("Sizes", H2), said(", ".join(sizes[:SIZES]) + (" ..." if len(sizes) > SIZES else ""), CELL)], half),
    )
    if own.actions[1] and not own.cases[1]:  # with no building behind it
        rows = own.actions[1][:ACTIONS]
        yield said(
            "Actions" + (f", {len(rows)} of {len(own.actions[1])}" if len(rows) < len(own.actions[1]) else ""), H2
        )
        names = own.actions[0]
        each = (wide - 150) / (len(names) - 1)
        yield table(names, rows, (150, *[each] * (len(names) - 1)), frozenset(range(1, len(names))))
    if own.checks:
        more = len(own.checks) - CHECKS
        yield said("Checks that ask most of it" if more > 0 else "Checks", H2)
        yield checks_table(own.checks[:CHECKS], own.target, wide)
        if more > 0:
            yield said(f"and {more} more, used less: the calculation has all of them", SMALL)
    broken = [rule for rule in own.detailing if rule[3] != "kept"]
    if broken:
        yield said("Detailing rules that are broken", H2)
        yield table(("rule", "given", "limit", ""), broken, (wide - 260, 90, 110, 60))
    yield from (said(f"– {note}", CELL) for note in own.notes[:NOTES])
    if len(own.notes) > NOTES:
        yield said(f"and {len(own.notes) - NOTES} more notes", SMALL)
    if link:
        yield Spacer(0, 5)
        yield Paragraph(f"Looked at under <link href={quoteattr(link)}>{escape(link)}</link>", BODY)


def _drawn(own: Calculation, head: Head) -> Iterator[Flowable]:
    """The first view that a shop needs and the picture in space, the others under them."""
    wide, _ = head.room
    shop = [view for view in own.views if view.shop]
    main = [
        (view, share) for view, share in zip((*shop[:1], own.picture), MAIN[-1 - len(shop[:1]) :], strict=True) if view
    ]
    others = [(view, 1 / min(len(shop) - 1, ROW)) for view in shop[1:]]
    for row, high in ((main, TALL), *((others[k : k + ROW], LOW) for k in range(0, len(others), ROW))):
        if row:
            yield beside(*(([view_of(v, share * wide - 6, head.system, high)], share * wide) for v, share in row))


def _tells(value: str, source: str) -> bool:
    """Whether a size says something of this connection."""
    return value not in NOTHING and not source.startswith(USUAL)
