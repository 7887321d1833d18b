"""Bases and splices of whatever declared sizes: each trial is answered whole, or refused in words; nothing passes that
has a gap in it."""

from __future__ import annotations

import json
import math
from typing import Any

from hypothesis import assume, given, note
from hypothesis import strategies as st

from handrail.core.checking.trial import read_trial
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Parameter
from tests.units_of import foreign

WIDE = ["W8X31", "W10X49", "W12X65", "W14X90", "W14X426", "W24X76", "W21X62", "HP14X73"]
HOLLOW = ["HSS8X8X3/8", "HSS10X6X3/8", "HSS6.000X0.250"]
NAMED = {
    "bolt": ["3/4 A325-N", "7/8 A490-X", "1 A325-X"],
    "rod": ["3/4 F1554-36", "1 F1554-55", "1-1/2 F1554-105", "2-1/2 F1554-36"],
    "hole": ["STD", "OVS", "SSLT", "LSLP"],
    "plate_grade": ["A36", "A572-50"],
    "electrode": ["E70", "E80"],
    "grade": ["A36"],
    "bars": ["", "(8) No. 5", "(2) No. 11"],
    "points": [
        "",
        "6 in, 6 in; -6 in, 6 in; 6 in, -6 in; -6 in, -6 in",
        "9 in, 0 in; -9 in, 3 in; 0 in, -8 in",
        "N1: 40 in, 0 in; 0 in, 0 in",
    ],
    "places": ["", "6 in; -6 in", "0 in", "3 in; 3 in; -30 in"],
}
FRAMED = {
    "base_plate": "column_base",
    "beam_web_splice": "beam_splice",
    "beam_flange_splice": "beam_splice",
    "column_flange_splice": "column_splice",
    "column_end_plate_splice": "column_splice",
}


def value(p: Parameter) -> st.SearchStrategy[Any]:
    if p.kind in NAMED:
        return st.sampled_from(NAMED[p.kind])
    if p.kind == "choice":
        return st.sampled_from(p.choices)
    low, high = p.low or 0.0, p.high if p.high is not None else 1e6
    if p.kind == "count":
        return st.integers(int(low), int(min(high, 12)))
    unit = {"length": "mm", "force": "N", "moment": "N*m", "stress": "MPa", "number": ""}[p.kind]
    ordinary = (
        st.floats(low, min(high, max(low, 1.0) * 20))
        if p.kind != "length"
        else st.floats(max(low, 1.0), min(high, 600.0))
    )
    return st.one_of(ordinary, st.floats(low, high)).map(lambda v: f"{v:.6g} {unit}".strip())


@st.composite
def trials(draw) -> dict[str, Any]:
    name = draw(st.sampled_from(list(FRAMED)))
    standard = STANDARDS[name]
    hollow = name == "column_end_plate_splice" or (name == "base_plate" and draw(st.booleans()))
    upper, lower = (draw(st.sampled_from(HOLLOW if hollow else WIDE)) for _ in range(2))
    grade = "A500C" if hollow else "A992"
    chosen = draw(st.sets(st.sampled_from([p.name for p in standard.parameters]), max_size=8))
    parameters = draw(st.fixed_dictionaries({n: value(standard.parameter(n)) for n in sorted(chosen)}))
    force = st.sampled_from([-2000, -300, -20, -1, 0, 0, 1, 12, 90, 600]).map(lambda v: f"{v} kip")
    moment = st.sampled_from([-500, -20, 0, 0, 0, 5, 60, 900]).map(lambda v: f"{v} kip*ft")
    acting = st.fixed_dictionaries(
        {"N": force},
        optional={"V": force, "Vw": force, "M": moment, "Mw": moment, "T": moment, "seismic": st.booleans()},
    )
    actions = [
        a | {"name": f"{k}", "method": "LRFD"} for k, a in enumerate(draw(st.lists(acting, min_size=1, max_size=3)))
    ]
    found: dict[str, Any] = {
        "framing": FRAMED[name],
        "standard": name,
        "supported": {"section": upper, "grade": grade},
        "parameters": parameters,
        "actions": actions,
        "method": draw(st.sampled_from(["LRFD", "ASD"])),
    }
    if found["method"] == "ASD":
        found["actions"] = [a | {"method": by} for a in actions[:1] for by in ("LRFD", "ASD")]
    if name == "base_plate":
        edge = st.sampled_from(["2 in", "8 in", "14 in", "40 in"])
        edges = draw(
            st.fixed_dictionaries(
                {}, optional={"along": st.tuples(edge, edge).map(list), "across": st.tuples(edge, edge).map(list)}
            )
        )
        found["foundation"] = {
            "kind": "pedestal",
            "fc": draw(st.sampled_from(["3 ksi", "4 ksi", "12 ksi"])),
            "edges": edges,
            "thickness": draw(st.sampled_from(["2 in", "18 in", "60 in"])),
            "cracked": draw(st.booleans()),
        }
        found["geometry"] = {"seismic": draw(st.booleans()), "category": draw(st.sampled_from(["A", "D"]))}
    else:
        found["support"] = {"section": lower, "grade": grade}
    return found


@given(trials())
def test_any_base_or_splice_is_answered_whole(data):
    try:
        trial = read_trial(data)
    except InputError as exc:
        note(str(exc))
        assume(False)
    result = trial.run(tracing=True)
    assert [*foreign(trial.answer(result, "si", True), "si")] == []
    answer = trial.answer(result, "us", True)
    assert [*foreign(answer, "us")] == []
    json.dumps(answer, allow_nan=False)
    assert answer["status"] in ("pass", "fail", "unchecked")
    if answer["status"] == "pass":
        assert answer["utilisation"] <= 1.0
        assert all(c["utilisation"] <= 1.0 and math.isfinite(c["demand"]) for c in answer["checks"])
        assert all(rule["ok"] for rule in answer["detailing"])
    else:
        assert answer["reason"]
