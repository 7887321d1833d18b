"""Cast-in anchors under a base: where they stand in the concrete, and their limit states in tension, in shear and
together."""

from handrail.core.parts.anchors.group import AnchorGroup, Concrete

__all__ = ["AnchorGroup", "Concrete"]
