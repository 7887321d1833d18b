"""The standards: parametric connections, one package each."""

from handrail.core.errors import UnknownName
from handrail.core.standards.angles import DOUBLE_ANGLE, SINGLE_ANGLE
from handrail.core.standards.base_plate import BASE_PLATE
from handrail.core.standards.beam_splice import BEAM_FLANGE_SPLICE, BEAM_WEB_SPLICE
from handrail.core.standards.column_splice import COLUMN_FLANGE_SPLICE
from handrail.core.standards.end_plate_splice import COLUMN_END_PLATE_SPLICE
from handrail.core.standards.shear_end_plate import SHEAR_END_PLATE
from handrail.core.standards.single_plate import SINGLE_PLATE
from handrail.core.standards.standard import Standard

_HELD = (SINGLE_PLATE, DOUBLE_ANGLE, SINGLE_ANGLE, SHEAR_END_PLATE,
         BEAM_WEB_SPLICE, BEAM_FLANGE_SPLICE, COLUMN_FLANGE_SPLICE, COLUMN_END_PLATE_SPLICE, BASE_PLATE)  # fmt: skip
STANDARDS: dict[str, Standard] = {s.name: s for s in _HELD}


def standard(name: str) -> Standard:
    """The standard called `name`. Raises UnknownName."""
    known = STANDARDS.get(name.strip().lower().replace(" ", "_").replace("-", "_"))
    if known is None:
        raise UnknownName(f"standard '{name}' is not held; there is {', '.join(STANDARDS)}")
    return known


__all__ = ["STANDARDS", "Standard", "standard"]
