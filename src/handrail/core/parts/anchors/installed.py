"""An anchor drilled into hardened concrete, as the report of its assessment gives it (ACI 355.2, ACI 355.4)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from handrail.core.codes.concrete import ConcreteCode

KINDS = ("adhesive", "expansion", "undercut", "screw")


@dataclass(frozen=True, kw_only=True)
class Installed:
    """`kind` of KINDS and `category` 1 to 3; `kc` of breakout in the concrete as it is; `bond` characteristic in it and
    `bond_uncracked`, MPa, of adhesive ones; `pullout` of others, `steel_tension` and `steel_shear` of one, N, 0 where
    not given; `critical_edge` cac, mm; the part `sustained` of the tension that lasts; `earthquake`: whether all that
    is the report's for earthquakes."""

    kind: str
    category: int
    kc: float
    bond: float
    bond_uncracked: float
    pullout: float
    steel_tension: float
    steel_shear: float
    critical_edge: float
    sustained: float
    earthquake: bool

    @property
    def adhesive(self) -> bool:
        """Whether it holds by bond."""
        return self.kind == "adhesive"

    def lacks(self, code: ConcreteCode, seismic: bool, cracked: bool) -> Iterator[str]:
        """What is not given and cannot be guessed, in words."""
        wanted: dict[str, float] = {"anchor_category": self.category}
        if self.adhesive:
            wanted |= {
                "bond_uncracked": self.bond_uncracked,
                "bond_cracked" if cracked else "bond_uncracked": self.bond,
            }
        else:
            wanted |= {"pullout": self.pullout, "steel_tension": self.steel_tension, "steel_shear": self.steel_shear}
        if seismic:
            wanted |= {"steel_shear": self.steel_shear}
        missing = [name for name, value in wanted.items() if not value]
        if missing:
            yield f"{self.kind} anchors need {', '.join(missing)} of the report of their assessment"
        if seismic and not self.earthquake:
            yield (
                "of the system that resists earthquakes: post-installed anchors must be qualified for it"
                f" ({code.clause('qualified')}); give the report's values for earthquakes and set"
                " anchor_earthquake: qualified"
            )

    @property
    def says(self) -> str:
        """Its kind and category in a few words."""
        return f"{self.kind} anchors of category {self.category}, kc {self.kc:g}, by the report of their assessment"
