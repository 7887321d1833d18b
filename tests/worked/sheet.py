"""Runs a trial and gives its checks back in kip and inches, as the worked sheets are written; keeps what agreed.

`agrees` is the assertion of a worked example: it holds a hand-worked or published value against ours, by LRFD and by
ASD, and keeps both for docs/verification.md (made from these very calls by `make verification`)."""

from __future__ import annotations

import copy
import inspect
from dataclasses import dataclass
from typing import Any

import pytest

from handrail.core.checking.trial import read_trial

FLANGE = {
    "framing": "beam_to_column_flange",
    "standard": "single_plate",
    "supported": {"section": "W16X50", "grade": "A992"},
    "support": {"section": "W14X90", "grade": "A992"},
    "parameters": {"bolt": "3/4 A325-N", "rows": 4, "plate_thickness": "1/4 in", "beam_edge_distance": "2-1/2 in"},
    "actions": [{"name": "A", "V": "49.6 kip"}],
}
GIRDER = {
    "framing": "beam_to_girder",
    "standard": "single_plate",
    "supported": {"section": "W18X50", "grade": "A992"},
    "support": {"section": "W21X62", "grade": "A992"},
    "parameters": {
        "bolt": "3/4 A325-N",
        "rows": 4,
        "plate_thickness": "1/4 in",
        "cope_length": "4-1/4 in",
        "cope_depth": "2 in",
        "gap": "1/2 in",
        "beam_edge_distance": "1-3/4 in",
        "first_bolt": "3-1/4 in",
    },
    "actions": [{"name": "A", "V": "40 kip"}],
}
PULL = [{"name": "A", "V": "20 kip", "N": "15 kip"}]
PUSH = [{"name": "A", "V": "20 kip", "N": "-15 kip"}]
WEB = {"framing": "beam_to_column_web"}
HOLLOW = {"framing": "beam_to_hollow_column", "support": {"section": "HSS8X8X3/8", "grade": "A500C"}}


@dataclass(frozen=True)
class Agreed:
    """One worked value beside ours. `by` is LRFD or ASD, `of` what was compared, `text` the hand calculation."""

    check: str
    clause: str
    by: str
    of: str
    hand: float
    ours: float
    unit: str
    text: str
    published: str
    test: str


AGREED: list[Agreed] = []
# every check that any worked trial gave, with the methods of those trials; not the far side's, nor those of integrity,
# which are the same limit states with nothing taken off (some of them are worked all the same)
MET: dict[str, set[str]] = {}


def data(base: dict[str, Any], parameters: dict[str, Any] | None = None, **more: Any) -> dict[str, Any]:
    """A trial's data: `base` with some parameters and entries changed."""
    found = copy.deepcopy(base)
    found["parameters"].update(parameters or {})
    found.update(more)
    return found


def run(base: dict[str, Any], parameters: dict[str, Any] | None = None, **more: Any) -> dict[str, Any]:
    """The trial's answer, with checks and detailing rules by name."""
    trial = read_trial(data(base, parameters, **more))
    answer = trial.run().as_dict(trial.standard, "us")
    answer["checks"] = {c["check"]: c for c in answer["checks"]}
    answer["detailing"] = {r["rule"]: r for r in answer["detailing"]}
    for name in (
        (n for n in answer["checks"] if not n.endswith("_far") and not n.startswith("integrity_"))
        if more.get("code", "") != "AISC 360-16"
        else ()
    ):
        MET.setdefault(name, set()).add(more.get("method", "LRFD"))
    return answer


def strength(base: dict[str, Any], check: str, parameters: dict[str, Any] | None = None, **more: Any) -> float:
    """The available strength of one check, kip or kip*in."""
    return run(base, parameters, **more)["checks"][check]["strength"]


def agrees(
    base: dict[str, Any],
    check: str,
    lrfd: float | None,
    asd: float | None = None,
    parameters: dict[str, Any] | None = None,
    of: str = "strength",
    rel: float = 1e-3,
    published: str = "",
    **more: Any,
) -> None:
    """The check's strength (demand, utilisation) is `lrfd` by LRFD and `asd` by ASD, worked by hand or published."""
    caller = inspect.stack()[1]
    text = inspect.getdoc(caller.frame.f_globals.get(caller.function)) or ""
    for by, hand in (("LRFD", lrfd), ("ASD", asd)):
        if hand is None:
            continue
        found = run(base, parameters, **more, method=by)["checks"][check]
        unit = "" if of == "utilisation" else found["unit"]
        AGREED.append(Agreed(check, found["clause"], by, of, hand, found[of], unit, text, published, caller.function))
        assert found[of] == pytest.approx(hand, rel=rel), by
