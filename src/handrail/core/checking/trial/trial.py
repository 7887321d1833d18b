"""A trial: one connection given whole in a file, checked without a building."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import STOCKS
from handrail.core.catalogue.lateral import SHAKEN
from handrail.core.checking.connection import check
from handrail.core.checking.result import Result
from handrail.core.checking.trial.acting import read_actions
from handrail.core.checking.trial.entries import choice, known, mapping, need, text
from handrail.core.checking.trial.where import read_situation
from handrail.core.checking.trial.works import works
from handrail.core.codes import code
from handrail.core.codes.family import Code
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.standards import STANDARDS, Standard, standard
from handrail.core.standards.sizes import Sizes

KEYS = {
    "code",
    "method",
    "stock",
    "framing",
    "standard",
    "pieces",
    "supported",
    "support",
    "foundation",
    "geometry",
    "parameters",
    "actions",
    "cases",
    "combinations",
}


@dataclass(frozen=True)
class Trial:
    """A trial as read: what, where, how big, and under which actions."""

    code: Code
    standard: Standard
    situation: Situation
    sizes: Sizes
    actions: Actions
    places: tuple[str, ...] = ()

    def run(self, tracing: bool = False) -> Result:
        """The trial checked; with its worked lines where `tracing`."""
        return check(self.standard, self.situation, self.sizes, self.code, self.actions, tracing)

    def answer(self, result: Result, system: str = "si", trace: bool = False) -> dict[str, Any]:
        """The result as `handrail trial --json` prints it; with places, what governs names its own. `works` says what
        anchors and parts take under each action, kN, and the pressure, MPa."""
        answer = result.as_dict(self.standard, system, trace)
        judged = result.status != "unchecked"
        answer["works"] = (
            works(self.standard, self.situation, self.sizes, self.code, self.actions, self.places) if judged else []
        )
        if self.places and result.governing:
            answer["governing"]["place"] = self.places[result.governing.place]
        return answer


def read_trial(data: Any) -> Trial:
    """The trial in parsed YAML or JSON. Raises InputError that names the entry and what it should be."""
    return read_given(data).sized()


@dataclass(frozen=True)
class Given:
    """A trial before its sizes are completed: `sizes` are those that it gives."""

    code: Code
    standard: Standard
    situation: Situation
    sizes: Sizes
    actions: Actions
    places: tuple[str, ...]

    def sized(self) -> Trial:
        """The trial with all its sizes. Raises InputError where they cannot be."""
        return Trial(
            self.code,
            self.standard,
            self.situation,
            self.standard.complete(self.situation, self.sizes),
            self.actions,
            self.places,
        )


def read_given(data: Any) -> Given:
    """The same, its sizes as they are given."""
    if not isinstance(data, Mapping):
        raise InputError(
            "a trial is a mapping with code, method, framing, standard, supported, support (or pieces) and actions"
        )
    known(data, KEYS, "the trial")
    used = code(text(data, "code", "AISC 360-22"), text(data, "method", "LRFD").upper())
    chosen = standard(str(need(data, "standard", f"one of {', '.join(STANDARDS)}")))
    acting = read_actions(data, used, anchored="column_base" in chosen.framings)
    situation = read_situation(data, chosen, acting.table, used)
    if "stock" in data:
        situation = replace(situation, shop=STOCKS[choice(data, "stock", tuple(STOCKS), "the trial") or "in"])
    if situation.framing == "column_base" and not situation.seismic and situation.category in SHAKEN:
        situation = replace(
            situation, quaking=any(acting.seismic)
        )  # how much of an action is an earthquake's is not known here
    if situation.framing != "beam_to_hollow_column" and not np.isnan(acting.table[..., -1]).all():
        raise InputError("N_support is the own force of a hollow column; leave it out here")
    given = chosen.read(dict(mapping(data.get("parameters"), "parameters")), "given")
    return Given(used, chosen, situation, given, acting.actions(), acting.places)
