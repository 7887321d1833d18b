"""AISC 360 (22 and 16), LRFD and ASD, with the Manual's procedures for connections."""

from handrail.core.codes.aisc360.code import Code, code

__all__ = ["Code", "code"]
