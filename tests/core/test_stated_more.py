"""What is stated besides the analysis: more of it never lowers a utilisation, and none of it is lost on the way,
whatever the standard."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from handrail.core.standards import STANDARDS
from tests.worked.sheet import FLANGE, run
from tests.worked.test_angles import ONE, PAIR
from tests.worked.test_base_plate import BASE, under
from tests.worked.test_beam_splice import SPLICE, WEB
from tests.worked.test_column_splice import SPLICE as COLUMN
from tests.worked.test_end_plate_splice import SPLICE as HOLLOW
from tests.worked.test_shear_end_plate import PLATE

BASES: dict[str, dict[str, Any]] = {
    b["standard"]: b
    for b in (
        FLANGE,
        PAIR,
        ONE,
        PLATE,
        WEB,
        SPLICE,
        {**COLUMN, "parameters": COLUMN["parameters"] | {"web_plates": "both"}},
        HOLLOW,
        {**BASE, "parameters": BASE["parameters"] | {"shear_path": "anchors", "washers": "welded"}, **under(N=-300)},
    )
}
UNIT = {"V": "kip", "Vw": "kip", "N": "kip", "M": "kip*in", "Mw": "kip*in"}
AMOUNTS = [
    (name, f"stated_{a}") for name, standard in STANDARDS.items() for a in UNIT if f"stated_{a}" in standard.asked
]


def test_every_standard_is_here() -> None:
    assert set(BASES) == set(STANDARDS)


@pytest.mark.parametrize(("standard", "parameter"), AMOUNTS)
@settings(
    max_examples=settings.default.max_examples // 4
)  # each is three connections, of nine standards and up to five actions
@given(st.data())
def test_more_never_lowers(standard: str, parameter: str, data: st.DataObject) -> None:
    """Nothing, some, more: every utilisation climbs, but of bolts in bearing that a pull turns away from the nearer
    edge (J3.11: along the force)."""
    method = data.draw(st.sampled_from(["LRFD", "ASD"]))
    some = data.draw(st.floats(0.5, 60))
    more = some * data.draw(st.floats(1.0, 4))
    unit = UNIT[parameter.removeprefix("stated_")]
    uses = []
    for amount in (0.0, some, more):
        found = run(BASES[standard], {parameter: f"{amount} {unit}"}, method=method)
        assert found["status"] != "unchecked", found["notes"]
        uses.append({name: check["utilisation"] for name, check in found["checks"].items()})
    for before, after in zip(uses, uses[1:], strict=False):
        assert [
            name
            for name, use in before.items()
            if after[name] < use - 1e-6 and not ("bolt_bearing" in name and parameter == "stated_N")
        ] == []


@pytest.mark.parametrize("standard", list(STANDARDS))
@pytest.mark.parametrize("action", ["V", "N", "M", "Vw", "Mw"])
def test_all_that_a_member_can_take_is_too_much(standard: str, action: str) -> None:
    """Twice what the member itself can take passes nowhere; what a standard does not carry cannot be stated."""
    name = f"stated_{action}_share"
    if name not in {p.name for p in STANDARDS[standard].parameters}:
        assert action not in STANDARDS[standard].carries
        return
    for method in ("LRFD", "ASD"):
        found = run(BASES[standard], {name: "2"}, method=method)
        assert found["status"] == "fail" and found["governing"]["action"].startswith(f"stated {action}")
