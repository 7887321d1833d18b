"""The edition, its strength reduction factors and its units. Concrete is judged by strength combinations alone, in an
ASD job too."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.codes.aci318.clauses import CLAUSES
from handrail.core.codes.naming import clause_of
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import KIP, KSI

LB, PSI = KIP / 1000, KSI / 1000  # one pound in N, one pound a square inch in MPa
STRONGEST = 10_000 * PSI  # what counts of fc' for cast-in anchors (17.3.1)
SEISMIC = 0.75  # on concrete modes in tension (17.10.5.4)

# (limit state, what it depends on) -> phi of 17.5.3
PHI = {
    ("steel_tension", True): 0.75,
    ("steel_tension", False): 0.65,  # ductile steel or brittle
    ("steel_shear", True): 0.65,
    ("steel_shear", False): 0.60,
    ("breakout", True): 0.75,
    ("breakout", False): 0.70,  # supplementary reinforcement there or not; side-face blowout alike
    ("pullout", True): 0.70,
    ("pullout", False): 0.70,  # cast in
    ("pryout", True): 0.70,
    ("pryout", False): 0.70,
}
# in tension, of post-installed anchors by category: breakout and bond with supplementary reinforcement or without;
# pullout
PHI_INSTALLED = {
    1: {("breakout", True): 0.75, ("breakout", False): 0.65, ("pullout", False): 0.65},
    2: {("breakout", True): 0.65, ("breakout", False): 0.55, ("pullout", False): 0.55},
    3: {("breakout", True): 0.55, ("breakout", False): 0.45, ("pullout", False): 0.45},
}


@dataclass(frozen=True)
class Edition:
    """One edition of ACI 318."""

    edition: str = "19"
    method: str = "LRFD"  # of the combinations that it is judged by: factored loads

    @property
    def name(self) -> str:
        return f"ACI 318-{self.edition}"

    def clause(self, what: str) -> str:
        """Where it says something, by our name of it. Raises KeyError."""
        return clause_of(CLAUSES, what)

    @property
    def in_earthquakes(self) -> float:
        """What is left of concrete in tension (17.10.5.4)."""
        return SEISMIC

    def modulus(self, fc: float, light: float = 1.0) -> float:
        """Ec, MPa (19.2.2.1)."""
        return modulus_of(fc, light)

    def available(
        self, Rn: float, limit: str, favoured: bool, trace: Trace = NULL, symbol: str = "N", category: int = 0
    ) -> float:
        """Design strength phi Rn of a limit state of PHI; `favoured` is ductile steel, or supplementary reinforcement.
        A post-installed anchor in tension has its `category`, 0 is cast in."""
        phi = (PHI_INSTALLED[category] if category else PHI)[limit, favoured]
        return trace(f"phi {symbol}n", f"{phi:.2f} {symbol}n", phi * Rn, "17.5.3", kind="force")


def root(fc: float) -> float:
    """sqrt(fc') with fc' in psi, as the formulas take it; not over 10,000 psi (17.3.1)."""
    return math.sqrt(min(fc, STRONGEST) / PSI)


def modulus_of(fc: float, light: float = 1.0) -> float:
    """Ec, MPa: of normal weight 57000 sqrt(fc') psi (19.2.2.1b), of lightweight wc^1.5 33 sqrt(fc') (19.2.2.1a) with
    the weight of lambda = 0.0075 wc (Table 19.2.4.1a), pounds a cubic foot."""
    factor = 57_000 if light >= 1.0 else 33 * (light / 0.0075) ** 1.5
    return factor * math.sqrt(fc / PSI) * PSI
