"""Two pieces of one member joined end to end: plates on the web, plates on the flanges, grooves, contact."""

from handrail.core.parts.splice.column import ColumnFlanges, Contact, GrooveFlanges
from handrail.core.parts.splice.flange import FlangePlates, FlangeSide
from handrail.core.parts.splice.web import WebSide

__all__ = ["ColumnFlanges", "Contact", "FlangePlates", "FlangeSide", "GrooveFlanges", "WebSide"]
