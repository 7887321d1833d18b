"""What every shear end's drawing shows: the support, the beam with its copes, and how sizes are lettered. x from the
support's face, y up from the beam's top of steel, mm."""

from __future__ import annotations

import math

from handrail.core.catalogue import Section
from handrail.core.drawing.scene import Point, Shape, View
from handrail.core.joint.situation import Situation
from handrail.core.parts.approach import Approach

NOTED = math.radians(0.5)


def support(view: View, situation: Situation, top: float, bottom: float) -> None:
    """The support in elevation, its face at x = 0, from `top` to `bottom` mm."""
    s = situation.carrier.section
    if situation.framing == "beam_to_girder":
        profile = i_shape(s.d, s.bf, s.tw, s.tf) if s.open else _channel(s, situation.face)
        x = -s.tw / 2 if s.open else 0.0
        view.shapes.append(Shape("support", tuple((x + px, situation.top_offset + py) for px, py in profile), "cut"))
        return
    if situation.framing == "beam_to_column_web":
        view.box("support", -s.tw, top, 0, bottom, "cut")
        mid, t = -s.tw / 2, view.lettering
        view.line("support", (mid - s.bf / 2, top), (mid - s.bf / 2, bottom))
        for y0, y1 in (
            (top, 0.3 * t),
            (-situation.supported.section.d - 0.3 * t, bottom),
        ):  # not where the beam stands before it
            view.line("support", (mid + s.bf / 2, y0), (mid + s.bf / 2, y1), style="hidden")
        return
    thickness = s.wall if s.hollow else s.tf
    deep = s.bf if situation.face == "long" and s.d > s.bf else s.d
    for x in (-deep, -deep + thickness, -thickness, 0.0):
        hidden = s.hollow and x not in (-deep, 0.0)
        view.line("support", (x, top), (x, bottom), style="hidden" if hidden else "outline")
    for y in (top, bottom):
        view.line("support", (-deep - 15, y), (15, y), style="break")


def support_left(situation: Situation) -> Point:
    """A point on the support's far side from the beam, below the plate: where its name points to. x is as far as it
    goes, but for a girder's flange."""
    s, low = situation.carrier.section, situation.supported.section.d
    if situation.framing == "beam_to_girder":
        return (-s.tw, situation.top_offset - 0.8 * s.d)
    if situation.framing == "beam_to_column_web":
        return (-s.tw / 2 - s.bf / 2, -low)
    return (-(s.bf if situation.face == "long" and s.d > s.bf else s.d), -low)


def i_shape(d: float, bf: float, tw: float, tf: float) -> list[Point]:
    """An I-shape, top of steel at 0, centred on x = 0."""
    b, w = bf / 2, tw / 2
    right = [(b, 0.0), (b, -tf), (w, -tf), (w, -d + tf), (b, -d + tf), (b, -d)]
    return right + [(-x, y) for x, y in reversed(right)]


def beam_section(view: View, comes: Approach) -> None:
    """The beam cut before its end, looking along it: what a cope has cut away is hidden behind."""
    beam, top, bottom = comes.beam, comes.top, comes.bottom
    b, w, low = beam.bf / 2, beam.tw / 2, -beam.d
    upper = [(w, -top.depth)] if top else [(b, 0.0), (b, -beam.tf), (w, -beam.tf)]
    lower = [(w, low + bottom.depth)] if bottom else [(w, low + beam.tf), (b, low + beam.tf), (b, low)]
    right = [*upper, *lower]
    view.shapes.append(Shape("beam", tuple(right + [(-x, y) for x, y in reversed(right)]), "cut"))
    for cope, edge, inner, cut in ((top, 0.0, -beam.tf, -top.depth), (bottom, low, low + beam.tf, low + bottom.depth)):
        if cope:
            view.box("beam", -b, edge, b, inner, "hidden")
            for x in (-w, w):
                view.line("beam", (x, inner), (x, cut), style="hidden")


def bolt_in_side_view(view: View, d: float, x0: float, x1: float, y: float, part: str = "bolts") -> None:
    """A bolt along the beam at `y` through what is between `x0` and `x1`: head at `x1`, nut before `x0`, its middle
    beyond both."""
    head, nut = 0.64 * d, 0.9 * d
    view.box(part, x1, y - 0.85 * d, x1 + head, y + 0.85 * d)
    view.box(part, x0 - nut, y - 0.85 * d, x0, y + 0.85 * d)
    view.line(part, (x0 - nut - 12, y), (x1 + head, y), style="centre")


def _channel(s: Section, face: str) -> list[Point]:
    """A channel, top of steel at 0, its face to the beam at x = 0: toes towards the beam, or its back."""
    toes = [
        (-s.tw, 0.0),
        (s.bf - s.tw, 0.0),
        (s.bf - s.tw, -s.tf),
        (0.0, -s.tf),
        (0.0, s.tf - s.d),
        (s.bf - s.tw, s.tf - s.d),
        (s.bf - s.tw, -s.d),
        (-s.tw, -s.d),
    ]
    return [(-s.tw - x, y) for x, y in toes] if face == "back" else toes


def beam(view: View, comes: Approach, right: float) -> None:
    """The beam in elevation with its copes, as far as `right` mm from the face."""
    beam, g, top, bottom = comes.beam, comes.gap, comes.top, comes.bottom
    start = (g, -top.depth) if top else (g, 0.0)
    upper = [start, (g + top.length, -top.depth), (g + top.length, 0.0)] if top else [start]
    lower = [(g, -beam.d + bottom.depth), (g + bottom.length, -beam.d + bottom.depth), (g + bottom.length, -beam.d)]
    lower = lower if bottom else [(g, -beam.d)]
    view.line("beam", (right, 0.0), *reversed(upper), *lower, (right, -beam.d))
    flange_left = (max(g, g + top.length if top else g), max(g, g + bottom.length if bottom else g))
    view.line("beam", (flange_left[0], -beam.tf), (right, -beam.tf))
    view.line("beam", (flange_left[1], -beam.d + beam.tf), (right, -beam.d + beam.tf))
    view.line("beam", (right, 20.0), (right, -beam.d - 20), style="break")


def turned(situation: Situation, comes: Approach) -> str:
    """Slope and skew in words: the plan shows a skew, no view a slope; empty where there is neither."""
    said = (("slope", situation.slope, "drawn level"), ("skew", situation.skew, "as in the plan"))
    words = [f"{name} {math.degrees(abs(angle)):.1f}°, {how}" for name, angle, how in said if abs(angle) > NOTED]
    cut = "end cut square" if comes.square else "end cut parallel with support"
    return f"{'; '.join(words)}; {cut}" if words else ""
