"""The column splice drawn: elevation on a flange, elevation on the web, a section."""

from __future__ import annotations

from functools import partial

from handrail.core.drawing.lettering import Letter, lettering, shopwise, spaced
from handrail.core.drawing.scene import Laid, View
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.solids.axes import Axes, X, Y, Z
from handrail.core.solids.drawn import Seen
from handrail.core.solids.pieces import Solids
from handrail.core.standards.column_splice.layout import SAME, Layout
from handrail.core.standards.sizes import Sizes
from handrail.core.standards.spliced import on_flanges

LARGE = (54.0, 43.0)  # the sheet, in heights of a letter
FAR = 1e4  # mm, beyond all that is drawn


def draw(situation: Situation, sizes: Sizes, solids: Solids, system: str) -> list[Laid]:
    """y up from the joint, x from the columns' middle, mm; the web from the side where a single plate stands.

    Lettered in inches, or in mm where `system` is si (then the titles say so).
    """
    layout = Layout(situation, sizes)
    letter, unit = lettering(system)
    on_flange, on_web = Seen(on_flanges(solids), Axes(x=Y, y=Z)), Seen(solids, Axes(x=X, y=Z))
    return [
        Laid(partial(_on_flange, layout, on_flange, letter, unit), *LARGE),
        Laid(partial(_on_web, layout, on_web, letter, unit), *LARGE),
    ]


def _half(layout: Layout) -> float:
    """From the joint to the end of the longest plate."""
    side = layout.flange(layout.pieces[0])
    flange = side.half_gap + side.beam_edge + side.length + side.end if layout.plated else 3 * INCH
    web = layout.of("ends_gap") / 2 + layout.of("beam_edge_distance") + layout.grid.width + layout.of("edge_distance")
    return max(flange, web if layout.webbed else 0.0)


def _on_flange(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    """Looking at a flange."""
    far = _half(layout) + 3 * INCH
    view = View(f"Elevation on a flange{unit}", t, seen.within((-FAR, -far, FAR, far)))
    upper, lower = (p.section for p in layout.pieces)
    side = layout.flange(layout.pieces[0])
    wide = max(upper.bf, lower.bf) / 2
    if layout.plated:
        p = layout.flange_plates
        half = side.half_gap + side.beam_edge + side.length + side.end
        ys = [side.half_gap + side.beam_edge + k * side.pitch for k in range(side.rows)]
        x = wide + 1.8 * t
        if side.rows > 1:
            text = spaced(letter, side.rows, side.pitch)
            view.upright((side.gage / 2, ys[-1]), (side.gage / 2, ys[0]), x, text, "flange_pitch")
        view.upright(
            (side.gage / 2, ys[0]),
            (wide, side.half_gap),
            x,
            letter(side.beam_edge),
            "beam_edge_distance",
            side.half_gap + 0.3 * t,
        )
        view.upright(
            (p.width / 2, half), (side.gage / 2, ys[-1]), x, letter(side.end), "flange_end_distance", half + 0.7 * t
        )
        low = -far - 1.8 * t
        view.across((-side.gage / 2, -ys[-1]), (side.gage / 2, -ys[-1]), low, letter(side.gage), "flange_gage")
        view.across((-p.width / 2, -half), (p.width / 2, -half), low - 1.6 * t, letter(p.width), "flange_plate_width")
    _names(view, layout, wide, far)
    _words(view, layout, letter, far)
    return view


def _names(view: View, layout: Layout, wide: float, far: float) -> None:
    """Of both columns, on the left."""
    t, (upper, lower) = view.lettering, (p.section for p in layout.pieces)
    left = -wide - 1.5 * t
    for s, way in ((upper, 1), (lower, -1)):
        view.note(
            (-s.bf / 2 if "flange" in view.title else -s.d / 2, way * (far - 0.6 * t)),
            (left, way * (far - 0.6 * t) - 0.36 * t),
            s.name,
            "column",
            "end",
        )


def _words(view: View, layout: Layout, letter: Letter, far: float) -> None:
    """Above everything."""
    t, side = view.lettering, layout.flange(layout.pieces[0])
    ends = "ends milled to bear" if layout.milled else f"gap {letter(layout.of('ends_gap'))}"
    if layout.plated:
        half = side.half_gap + side.beam_edge + side.length + side.end
        p = layout.flange_plates
        words = [
            ends,
            f"({side.n}) {layout.choice('flange_bolt')} each column, each flange",
            f"(2) PL {letter(p.t)} x {letter(p.width)} x {letter(2 * half)} {layout.choice('plate_grade')}",
        ]
        if layout.filler > SAME:
            words.append(f"fillers {letter(layout.filler)}, {layout.choice('fillers')}")
    else:
        words = [ends, f"flanges PJP, throat {letter(layout.of('groove_throat'))}, {layout.choice('electrode')}"]
    wide = max(p.section.bf for p in layout.pieces) / 2
    for k, text in enumerate(words):
        view.note(None, (-wide, far + (1.2 + 1.5 * k) * t), text, "flange_plate")


def _on_web(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    """Looking at the web, the flanges at both sides."""
    far = _half(layout) + 3 * INCH
    view = View(f"Elevation on the web{unit}", t, seen.within((-FAR, -far, FAR, far)))
    upper, lower = (p.section for p in layout.pieces)
    deep = max(upper.d, lower.d) / 2
    low = -far - 1.8 * t
    if layout.webbed:
        _web_words(view, layout, letter, deep + 2 * INCH)
        low = _web_sizes(view, layout, letter, deep, far)
    _names(view, layout, deep + (layout.flange_plates.t if layout.plated else 0.0), far)
    wide = lower.d / 2 + (layout.flange_plates.t if layout.plated else 0.0)
    view.across((-lower.d / 2, -far), (lower.d / 2, -far), low, shopwise(letter, unit)(lower.d))
    view.across((-upper.d / 2, far), (upper.d / 2, far), far + 1.4 * t, shopwise(letter, unit)(upper.d))
    if layout.plated:
        view.note(
            (wide, -0.5 * _half(layout)),
            (wide + 2 * t, -0.5 * _half(layout) - 0.36 * t),
            f"PL {letter(layout.flange_plates.t)}",
            "flange_plate_thickness",
        )
    return view


def _web_words(view: View, layout: Layout, letter: Letter, right: float) -> None:
    """The sizes of the plate on the web, beyond the flanges."""
    t, grid, a = view.lettering, layout.grid, layout.of("ends_gap") / 2 + layout.of("beam_edge_distance")
    half, wide = a + grid.width + layout.of("edge_distance"), layout.of("plate_depth") / 2
    plates = "(2) " if layout.choice("web_plates") == "both" else ""
    y = max(0.62 * half + 2.2 * t, half + 0.5 * t)
    view.note(
        (wide, 0.8 * half),
        (right + t, y),
        f"{plates}PL {letter(layout.of('plate_thickness'))} x {letter(2 * wide)} x {letter(2 * half)}",
        "plate",
    )
    view.note(None, (right + t, y - 1.5 * t), f"({grid.n}) {layout.choice('bolt')} each column", "bolts")


def _web_sizes(view: View, layout: Layout, letter: Letter, deep: float, far: float) -> float:
    """The web's bolts and plate: heights chained left of the flanges, widths below all; where the next is."""
    t, grid, gap, edge = view.lettering, layout.grid, layout.of("ends_gap") / 2, layout.of("edge_distance")
    first, half = gap + layout.of("beam_edge_distance"), layout.of("plate_depth") / 2
    last = first + grid.width
    heights = [
        (gap, first, letter(first - gap), "beam_edge_distance", (gap + first) / 2),
        (first, last, spaced(letter, grid.columns, grid.gauge), "gauge", (first + last) / 2),
        (last, last + edge, letter(edge), "edge_distance", last + edge + 0.5 * t),
    ]
    x = -deep - 2.5 * INCH - max(view.width(text) for *_, text, _, _ in heights)
    for y0, y1, text, name, middle in heights:
        if y1 > y0:
            view.upright((-half, y0), (-half, y1), x, text, name, middle)
    low = -far - 1.8 * t
    if grid.rows > 1:
        text = spaced(letter, grid.rows, grid.pitch)
        if view.width(text) > 2 * half - t:  # it stands between the plate's extension lines
            text = text.partition(" = ")[0]
        view.across((-grid.depth / 2, -last), (grid.depth / 2, -last), low, text, "pitch", "under")
        low -= (1.6 if view.fits(text, grid.depth) else 2.8) * t
    view.across((-half, -last - edge), (half, -last - edge), low, letter(2 * half), "plate_depth")
    return low - 1.6 * t
