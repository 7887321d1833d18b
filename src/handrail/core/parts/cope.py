"""Copes: how much of a beam stands in its girder's flanges, and so must be cut away."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.catalogue import Section

Rectangle = tuple[float, float, float]  # width, top and bottom below the top of what is left, mm


@dataclass(frozen=True)
class Cope:
    """A cut from the beam's end, mm; false where there is none."""

    length: float
    depth: float

    def __bool__(self) -> bool:
        return self.length > 0 and self.depth > 0


def clear_of(girder: Section, face: str = "") -> float:
    """How deep the girder's flange and fillet reach on the beam's side, mm; nothing on the flat back of a channel."""
    if girder.channel and face == "back":
        return 0.0
    return girder.k_detail if girder.open or girder.channel else 0.0


def top_clash(girder: Section, top_offset: float, face: str = "") -> float:
    """Depth of the beam's top that lies in the girder's flange and fillet, mm."""
    reach = clear_of(girder, face)
    return max(0.0, reach - top_offset) if reach else 0.0


def bottom_clash(depth: float, girder: Section, top_offset: float, face: str = "") -> float:
    """How much of the bottom of a beam `depth` mm deep lies in or below the girder's lower flange and fillet, mm."""
    reach = clear_of(girder, face)
    return max(0.0, top_offset + depth - (girder.d - reach)) if reach else 0.0


def copes_needed(beam: Section, girder: Section, top_offset: float, face: str = "") -> str:
    """none, top, bottom or both: what a beam set against a girder's web needs."""
    top, bottom = top_clash(girder, top_offset, face) > 0, bottom_clash(beam.d, girder, top_offset, face) > 0
    return "both" if top and bottom else "top" if top else "bottom" if bottom else "none"


@dataclass(frozen=True)
class CopedSection:
    """What is left of an I-shape beside a cope: a tee (one cope) or a web strip (both copes), the cut edge at the top.

    `ho` remaining depth, `S` elastic modulus at the cut edge and `Z` plastic modulus, mm^3; `parts` are its
    rectangles, fillets left out.
    """

    ho: float
    S: float
    Z: float
    area: float
    parts: tuple[Rectangle, ...]


def coped_section(d: float, tw: float, bf: float, tf: float, top: float, bottom: float) -> CopedSection:
    """The remaining section, fillets left out, for cope depths `top` and `bottom` (0: not coped), mm.

    One that is coped below only is turned over, so that its cut edge is at the top.
    """
    ho = d - top - bottom
    parts: tuple[Rectangle, ...] = ((tw, 0.0, ho),) if top and bottom else ((tw, 0.0, ho - tf), (bf, ho - tf, ho))
    return CopedSection(ho, _elastic(parts), _plastic(parts), sum(b * (y1 - y0) for b, y0, y1 in parts), parts)


def net_elastic_modulus(section: CopedSection, holes: list[tuple[float, float]]) -> float:
    """S at the cut edge with `holes` (top, bottom below that edge, mm) taken out of the web, mm^3; 0 where nothing is
    left."""
    tw = section.parts[0][0]
    return _elastic((*section.parts, *((-tw, max(y0, 0.0), y1) for y0, y1 in holes)))


def _elastic(parts: tuple[Rectangle, ...]) -> float:
    """Elastic modulus at y = 0 of rectangles added up; a negative width is a hole."""
    area = sum(b * (y1 - y0) for b, y0, y1 in parts)
    if area <= 0:
        return 0.0
    ybar = sum(b * (y1**2 - y0**2) / 2 for b, y0, y1 in parts) / area
    inertia = sum(b * (y1**3 - y0**3) / 3 for b, y0, y1 in parts) - area * ybar**2
    return inertia / ybar if inertia > 0 and ybar > 0 else 0.0


def _plastic(parts: tuple[Rectangle, ...]) -> float:
    """Plastic modulus of rectangles stacked from y = 0 down, none a hole."""
    half, axis = sum(b * (y1 - y0) for b, y0, y1 in parts) / 2, 0.0
    for b, y0, y1 in parts:
        if half <= b * (y1 - y0):
            axis = y0 + half / b
            break
        half -= b * (y1 - y0)
    return sum(b * (_first(y1 - axis) - _first(y0 - axis)) for b, y0, y1 in parts)


def _first(y: float) -> float:
    """The integral of |y| from 0 to y."""
    return y * abs(y) / 2
