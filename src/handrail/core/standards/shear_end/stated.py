"""Actions that a shear end is asked to hold besides, or in place of, those of the analysis: stated or least ones, a tie force, structural integrity.

They are rows of their own among the combinations, named for what they are, so that every result says which of them governed.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.codes.aisc360 import Code
from handrail.core.codes.aisc360.members import tension_yield, web_shear
from handrail.core.limit_state import LimitState
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Parameter, Sizes, length, text
from handrail.core.units import KIP, show

LEAST_TIE = 10 * KIP  # B3.9
INTEGRITY = "integrity"
B39 = "B3.9"
NOT_ASKED = ("slot_along", "slip")  # bolts may slip, and bear along short slots that run with the pull (B3.9)

PARAMETERS = (
    Parameter("stated", "choice", "Stated actions", "Join those of the analysis, or take their place", "joins", ("joins", "replaces")),
    Parameter("stated_V", "force", "Stated V", "A shear that it has to hold in any case", "0 kip", low=0),
    Parameter("stated_V_share", "number", "Stated V as a share", "Of the beam's available shear strength: 0.5 for half of it", "0", low=0, high=2),
    Parameter("stated_N", "force", "Stated N", "An axial force both ways, with the largest shear", "0 kip", low=0),
    Parameter("stated_N_share", "number", "Stated N as a share", "Of the beam's available yield strength in tension", "0", low=0, high=2),
    Parameter("tie_force", "force", "Tie force", "A pull with no shear", "0 kip", low=0),
    Parameter("integrity", "choice", "Structural integrity", "Whether a pull by AISC B3.9 is held, by nominal strengths", "none", ("none", "b3.9")),
)  # fmt: skip

NAMES = tuple(p.name for p in PARAMETERS)


@dataclass(frozen=True)
class _Row:
    """One set of actions, each (k,) or a number, N."""

    name: str
    V: Any
    N: Any
    set: str = "strength"


def stated(situation: Situation, sizes: Sizes, code: Code) -> tuple[float, float]:
    """(V, N) that are stated: the number, or the share of the member's available strength, whichever is more; N."""
    steel = situation.supported
    V = max(length(sizes, "stated_V"), length(sizes, "stated_V_share") * web_shear(code, steel.section, steel.grade.Fy))
    N = max(length(sizes, "stated_N"), length(sizes, "stated_N_share") * tension_yield(code, steel.section, steel.grade.Fy))
    return V, N


def asks(sizes: Sizes) -> bool:
    """Whether anything is stated."""
    return text(sizes, "integrity") != "none" or any(length(sizes, p.name) > 0 for p in PARAMETERS if p.kind in ("force", "number"))


def acted(situation: Situation, sizes: Sizes, code: Code, actions: Actions) -> Actions:
    """The actions with the rows that are stated, in their place where these replace them."""
    if not asks(sizes):
        return actions
    V, N = stated(situation, sizes, code)
    replaced = text(sizes, "stated") == "replaces" and bool(V or N)
    largest = np.abs(actions.V[..., list(actions.judged(code.method, ("strength",)))]).max(axis=-1, initial=0.0)
    basis = np.full_like(largest, V) if replaced else np.maximum(largest, V)  # the shear that a stated N comes with, and that integrity goes by
    rows = [_Row("stated V", V, 0.0)] if V else []
    rows += [_Row(f"stated N {word}, with V", basis, way * N) for word, way in (("pulling", 1), ("pressing", -1))] if N else []
    kept = () if replaced else tuple(range(actions.V.shape[-1]))
    if tie := length(sizes, "tie_force"):
        rows.append(_Row("tie force", 0.0, tie))
    if text(sizes, "integrity") == "b3.9":
        rows.append(_Row("integrity B3.9", 0.0, np.maximum(basis * (2 / 3 if code.lrfd else 1.0), LEAST_TIE), INTEGRITY))
    return _with(actions, kept, rows, code)


def _with(actions: Actions, kept: tuple[int, ...], rows: list[_Row], code: Code) -> Actions:
    """The combinations `kept`, then the rows; beside them stands the largest shear of a beam opposite, and the most compressed support."""
    shape = (*actions.V.shape[:-1], 1)

    def joined(now: Any, more: list[Any]) -> np.ndarray:
        columns = [np.broadcast_to(np.asarray(v, float)[..., None] if np.ndim(v) else np.asarray(v, float), shape) for v in more]
        return np.concatenate([np.broadcast_to(now, actions.V.shape)[..., list(kept)], *columns], axis=-1)

    count = len(rows)
    parts = {name: joined(getattr(actions, name), [0.0] * count) for name in ("Vw", "M", "Mw", "T")}
    parts["V"], parts["N"] = joined(actions.V, [r.V for r in rows]), joined(actions.N, [r.N for r in rows])
    if isinstance(actions.V_opposed, np.ndarray):
        most = np.abs(actions.V_opposed).max(axis=-1)
        parts["V_opposed"] = joined(actions.V_opposed, [most if np.ndim(r.V) or r.V else 0.0 for r in rows])
        parts["N_opposed"] = joined(actions.N_opposed, [0.0] * count)
    if isinstance(actions.N_support, np.ndarray):
        parts["N_support"] = joined(actions.N_support, [actions.N_support.min(axis=-1)] * count)
    sets = actions.sets or ((code.method, "strength"),) * actions.V.shape[-1]
    names = actions.names or tuple("" for _ in sets)
    seismic = actions.seismic and (*(actions.seismic[k] for k in kept), *(False for _ in rows))
    return replace(actions, **parts, names=(*(names[k] for k in kept), *(r.name for r in rows)), seismic=seismic,
                   sets=(*(sets[k] for k in kept), *((code.method, r.set) for r in rows)))  # fmt: skip


def integrity(states: list[LimitState], sizes: Sizes) -> Iterator[LimitState]:
    """Of `states`, made with nominal strengths, those that a pull uses, judged by the row of B3.9 alone."""
    one, none = (Actions.of(np.array([[n, 0.0, 0.0, 0.0, 0.0, 0.0]]), support=np.zeros(1)) for n in (KIP, 0.0))
    for state in states:
        pulled, idle = (np.ravel(state.utilisation(actions))[0] for actions in (one, none))
        if pulled > idle and not any(name in state.check for name in NOT_ASKED):
            yield replace(state, check=f"integrity_{state.check}", sets=(INTEGRITY,))


def notes(situation: Situation, sizes: Sizes, code: Code) -> Iterator[str]:
    """What is stated, in words."""
    V, N = stated(situation, sizes, code)
    said = [f"{name} {show(value, 'force')}" for name, value in (("V", V), ("N", N)) if value]
    if said:
        how = "take the place of those of the analysis" if text(sizes, "stated") == "replaces" else "join those of the analysis"
        yield f"stated actions {how}: {', '.join(said)}"
    if tie := length(sizes, "tie_force"):
        yield f"a tie force of {show(tie, 'force')} is held with no shear"
    if text(sizes, "integrity") == "b3.9":
        yield "structural integrity: a pull of 2/3 of the required shear (all of it by ASD), 10 kip at least, by nominal strengths (B3.9)"


def refusals(sizes: Sizes) -> Iterator[str]:
    """A replacement with nothing in it."""
    if text(sizes, "stated") == "replaces" and not any(length(sizes, p.name) > 0 for p in PARAMETERS if p.name.startswith("stated_")):
        yield "stated actions are to replace those of the analysis, and none is stated: give stated_V or stated_N, or their shares"
