"""What no rung holds is shown on the least one that fails by the incurable alone: against every rung looked at by
itself."""

from __future__ import annotations

import pytest

from handrail.core.standards import STANDARDS
from tests.bundles import SIX, changed, plan_of, write
from tests.wide import wide


@pytest.fixture(scope="module")
def heavy(tmp_path_factory):
    """The demo under eight times its forces."""

    def times(tables):
        for row in tables["end_forces"]:
            for name in SIX:
                row[name] = float(row[name]) * 8

    return plan_of(write(changed(times), tmp_path_factory.mktemp("heavy") / "b"))


def failing(plan, assigned, rung, family) -> frozenset[str] | None:
    """The checks and rules that fail with one rung."""
    standard = STANDARDS[family.standard]
    result = plan.look(assigned, standard.complete(assigned.situation, dict(rung) | dict(family.given)))
    if result.status == "unchecked":
        return None
    return frozenset(c.check for c in result.checks if c.counts > 1) | {r.rule for r in result.detailing if not r.ok}


@wide
def test_every_rung_looked_at_by_itself(heavy):
    wanted = {a.connection.id for a in heavy.assigned if a.connection.framing.startswith("beam_to")}
    families = {
        k: family
        for family, members in heavy.families(wanted).items()
        if not family.axes and len(family.rungs) > 1
        for k in members
    }
    outcomes = dict(
        heavy.batch().run({f: [k for k, own in families.items() if own is f] for f in set(families.values())})
    )
    fails = [k for k, o in outcomes.items() if o.status == "fail"]
    assert len(fails) > 100
    moved = 0
    for k in fails[::50]:
        assigned, family = heavy.assigned[k], families[k]
        every = [
            (n, what)
            for n, rung in enumerate(family.rungs)
            if (what := failing(heavy, assigned, rung, family)) is not None
        ]
        always = frozenset.intersection(*(what for _, what in every))
        _, wanted_rung = min((len(what - always), n) for n, what in every)
        rung = dict(family.rungs[wanted_rung])
        assert {n: outcomes[k].sizes[n].value for n in rung} == {n: s.value for n, s in rung.items()}, (
            assigned.connection.id
        )
        moved += wanted_rung < len(family.rungs) - 1
    assert moved, "not the largest of all, always"
