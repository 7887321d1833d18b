"""A rigid plate on concrete held by anchors: what presses and what pulls, by a block of pressure or by a plane of
strain."""

from handrail.core.parts.bearing.base_plate import BasePlate
from handrail.core.parts.bearing.block import Block, block
from handrail.core.parts.bearing.faces import Faces, overlap, profile
from handrail.core.parts.bearing.footprint import Footprint
from handrail.core.parts.bearing.seat import Rest, Seat
from handrail.core.parts.bearing.strain import Plane, strain

__all__ = ["BasePlate", "Block", "Faces", "Footprint", "Plane", "Rest", "Seat", "block", "overlap", "profile", "strain"]
