"""Copes: how much of a beam stands in its girder's flanges, and so must be cut away."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.catalogue import Section


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
