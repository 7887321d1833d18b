"""The shear end plate: a plate shop-welded across the end of the beam's web and field-bolted to the support."""

from handrail.core.standards.shear_end_plate.standard import SHEAR_END_PLATE

__all__ = ["SHEAR_END_PLATE"]
