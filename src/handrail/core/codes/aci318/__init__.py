"""ACI 318-19 chapter 17: anchors in concrete, by strength design."""

from handrail.core.codes.aci318.code import CODE, Code

__all__ = ["CODE", "Code"]
