"""End-plate splice: two hollow columns joined by plates bolted face to face."""

from handrail.core.standards.end_plate_splice.standard import COLUMN_END_PLATE_SPLICE

__all__ = ["COLUMN_END_PLATE_SPLICE"]
