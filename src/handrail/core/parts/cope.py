"""How much of a beam stands in its girder's flanges, and so must be coped away."""

from __future__ import annotations

from handrail.core.catalogue import Section


def top_clash(beam: Section, girder: Section, top_offset: float) -> float:
    """Depth of the beam's top that lies in the girder's flange and fillet, mm."""
    return max(0.0, girder.k_detail - top_offset) if girder.open else 0.0


def bottom_clash(beam: Section, girder: Section, top_offset: float) -> float:
    """Depth of the beam's bottom that lies in the girder's lower flange and fillet, mm."""
    return max(0.0, top_offset + beam.d - (girder.d - girder.k_detail)) if girder.open else 0.0


def copes_needed(beam: Section, girder: Section, top_offset: float) -> str:
    """none, top, bottom or both: what a beam set against a girder's web needs."""
    top, bottom = top_clash(beam, girder, top_offset) > 0, bottom_clash(beam, girder, top_offset) > 0
    return "both" if top and bottom else "top" if top else "bottom" if bottom else "none"
