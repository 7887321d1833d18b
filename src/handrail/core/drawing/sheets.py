"""Details on sheets of paper: each at the largest of the usual scales at which it takes no more than its share, in the
order that they come, row by row. Everything on a sheet is in mm of paper from its lower left corner."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

from handrail.core.drawing.scene import Laid, Point, View
from handrail.core.errors import InputError

LETTER, SMALL, HEAD = 2.2, 1.9, 3.4  # mm: lettering of views, of lists, and a mark's
LINE = 1.55  # of a letter's height, from line to line
MARGIN, GAP, BLOCK = 8.0, 7.0, 26.0  # mm: around a sheet, between what stands on it, the height of its title block
TITLE = 5.0  # mm for a view's name under it
WIDE = 0.5  # of a letter of a list against its height
FIELD = (200.0, 125.0)  # mm: what a detail takes where it can
SMALLEST = 16  # a scale of 1 to so much is taken before more of the sheet is
LONGEST = 58  # letters of a line of a list


@dataclass(frozen=True)
class Format:
    """A size of paper, mm, the long side across."""

    name: str
    width: float
    height: float


FORMATS = {
    f.name: f
    for f in (
        Format("A4", 297.0, 210.0),
        Format("A3", 420.0, 297.0),
        Format("A2", 594.0, 420.0),
        Format("A1", 841.0, 594.0),
        Format("ANSI-A", 279.4, 215.9),
        Format("ANSI-B", 431.8, 279.4),
        Format("ANSI-C", 558.8, 431.8),
        Format("ANSI-D", 863.6, 558.8),
    )
}
SCALES = {
    "us": {
        1: "full size",
        2: '6" = 1\'-0"',
        4: '3" = 1\'-0"',
        8: '1-1/2" = 1\'-0"',
        12: '1" = 1\'-0"',
        16: '3/4" = 1\'-0"',
        24: '1/2" = 1\'-0"',
        48: '1/4" = 1\'-0"',
    },
    "si": {n: f"1 : {n}" for n in (1, 2, 5, 10, 15, 20, 25, 50)},
}


def paper(name: str) -> Format:
    """A format by its name, however it is written. Raises InputError with those that there are."""
    wanted = name.strip().upper().replace(" ", "-")
    if wanted not in FORMATS:
        raise InputError(f"'{name[:20]}' is no sheet; there are {', '.join(FORMATS)}")
    return FORMATS[wanted]


@dataclass(frozen=True)
class Detail:
    """One mark: its views, what is said under its name, and what it is made of."""

    name: str
    title: str
    views: tuple[Laid, ...]
    words: tuple[str, ...] = ()
    parts: tuple[str, ...] = ()
    warning: str = ""  # what is wrong with it, large beside its name


@dataclass(frozen=True)
class Placed:
    """A view whose (0, 0) is `at` of the sheet; its name stands under it."""

    view: View
    at: Point
    scale: float
    under: Point


@dataclass(frozen=True)
class Lines:
    """Lettering line under line, from its first line's foot."""

    at: Point
    lines: tuple[str, ...]
    letter: float


@dataclass(frozen=True)
class Block:
    """A detail as it stands on a sheet: the box that it takes, lower left first."""

    name: str
    warning: str
    scale: str
    box: tuple[float, float, float, float]
    views: tuple[Placed, ...]
    lettered: tuple[Lines, ...]


@dataclass
class Sheet:
    """One of them, numbered from 1."""

    format: Format
    number: int
    blocks: list[Block] = field(default_factory=list)


@dataclass(frozen=True)
class Fitted:
    """A detail at a scale, its box from (0, 0)."""

    name: str
    warning: str
    scale: float
    views: tuple[Placed, ...]
    lettered: tuple[Lines, ...]
    width: float
    height: float


def _room(format_: Format) -> tuple[float, float]:
    return format_.width - 2 * MARGIN - 2 * GAP, format_.height - 2 * MARGIN - BLOCK - 2 * GAP


def packed(details: Iterable[Fitted], format_: Format, system: str) -> Iterator[Sheet]:
    """Sheets one after the other: no more than one of them is held. Details stand from the left, rows from the top."""
    room = _room(format_)
    left, top = MARGIN + GAP, format_.height - MARGIN - GAP
    sheet = Sheet(format_, 1)
    x, y, deep = 0.0, 0.0, 0.0  # from the upper left corner of the room
    for own in details:
        if x and x + own.width > room[0]:
            x, y, deep = 0.0, y + deep + GAP, 0.0
        if sheet.blocks and y + own.height > room[1]:
            yield sheet
            sheet = Sheet(format_, sheet.number + 1)
            x, y, deep = 0.0, 0.0, 0.0
        sheet.blocks.append(_put(own, left + x, top - y - own.height, system))
        x, deep = x + own.width + GAP, max(deep, own.height)
    if sheet.blocks:
        yield sheet


def fitted(detail: Detail, format_: Format, system: str) -> Fitted:
    """At the largest scale at which a field of the sheet holds it, else two of them, four, or all: as long as that is
    no small scale. What is too large for a sheet at any stands at the smallest."""
    room = _room(format_)
    wide, high = min(0.5 * (room[0] - GAP), FIELD[0]), min(0.5 * (room[1] - GAP), FIELD[1])
    wider, higher = 2 * wide + GAP, 2 * high + GAP
    at: dict[tuple[float, float], Fitted] = {}
    for width, height in ((wide, high), (wide, higher), (wider, high), (wider, higher), room):
        for scale in SCALES[system]:
            if (width, height) != room and scale > SMALLEST:
                break
            own = at.get((width, scale)) or at.setdefault((width, scale), _drawn(detail, float(scale), width))
            if own.width <= width + 1e-6 and own.height <= height + 1e-6:
                return own
    return at[room[0], max(SCALES[system])]


def scaled(laid: Laid, wide: float, high: float, system: str) -> tuple[View, float]:
    """A view at the largest of the usual scales at which it takes no more than so many mm of paper, and the scale; at
    the smallest where it is too large at any."""
    for scale in SCALES[system]:
        view = laid.draw(LETTER * scale)
        x0, y0, x1, y1 = view.extent()
        if (x1 - x0) / scale <= wide and (y1 - y0) / scale <= high:
            break
    return view, float(scale)


def _drawn(detail: Detail, scale: float, width: float) -> Fitted:
    """Its name, its views from the left in as many rows as they need, its lists beside or under them."""
    views = [(laid, view, view.extent()) for laid, view in ((v, v.draw(LETTER * scale)) for v in detail.views)]
    lines = [detail.title, *detail.words]
    head = HEAD * LINE + len(lines) * SMALL * LINE + 2.0
    placed: list[Placed] = []
    x, y, deep, widest = 0.0, 0.0, 0.0, _long(lines, SMALL)
    for _, view, (x0, y0, x1, y1) in views:
        wide, high = (x1 - x0) / scale, (y1 - y0) / scale + TITLE
        if x and x + wide > width:
            x, y, deep = 0.0, y + deep + GAP, 0.0
        at = x - x0 / scale, -(y + high - TITLE) - y0 / scale
        placed.append(Placed(view, at, scale, (x + wide / 2, -(y + high) + 1.2)))
        widest, deep, x = max(widest, x + wide), max(deep, high), x + wide + GAP
    parts = tuple(part for line in detail.parts for part in _broken(line))
    listed = len(parts) * SMALL * LINE + 1.0 if parts else 0.0
    beside = bool(parts) and x + _long(parts, SMALL) <= width and listed <= deep
    list_at = (x, -y - SMALL) if beside else (0.0, -(y + deep) - SMALL * LINE)
    widest = max(widest, list_at[0] + _long(parts, SMALL))
    height = head + y + deep + (0.0 if beside else listed)
    lettered = [Lines((0.0, -HEAD), (detail.name,), HEAD), Lines((0.0, -HEAD * LINE - SMALL), tuple(lines), SMALL)]
    down = -head
    moved = tuple(Placed(p.view, (p.at[0], p.at[1] + down), scale, (p.under[0], p.under[1] + down)) for p in placed)
    lettered.append(Lines((list_at[0], list_at[1] + down), parts, SMALL))
    return Fitted(detail.name, detail.warning, scale, moved, tuple(lettered), widest, height)


def _put(own: Fitted, x: float, y: float, system: str) -> Block:
    """On its sheet, its lower left corner at (x, y)."""
    top = y + own.height
    views = tuple(
        Placed(p.view, (x + p.at[0], top + p.at[1]), p.scale, (x + p.under[0], top + p.under[1])) for p in own.views
    )
    lettered = tuple(Lines((x + one.at[0], top + one.at[1]), one.lines, one.letter) for one in own.lettered)
    scale = SCALES[system][int(own.scale)]
    return Block(own.name, own.warning, scale, (x, y, x + own.width, top), views, lettered)


def _long(lines: Iterable[str], letter: float) -> float:
    return max((WIDE * letter * len(line) for line in lines), default=0.0)


def _broken(line: str) -> Iterator[str]:
    """A line in pieces that are short enough, at its spaces."""
    words, own = line.split(" "), ""
    for word in words:
        if own and len(own) + 1 + len(word) > LONGEST:
            yield own
            own = f"  {word}"
        else:
            own = f"{own} {word}" if own else word
    yield own


@dataclass(frozen=True)
class Title:
    """What the block of every sheet says: the firm's own lines, the job, what this is, and (name, text) cells; with its
    `emblem`, a PNG or SVG as `kind` says."""

    firm: tuple[str, ...]
    job: str
    of: str
    cells: tuple[tuple[str, str], ...]
    emblem: bytes = b""
    kind: str = ""
