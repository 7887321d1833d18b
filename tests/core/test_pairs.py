"""Connections that the same bolts hold on both sides of a web: alike in a run, whichever of them is asked for, or told
why not."""

from __future__ import annotations

from dataclasses import replace

import pytest

from handrail.core.building.framing import frame
from handrail.core.checking.assembled import assembled
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.improving import remedies
from handrail.core.checking.pairs import SAME
from handrail.core.checking.plan import Plan
from handrail.core.codes import code
from handrail.core.rulebook import read_rulebook
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sized
from handrail.interchange.bundle import read_bundle
from tests.bundles import DEMO, across, plan_of, write


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
    ("size", "one", "other"),
    [("pitch", 76.2, 88.9), ("tightening", "pretensioned", "slip_b"), ("support_hole", "STD", "OVS")],
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


def rows_apart(folder, standard, deep="W21X44", shallow="W14X26", heavy=50.0, light=15.0):
    """A deep and a shallow beam opposite on a W30X90, by one standard."""
    building = read_bundle(write(across(deep, shallow, heavy, light, "W30X90"), folder / "b"))
    book = f"rulebook: 1\nrules:\n  - {{name: All, when: {{framing: beam_to_girder}}, use: {standard}}}\n"
    return Plan.of(building, frame(building), read_rulebook(book), code("AISC 360-22", "LRFD"), {})


@pytest.mark.parametrize(
    ("standard", "deep", "shallow", "heavy"),
    [
        ("shear_end_plate", "W21X44", "W14X26", 50),
        ("single_angle", "W21X44", "W14X26", 50),
        ("double_angle", "W18X35", "W10X19", 40),
        ("shear_end_plate", "W18X35", "W10X19", 40),
    ],
)
def test_beams_of_different_depth_share_some_bolts(tmp_path, standard, deep, shallow, heavy):
    """The shallower has some of the deeper one's rows, at the same heights; both pass, and nothing collides."""
    plan = rows_apart(tmp_path, standard, deep, shallow, heavy, 6.0)
    found = by_name(plan)
    one, two = found["B1.i"], found["B2.i"]
    assert one.status == two.status == "pass", (one.reason, two.reason)
    rows = [int(o.sizes["rows"].value) for o in (one, two)]
    assert rows[0] > rows[1] and [o.sizes["rows_opposite"].value for o in (one, two)] == rows[::-1]
    steps = (two.sizes["first_bolt"].value - one.sizes["first_bolt"].value) / one.sizes["pitch"].value
    assert steps == pytest.approx(round(steps)) and 0 <= round(steps) <= rows[0] - rows[1]
    stood = {key: found[key].sizes for key in ("B1.i", "B2.i")}
    assert plan.sharing.counted_with(stood) == {"B2.i": "B1.i"}
    standing = [(plan.assigned[plan.index[key]], (standard, sizes)) for key, sizes in stood.items()]
    (joint,) = assembled(plan.building, standing)
    bolts = [bolt for _, solids in joint.solids() for bolt in solids.bolts]
    both = sum(any(": " in ply for ply in bolt.plies) for bolt in bolts)
    lines = 1 if standard == "single_angle" else 2
    assert both == lines * rows[1] and sum("support" in bolt.plies for bolt in bolts) == lines * rows[0]
    for key in stood:
        alone = by_name(plan, {key})[key]
        assert (alone.sizes, alone.status) == (found[key].sizes, found[key].status)


def test_rows_are_each_one_s_own_where_depths_differ(tmp_path):
    """A person may say them of either side alone; of beams about as deep they are said of both."""
    plan = rows_apart(tmp_path, "shear_end_plate")
    assert "rows" not in plan.sharing.common("B1.i") and "pitch" in plan.sharing.common("B1.i")
    found = by_name(plan.with_(overrides={"B1.i": {"rows": 5}}))
    assert [found[key].sizes["rows"].value for key in ("B1.i", "B2.i")] == [5, 3]
    assert found["B1.i"].sizes["rows"].source == "override"
    alike = rows_apart(tmp_path / "alike", "shear_end_plate", "W21X44", "W21X50")
    assert "rows" in alike.sharing.common("B1.i")


def test_the_web_bears_each_bolt_s_own_share(tmp_path):
    """By hand: a bolt of both has V1/(2 n1) + V2/(2 n2) on the girder's web, which bears 0.75 x 2.4 d t Fu."""
    plan = rows_apart(tmp_path, "shear_end_plate")
    found = by_name(plan)
    n1, n2 = (found[key].sizes["rows"].value for key in ("B1.i", "B2.i"))
    assert (n1, n2) == (4, 3)
    each = 1.4 * 50 / (2 * n1) + 1.4 * 15 / (2 * n2)
    bears = 0.75 * 2.4 * 0.75 * 0.47 * 65  # 3/4 in. bolts in the 0.470 in. web of a W30X90, A992
    for key in ("B1.i", "B2.i"):
        looked = plan.look(plan.assigned[plan.index[key]], found[key].sizes)
        (bearing,) = (c for c in looked.checks if c.check == "bolt_bearing_support")
        assert bearing.utilisation == pytest.approx(each / bears, rel=0.005)


def test_a_nut_in_a_flange_is_no_way(tmp_path):
    """A W12 opposite a W24: a row of the deeper would come upon the shallower's bottom flange. Rows are taken that do
    not, and what then fails says so itself."""
    found = by_name(rows_apart(tmp_path, "double_angle", "W24X55", "W12X26", 60, 12))
    assert not any(o.collides for o in found.values())
    assert found["B1.i"].status == "fail" and "angle_half_depth" in found["B1.i"].reason


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
