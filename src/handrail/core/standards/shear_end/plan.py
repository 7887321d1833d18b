"""The plan of a shear end, cut through its bolts: the support, the beam's web with its flanges beyond, at the skew that
they have. The connection's own parts are drawn along the beam: u from the support's face along it, v across it, + to
the far side."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.drawing.lettering import Letter
from handrail.core.drawing.scene import Point, Shape, View
from handrail.core.joint.situation import Situation
from handrail.core.standards.shear_end.drawing import i_shape
from handrail.core.standards.shear_end.layout import ShearEnd


@dataclass
class Plan:
    """A view with the beam's axes in it: the beam comes at `skew`, its middle meets the face at the origin."""

    view: View
    skew: float
    layout: ShearEnd
    right: float

    def at(self, u: float, v: float) -> Point:
        """(x, y) of a place along and across the beam; it is sheared, not turned, on the face: u counts from the face
        wherever it is."""
        c, s = math.cos(self.skew), math.sin(self.skew)
        u = u + v * math.tan(self.skew)
        return (u * c - v * s, u * s + v * c)

    def box(self, part: str, u0: float, v0: float, u1: float, v1: float, style: str = "outline") -> None:
        """A part along the beam, its ends parallel with the face."""
        self.view.shapes.append(
            Shape(part, (self.at(u0, v0), self.at(u1, v0), self.at(u1, v1), self.at(u0, v1)), style)
        )

    def line(self, part: str, *places: Point, style: str = "outline") -> None:
        """An open run of places."""
        self.view.line(part, *(self.at(u, v) for u, v in places), style=style)

    def bolt_across(self, d: float, u: float, v0: float, v1: float, part: str = "bolts") -> None:
        """A bolt square to the beam's web, its head beyond `v1` and its nut beyond `v0`."""
        head, nut, c = 0.64 * d, 0.9 * d, self.skew
        for v, out in ((v1, head), (v0, -nut)):
            corners = [(-0.85 * d, v), (0.85 * d, v), (0.85 * d, v + out), (-0.85 * d, v + out)]
            self.view.shapes.append(Shape(part, tuple(self._square(u, a, b, c) for a, b in corners), "outline"))
        ends = (self._square(u, 0.0, v0 - nut - 8, c), self._square(u, 0.0, v1 + head + 8, c))
        self.view.line(part, *ends, style="centre")

    def _square(self, u: float, a: float, v: float, skew: float) -> Point:
        """A place `a` along and `v` across from where the bolt stands on the beam's middle."""
        c, s = math.cos(skew), math.sin(skew)
        return ((u + a) * c - v * s, (u + a) * s + v * c)

    def bolt_along(self, d: float, v: float, u0: float, u1: float, part: str = "bolts") -> None:
        """A bolt along the beam through the support, its head at `u1`, its nut before `u0`."""
        head, nut = 0.64 * d, 0.9 * d
        self.box(part, u1, v - 0.85 * d, u1 + head, v + 0.85 * d)
        self.box(part, u0 - nut, v - 0.85 * d, u0, v + 0.85 * d)
        self.line(part, (u0 - nut - 8, v), (u1 + head + 8, v), style="centre")

    def words(self, letter: Letter, text: str, at: Point, part: str) -> None:
        """What the part is, above the beam's far side; the support and the beam by name."""
        view, situation = self.view, self.layout.situation
        t = view.lettering
        points = [p for s in view.shapes if isinstance(s, Shape) for p in s.points]
        high, low = max(y for _, y in points), min(y for _, y in points)
        x, y = self.at(*at)
        view.note((x, y), (x + 2.2 * t, high + 0.8 * t), text, part)
        far = self.at(self.right - 0.5 * t, -situation.supported.section.tw / 2)
        view.note(far, (far[0] + 1.8 * t, min(far[1], low) - 1.6 * t), situation.supported.section.name, "beam")
        view.note(None, (_middle(situation), low - 1.6 * t), situation.carrier.section.name, "support", "middle")


def _middle(situation: Situation) -> float:
    """x of the support's middle."""
    s = situation.carrier.section
    if situation.framing in ("beam_to_column_web", "beam_to_girder"):
        return -s.tw / 2
    return -_deep(situation) / 2


def _deep(situation: Situation) -> float:
    s = situation.carrier.section
    return s.bf if situation.face == "long" and s.d > s.bf else s.d


def plan(layout: ShearEnd, width: float, t: float, unit: str) -> Plan:
    """Support and beam, the beam's end cut off beyond the connection, which reaches `width` from the face."""
    situation, comes = layout.situation, layout.approach
    beam = comes.beam
    right = max(width, comes.gap + max(comes.top.length, comes.bottom.length)) + 0.35 * beam.bf + 60
    view = View(f"Plan through bolts{unit}", t)
    drawn = Plan(view, 0.0 if abs(situation.skew) < math.radians(0.5) else abs(situation.skew), layout, right)
    _support(view, situation, beam.bf / 2, layout.off_middle)
    g = comes.gap
    drawn.box("beam", g, -beam.tw / 2, right, beam.tw / 2, "cut")
    low = g + (comes.bottom.length if comes.bottom else 0.0)
    for v in (-beam.bf / 2, beam.bf / 2):
        drawn.line("beam", (low, v), (right, v))
    for v0, v1 in ((-beam.bf / 2, -beam.tw / 2), (beam.tw / 2, beam.bf / 2)):
        drawn.line("beam", (low, v0), (low, v1), style="outline")
    drawn.line("beam", (right, -beam.bf / 2 - 15), (right, beam.bf / 2 + 15), style="break")
    return drawn


def _support(view: View, situation: Situation, half: float, off: float) -> None:
    """Cut level through the bolts: a column whole, its middle `off` the beam's; a girder's web as far as the beam's
    flanges and a little."""
    s = situation.carrier.section
    if situation.framing == "beam_to_girder":
        out = 1.4 * half + 40
        view.box("support", -s.tw, -out, 0.0, out, "cut")
        left, right = (
            (-s.tw / 2 - s.bf / 2, -s.tw / 2 + s.bf / 2)
            if s.open
            else ((-s.tw, s.bf - s.tw) if situation.face != "back" else (-s.bf, 0.0))
        )
        view.line("support", (left, -out), (left, out))
        if right > 0:  # its flange below: not seen where the beam stands over it
            for y0, y1, style in ((-out, -half, "outline"), (-half, half, "hidden"), (half, out, "outline")):
                view.line("support", (right, y0), (right, y1), style=style)
        for y in (-out, out):
            view.line("support", (left - 10, y), (right + 10, y), style="break")
        return
    if situation.framing == "beam_to_column_web":
        view.shapes.append(
            Shape(
                "support", tuple((-s.tw / 2 + x, y + s.d / 2 - off) for x, y in i_shape(s.d, s.bf, s.tw, s.tf)), "cut"
            )
        )
        return
    if s.open:
        profile = i_shape(s.d, s.bf, s.tw, s.tf)
        view.shapes.append(Shape("support", tuple((y, x - off) for x, y in profile), "cut"))
        return
    deep = _deep(situation)
    wide = s.d if s.round else s.bf + s.d - deep
    for inset in (0.0, s.wall):
        view.box(
            "support",
            -deep + inset,
            -wide / 2 + inset - off,
            -inset,
            wide / 2 - inset - off,
            "cut" if not inset else "outline",
        )


def fillet_pair(drawn: Plan, v0: float, v1: float, size: float) -> None:
    """A fillet in both corners of what stands on the face between `v0` and `v1`."""
    for v, way in ((v0, -1), (v1, 1)):
        corners = ((0.0, v), (size, v), (0.0, v + way * size))
        drawn.view.shapes.append(Shape("weld", tuple(drawn.at(*c) for c in corners), "cut"))
