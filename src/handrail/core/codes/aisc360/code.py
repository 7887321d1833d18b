"""The edition and the method: factors, clause numbers, available strength."""

from __future__ import annotations

import re
from dataclasses import dataclass

from handrail.core.codes.aisc360.clauses import CLAUSES
from handrail.core.codes.naming import clause_of
from handrail.core.quantities.lines import NULL, Trace

# limit state -> (phi for LRFD, Omega for ASD)
FACTORS = {
    "tension_yield": (0.90, 1.67),
    "rupture": (0.75, 2.00),
    "shear_yield": (1.00, 1.50),
    "web_shear": (0.90, 1.67),
    "flexure": (0.90, 1.67),
    "compression": (0.90, 1.67),
    "bolt": (0.75, 2.00),
    "weld": (0.75, 2.00),
    "groove": (0.80, 1.88),
    "slip": (1.00, 1.50),
    "slip_oversized": (0.85, 1.76),
    "slip_long": (0.70, 2.14),
    "local_yield": (1.00, 1.50),
    "crippling": (0.75, 2.00),
    "hollow_wall": (1.00, 1.50),
    "concrete_bearing": (0.65, 2.31),
}

# clauses that were renumbered between the editions: 360-22 -> 360-16
_IN_2016 = {
    "J3.3": "J3.2",
    "J3.4": "J3.3",
    "J3.5": "J3.4",
    "J3.6": "J3.5",
    "J3.7": "J3.6",
    "J3.8": "J3.7",
    "J3.9": "J3.8",
    "J3.10": "J3.9",
    "J3.11": "J3.10",
}
G = 77_221.0  # MPa: 11,200 ksi


@dataclass(frozen=True)
class Edition:
    """One edition of AISC 360 with one design method. `edition` is `22` or `16`; `nominal`: strengths are not reduced
    (B3.9)."""

    edition: str = "22"
    method: str = "LRFD"
    nominal: bool = False

    @property
    def name(self) -> str:
        return f"AISC 360-{self.edition}"

    @property
    def manual(self) -> str:
        return "Manual 16th ed." if self.edition == "22" else "Manual 15th ed."

    @property
    def lrfd(self) -> bool:
        return self.method == "LRFD"

    def factor(self, limit: str) -> float:
        """What a nominal strength is multiplied by for a limit state of FACTORS: phi, or 1/Omega."""
        phi, omega = FACTORS[limit]
        return 1.0 if self.nominal else phi if self.lrfd else 1 / omega

    def clause(self, what: str) -> str:
        """Where it says something, by our name of it. Raises KeyError."""
        return self.numbered(clause_of(CLAUSES, what)).replace("{manual}", self.manual)

    def numbered(self, clause: str) -> str:
        """A clause named by its 360-22 number, as this edition numbers it."""
        if self.edition == "22":
            return clause
        return re.sub(r"J3\.\d+", lambda m: _IN_2016.get(m[0], m[0]), clause)

    def available(self, Rn: float, limit: str, trace: Trace = NULL, symbol: str = "R") -> float:
        """Design (LRFD) or allowable (ASD) strength of the nominal `Rn` for a limit state of FACTORS."""
        phi, omega = FACTORS[limit]
        if self.nominal:
            return Rn
        if not trace.on:
            return phi * Rn if self.lrfd else Rn / omega
        if self.lrfd:
            return trace(f"phi {symbol}n", f"{phi:.2f} {symbol}n", phi * Rn, "B3.1", kind=_kind(symbol))
        return trace(f"{symbol}n/Omega", f"{symbol}n / {omega:.2f}", Rn / omega, "B3.2", kind=_kind(symbol))


def _kind(symbol: str) -> str:
    return {"M": "moment", "F": "stress"}.get(symbol[:1], "force")
