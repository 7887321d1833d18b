"""The base in place: the plate with its rods, washers and lug, the column's weld, grout, concrete and the bars in it. z
up from the top of the concrete, x along the column's depth, y across it, from the plate's middle."""

from __future__ import annotations

import math
from collections.abc import Iterator

from handrail.core.quantities.units import INCH
from handrail.core.solids.axes import Axes, Vector, X, Y, Z, combined
from handrail.core.solids.pieces import Bar, Hole, Plate, Rebar, Rod, Solids, Weld
from handrail.core.solids.profiles import profile
from handrail.core.standards.base_plate.layout import Layout
from handrail.core.standards.spliced import outline
from handrail.core.standards.welded_around import around

LOCK, PAST = 0.6, 0.6  # of a rod's diameter: a lock nut's height; how far it stands out above its nuts
ROUND = INCH / 16  # of a washer's hole over its rod
SHOWN = 2.0  # of the plate's length: concrete that goes on
DOWN = combined((-1.0, Z))


def solids(layout: Layout) -> Solids:
    """In the joint's axes."""
    under, top = layout.of("grout"), layout.of("grout") + layout.of("plate_thickness")
    x, y = layout.column
    steel, s = layout.situation.supported, layout.situation.supported.section
    column = Bar(
        name="column",
        part="column",
        axes=Axes((x + s.d / 2, y, top), combined((-1.0, Y)), X),
        section=s.name,
        profile=profile(s),
        length=1.5 * s.d,
        grade=steel.grade.name,
        mass=s.mass,
    )
    lugged = layout.path == "lug"
    joins, at_site = ("column", "plate"), layout.choice("weld_at") == "site"
    welds = around(layout.weld, Axes((x, y, top)), Z, "weld", joins, at_site, layout.choice("electrode"))
    return Solids(
        members=(column,),
        pieces=(_plate(layout, under), *_washers(layout, top), *(_lugs(layout) if lugged else ())),
        welds=(*welds, *_washer_welds(layout, top), *(_lug_welds(layout) if lugged else ())),
        rods=tuple(_rods(layout, top)),
        bars=tuple(_bars(layout)),
        ground=tuple(_ground(layout)),
    )


def _plate(layout: Layout, under: float) -> Plate:
    half, wide = layout.of("plate_length") / 2, layout.of("plate_width") / 2
    d = layout.rod.hole or layout.rod.d + 2 * ROUND
    return Plate(
        name="plate",
        part="plate",
        axes=Axes((0.0, 0.0, under)),
        outline=outline(-half, -wide, half, wide),
        thickness=layout.of("plate_thickness"),
        holes=tuple(Hole(x, y, d) for x, y in layout.placed.points),
        grade=layout.choice("plate_grade"),
    )


def _washers(layout: Layout, top: float) -> Iterator[Plate]:
    """Square ones over the plate's holes."""
    half = layout.of("washer") / 2
    for name, (x, y) in zip(layout.placed.names, layout.placed.points, strict=True):
        if layout.rod.washer_thickness:
            yield Plate(
                name=f"washer {name}",
                part="anchors",
                axes=Axes((x, y, top)),
                outline=outline(-half, -half, half, half),
                thickness=layout.rod.washer_thickness,
                holes=(Hole(0.0, 0.0, layout.rod.d + ROUND),),
                grade="A36",
            )


def _washer_welds(layout: Layout, top: float) -> Iterator[Weld]:
    if layout.choice("washers") != "welded":
        return
    half = layout.of("washer") / 2
    for name, (x, y) in zip(layout.placed.names, layout.placed.points, strict=True):
        for side, (out, along) in enumerate(((X, Y), (Y, X), (combined((-1.0, X)), Y), (combined((-1.0, Y)), X)), 1):
            middle = combined((1.0, (x, y, top)), (half, out))
            run = combined((1.0, middle), (-half, along)), combined((1.0, middle), (half, along))
            joins = (f"washer {name}", "plate")
            yield _fillet(layout, f"washer weld {name}.{side}", "anchors", run, (out, Z), "washer_weld", joins, True)


def _fillet(
    layout: Layout,
    name: str,
    part: str,
    run: tuple[Vector, Vector],
    legs: tuple[Vector, Vector],
    size: str,
    joins: tuple[str, str],
    field: bool,
) -> Weld:
    leg, electrode = layout.of(size), layout.choice("electrode")
    return Weld(name=name, part=part, run=run, legs=legs, size=leg, joins=joins, field=field, electrode=electrode)


def _lugs(layout: Layout) -> Iterator[Plate]:
    """Under the plate's middle; of two that cross, the second in two halves."""
    lug, (x, y) = layout.lug, layout.column
    for number, way in enumerate(lug.ways):
        along = Y if way == 0 else combined((-1.0, X))
        t, half = lug.t, lug.width / 2
        spans = [(-half, half)] if number == 0 else [(-half, -t / 2), (t / 2, half)]
        for part, (a, b) in enumerate(spans, 1):
            yield Plate(
                name=f"lug {('along', 'across')[way]} {part}",
                part="lug",
                axes=Axes((x, y, 0.0), along, Z).moved(0.0, 0.0, -t / 2),
                outline=outline(a, -lug.depth, b, lug.grout),
                thickness=t,
                grade=lug.grade.name,
            )


def _lug_welds(layout: Layout) -> Iterator[Weld]:
    """On both faces of each, as far as another does not cross it."""
    size, crossed = layout.of("lug_weld"), len(layout.lug.ways) > 1
    clear = layout.lug.t / 2 + size
    for lug in _lugs(layout):
        (a, _), (b, top) = lug.outline[0], lug.outline[2]
        spans = [(a, b)] if not crossed else [(x0, x1) for x0, x1 in ((a, -clear), (clear, b)) if x0 < x1]
        for side, (z, way) in enumerate(((0.0, -1.0), (lug.thickness, 1.0)), 1):
            for part, (x0, x1) in enumerate(spans, 1):
                run = lug.axes.at(x0, top, z), lug.axes.at(x1, top, z)
                legs = combined((way, lug.axes.z)), DOWN
                name, joins = f"{lug.name} weld {side}.{part}", (lug.name, "plate")
                yield _fillet(layout, name, "lug", run, legs, "lug_weld", joins, False)


def _rods(layout: Layout, top: float) -> Iterator[Rod]:
    """From above their nuts down to their heads, or to the end of what is drilled in."""
    rod, d, hef = layout.rod, layout.rod.d, layout.of("embedment")
    seat, kind = top + rod.washer_thickness, layout.choice("nuts")
    high = seat + d + (LOCK * d if kind == "lock" else 0.0) + PAST * d
    nuts = [(high - seat - d, d)]
    if kind == "lock":
        nuts.append((high - seat - d - LOCK * d, LOCK * d))
    if kind == "levelling":
        nuts.append((high - layout.of("grout"), d))
    if not layout.installed:
        nuts.append((high + hef, d))
    for name, (x, y) in zip(layout.placed.names, layout.placed.points, strict=True):
        yield Rod(
            name=f"rod {name}",
            part="anchors",
            axes=Axes((x, y, high), Y, X),
            d=d,
            length=high + hef + (0.0 if layout.installed else d),
            flats=rod.flats,
            nuts=tuple(nuts),
            grade=rod.name,
        )


def _bars(layout: Layout) -> Iterator[Rebar]:
    """Upright ones with their hooks, level legs as far as they are counted."""
    if upright := layout.pull_bars:
        ends, d = upright.steel.ends, upright.steel.bars.d
        for number, (x, y) in enumerate(upright.places, 1):
            hook = x + min(6 * d, 100.0) * (1 if x < 0 else -1)
            run: list[Vector] = [(x, y, -upright.top), (x, y, -upright.bottom)]
            run = [(hook, y, -upright.top), *run] if ends != "straight" else run
            run = [*run, (hook, y, -upright.bottom)] if ends == "hooked" else run
            yield Rebar(name=f"bar {number}", part="bars", run=tuple(run), d=d)
    if level := layout.shear_bars:
        for axis in (0, 1):
            for number, (at, depth) in enumerate(level.legs[axis], 1):
                for way, edge in zip((-1, 1), layout.edges[axis], strict=True):
                    if math.isfinite(edge):
                        begins = way * (edge - level.begins(2 * axis + (way > 0)))
                        ends_at = begins - way * level.length
                        along = [(begins, at, -depth), (ends_at, at, -depth)]
                        places = along if axis == 0 else [(q, p, z) for p, q, z in along]
                        name = f"leg {'xy'[axis]} {number} {'minus' if way < 0 else 'plus'}"
                        yield Rebar(name=name, part="bars", run=tuple(places), d=level.steel[axis].bars.d)


def _ground(layout: Layout) -> Iterator[Plate]:
    """Concrete as far as its edges, or some way; grout under the plate."""
    f, half = layout.foundation, (layout.of("plate_length") / 2, layout.of("plate_width") / 2)
    (x0, x1), (y0, y1) = (
        (min(own[0], SHOWN * 2 * h), min(own[1], SHOWN * 2 * h)) for own, h in zip(layout.edges, half, strict=True)
    )
    yield Plate(
        name="concrete",
        part="concrete",
        axes=Axes((0.0, 0.0, -f.thickness)),
        outline=outline(-x0, -y0, x1, y1),
        thickness=f.thickness,
    )
    if grout := layout.of("grout"):
        yield Plate(
            name="grout",
            part="grout",
            axes=Axes(),
            outline=outline(-half[0], -half[1], half[0], half[1]),
            thickness=grout,
        )
