"""Actions that a connection is asked to hold besides, or in place of, those of the analysis: stated or least ones, a
tie force, structural integrity.

They are rows of their own among the combinations, named for what they are, so that every result says which of them
governed."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS, Actions, Forces
from handrail.core.codes.asked import Demand
from handrail.core.codes.family import Code
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState
from handrail.core.quantities.units import KIP
from handrail.core.quantities.words import held
from handrail.core.remark import Less
from handrail.core.standards.sizes import ASKED, Parameter, Sizes, length, text

LEAST_TIE = 10 * KIP  # B3.9
BRACES = 0.01  # of a column's force, by a member that braces it (B3.9)
INTEGRITY = "integrity"
B39 = "b3.9"
NOT_ASKED = ("slot_along", "slip")  # bolts may slip, and bear along short slots that run with the pull (B3.9)
ON_CONCRETE = 1.6  # what concrete, judged by LRFD alone, takes of a stated allowable amount: as of a live load

REPLACES = Parameter(
    ASKED,
    "stated",
    "choice",
    "Stated actions",
    "Join those of the analysis, or take the place of the same component there",
    "joins",
    ("joins", "replaces"),
)
TIE = Parameter(ASKED, "tie_force", "force", "Tie force", "A pull with no shear", "0 kip", low=0)
HELD = Parameter(
    ASKED,
    "integrity",
    "choice",
    "Structural integrity",
    "Whether a pull for structural integrity is held, by nominal strengths",
    "none",
    ("none", B39),
)
BRACED = Parameter(
    ASKED,
    "braced_force",
    "force",
    "Force of the column it braces",
    "Required, of a column that this member braces: one per cent of it is held by nominal strengths",
    "0 kip",
    low=0,
)
TRIBUTARY = Parameter(
    ASKED,
    "integrity_load",
    "force",
    "Load between the splices",
    "Dead and live load of the area that the column carries between this splice "
    "and the next below, held by nominal strengths",
    "0 kip",
    low=0,
)
SHARES = {
    "V": "Of the member's available shear strength: 0.5 for half of it",
    "N": "Of the member's available yield strength in tension",
    "M": "Of the member's available plastic moment",
    "Vw": "Of the member's available shear strength across its web",
    "Mw": "Of the member's available plastic moment about its weak axis",
}
KIND = {"V": "force", "N": "force", "M": "moment", "Vw": "force", "Mw": "moment"}
ORDER = tuple(KIND)
WITH_SHEAR = {"V": "A shear that it has to hold in any case", "N": "An axial force both ways, with the largest shear",
              "M": "A moment both ways, with the largest shear"}  # fmt: skip
ALONE = {
    "V": "A shear both ways, with nothing else",
    "N": "An axial force both ways, with nothing else",
    "M": "A moment both ways, with nothing else",
    "Vw": "A shear across the web both ways, with nothing else",
    "Mw": "A moment across the web both ways, with nothing else",
}


@dataclass(frozen=True)
class _Row:
    """One set of actions, each (k,) or a number, N and N mm; judged by states of `method`, or of the job's."""

    name: str
    forces: Mapping[str, Any]
    set: str = "strength"
    method: str = ""


@dataclass(frozen=True)
class Stated:
    """What a kind of standard that carries `actions` can be asked to hold. Of a `column` every action stands alone and
    comes from either side; of a beam's connection axial force and moment come with its shear. `anchored` in concrete;
    `integrity` where B3.9 asks for it."""

    actions: tuple[str, ...]
    column: bool = False
    anchored: bool = False
    integrity: bool = False
    parameters: tuple[Parameter, ...] = field(init=False, compare=False)

    def __post_init__(self) -> None:
        about, parameters = ALONE if self.column else WITH_SHEAR, [REPLACES]
        for name in (n for n in ORDER if n in self.actions):
            kind = KIND[name]
            parameters += [
                Parameter(
                    ASKED,
                    f"stated_{name}",
                    kind,
                    f"Stated {name}",
                    about[name],
                    "0 kip" if kind == "force" else "0 kip*ft",
                    low=0,
                ),
                Parameter(
                    ASKED,
                    f"stated_{name}_share",
                    "number",
                    f"Stated {name} as a share",
                    SHARES[name],
                    "0",
                    low=0,
                    high=2,
                ),
            ]
        more = [HELD, TRIBUTARY if self.column else BRACED] if self.integrity else []
        object.__setattr__(self, "parameters", (*parameters, TIE, *more))

    @cached_property
    def names(self) -> tuple[str, ...]:
        """Of the parameters: what is asked, which no ladder may change."""
        return tuple(p.name for p in self.parameters)

    def amounts(self, situation: Situation, sizes: Sizes, code: Code) -> dict[str, float]:
        """By action, the number or the share of the member's available strength, whichever is more, N and N mm; of a
        splice the weaker member's."""
        pieces = (
            (situation.supported, situation.carrier) if situation.framing.endswith("splice") else (situation.supported,)
        )
        amounts = {}
        for name in self.actions:
            share = length(sizes, f"stated_{name}_share")
            of = share and share * min(code.members.available(p.section, p.grade.Fy, name) for p in pieces)
            amounts[name] = max(length(sizes, f"stated_{name}"), of)
        return amounts

    def asks(self, sizes: Sizes) -> bool:
        """Whether anything is stated."""
        return (self.integrity and text(sizes, HELD.name) != "none") or any(
            length(sizes, p.name) > 0 for p in self.parameters if p.kind != "choice"
        )

    def acted(self, situation: Situation, sizes: Sizes, code: Code, actions: Actions) -> Actions:
        """The actions with the rows that are stated. Where these replace, what is stated has its amount in the
        combinations too, in the direction that it has there; every other component stays, and every combination with
        overstrength."""
        if not self.asks(sizes):
            return actions
        amounts = self.amounts(situation, sizes, code)
        instead = self._instead(sizes, amounts)
        largest = np.abs(actions.V[..., list(actions.judged(code.method, ("strength",)))]).max(axis=-1, initial=0.0)
        V = (
            np.full_like(largest, amounts["V"]) if "V" in instead else np.maximum(largest, amounts["V"])
        )  # with a beam's N and M, and integrity
        rows = self._alone(amounts) if self.column else _with_shear(amounts, V)
        if tie := length(sizes, TIE.name):
            rows.append(_Row("tie force", {"N": tie}))
        on_concrete = code.situations.concrete
        if self.anchored and code.method != on_concrete and any(by == on_concrete for by, _ in actions.sets):
            rows += [
                _Row(
                    f"{row.name}, x {ON_CONCRETE:g} on concrete",
                    {n: v * ON_CONCRETE for n, v in row.forces.items()},
                    row.set,
                    on_concrete,
                )
                for row in rows
            ]
        if self.integrity and text(sizes, HELD.name) == B39:
            share, called = 2 / 3 if code.lrfd else 1.0, f"integrity {code.clause('integrity')}"
            if self.column:
                rows.append(
                    _Row(f"{called}, load between the splices", {"N": length(sizes, TRIBUTARY.name)}, INTEGRITY)
                )
            else:
                rows.append(_Row(called, {"N": np.maximum(V * share, LEAST_TIE)}, INTEGRITY))
            if not self.column and (held := length(sizes, BRACED.name)):
                rows.append(_Row(f"{called}, the column it braces", {"N": BRACES * share * held}, INTEGRITY))
        return _with(_replaced(actions, instead, code) if instead else actions, rows, code)

    @staticmethod
    def _instead(sizes: Sizes, amounts: Mapping[str, float]) -> dict[str, float]:
        """What takes the place of the same component of the analysis."""
        return (
            {name: amount for name, amount in amounts.items() if amount} if text(sizes, "stated") == "replaces" else {}
        )

    def dropped(self, situation: Situation, sizes: Sizes, code: Code, actions: Actions) -> list[tuple[str, ...]]:
        """Of each of the (k, combinations) `actions`: what stated ones take the place of, with its amount and where, in
        words."""
        dropped: list[list[str]] = [[] for _ in range(actions.V.shape[0])]
        for name, amount in self._instead(sizes, self.amounts(situation, sizes, code)).items():
            columns = actions.judged(code.method, ("strength",))
            values = np.abs(getattr(actions, name)[..., list(columns)])
            for k, where in enumerate(values.argmax(axis=-1).tolist() if columns else []):
                most = float(values[k, where])
                less = "; less than the analysis: to be accepted by an engineer" if most > amount * (1 + 1e-9) else ""
                said = f" in {actions.names[columns[where]]}" if actions.names and most else ""
                words = (
                    f"stated {name} {held(amount, KIND[name])} in place of the analysis's"
                    f" {held(most, KIND[name])}{said}{less}"
                )
                dropped[k].append(Less(words) if less else words)
        return [tuple(words) for words in dropped]

    def _alone(self, amounts: Mapping[str, float]) -> list[_Row]:
        return [
            _Row(f"stated {name}{_sense(name, way)}", {name: way * amount})
            for name, amount in amounts.items()
            if amount
            for way in (1, -1)
        ]

    def refusals(self, sizes: Sizes) -> Iterator[str]:
        """A replacement with nothing in it."""
        if self.integrity and self.column and text(sizes, HELD.name) == B39 and not length(sizes, TRIBUTARY.name):
            yield (
                "structural integrity of a column's splice is by the load between it and the next below: give"
                " integrity_load"
            )
        given = [p.name for p in self.parameters if p.name.startswith("stated_")]
        if text(sizes, "stated") == "replaces" and not any(length(sizes, name) > 0 for name in given):
            few = " or ".join(f"stated_{name}" for name in ORDER if name in self.actions)
            yield (
                f"stated actions are to replace those of the analysis, and none is stated: give {few}, or their shares"
            )

    def notes(self, situation: Situation, sizes: Sizes, code: Code) -> Iterator[str]:
        """What is stated, in words."""
        said = [
            f"{name} {held(value, KIND[name])}" for name, value in self.amounts(situation, sizes, code).items() if value
        ]
        if said:
            how = (
                "take the place of the same components of the analysis"
                if text(sizes, "stated") == "replaces"
                else "join those of the analysis"
            )
            yield f"stated actions {how}: {', '.join(said)}"
        if tie := length(sizes, TIE.name):
            yield f"a tie force of {held(tie, 'force')} is held with no shear"
        if (said or tie) and self.anchored and code.method != code.situations.concrete:
            yield (
                f"on concrete, which has no allowable stress, {ON_CONCRETE:g} times what is stated counts, as of a live"
                " load"
            )
        if self.integrity and text(sizes, HELD.name) == B39:
            if self.column:
                yield (
                    f"structural integrity: a pull of {held(length(sizes, TRIBUTARY.name), 'force')}, by nominal"
                    f" strengths ({code.clause('integrity')})"
                )
                return
            yield (
                "structural integrity: a pull of 2/3 of the required shear (all of it by ASD),"
                f" {held(LEAST_TIE, 'force')} at least, by"
                f" nominal strengths ({code.clause('integrity')})"
            )
            if length(sizes, BRACED.name):
                yield (
                    "and one per cent of the force of the column that it braces (two thirds of that by LRFD), not at"
                    " the same time"
                )


def _sense(name: str, way: int) -> str:
    """The way of a stated action, in words behind its name."""
    if name == "N":
        return " pulling" if way > 0 else " pressing"
    return "" if way > 0 else " reversed"


def _with_shear(amounts: Mapping[str, float], V: np.ndarray) -> list[_Row]:
    """Of a beam: its shear alone, then each of the others both ways with it."""
    rows = [_Row("stated V", {"V": amounts["V"]})] if amounts["V"] else []
    for name, words in (("N", (" pulling", " pressing")), ("M", (", top in tension", ", bottom in tension"))):
        if amount := amounts.get(name):
            rows += [
                _Row(f"stated {name}{word}, with V", {"V": V, name: way * amount})
                for word, way in zip(words, (1, -1), strict=True)
            ]
    return rows


def _replaced(actions: Actions, instead: Mapping[str, float], code: Code) -> Actions:
    """The strength combinations with what is stated in place of those components, each way as they have it there."""
    every = range(actions.V.shape[-1])
    scale = np.array(
        [
            (
                0.0
                if actions.sets and actions.sets[k][1] != "strength"
                else 1.0
                if not actions.sets or actions.sets[k][0] == code.method
                else ON_CONCRETE
            )
            for k in every
        ]
    )
    parts: dict[str, Any] = {
        name: np.where(scale > 0, np.sign(getattr(actions, name)) * amount * scale, getattr(actions, name))
        for name, amount in instead.items()
    }
    return replace(actions, **parts)


def with_demands(actions: Actions, demands: list[Demand], code: Code) -> Actions:
    """The combinations, then what the lateral system asks by itself, by name, each both ways."""
    rows = [
        _Row(
            d.name if way > 0 else f"{d.name}, reversed",
            {n: way * getattr(d, n) for n in ("V", "Vw", "M", "Mw") if getattr(d, n)},
            "overstrength",
        )
        for d in demands
        for way in (1, -1)
    ]
    return _with(actions, rows, code) if rows else actions


def _with(actions: Actions, rows: list[_Row], code: Code) -> Actions:
    """The combinations, then the rows; beside them stands the largest shear of a beam opposite, and the most compressed
    support."""
    shape = (*actions.V.shape[:-1], 1)

    def joined(now: Any, more: list[Any]) -> np.ndarray:
        columns = [
            np.broadcast_to(np.asarray(v, float)[..., None] if np.ndim(v) else np.asarray(v, float), shape)
            for v in more
        ]
        return np.concatenate([np.broadcast_to(now, actions.V.shape), *columns], axis=-1)

    parts: dict[str, Any] = {
        name: joined(getattr(actions, name), [row.forces.get(name, 0.0) for row in rows]) for name in COMPONENTS
    }
    others = dict(actions.others)
    if opposite := actions.of_role("opposite"):
        most = np.abs(opposite.V).max(axis=-1)
        beside = joined(opposite.V, [most if "V" in row.forces else 0.0 for row in rows])
        others["opposite"] = Forces(N=joined(opposite.N, [0.0] * len(rows)), V=beside)
    if support := actions.of_role("support"):
        others["support"] = Forces(N=joined(support.N, [np.min(support.N, axis=-1)] * len(rows)))
    sets = actions.sets or ((code.method, "strength"),) * actions.V.shape[-1]
    names = actions.names or tuple("" for _ in sets)
    asked = [row.set == "overstrength" for row in rows]  # an earthquake's, by itself
    seismic = (*(actions.seismic or (False,) * len(sets)), *asked) if actions.seismic or any(asked) else ()
    return replace(
        actions,
        **parts,
        others=tuple(others.items()),
        names=(*names, *(row.name for row in rows)),
        seismic=seismic,
        sets=(*sets, *((row.method or code.method, row.set) for row in rows)),
    )


def integrity(states: list[LimitState]) -> Iterator[LimitState]:
    """Of `states`, made with nominal strengths, those that a pull uses, judged by the row of B3.9 alone."""
    one, none = (
        Actions.of(np.array([[n, 0.0, 0.0, 0.0, 0.0, 0.0]]), others={"support": Forces(N=np.zeros(1))})
        for n in (KIP, 0.0)
    )
    for state in states:
        pulled, idle = (np.ravel(state.utilisation(actions))[0] for actions in (one, none))
        if pulled > idle and not any(name in state.check for name in NOT_ASKED):
            yield replace(state, check=f"integrity_{state.check}", sets=(INTEGRITY,))


SHEAR_END = Stated(("V", "N"), integrity=True)
BEAM_WEB = Stated(("V", "N"))
BEAM_FLANGE = Stated(("V", "N", "M"))
COLUMN = Stated(("V", "Vw", "N", "M", "Mw"), column=True, integrity=True)
BASE = Stated(("V", "Vw", "N", "M", "Mw"), column=True, anchored=True)
