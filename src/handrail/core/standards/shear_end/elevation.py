"""The elevation of a shear end on the beam's web, lettered as a shop would: what is drawn of the connection is the
standard's own, where its sizes stand is the same for all. x from the support's face, y up from the beam's top of steel,
mm."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.drawing.lettering import Letter, spaced
from handrail.core.drawing.scene import Point, Shape, View
from handrail.core.joint.situation import Situation
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.cope import Cope
from handrail.core.solids.drawn import Seen
from handrail.core.standards.shear_end.drawing import rounded, support_left, turned
from handrail.core.standards.shear_end.layout import ShearEnd


@dataclass(frozen=True, kw_only=True)
class Fillet:
    """A weld's symbol: where it is, its size, what it is made with, the size that it shows."""

    at: Point
    size: str
    electrode: str
    part: str
    arrow_side: bool = False
    field: bool = False


FAR, CLEAR = 1e4, 10.0  # mm: beyond all that is drawn; beyond what is shown whole
MADE = ("edge_distance", "gauge", "beam_gauge", "plate_thickness")  # as the shop makes them, whatever the angle
Words = tuple[Point | None, str, str] | Fillet  # where from, text, part


@dataclass(kw_only=True)
class Drawn:
    """What a standard says of its views: it reaches as far as `width` from the face, between `top` below the top of
    steel and `depth` below that; its rows; each of `lengths` (from, to, parameter, side, words before it) under the
    beam, those of one list on one line; `words` (welds on the beam among them) from the right to the left; its weld on
    the support; `plan` what is named there (along the beam and across it, text, part); `section` how far from the face
    the view along the beam is cut."""

    grid: Grid
    width: float
    top: float
    depth: float
    lengths: list[list[tuple[float, float, str, str, str]]]
    words: list[Words]
    plan: tuple[Point, str, str]
    section: float
    weld: Fillet | None = None
    bolted: bool = True


def elevation(layout: ShearEnd, seen: Seen, it: Drawn, letter: Letter, unit: str, t: float) -> View:
    """Seen along the support, the beam's end cut off where its dimensions have room; letters `t` mm high."""
    view = View(f"Elevation{unit}", t)
    d = layout.situation.supported.section.d
    above, below = _reach(layout.situation)
    first, end = layout.of("first_bolt"), layout.of("first_bolt") - it.top
    cope_end = layout.approach.gap + max(
        layout.top_cope.length if layout.top_cope else 0.0, layout.bottom_cope.length if layout.bottom_cope else 0.0
    )
    within = 3.0 * t + max(view.width(letter(end)), view.width(letter(first - it.top)))
    right = max(it.width + 0.25 * d, it.width + within, cope_end + within - 0.6 * t)
    if layout.situation.framing == "beam_to_column_web":
        right = max(right, layout.approach.outstand + CLEAR)
    view.shapes = [shape.mirrored() for shape in seen.within((-right, -below, FAR, above))]
    for y in {-first, -first - it.grid.depth} if it.bolted else {-it.top, -it.top - it.depth}:
        view.line("bolts", (it.width + 0.35 * t, y), (right - 0.35 * t, y), style="centre")
    _heights(view, layout, it, letter, right)
    _lengths(view, layout, it, letter, rounded(layout.situation, letter, unit))
    _notes(view, layout, it, letter, cope_end)
    return view.mirrored()


def _reach(situation: Situation) -> tuple[float, float]:
    """How far above and below the beam's top of steel a column is shown; a girder whole."""
    d = situation.supported.section.d
    above, below = 0.1 * d + 30, 1.06 * d + 40
    if situation.framing != "beam_to_girder":
        return above, below
    top = situation.top_offset
    return max(above, top + CLEAR), max(below, situation.carrier.section.d - top + CLEAR)


def _heights(view: View, layout: ShearEnd, it: Drawn, letter: Letter, right: float) -> None:
    """Edges beside the connection; rows and the top of steel beyond the cut."""
    t, first = view.lettering, -layout.of("first_bolt")
    if not it.bolted:
        for y0, y1 in ((0.0, -it.top), (-it.top, -it.top - it.depth)):
            view.upright(
                (right, y0), (right, y1), right + 1.8 * t, letter(y0 - y1), "angle_length" if y0 else "first_bolt"
            )
        return
    last, x = first - it.grid.depth, max(it.width, layout.approach.gap)
    for y0, y1, cope in ((first, -it.top, layout.top_cope), (last, -it.top - it.depth, layout.bottom_cope)):
        near = (
            max(x + 1.6 * t, layout.approach.gap + cope.length + t) if cope else x + 1.6 * t
        )  # beside the cope's end, not on it
        away = max(abs(y1 - y0) / 2, 0.65 * t) * (1 if y1 > y0 else -1)
        view.upright((x, y1), (x, y0), near, letter(abs(y1 - y0)), "end_distance", y0 + away)
    column = right + 1.8 * t
    view.upright((right, 0.0), (right, first), column, letter(-first), "first_bolt")
    if it.grid.rows > 1:
        rows = spaced(letter, it.grid.rows, it.grid.pitch)
        view.upright((right, first), (right, last), column, rows, "pitch")


def _lengths(view: View, layout: ShearEnd, it: Drawn, letter: Letter, shop: Letter) -> None:
    """A line each below everything, so that none has to share its room; what no size says is what geometry makes it."""
    t, low = view.lettering, -layout.situation.supported.section.d
    y = lowest(view) - 1.4 * t
    for line in it.lengths:
        for x0, x1, name, side, words in line:
            own = letter if name in MADE else shop
            view.across((x0, low), (x1, low), y, f"{words}{own(abs(x1 - x0))}", name, side)
        y -= 1.5 * t


def _notes(view: View, layout: ShearEnd, it: Drawn, letter: Letter, cope_end: float) -> None:
    """Above everything from the right to the left, so that no leader crosses another; support and weld on the left."""
    situation, t, top, bottom = layout.situation, view.lettering, layout.top_cope, layout.bottom_cope
    gap, x = layout.approach.gap, max(it.width + 3 * t, cope_end + 2.5 * t)
    words: list[Words] = [
        ((x - 2 * t, 0.0), situation.supported.section.name, "beam"),
        ((gap + top.length, -top.depth), cope_words(top, letter), "cope_length"),
        *it.words,
        *((None, words, "beam") for words in turned(situation, layout.approach)),
    ]
    y = max(p[1] for s in view.shapes if isinstance(s, Shape) for p in s.points) + 0.6 * t
    for one in words:
        if isinstance(one, Fillet):
            y += 1.5 * t
            view.note(one.at, (x, y), one.electrode, one.part, "start", one.size, one.arrow_side, one.field)
            y += 2.4 * t
        elif one[1]:
            view.note(one[0], (x, y), one[1], one[2])
            y += 1.6 * t
    if bottom:
        low = -situation.supported.section.d
        corner = (gap + bottom.length, low + bottom.depth)
        view.note(
            corner, (max(x, it.width + 7 * t), low - 20 - 1.5 * t), cope_words(bottom, letter), "bottom_cope_length"
        )
    _on_the_left(view, situation, it, t)


def _on_the_left(view: View, situation: Situation, it: Drawn, t: float) -> None:
    left = min(p[0] for s in view.shapes if isinstance(s, Shape) and s.part == "support" for p in s.points) - 1.2 * t
    far, y = support_left(situation)
    if it.weld:
        w = it.weld
        view.note(w.at, (left, w.at[1] - 0.36 * t), w.electrode, w.part, "end", w.size, w.arrow_side, w.field)
        y = min(y, w.at[1] - 4.5 * t)
    view.note((far, y + 0.36 * t), (left, y), situation.carrier.section.name, "support", "end")


def cope_words(cope: Cope, letter: Letter) -> str:
    """A cope's length by its depth; empty where there is none."""
    return f"cope {letter(cope.length)} x {letter(cope.depth)}" if cope else ""


def lowest(view: View) -> float:
    """The lowest line that is drawn."""
    return min(p[1] for s in view.shapes if isinstance(s, Shape) for p in s.points)
