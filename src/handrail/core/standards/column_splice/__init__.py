"""Column splice: an upper column on a lower one, joined by plates or grooves on the flanges and plates on the webs."""

from handrail.core.standards.column_splice.standard import COLUMN_FLANGE_SPLICE

__all__ = ["COLUMN_FLANGE_SPLICE"]
