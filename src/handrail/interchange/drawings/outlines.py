"""Plates as they are cut: a DXF each at full size, its outline, its holes, its name."""

from __future__ import annotations

import io
import math
from collections.abc import Iterable
from dataclasses import replace
from typing import Any

from ezdxf import units
from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new

from handrail.core.checking.lists import Cut
from handrail.core.quantities.units import INCH
from handrail.core.solids import bodies
from handrail.core.solids.axes import dot
from handrail.core.solids.pieces import Hole, Plate, Point

LAYERS = {"CUT": 7, "HOLES": 1, "MARK": 3}
LETTER = 12.0  # mm high
LEAST = 1.0  # mm^2 of a ring that is cut


def outlines(found: Iterable[Cut], system: str) -> dict[str, bytes]:
    """Name of a file -> the file, of every plate among what is cut; inches where `system` is us, else mm."""
    return {f"{cut.name}.dxf": outline(cut, cut.piece, system) for cut in found if isinstance(cut.piece, Plate)}


def outline(cut: Cut, plate: Plate, system: str) -> bytes:
    """One of them, its lower left corner at (0, 0). What a bevel leaves is cut at its longest."""
    unit = 1 / INCH if system == "us" else 1.0
    doc = new("R2010")
    doc.units = units.IN if system == "us" else units.MM
    for name, colour in LAYERS.items():
        doc.layers.add(name, color=colour)
    model, rings = doc.modelspace(), silhouette(plate)
    x0, y0 = min(x for ring in rings for x, _ in ring), min(y for ring in rings for _, y in ring)

    def put(x: float, y: float) -> Point:
        return (x - x0) * unit, (y - y0) * unit

    for ring in rings:
        model.add_lwpolyline([put(x, y) for x, y in ring], close=True, dxfattribs={"layer": "CUT"})
    for hole in plate.holes:
        _hole(model, hole, put(hole.x, hole.y), unit)
    xs, ys = zip(*(put(x, y) for ring in rings for x, y in ring), strict=True)
    words = f"{cut.name} {plate.grade} x{cut.count}".replace("  ", " ")
    text = model.add_text(words, height=LETTER * unit, dxfattribs={"layer": "MARK"})
    text.set_placement(((min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2), align=TextEntityAlignment.MIDDLE_CENTER)
    stream = io.StringIO()
    doc.write(stream)
    return stream.getvalue().encode()


def silhouette(plate: Plate) -> list[list[Point]]:
    """What a plate covers in its own plane, its holes not taken out, mm."""
    axes = plate.axes
    rows = [[*way, -dot(way, axes.origin)] for way in (axes.x, axes.y, axes.z)]
    flat = bodies.body(replace(plate, holes=())).transform(rows).project()
    rings = [[(float(x), float(y)) for x, y in ring] for ring in flat.simplify(0.01).to_polygons()]
    return [ring for ring in rings if len(ring) > 2 and _area(ring) > LEAST]


def _area(ring: list[Point]) -> float:
    pairs = zip(ring, [*ring[1:], ring[0]], strict=True)
    return abs(sum(x0 * y1 - x1 * y0 for (x0, y0), (x1, y1) in pairs)) / 2


def _hole(model: Any, hole: Hole, at: Point, unit: float) -> None:
    """Round, or a slot: two straight sides and two half circles."""
    if not hole.long or hole.long <= hole.d:
        model.add_circle(at, hole.d / 2 * unit, dxfattribs={"layer": "HOLES"})
        return
    half, r = (hole.long - hole.d) / 2 * unit, hole.d / 2 * unit
    ux, uy = math.cos(hole.turned), math.sin(hole.turned)
    corners = [(-half, -r, 0.0), (half, -r, 1.0), (half, r, 0.0), (-half, r, 1.0)]
    points = [(at[0] + a * ux - b * uy, at[1] + a * uy + b * ux, 0.0, 0.0, bulge) for a, b, bulge in corners]
    model.add_lwpolyline(points, close=True, dxfattribs={"layer": "HOLES"})
