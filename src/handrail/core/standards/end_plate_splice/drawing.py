"""The end-plate splice drawn: plan of a plate with its bolts named, and an elevation."""

from __future__ import annotations

from handrail.core.drawing.lettering import Letter, lettering
from handrail.core.drawing.scene import Circle, Scene, View, fitted
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.standards.end_plate_splice.layout import Layout
from handrail.core.standards.end_plate_splice.parameters import placed
from handrail.core.standards.sizes import Sizes

LARGE, SMALL = (54.0, 43.0), (27.0, 21.0)  # the sheets, in heights of a letter


def draw(situation: Situation, sizes: Sizes, system: str = "us") -> Scene:
    """Plan (x along the columns' depth, y across) and elevation (y up from the joint), mm.

    Lettered in inches, or in mm where `system` is si (then the titles say so).
    """
    layout = Layout(situation, sizes)
    letter, unit = lettering(system)
    return Scene(
        [
            fitted(lambda t: _plan(layout, letter, unit, t), *LARGE),
            fitted(lambda t: _elevation(layout, letter, unit, t), *SMALL),
        ]
    )


def _plan(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    view = View(f"Plan of a plate{unit}", t)
    half, wide, s = layout.of("plate_length") / 2, layout.of("plate_width") / 2, layout.pieces[0].section
    view.box("plate", -half, -wide, half, wide)
    if s.round:
        view.shapes.append(Circle("column", (0, 0), s.d / 2, "cut"))
        view.shapes.append(Circle("column", (0, 0), s.d / 2 - s.wall, "cut"))
    else:
        view.box("column", -s.d / 2, -s.bf / 2, s.d / 2, s.bf / 2, "cut")
        view.box("column", -s.d / 2 + s.wall, -s.bf / 2 + s.wall, s.d / 2 - s.wall, s.bf / 2 - s.wall, "cut")
    bolts, d = placed(layout.sizes), layout.plates.bolt.d
    far = max(abs(x) for x, _ in bolts.points)
    for (x, y), name in zip(bolts.points, bolts.names, strict=True):
        view.shapes.append(Circle("bolts", (x, y), d / 2))
        view.line("bolts", (x - 0.9 * d, y), (x + 0.9 * d, y), style="centre")
        view.line("bolts", (x, y - 0.9 * d), (x, y + 0.9 * d), style="centre")
        if abs(x) > far - 1.0:
            way = 1 if x > 0 else -1
            view.note(
                None,
                (way * (half + 0.5 * t), y - 1.1 * t if y > 1 else y + 0.3 * t),
                name,
                "bolts",
                "start" if way > 0 else "end",
            )
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


def _elevation(layout: Layout, letter: Letter, unit: str, t: float) -> View:
    view = View(f"Elevation{unit}", t)
    half, tp = layout.of("plate_length") / 2, layout.of("plate_thickness")
    for piece, way in zip(layout.pieces, (1, -1), strict=True):
        s, far = piece.section, way * (tp + 0.9 * piece.section.d)
        y0, y1 = sorted((0.0, way * tp))
        view.box("plate", -half, y0, half, y1, "cut")
        for x in (-s.d / 2, s.d / 2):
            view.line("column", (x, way * tp), (x, far))
        view.line("column", (-s.d / 2 - 15, far), (s.d / 2 + 15, far), style="break")
    d = layout.plates.bolt.d
    for x in sorted({round(x, 3) for x, _ in placed(layout.sizes).points}):
        for y in (tp, -tp - 0.65 * d):
            view.box("bolts", x - 0.85 * d, y, x + 0.85 * d, y + 0.65 * d)
        view.line("bolts", (x, -tp - 1.2 * d), (x, tp + 1.2 * d), style="centre")
    view.note((half, 0.5 * tp), (half + 1.6 * t, 0.5 * tp + INCH), f"PL {letter(tp)}", "plate_thickness")
    return view
