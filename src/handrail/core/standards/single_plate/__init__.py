"""The single plate: a plate welded to the support and bolted to the beam's web."""

from handrail.core.standards.single_plate.standard import SINGLE_PLATE

__all__ = ["SINGLE_PLATE"]
