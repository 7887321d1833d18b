"""The end-plate splice drawn: plan of a plate with its bolts named, and an elevation."""

from __future__ import annotations

from functools import partial

from handrail.core.drawing.lettering import Letter, lettering
from handrail.core.drawing.scene import Laid, View
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.solids.axes import Axes, X, Z
from handrail.core.solids.drawn import ALL, Seen
from handrail.core.solids.pieces import Solids
from handrail.core.standards.end_plate_splice.layout import Layout
from handrail.core.standards.end_plate_splice.parameters import placed
from handrail.core.standards.sizes import Sizes

LARGE, SMALL = (54.0, 43.0), (27.0, 21.0)  # the sheets, in heights of a letter
FAR = 1e4  # mm, beyond all that is drawn


def draw(situation: Situation, sizes: Sizes, solids: Solids, system: str) -> list[Laid]:
    """Plan (x along the columns' depth, y across) and elevation (y up from the joint), mm.

    Lettered in inches, or in mm where `system` is si (then the titles say so).
    """
    layout = Layout(situation, sizes)
    letter, unit = lettering(system)
    above = Seen(solids, Axes(), layout.of("plate_thickness") + layout.of("weld_size") / 2)
    beside = Seen(solids, Axes(x=X, y=Z))
    return [
        Laid(partial(_plan, layout, above, letter, unit), *LARGE),
        Laid(partial(_elevation, layout, beside, letter, unit), *SMALL),
    ]


def _plan(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    """From above, cut through the column over the upper plate."""
    view = View(f"Plan of a plate{unit}", t, seen.within(ALL))
    half, wide = layout.of("plate_length") / 2, layout.of("plate_width") / 2
    bolts, d = placed(layout.sizes), layout.plates.bolt.d
    far = max(abs(x) for x, _ in bolts.points)
    for (x, y), name in zip(bolts.points, bolts.names, strict=True):
        if abs(x) > far - 1.0:
            way = 1 if x > 0 else -1
            place = (way * (half + 0.5 * t), y - 1.1 * t if y > 1 else y + 0.3 * t)
            view.note(None, place, name, "bolts", "start" if way > 0 else "end")
        else:
            view.note(None, (x, y - d - 1.1 * t if y > -1 else y + d + 0.4 * t), name, "bolts", "middle")
    _sizes(view, layout, letter, half, wide)
    return view


def _sizes(view: View, layout: Layout, letter: Letter, half: float, wide: float) -> None:
    """Bolts and plate below and on the right; words above."""
    t, points = view.lettering, placed(layout.sizes).points
    xs, ys = sorted({round(x, 3) for x, _ in points}), sorted({round(y, 3) for _, y in points})
    low = -wide - 1.8 * t
    for a, b in zip(xs, xs[1:], strict=False):
        view.across((a, min(v for u, v in points if abs(u - a) < 1)), (b, -wide), low, letter(b - a), "spacing_along")
    view.across((-half, -wide), (half, -wide), low - 1.6 * t, letter(2 * half), "plate_length")
    x = half + 3.6 * t
    for a, b in zip(ys, ys[1:], strict=False):
        view.upright((max(u for u, v in points if abs(v - a) < 1), a), (half, b), x, letter(b - a), "spacing_across")
    x += max(view.width(letter(b - a)) for a, b in zip(ys, ys[1:], strict=False)) + 1.8 * t
    view.upright((half, -wide), (half, wide), x, letter(2 * wide), "plate_width", wide - 0.8 * t)
    plate = " x ".join(letter(layout.of(n)) for n in ("plate_thickness", "plate_length", "plate_width"))
    names = " on ".join(dict.fromkeys(p.section.name for p in layout.pieces))
    words = (
        f"{names}, fillet {letter(layout.of('weld_size'))} all around",
        f"({len(points)}) {layout.choice('bolt')}, {layout.choice('tightening')}",
        f"(2) PL {plate} {layout.choice('plate_grade')}",
    )
    for k, text in enumerate(words):
        view.note(None, (-half, wide + (0.8 + 1.5 * k) * t), text, ("weld", "bolts", "plate")[k])


def _elevation(layout: Layout, seen: Seen, letter: Letter, unit: str, t: float) -> View:
    half, tp = layout.of("plate_length") / 2, layout.of("plate_thickness")
    upper, lower = (tp + 0.9 * piece.section.d for piece in layout.pieces)
    view = View(f"Elevation{unit}", t, seen.within((-FAR, -lower, FAR, upper)))
    view.note((half, 0.5 * tp), (half + 1.6 * t, 0.5 * tp + INCH), f"PL {letter(tp)}", "plate_thickness")
    return view
