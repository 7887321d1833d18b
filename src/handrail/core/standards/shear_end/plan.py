"""The plan of a shear end, cut through its first row: the support, the beam's web with its flanges beyond, at the skew
that they have."""

from __future__ import annotations

import math

from handrail.core.drawing.scene import Shape, View
from handrail.core.solids.drawn import Seen
from handrail.core.standards.shear_end.drawing import NOTED
from handrail.core.standards.shear_end.elevation import CLEAR, FAR, Drawn
from handrail.core.standards.shear_end.layout import ShearEnd


def plan(layout: ShearEnd, seen: Seen, it: Drawn, unit: str, t: float) -> View:
    """The beam's end cut off beyond the connection; letters `t` mm high."""
    view = View(f"Plan through bolts{unit}" if it.bolted else f"Plan through plate{unit}", t)
    situation, comes = layout.situation, layout.approach
    right = max(it.width, comes.gap + max(comes.top.length, comes.bottom.length)) + 0.35 * comes.beam.bf + 60
    right = max(right, comes.outstand + CLEAR)
    skew = abs(situation.skew)
    end, out = right * math.cos(skew), 1.4 * comes.beam.bf / 2 + 40 + right * math.sin(skew)
    half = out if situation.framing == "beam_to_girder" else FAR
    window = (-end, -half, FAR, half)
    view.shapes = [shape.mirrored() for shape in seen.within(window)]
    points = [p for s in view.shapes if isinstance(s, Shape) for p in s.points]
    high, low = max(y for _, y in points), min(y for _, y in points)
    left = min(x for x, _ in points)
    (u, v), text, part = it.plan
    x, y = u * math.cos(skew) - v * math.sin(skew), -(u * math.sin(skew) + v * math.cos(skew))
    view.note((x, y), (max(x, left) + 2.2 * t, low - 1.6 * t), text, part)
    far = (end - 0.5 * t, -(end - 0.5 * t) * math.tan(skew) + situation.supported.section.tw / 2)
    view.note(far, (far[0] + 1.8 * t, max(far[1], high) + 0.8 * t), situation.supported.section.name, "beam")
    view.note(None, (left, high + 0.8 * t), situation.carrier.section.name, "support", "start")
    if skew > NOTED:
        view.note(None, (left, low - 3.4 * t), f"skew {math.degrees(skew):.1f}°", "beam", "start")
    return view.mirrored()
