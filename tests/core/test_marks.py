"""Marks: the same pieces share one; merges keep what they say; one set of sizes for many."""

from __future__ import annotations

import pytest

from handrail.core.checking.marks import as_one, changes_from, digest, fewer, gathered, pieces
from handrail.core.standards import STANDARDS
from tests.bundles import demo_sized, plan_of


@pytest.fixture(scope="module")
def sized(demo_folder):
    plan = plan_of(demo_folder)
    outcomes = demo_sized()
    stood = {plan.assigned[k].connection.id: o.sizes for k, o in outcomes.items() if o.status == "pass"}
    return plan, stood


def with_changes(plan, keys, changes):
    """How connections come out where these changes are overrides on them."""
    plan = plan.with_(overrides={key: dict(changes) for key in keys})
    return {plan.assigned[k].connection.id: (plan.assigned[k], o) for k, o in plan.work(set(keys)).items()}


def test_equal_pieces_share_a_mark_and_no_others(sized):
    plan, stood = sized
    marks = gathered(plan, stood)
    assert sum(len(m.connections) for m in marks.values()) == len(stood)
    assert len(stood) > 800 and len(marks) < 100
    for mark in marks.values():
        bolts = {
            (
                (stood[key]["bolt"].value, stood[key]["rows"].value)
                if "rows" in stood[key] and "bolt" in stood[key]
                else ""
            )
            for key in mark.connections
        }
        assert len(bolts) == 1
    key = next(k for k in stood if plan.assigned[plan.index[k]].rule.use == "single_plate")
    assigned = plan.assigned[plan.index[key]]
    own = pieces(STANDARDS["single_plate"], assigned.situation, stood[key])
    cut = stood[key] | {
        "cope_depth": stood[key]["rows"],
        "tie_force": stood[key]["rows"],
    }  # of the beam, and of how it is judged
    assert pieces(STANDARDS["single_plate"], assigned.situation, cut) == own
    other = stood[key] | {"rows": stood[key]["rows"].__class__(9, "rung")}
    assert digest(pieces(STANDARDS["single_plate"], assigned.situation, other)) != digest(own)


def test_a_merge_kept_as_overrides_is_what_it_said(sized):
    """Each connection of the first merges, sized again with the changes as overrides: it passes, is used as was said at
    most, and has the mark."""
    plan, stood = sized
    marks, merges = gathered(plan, stood), fewer(plan, stood)
    assert len(merges) > 5 and len({m.given for m in merges}) == len(merges), "a mark is given up once"
    alone = {key for key in stood if not plan.partners(key)}
    for merge in [m for m in merges if len(m.marks) == 1][:6]:
        taken = marks[merge.taken]
        changes = changes_from(STANDARDS[taken.standard], taken.sizes, [marks[m].sizes for m in merge.marks])
        assert set(merge.connections) <= alone and changes
        out = with_changes(plan, merge.connections, changes)
        worst = 0.0
        for key in merge.connections:
            assigned, outcome = out[key]
            assert outcome.status == "pass", (key, outcome.reason)
            assert digest(pieces(STANDARDS[taken.standard], assigned.situation, outcome.sizes)) == merge.taken
            worst = max(worst, outcome.utilisation)
        assert worst == pytest.approx(merge.worst)
        made = [STANDARDS[taken.standard].quantities(out[k][0].situation, out[k][1].sizes) for k in merge.connections]
        was = [STANDARDS[taken.standard].quantities(out[k][0].situation, stood[k]) for k in merge.connections]
        assert sum(m.steel for m in made) - sum(m.steel for m in was) == pytest.approx(merge.steel, abs=1e-6)


def test_one_set_of_sizes_for_all(sized):
    """Beams to girders as one: every one passes with it under its own forces, and the worst is the one that was
    named."""
    plan, stood = sized
    keys = [k for k in stood if plan.assigned[plan.index[k]].rule.name in ("Beams to girders", "Beams to columns")]
    (found,) = as_one(plan, {key: stood[key] for key in keys})
    assert found.passes and set(found.connections) == set(keys)
    changes = changes_from(STANDARDS[found.standard], found.sizes, found.stood)
    out = with_changes(plan, keys, changes)
    assert {o.status for _, o in out.values()} == {"pass"}
    worst = max(out, key=lambda key: out[key][1].utilisation)
    assert out[worst][1].utilisation == pytest.approx(found.worst.use)
    assert out[found.worst.connection][1].utilisation == pytest.approx(found.worst.use)
    assert len({tuple(o.sizes[n].value for n in ("bolt", "rows", "plate_thickness")) for _, o in out.values()}) == 1
