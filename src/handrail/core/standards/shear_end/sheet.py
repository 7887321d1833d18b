"""A shear end's sheet: elevation, plan and a view along the beam, cut from its solids, each on a sheet of its own
size."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from itertools import product
from typing import TypeVar

from handrail.core.drawing.lettering import Letter, lettering
from handrail.core.drawing.scene import Laid, View
from handrail.core.solids import bodies
from handrail.core.solids.axes import Axes, X, Y, combined
from handrail.core.solids.drawn import Seen
from handrail.core.solids.pieces import Cut, Plane, Solids
from handrail.core.standards.shear_end.drawing import NOTED
from handrail.core.standards.shear_end.elevation import Drawn, elevation
from handrail.core.standards.shear_end.layout import ShearEnd
from handrail.core.standards.shear_end.plan import plan
from handrail.core.standards.shear_end.solids import ALONG, Place

ELEVATION, PLAN, SECTION = (54.0, 43.0), (54.0, 30.0), (27.0, 21.0)  # in heights of a letter
CLEAR = 10.0  # mm from what is shown whole to a cut beside it
MORE = 2e3  # mm
BESIDE = 50.0  # mm of a girder beside a beam that is skew to it
End = TypeVar("End", bound=ShearEnd)
Section = Callable[[End, Seen, Letter, str, float], View]
"""(layout, what is seen along the beam, letters, what titles say of the unit, their height)"""


def sheet(
    layout: End,
    solids: Solids,
    drawn: Callable[[End, Letter, str], Drawn],
    section: Section[End],
    system: str,
) -> list[Laid]:
    """Laid out with x from the support's face along the beam, y up from its top of steel, mm; lettered in inches, or in
    mm where `system` is si (then the titles say so). The elevation and the plan are seen from the far side, where
    plates stand: the beam goes to the left. Nothing is drawn of a beam that runs along its support."""
    if math.cos(layout.situation.skew) < ALONG:
        return []
    (letter, unit), solids = lettering(system), _going_on(solids)
    it = drawn(layout, letter, unit)
    at = _beam(layout, it)
    beside, above, along = _from_beside(layout, solids, at), _from_above(layout, solids), _along(solids, at, it.section)
    return [
        Laid(partial(elevation, layout, beside, it, letter, unit), *ELEVATION),
        Laid(partial(plan, layout, above, it, unit), *PLAN),
        Laid(partial(section, layout, along, letter, unit), *SECTION),
    ]


def _going_on(solids: Solids) -> Solids:
    """With members that reach beyond what is shown, however small they are beside each other."""
    beam, *others = solids.members
    longer = replace(beam, length=beam.length + MORE)
    on = (replace(s, axes=s.axes.moved(z=-MORE), length=s.length + 2 * MORE) for s in others)
    return replace(solids, members=(longer, *on))


def _beam(layout: ShearEnd, it: Drawn) -> Axes:
    """The beam's axes where sizes along it are counted from: on the face, at the middle of its rows."""
    place = Place(layout)
    return place.beam.moved(place.at_face(0.0, -layout.of("first_bolt") - it.grid.depth / 2))


def _from_beside(layout: ShearEnd, solids: Solids, beam: Axes) -> Seen:
    """Square to the beam's web, from its far side: a girder is cut beside the beam and what is fastened to it, a
    column's flange before them is taken away."""
    axes = Axes(beam.origin, combined((-1.0, beam.x)), combined((1.0, beam.z)))
    framing, s = layout.situation.framing, layout.situation.carrier.section
    cut = None
    if framing == "beam_to_girder":
        if abs(layout.situation.skew) > NOTED:
            solids = _short(layout, solids, beam)
        else:
            cut = max(_nearest(solids, axes), layout.situation.supported.section.bf / 2) + CLEAR
    elif framing == "beam_to_column_web":
        cut = s.d / 2 - s.k_detail - layout.off_middle - 1.0
    bare = framing == "beam_to_column_web" or abs(layout.situation.skew) > NOTED
    return Seen(solids, axes, cut, frozenset(["support"]) if bare else frozenset())


def _short(layout: ShearEnd, solids: Solids, beam: Axes) -> Solids:
    """A girder that a beam meets at an angle as a piece behind the near face of its web: before that it would hide what
    it carries."""
    section, (own, girder) = layout.situation.supported.section, solids.members
    half = section.bf / 2 + BESIDE
    short = replace(girder, axes=girder.axes.moved(z=girder.length / 2 - half), length=2 * half)
    before = Cut((Plane(beam.at(y=section.tw / 2), beam.y),))
    return replace(solids, members=(own, replace(short, cuts=(*short.cuts, before))))


def _nearest(solids: Solids, axes: Axes) -> float:
    """How far what is fastened reaches towards the eye."""
    boxes = (bodies.uncut(piece).bounding_box() for piece in solids.pieces)
    return max(axes.seen(corner)[2] for b in boxes for corner in product((b[0], b[3]), (b[1], b[4]), (b[2], b[5])))


def _from_above(layout: ShearEnd, solids: Solids) -> Seen:
    """Cut through the first row."""
    return Seen(solids, Axes(x=combined((-1.0, X)), y=combined((-1.0, Y))), -layout.of("first_bolt"))


def _along(solids: Solids, beam: Axes, cut: float) -> Seen:
    """The beam and what is fastened to it, seen towards the support, cut so far from the face."""
    return Seen(replace(solids, members=solids.members[:1]), beam.with_((0.0, 1.0, 0.0), (0.0, 0.0, 1.0)), cut)
