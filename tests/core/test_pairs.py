"""Connections that the same bolts hold on both sides of a web: alike in a run, whichever of them is asked for, or told
why not."""

from __future__ import annotations

from dataclasses import replace

import pytest

from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.improving import remedies
from handrail.core.checking.pairs import SAME
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sized
from tests.bundles import DEMO, plan_of


@pytest.fixture
def plan():
    return plan_of(DEMO / "bundle")


def by_name(plan, wanted=None, stored=None):
    return {plan.assigned[k].connection.id: o for k, o in plan.work(wanted, stored).items()}


def place(plan, name, outcome):
    """Where the first bolt stands below the support's top, and the shared sizes but gauges from a heel."""
    own = plan.assigned[plan.index[name]]
    shared = set(STANDARDS[own.rule.use].shared) - {"first_bolt", "support_gauge"}
    return {n: outcome.sizes[n].value for n in shared}, own.situation.top_offset + outcome.sizes["first_bolt"].value


def partner_of(plan, name):
    """The one on the other side of the web; empty where its bolts are its own."""
    return next(iter(plan.partners(name)), "")


def sharing(plan):
    return [
        a.connection.id
        for a in plan.assigned
        if a.rule and STANDARDS[a.rule.use].shared and plan.partners(a.connection.id)
    ]


def test_every_pair_of_the_demo_is_alike(plan):
    found = by_name(plan)
    names = sharing(plan)
    assert len(names) > 150
    for name in names:
        partner = partner_of(plan, name)
        (own, at), (theirs, there) = place(plan, name, found[name]), place(plan, partner, found[partner])
        assert own == theirs and at == pytest.approx(there, abs=SAME)
        assert any(f"one set of bolts holds this and {partner} opposite" in note for note in found[name].notes)
    once = plan.sharing.counted_with({name: o.sizes for name, o in found.items() if o.sizes})
    assert len(once) * 2 == len(names) and all(
        partner_of(plan, k) == v and v not in once for k, v in once.items()
    )  # of each pair one side counts the bolts


@pytest.mark.parametrize("heavy", [0, 1])
def test_what_the_heavier_needs_the_lighter_has_whichever_is_asked_for(plan, heavy):
    """One side has to hold 250 kN besides: both get its bolts, and each alone comes out as both together."""
    names = [n for n in sharing(plan) if plan.assigned[plan.index[n]].connection.framing == "beam_to_girder"]
    pair = (names[0], partner_of(plan, names[0]))
    before = by_name(plan, set(pair))
    plan = plan.with_(overrides={pair[heavy]: {"stated_V": 250e3}})
    whole = by_name(plan, set(pair))
    assert whole[pair[heavy]].sizes["rows"].value > before[pair[heavy]].sizes["rows"].value
    assert place(plan, pair[0], whole[pair[0]])[0] == place(plan, pair[1], whole[pair[1]])[0]
    assert (
        whole[pair[1 - heavy]].sizes["rows"].source == "opposite"
        and whole[pair[0]].status == whole[pair[1]].status == "pass"
    )
    for name in pair:
        alone = by_name(plan, {name})
        assert list(alone) == [name] and (alone[name].sizes, alone[name].status) == (
            whole[name].sizes,
            whole[name].status,
        )


def test_an_override_of_one_holds_for_both(plan):
    name = sharing(plan)[0]
    partner, before = partner_of(plan, name), grounds_of(plan, {sharing(plan)[0], partner_of(plan, sharing(plan)[0])})
    plan = plan.with_(overrides={name: {"rows": 5}})
    found = by_name(plan, {name, partner})
    assert {found[n].sizes["rows"].value for n in (name, partner)} == {5}
    after = grounds_of(plan, {name, partner})
    assert all(before[n] != after[n] for n in (name, partner)), "both results rest on it"


@pytest.mark.parametrize(
    ("size", "one", "other"), [("rows", 4, 5), ("tightening", "pretensioned", "slip_b"), ("support_hole", "STD", "OVS")]
)
def test_overrides_that_contradict_fail_both(plan, size, one, other):
    name = sharing(plan)[0]
    partner = partner_of(plan, name)
    plan = plan.with_(overrides={name: {size: one}, partner: {size: other}})
    found = by_name(plan, {name, partner})
    for mine, theirs in ((name, partner), (partner, name)):
        assert (
            found[mine].status == "fail"
            and f"do not agree with those of {theirs} opposite: {size}" in found[mine].reason
        )


def test_another_standard_opposite_fails_both_that_bolt_through(plan):
    name = sharing(plan)[0]
    partner = partner_of(plan, name)
    plan = plan.with_(overrides={partner: {"standard": "single_plate"}})
    found = by_name(plan, {name, partner})
    assert found[name].status == "fail" and f"{partner} opposite is held otherwise (single_plate)" in found[name].reason
    assert found[partner].status == "pass"  # its plate is welded; it is the other that has to move


def test_welded_angles_opposite_share_nothing(plan):
    name = sharing(plan)[0]
    partner = partner_of(plan, name)
    welded = {"standard": "double_angle", "support_side": "welded"}
    plan = plan.with_(overrides={name: welded | {"rows": 4}, partner: welded})
    found = by_name(plan, {name, partner})
    assert found[name].sizes["rows"].value == 4 and "opposite" not in found[name].reason


def test_an_unsized_beam_opposite_leaves_it_unchecked(plan):
    name = sharing(plan)[0]
    partner = partner_of(plan, name)
    k = plan.index[partner]
    plan.by_rules[k] = replace(plan.by_rules[k], rule=None, reason="no rule takes it", status="unassigned")
    found = by_name(plan, {name})
    assert found[name].status == "unchecked" and f"{partner} opposite, which is not sized" in found[name].reason


def test_a_standard_that_a_person_chose_is_sized_in_place_of_the_rule_s(plan):
    plan = plan.with_(overrides={"B5.i": {"standard": "shear_end_plate"}})
    outcome = by_name(plan, {"B5.i"})["B5.i"]
    own = plan.assigned[plan.index["B5.i"]]
    assert (own.rule.use, own.rule.name) == ("shear_end_plate", "chosen by a person") and "gauge" in outcome.sizes
    plan = plan.with_(overrides={"B5.i": {"standard": "base_plate"}})
    assert by_name(plan, {"B5.i"}) == {}
    assert (
        "base_plate, which a person chose, does not go with beam_to_girder" in plan.assigned[plan.index["B5.i"]].reason
    )


def test_a_formula_of_the_other_side_that_has_no_value(plan):
    """That side is unchecked with its reason, and this one, since it is not known what its bolts meet."""
    name = sharing(plan)[0]
    partner = partner_of(plan, name)
    plan = plan.with_(overrides={partner: {"pitch": "= 9 in - 9 in"}})
    found = by_name(plan, {name, partner})
    assert found[partner].status == "unchecked" and "pitch" in found[partner].reason
    assert found[name].status == "unchecked" and f"{partner} opposite, which is not sized" in found[name].reason


@pytest.mark.parametrize(("loads", "helped"), [((300e3, 250e3), True), ((330e3, 500e3), False)])
def test_a_remedy_is_judged_on_both_sides_of_the_web(plan, loads, helped):
    """Both sides are asked for more than they hold. What is a remedy passes at both ends when it is put in; one that
    the beam across would fail by, and that would stand if its own end were all, is none."""
    names = [n for n in sharing(plan) if plan.assigned[plan.index[n]].connection.framing == "beam_to_girder"]
    pair = (names[0], partner_of(plan, names[0]))
    stood = {name: o.sizes for name, o in by_name(plan, set(pair)).items()}
    stood = {name: stood[name] | {"stated_V": Sized(V, "override")} for name, V in zip(pair, loads, strict=True)}
    plan = plan.with_(overrides={name: {"stated_V": V} for name, V in zip(pair, loads, strict=True)})
    assert remedies(plan, {pair[0]: stood[pair[0]]})[pair[0]].remedies
    both = remedies(plan, {pair[0]: stood[pair[0]]}, {pair[1]: stood[pair[1]]})[pair[0]]
    assert bool(both.remedies) == helped and not both.passes
    for remedy in both.remedies:
        changed = {name: {"stated_V": V} | dict(remedy.changes) for name, V in zip(pair, loads, strict=True)}
        plan = plan.with_(overrides=changed)
        found = by_name(plan, set(pair))
        assert found[pair[0]].status == found[pair[1]].status == "pass", (
            remedy.changes,
            [o.reason for o in found.values()],
        )


def test_a_verdict_is_by_one_whoever_sized_it(plan):
    """What sizing brings no lower than the target passes with a remark, by rule and with any size set by a person
    alike."""
    found = by_name(plan)
    over = {name: o for name, o in found.items() if o.over_target}
    assert over and all(o.status == "pass" and plan.rulebook.target < o.utilisation <= 1 for o in over.values())
    name, outcome = next(iter(over.items()))
    assert any("over the target 0.95" in note for note in outcome.notes)
    rows = outcome.sizes["rows"].value
    plan = plan.with_(overrides={key: {"rows": rows} for key in (name, *plan.partners(name))})
    again = by_name(plan, {name})[name]
    assert (again.status, again.over_target) == ("pass", True) and again.utilisation == pytest.approx(
        outcome.utilisation
    )
