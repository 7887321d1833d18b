"""What a sized connection is made of, so that two can be weighed against one another."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.solids import counting
from handrail.core.solids.counting import STEEL
from handrail.core.solids.pieces import Solids


@dataclass(frozen=True)
class Quantities:
    """Bolts by where they are put in, steel of plates and angles in kg, fillets in mm of a leg of `leg` mm each: (leg,
    length, at the site); anchor rods. A complete-penetration or a partial groove is not counted as weld."""

    shop_bolts: int
    field_bolts: int
    steel: float
    fillets: tuple[tuple[float, float, bool], ...]
    rods: int = 0

    @property
    def weld(self) -> float:
        """Metal of all fillets, kg."""
        return sum(leg**2 / 2 * length for leg, length, _ in self.fillets) * STEEL

    @property
    def field_weld(self) -> float:
        """Length of fillets at the site, mm."""
        return sum(length for _, length, field in self.fillets if field)


def counted(solids: Solids) -> Quantities:
    """What solids are made of; erection bolts have no place and are counted with those of the site."""
    fillets = tuple((leg, length, field) for (leg, field), length in counting.fillets(solids).items())
    field_bolts = counting.bolts(solids, True) + solids.erection
    return Quantities(counting.bolts(solids, False), field_bolts, counting.steel(solids), fillets, len(solids.rods))
