"""The fillets around a column on its plate, in place."""

from __future__ import annotations

import math
from collections.abc import Iterator

from handrail.core.parts.column_weld import ColumnWeld
from handrail.core.solids.axes import Axes, Vector, unit
from handrail.core.solids.pieces import Weld

INNER = 1.0  # mm from a column's outer face that a line on its flange's inner face is off it at least


def around(
    weld: ColumnWeld, at: Axes, up: Vector, name: str, joins: tuple[str, str], field: bool, electrode: str
) -> Iterator[Weld]:
    """One a line; `at` has its origin in the column's middle on the plate, x along the depth; the column goes `up`. A
    complete groove is one without legs."""
    s = weld.steel.section
    for number, (x0, y0, x1, y1) in enumerate(weld.lines, 1):
        if s.round:  # chords of its outside, moved onto it
            mid = ((x0 + x1) / 2, (y0 + y1) / 2)
            onto = s.d / 2 / math.hypot(*mid)
            x0, y0, x1, y1, out = x0 * onto, y0 * onto, x1 * onto, y1 * onto, unit((*mid, 0.0))
        elif abs(x1 - x0) < 1e-9:  # across the depth: on a flange or a wall
            inner = not s.hollow and abs(x0) < s.d / 2 - INNER
            out = ((1.0 if x0 > 0 else -1.0) * (-1.0 if inner else 1.0), 0.0, 0.0)
        else:
            out = (0.0, 1.0 if y0 > 0 else -1.0, 0.0)
        yield Weld(
            name=f"{name} {number}",
            part="weld",
            run=(at.at(x0, y0), at.at(x1, y1)),
            legs=(at.along(out), up),
            size=weld.size,
            joins=joins,
            field=field,
            electrode=electrode,
            kind="groove" if weld.pattern == "complete" else "fillet",
        )
