"""The least shear that a column splice of the lateral system is made for, whatever the analysis says (AISC 341 D2.5c, E3.6g)."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Steel
from handrail.core.codes.aisc360 import Code
from handrail.core.limit_state import LimitState, Under
from handrail.core.trace import Trace

NO_STOREY = "the storey's height is not known, which gives the splice's least shear in the lateral system: give the floors, or geometry.storey"


def least_shears(pieces: tuple[Steel, Steel], storey: float, frame: str, code: Code) -> tuple[float, float]:
    """(V, Vw) N: along the web the sum of both columns' Mpc over the storey in a moment frame (E3.6g), else the lesser; across it
    the lesser (D2.5c); Mpc = Fy Z, over alpha_s."""
    strong, weak = ([p.grade.Fy * z for p, z in zip(pieces, (getattr(p.section, name) for p in pieces), strict=True)] for name in ("Zx", "Zy"))
    alpha = 1.0 if code.lrfd else 1.5
    return (sum(strong) if frame == "moment" else min(strong)) / alpha / storey, min(weak) / alpha / storey


def least_shear(states: list[LimitState], pieces: tuple[Steel, Steel], storey: float | None, frame: str, code: Code) -> LimitState:
    """One limit: the highest utilisation of `states` under each of the two shears alone; not known without the `storey`, mm."""

    def evaluate(actions: Actions, t: Trace) -> tuple[np.ndarray, float]:
        if not storey:
            return np.full(actions.V.shape, np.nan), 1.0
        V, Vw = least_shears(pieces, storey, frame, code)
        use, check = max(((_use(s, V, Vw), s.check) for s in states), key=lambda found: np.nan_to_num(found[0], nan=np.inf))
        t("V", "sum of Mpc / (alpha_s H)" if frame == "moment" else "Mpc / (alpha_s H)", V, "E3.6g" if frame == "moment" else "D2.5c", kind="force",
          H=storey)  # fmt: skip
        t("Vw", "Mpc,y / (alpha_s H)", Vw, "D2.5c", kind="force", H=storey)
        return np.full(actions.V.shape, t("use", f"highest by {check}", use, kind="number")) + actions.V * 0.0, 1.0

    return replace(Under(code, "column").state("least_shear", "AISC 341 D2.5c", "number", evaluate, limit=True, unknown=NO_STOREY), method="")


def _use(state: LimitState, V: float, Vw: float) -> float:
    table = np.zeros((1, 4, 6))
    table[0, :2, 1], table[0, 2:, 2] = (V, -V), (Vw, -Vw)
    return float(np.max(state.utilisation(Actions.of(table))))
