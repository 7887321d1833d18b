"""Other programs' tables: a column map says where each of ours is found in them, and they become a bundle."""

from handrail.interchange.columnmap.applying import bundled
from handrail.interchange.columnmap.language import ColumnMap
from handrail.interchange.columnmap.parsing import read_map
from handrail.interchange.columnmap.proposing import proposed

__all__ = ["ColumnMap", "bundled", "proposed", "read_map"]
