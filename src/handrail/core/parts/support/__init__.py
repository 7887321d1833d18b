"""What a plate lands on: a column's flange or web, a girder's web, a hollow column's wall."""

from handrail.core.parts.support.column_flange import ColumnFlange
from handrail.core.parts.support.column_web import ColumnWeb
from handrail.core.parts.support.girder_web import GirderWeb
from handrail.core.parts.support.hollow_wall import HollowWall
from handrail.core.parts.support.landing import Landing, Support

__all__ = ["ColumnFlange", "ColumnWeb", "GirderWeb", "HollowWall", "Landing", "Support"]
