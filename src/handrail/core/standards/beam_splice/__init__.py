"""Beam splices: two pieces of one beam joined by plates on the web, or on web and flanges."""

from handrail.core.standards.beam_splice.standard import BEAM_FLANGE_SPLICE, BEAM_WEB_SPLICE

__all__ = ["BEAM_FLANGE_SPLICE", "BEAM_WEB_SPLICE"]
