"""What a shop's sizes go by: the practice of the unit system that its steel is sold in."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.quantities.units import INCH


@dataclass(frozen=True)
class Shop:
    """The thicknesses that `plates` are kept in, those of `bases` apart, the thinnest first, and by what steps other
    sizes are made, mm.

    `weld`: fillets' legs and grooves' throats, `one_pass` the largest leg of one pass. `fine`: thin plates and close
    fits, `plate`: thick ones, `place`: where holes, edges and cuts lie, `width`: of plates and between lines of holes,
    `large`: bases and what stands in concrete."""

    plates: tuple[float, ...]
    bases: tuple[float, ...]
    weld: float
    one_pass: float
    fine: float
    plate: float
    place: float
    width: float
    large: float

    def plates_of(self, least: float, most: float) -> list[float]:
        """The thicknesses from `least` to `most` mm that it keeps; the nearest thicker one at least."""
        kept = [t for t in self.plates if least - 1e-6 <= t <= most + 1e-6]
        return kept or [min((t for t in self.plates if t > most), default=self.plates[-1])]


INCHES = Shop(
    plates=tuple(n * INCH / 16 for n in (4, 5, 6, 8, 10, 12, 14, 16, 20, 24, 28, 32)),
    bases=tuple(n * INCH / 4 for n in (3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 16)),
    weld=INCH / 16,
    one_pass=5 / 16 * INCH,
    fine=INCH / 16,
    plate=INCH / 8,
    place=INCH / 4,
    width=INCH / 2,
    large=INCH,
)

MILLIMETRES = Shop(
    plates=(6.0, 8.0, 10.0, 12.0, 15.0, 18.0, 20.0, 22.0, 25.0, 30.0, 35.0, 40.0, 45.0, 50.0),
    bases=tuple(float(n) for n in (20, 25, 30, 35, 40, 45, 50, 60, 70, 80, 90, 100)),
    weld=1.0,
    one_pass=8.0,
    fine=1.0,
    plate=2.0,
    place=5.0,
    width=10.0,
    large=20.0,
)

STOCKS = {"in": INCHES, "mm": MILLIMETRES}  # what a shop keeps: in fractions of an inch, or in millimetres
