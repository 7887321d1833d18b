"""The end-plate splice in place: a plate on each hollow column's end, bolts through both, a fillet around each
column."""

from __future__ import annotations

from collections.abc import Iterator

from handrail.core.solids.axes import Axes, X, Y, Z
from handrail.core.solids.holes import holes_of
from handrail.core.solids.pieces import Fastener, Plate, Solids, Weld
from handrail.core.standards.column_splice.solids import UPRIGHT
from handrail.core.standards.end_plate_splice.layout import Layout
from handrail.core.standards.spliced import NAMES, WAYS, Line, outline
from handrail.core.standards.welded_around import around


def solids(layout: Layout) -> Solids:
    """z up from between the plates, x along the columns' depth, from their middle."""
    t = layout.of("plate_thickness")
    line = Line(at=UPRIGHT, pieces=layout.pieces, tops=_tops(layout), half_gap=t)
    bolts = tuple(_bolts(layout, t))
    return Solids(
        members=line.members(t, ([], [])),
        pieces=tuple(_plate(layout, name, way, bolts) for name, way in zip(NAMES, WAYS, strict=True)),
        bolts=bolts,
        welds=tuple(_welds(layout, t)),
    )


def _tops(layout: Layout) -> tuple[float, float]:
    upper, lower = (p.section.d / 2 for p in layout.pieces)
    return upper, lower


def _bolts(layout: Layout, t: float) -> Iterator[Fastener]:
    """Heads on the upper plate."""
    for number, (x, y) in enumerate(layout.plates.plate.points, 1):
        yield Fastener(
            name=f"bolts {number}",
            part="bolts",
            axes=Axes((x, y, t), Y, X),
            bolt=layout.plates.bolt,
            grip=2 * t,
            plies=("plate beam", "plate support"),
            field=True,
        )


def _plate(layout: Layout, name: str, way: float, bolts: tuple[Fastener, ...]) -> Plate:
    t, half, wide = layout.of("plate_thickness"), layout.of("plate_length") / 2, layout.of("plate_width") / 2
    axes = Axes((0.0, 0.0, 0.0 if way > 0 else -t), X, Y)
    return Plate(
        name=f"plate {name}",
        part="plate",
        axes=axes,
        outline=outline(-half, -wide, half, wide),
        thickness=t,
        holes=holes_of(bolts, axes, layout.plates.hole, "x"),
        grade=layout.choice("plate_grade"),
    )


def _welds(layout: Layout, t: float) -> Iterator[Weld]:
    for name, way, steel in zip(NAMES, WAYS, layout.pieces, strict=True):
        up = Z if way > 0 else (0.0, 0.0, -1.0)
        at, joins, electrode = Axes((0.0, 0.0, way * t)), (f"plate {name}", name), layout.choice("electrode")
        yield from around(layout.weld(steel), at, up, f"weld {name}", joins, False, electrode)
