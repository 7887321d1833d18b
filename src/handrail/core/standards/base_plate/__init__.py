"""Base plate: a column's foot on concrete, down to the anchors."""

from handrail.core.standards.base_plate.standard import BASE_PLATE

__all__ = ["BASE_PLATE"]
