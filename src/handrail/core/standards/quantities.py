"""What a sized connection is made of, so that two can be weighed against one another."""

from __future__ import annotations

from dataclasses import dataclass

STEEL = 7.85e-6  # kg/mm^3


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


def plate(thickness: float, width: float, depth: float) -> float:
    """Of a plate, kg."""
    return thickness * width * depth * STEEL
