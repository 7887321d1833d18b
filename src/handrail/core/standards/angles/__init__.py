"""Shear angles: a pair on both sides of the beam's web, or one on one side."""

from handrail.core.standards.angles.standard import DOUBLE_ANGLE, SINGLE_ANGLE

__all__ = ["DOUBLE_ANGLE", "SINGLE_ANGLE"]
