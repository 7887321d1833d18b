"""Two pieces of one member joined end to end: plates on the web, plates on the flanges."""

from handrail.core.parts.splice.flange import FlangePlates, FlangeSide
from handrail.core.parts.splice.web import WebSide

__all__ = ["FlangePlates", "FlangeSide", "WebSide"]
