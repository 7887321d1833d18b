"""Runs a trial and gives its checks back in kip and inches, as the worked sheets are written."""

from __future__ import annotations

import copy
from typing import Any

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
    return answer


def strength(base: dict[str, Any], check: str, parameters: dict[str, Any] | None = None, **more: Any) -> float:
    """The available strength of one check, kip or kip*in."""
    return run(base, parameters, **more)["checks"][check]["strength"]
