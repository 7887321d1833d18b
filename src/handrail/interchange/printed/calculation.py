"""Calculations on paper: a cover, contents, and of each connection or mark what it is, what acts, every check, and the
lines that led to them. Page after page, no more than one connection is held."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import zip_longest
from typing import BinaryIO

from reportlab.graphics.shapes import Drawing, String
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import CondPageBreak, Flowable, PageBreak, Paragraph, Spacer

from handrail.core.drawing.scene import Laid
from handrail.core.drawing.sheets import SCALES, scaled
from handrail.core.errors import InputError
from handrail.core.quantities.lines import Line
from handrail.interchange.drawings.paper import MM, Paper
from handrail.interchange.printed.mathematics import Run, line_runs
from handrail.interchange.printed.page import (
    BODY,
    BRASS,
    FAIL,
    FAINT,
    H2,
    NUMBER,
    PASS,
    SMALL,
    TITLE,
    Head,
    Story,
    beside,
    pairs,
    said,
    table,
    write,
)
from handrail.interchange.printed.worked import Worked
from handrail.interchange.typeface import BOLD, FONT

SECTIONS = (
    "drawing", "picture", "places", "sizes", "cases", "actions", "checks", "combinations", "lines", "detailing",
    "decisions",
)  # fmt: skip
LINES = ("governing", "all", "none")
LOUD = ParagraphStyle("loud", BODY, fontName=BOLD, fontSize=13, leading=17, textColor=FAIL)
GOOD, BAD = ParagraphStyle("good", BODY, textColor=PASS), ParagraphStyle("bad", BODY, textColor=FAIL)
NEAR = ParagraphStyle("near", NUMBER, fontName=BOLD, textColor=BRASS)  # above the target
OVER = ParagraphStyle("over", NUMBER, fontName=BOLD, textColor=FAIL)
SHARES = ((1.0,), (0.55, 0.45), (0.48, 0.3, 0.22), (0.56, 0.44))  # of the page's width, for one view, two, three, more
HIGH = 105.0  # mm that a view may take
PLACES = 60  # that one names


@dataclass(frozen=True)
class Check:
    """One limit state: numbers as text with their unit, `use` of it, whether it is enough, and its worked lines."""

    name: str
    part: str
    clause: str
    action: str
    demand: str
    available: str
    use: float
    verdict: str
    lines: tuple[Line, ...]


@dataclass(frozen=True)
class Calculation:
    """Of one connection, or of a mark at the place that is used most."""

    name: str
    title: str
    about: Sequence[tuple[str, str]]
    verdict: str
    passes: bool
    warning: str
    views: Sequence[Laid]
    picture: Laid | None
    places: Sequence[Sequence[str]]
    sizes: Sequence[Sequence[str]]
    cases: tuple[Sequence[str], Sequence[Sequence[str]]]
    actions: tuple[Sequence[str], Sequence[Sequence[str]]]
    checks: Sequence[Check]
    combinations: tuple[Sequence[str], Sequence[tuple[str, Sequence[float]]]]  # names of checks; what each uses
    target: float
    detailing: Sequence[Sequence[str]]
    notes: Sequence[str]
    decisions: Sequence[Sequence[str]]


@dataclass(frozen=True)
class Cover:
    """What the first pages say: `of` what, `rests` on what, how all of it stands, who answers for it, and in what order
    what follows stands: (name, what it is, verdict)."""

    of: str
    rests: Sequence[tuple[str, str]]
    summary: Sequence[str]
    warnings: Sequence[str]
    signed: Sequence[tuple[str, str]]
    contents: Sequence[tuple[str, str, str]]
    combinations: Sequence[tuple[str, str]]  # what each is made of


def write_calculations(
    cover: Cover,
    each: Iterable[Calculation],
    head: Head,
    stream: BinaryIO,
    sections: Sequence[str] = SECTIONS,
    lines: str = "governing",
) -> None:
    """All of them as PDF; `sections` that are wanted by name, and of which checks the worked `lines`. Raises
    InputError."""
    refuse_unknown(sections, lines)
    write(Story(_story(cover, each, head, sections, lines)), head, stream)


def refuse_unknown(sections: Sequence[str], lines: str) -> None:
    """Raises InputError where one of the sections is none, or nobody knows whose lines these are."""
    if wrong := [name for name in sections if name not in SECTIONS]:
        raise InputError(f"'{wrong[0]}' is no section; there are {', '.join(SECTIONS)}")
    if lines not in LINES:
        raise InputError(f"lines are of {', '.join(LINES)}, not of '{lines}'")


def _story(
    cover: Cover, each: Iterable[Calculation], head: Head, sections: Sequence[str], lines: str
) -> Iterator[Flowable]:
    yield from _cover(cover, head)
    for own in each:
        yield PageBreak()
        yield from _calculation(own, head, frozenset(sections), lines)


def _cover(cover: Cover, head: Head) -> Iterator[Flowable]:
    wide, _ = head.room
    for k, line in enumerate(head.firm):
        yield said(line, TITLE if k == 0 else BODY)
    yield Spacer(0, 40)
    yield said(head.job, TITLE)
    yield said(cover.of, ParagraphStyle("of", TITLE, fontSize=12, textColor=BRASS))
    yield Spacer(0, 10)
    yield from (said(words, LOUD) for words in cover.warnings)
    yield from (said(words, BODY) for words in cover.summary)
    yield from heading("What it rests on")
    yield pairs(cover.rests, (130, wide - 130))
    yield from heading("Who answers for it")
    yield pairs(cover.signed, (130, wide - 130))
    if cover.combinations:
        yield from heading("Combinations")
        half = (len(cover.combinations) + 1) // 2
        sides = zip_longest(cover.combinations[:half], cover.combinations[half:], fillvalue=("", ""))
        terms = [(*one, *other) for one, other in sides]
        yield table(("name", "is", "name", "is"), terms, (0.24 * wide, 0.26 * wide) * 2)
    if len(cover.contents) > 1:
        yield PageBreak()
        yield said("Contents", TITLE)
        rows = [[_link(name), title, verdict, _Page(name)] for name, title, verdict in cover.contents]
        yield table(("", "", "", "page"), rows, (110, wide - 330, 180, 40))


def _link(name: str) -> Paragraph:
    return Paragraph(f'<a href="#{_key(name)}">{said(name).text}</a>', BODY)


def _key(name: str) -> str:
    return "at-" + "".join(c if c.isalnum() else f"-{ord(c):x}-" for c in name)


class _Page(Flowable):  # type: ignore[misc]
    """The number of the page on which something stands, which is known later."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.name, self.width, self.height = name, 30, 9

    def draw(self) -> None:
        """A form that is filled where that page is drawn."""
        self.canv.doForm(f"page-{_key(self.name)}")


class _Mark(Flowable):  # type: ignore[misc]
    """A bookmark, and the page's number for the contents."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.name, self.width, self.height = name, 0, 0

    def draw(self) -> None:
        """Where it stands."""
        canvas, key = self.canv, _key(self.name)
        canvas.bookmarkPage(key)
        canvas.addOutlineEntry(self.name, key)
        canvas.numbered[f"page-{key}"] = canvas.getPageNumber()


def heading(words: str) -> Iterator[Flowable]:
    """Of what follows, never at the foot of a page alone."""
    yield CondPageBreak(64)
    yield said(words, H2)


def _calculation(own: Calculation, head: Head, sections: frozenset[str], lines: str) -> Iterator[Flowable]:
    wide, _ = head.room
    yield _Mark(own.name)
    yield said(own.name, TITLE)
    if own.warning:
        yield said(own.warning, LOUD)
    yield said(own.verdict, GOOD if own.passes else BAD)
    yield pairs(own.about, (110, wide - 110))
    shown = own.views if "drawing" in sections else ()
    if shown or ("picture" in sections and own.picture):
        yield Spacer(0, 6)
        yield from views(replace(own, views=shown), head, picture="picture" in sections)
    if "places" in sections and len(own.places) > 1:
        yield from heading("Places")
        rows = own.places[:PLACES]
        yield table(("connection", "place", "verdict", "utilisation", "by"), rows,
                    (70, 110, 90, 60, wide - 330), frozenset({3}))  # fmt: skip
        if len(own.places) > PLACES:
            yield said(f"and {len(own.places) - PLACES} more", SMALL)
    if "sizes" in sections:
        yield from heading("Sizes and practice")
        half = (len(own.sizes) + 1) // 2
        rows = [
            (*one, *other) for one, other in zip_longest(own.sizes[:half], own.sizes[half:], fillvalue=("", "", ""))
        ]
        each = wide / 2
        yield table(("size", "is", "from", "size", "is", "from"), rows, (0.42 * each, 0.26 * each, 0.32 * each) * 2)
    if "cases" in sections:
        yield from heading("Actions by case, unfactored")
        yield _acting(own.cases, wide)
    if "actions" in sections:
        yield from heading("Actions by combination")
        yield _acting(own.actions, wide)
    if "checks" in sections:
        yield from heading("Checks")
        yield checks_table(own.checks, own.target, wide)
    if "combinations" in sections and len(own.combinations[1]) > 1:
        yield from _combinations(own, wide)
    if "lines" in sections and lines != "none":
        yield from _lines(own, head.system, lines)
    if "detailing" in sections and own.detailing:
        yield from heading("Detailing")
        yield table(("rule", "given", "limit", ""), own.detailing, (wide - 260, 90, 110, 60))
    if own.notes:
        yield from heading("Notes")
        yield from (said(f"– {note}", BODY) for note in own.notes)
    if "decisions" in sections and own.decisions:
        yield from heading("Decisions against the rules")
        yield table(("connection", "what", "state", "by", "why"), own.decisions, (60, 130, 60, 100, wide - 350))


def views(own: Calculation, head: Head, picture: bool) -> Iterator[Flowable]:
    """Beside each other, the first one largest; each as large as its column allows. The picture in space is last."""
    wide, _ = head.room
    every = [*own.views, *([own.picture] if picture and own.picture else [])]
    shares = SHARES[min(len(every), len(SHARES)) - 1]  # of more than three two and two
    for k in range(0, len(every), len(shares)):
        row = zip(every[k : k + len(shares)], shares, strict=False)
        yield beside(*(([view_of(laid, share * wide - 6, head.system)], share * wide) for laid, share in row))


@lru_cache(maxsize=64)  # of those that are alike once
def view_of(laid: Laid, wide: float, system: str, high: float = HIGH) -> Drawing:
    """A view at one of the usual scales: `wide` points, no more than `high` mm."""
    view, scale = scaled(laid, wide / MM, high, system)
    x0, y0, _, y1 = view.extent()
    made = Drawing(wide, (y1 - y0) / scale * MM + 16)
    made.add(Paper((-x0 / scale, -y0 / scale + 4.5), scale).group(view))
    words = f"{view.title}, {SCALES[system][int(scale)]}"
    made.add(String(0, 2, words, fontName=FONT, fontSize=6.5, fillColor=FAINT))
    return made


def checks_table(checks: Sequence[Check], target: float, wide: float) -> Flowable:
    """A row a check; what is over the target is marked."""
    rows: list[list[str | Flowable]] = []
    for check in checks:
        use = _used(check.use, target)
        rows.append([check.name, check.clause, check.action, check.demand, check.available, use, check.verdict])
    return table(
        ("check", "clause", "in", "demand", "available", "used", "verdict"),
        rows,
        (wide - 412, 70, 124, 58, 58, 32, 70),
        frozenset({3, 4, 5}),
    )


def _used(use: float, target: float) -> str | Flowable:
    """A utilisation: marked over the target, and over 1; one that is not known as a dash."""
    if math.isnan(use):
        return "–"
    text = f"{use:.2f}"
    return said(text, OVER if use > 1 else NEAR) if use > min(target, 1.0) else text


def _acting(of: tuple[Sequence[str], Sequence[Sequence[str]]], wide: float) -> Flowable:
    names, rows = of
    each = (wide - 150) / max(len(names) - 1, 1)
    return table(names, rows, (150, *[each] * (len(names) - 1)), frozenset(range(1, len(names))))


def _combinations(own: Calculation, wide: float) -> Iterator[Flowable]:
    """What each combination uses of the checks that are used most; above the target marked."""
    names, rows = own.combinations
    yield from heading("Checks against combinations")

    body = [[name, *(_used(use, own.target) for use in uses)] for name, uses in rows]
    each = (wide - 130) / max(len(names), 1)
    yield table(("combination", *names), body, (130, *[each] * len(names)), frozenset(range(1, len(names) + 1)))


def _lines(own: Calculation, system: str, wanted: str) -> Iterator[Flowable]:
    shown = [check for check in own.checks if check.lines]
    if wanted == "governing":
        shown = shown[:1]
    if not shown:
        return
    yield from heading("Worked lines" if wanted == "all" else "Worked lines of the check that governs")
    for check in shown:
        yield Spacer(0, 5)
        title = Run(f"{check.name} ({check.clause}) in {check.action}", "title")
        verdict = Run(f"{check.demand} of {check.available}: {check.use:.2f}, {check.verdict}")
        yield Worked([[title], *(line_runs(line, system) for line in check.lines), [verdict]])
