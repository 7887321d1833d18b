"""Designs of the house in the core: read, filled in, what they hold, what they are in a rule and in a building."""

from __future__ import annotations

import json
import re
from functools import lru_cache
from pathlib import Path

import pytest

from handrail.core.checking.holding import held, in_place, put_first, replaced
from handrail.core.checking.plan import Plan
from handrail.core.checking.trial.trial import read_given, read_trial
from handrail.core.errors import InputError
from handrail.core.quantities.units import KIP
from handrail.core.rulebook import RulebookError, Text, read_rulebook
from handrail.core.rulebook.design import read_design
from tests.bundles import DEMO, plan_of
from tests.trials import TAB

DOCS = (Path(__file__).parents[2] / "docs" / "designs.md").read_text(encoding="utf-8")
WRITTEN = re.findall(r"```yaml\n(design: 1\n.*?)```", DOCS, re.DOTALL)[0]
TRIAL = TAB | {"actions": [{"name": "1", "V": "1 kip"}]}


def trial(**more: object) -> dict[str, object]:
    return {**TRIAL, **more}


def test_what_the_documentation_writes_is_a_design() -> None:
    design = read_design(WRITTEN)
    assert [f.name for f in design.fields] == ["n", "which"] and design.fields[0].kind == "count"
    own = {**design.on, "standard": design.standard.name, "parameters": design.given({"n": 3})}
    found = held(read_given({**own, "actions": TRIAL["actions"]}))
    assert found.why == "" and found.holds["V"] > 20 * KIP
    assert design.sizes("d", {"n": "4", "which": "7/8 A325-N"})["bolt"].value == "7/8 A325-N"
    assert "bolt" not in design.sizes("d", {}, ("bolts",)) and "rows" in design.sizes("d", {}, ("bolts", "grades"))


@pytest.mark.parametrize("asked", [{"n": 1}, {"n": 6}, {"n": "3.5"}, {"n": "three"}, {"which": "1 A325-N"}, {"m": 3}])
def test_what_a_field_cannot_be_is_refused(asked: dict[str, object]) -> None:
    with pytest.raises(InputError):
        read_design(WRITTEN).given(asked)


@pytest.mark.parametrize(
    ("change", "told"),
    [
        (("design: 1", "design: 2"), "write 'design: 1'"),
        (("standard: single_plate", "standard: single_plat"), "is not a standard"),
        (("rows: = n", "rows: = m"), "'m' is no size"),
        (("usual: 3,", "usual: 9,"), "9 is more than 5"),
        (("skew:", "skeww:"), "did you mean skew"),
        (("  n: {", "  rows: {"), "cannot be a field's name"),
        (("plate_thickness: 3/8 in", "plate_thickness: 3/8 kip"), "plate_thickness"),
        (("on: ", "onn: "), "'onn' is not known"),
        (("framing: beam_to_girder\n", "framing: 2026-01-01\n"), "put others in quotes"),
    ],
)
def test_mistakes_are_told(change: tuple[str, str], told: str) -> None:
    assert change[0] in WRITTEN
    with pytest.raises(RulebookError) as exc:
        read_design(WRITTEN.replace(*change, 1))
    assert any(told in words for _, _, words in exc.value.problems)


@pytest.mark.parametrize("framing", ["beam_to_column_flange", "beam_to_girder", "beam_to_hollow_column"])
def test_it_holds_just_so_much(framing: str) -> None:
    """Each action alone passes a little under what it holds and fails a little over it, as the trial says."""
    support = {"beam_to_girder": "W24X76", "beam_to_hollow_column": "HSS10X10X1/2"}.get(framing, "W14X90")
    grade = "A500C" if support.startswith("HSS") else "A992"
    own = trial(framing=framing, support={"section": support, "grade": grade})
    more = {"N_support": "0 kN"} if grade == "A500C" else {}
    own["actions"] = [{"name": "1", "V": "1 kip", **more}]
    found = held(read_given(own))
    assert {"V", "N.max", "N.min"} <= found.holds.keys()
    for name, amount in found.holds.items():
        action, way = name.partition(".")[0], -1 if name.endswith("min") else 1
        for factor, passes in ((0.999, True), (1.001, False)):
            acting = {"name": "1", action: f"{way * amount * factor / 1000} kN", **more}
            result = read_trial({**own, "actions": [acting]}).run()
            assert (result.utilisation <= 1.0) == passes, (name, factor)


def test_more_of_it_never_holds_less() -> None:
    holds = [held(read_given(trial(parameters={"rows": n, "plate_thickness": "3/8 in"}))).holds["V"] for n in (3, 4)]
    assert holds == sorted(holds)


def test_what_cannot_be_holds_nothing_and_says_why() -> None:
    found = held(read_given(trial(parameters={"rows": 12})))
    assert found.holds == {} and "detailing rule" in found.why


@lru_cache(maxsize=1)
def demo() -> Plan:
    return plan_of(DEMO / "bundle")


def library(name: str) -> Text:
    return Text(WRITTEN if name.startswith("design") else "")


def test_a_rule_uses_it_as_a_piece() -> None:
    """Nothing climbs; what fits is asked beside the rule's own conditions; a set size holds over it."""
    text = (
        "rulebook: 1\npractice: {bolt: 7/8 A490-X}\nrules:\n"
        "  - name: Tabs\n    use: design tab R1\n    fields: {n: 4}\n"
        "    by_practice: bolts\n    when: {framing: beam_to_girder}\n    set: {plate_thickness: 1/2 in}\n"
    )
    plan = demo().with_(rulebook=read_rulebook(text, library=library))
    taken = [a for a in plan.by_rules if a.rule is not None]
    assert taken and {a.connection.framing for a in taken} == {"beam_to_girder"}
    inch = 25.4
    assert all(12 * inch <= a.situation.supported.section.d <= 18 * inch for a in taken if a.situation)
    keys = {a.connection.id for a in taken[:6]}
    for outcome in plan.work(keys).values():
        sizes = {n: s.value for n, s in outcome.sizes.items()}
        assert (sizes["rows"], sizes["bolt"]) == (4, "7/8 A490-X") and sizes["plate_thickness"] == pytest.approx(12.7)


ALSO = "also:\n  - {name: Ties, when: {framing: beam_to_girder}, set: {tie_force: 30 kip}}\n"


def test_in_a_building_it_is_what_a_rule_that_uses_it_comes_to() -> None:
    """Also-rules count in both; with a tie force it is used more."""
    design, used = read_design(WRITTEN), []
    for also in ("", ALSO):
        own = (DEMO / "rulebook.yaml").read_text() + also
        book = put_first(read_rulebook(own), "tab R1", design, design.sizes("design tab R1"))
        found = {one.connection: one for one in in_place(demo().with_(rulebook=book), "tab R1")}
        first = "rules:\n  - {name: Tabs, use: design tab R1}\n"
        ruled = demo().with_(rulebook=read_rulebook(own.replace("rules:\n", first, 1), library=library))
        taken = {a.connection.id for a in ruled.by_rules if a.rule is not None and a.rule.name == "Tabs"}
        assert taken == set(found) and len(taken) > 20
        for k, outcome in ruled.work(taken).items():
            one = found[ruled.assigned[k].connection.id]
            assert (one.holds, one.use, one.check) == (outcome.status == "pass", outcome.utilisation, outcome.check)
        used.append(sum(one.use for one in found.values()))
    assert used[1] > used[0]


def test_marks_that_it_would_take_the_place_of() -> None:
    assert replaced({"a": ["1", "2"], "b": ["3"], "c": []}, ["1", "2", "4"]) == ["a"]


def test_json_and_yaml_say_the_same() -> None:
    own = {"design": 1, "standard": "single_plate", "parameters": {"rows": 3}}
    one, other = read_design(json.dumps(own)), read_design("design: 1\nstandard: single_plate\nparameters: {rows: 3}\n")
    assert (one.standard, one.parameters) == (other.standard, other.parameters)
