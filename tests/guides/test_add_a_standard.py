"""A newcomer's standard does what any does: tried, sized by rule, made to pass, marked, listed; in under 120 lines."""

from __future__ import annotations

from pathlib import Path

import pytest

from handrail.core.building.framing import frame
from handrail.core.checking.improving import remedies
from handrail.core.checking.marks import gathered
from handrail.core.checking.plan import Plan
from handrail.core.checking.trial import read_trial
from handrail.core.codes import code
from handrail.core.rulebook import read_rulebook
from handrail.core.standards import STANDARDS
from handrail.interchange.bundle import read_bundle
from tests.guides import toy_tab
from tests.worked.sheet import FLANGE

BOOK = """
rulebook: 1
practice: {target_utilisation: 0.95}
rules:
  - {name: Tabs, use: toy_tab, when: {framing: beam_to_column_flange, skew: '< 1 deg'}}
"""
TRIAL = {k: v for k, v in FLANGE.items() if k != "parameters"} | {"standard": "toy_tab"}


@pytest.fixture(autouse=True)
def held(monkeypatch):
    """The one line that `core/standards/__init__.py` would have."""
    monkeypatch.setitem(STANDARDS, "toy_tab", toy_tab.TOY_TAB)


def test_it_is_short():
    assert len(Path(toy_tab.__file__).read_text(encoding="utf-8").splitlines()) < 120


def test_a_trial_by_hand():
    """W16X50, d = 16.3 in: a tab 8.15 in deep and 1/4 in thick of A36 yields at 1.00 x 0.6 x 36 x 8.15 x 0.25 = 44.0
    kip; two 1/4 in fillets of E70 hold 2 x 1.392 x 4 x 8.15 = 90.8 kip (J2.4, along them)."""
    trial = read_trial(TRIAL | {"actions": [{"name": "A", "V": "22 kip"}]})
    found = {c.check: c for c in trial.run().checks}
    kip = 4448.2216
    assert found["plate_shear_yield"].strength / kip == pytest.approx(44.0, abs=0.1)
    assert found["weld"].strength / kip == pytest.approx(90.8, abs=0.2)
    assert trial.run().status == "pass" and trial.run().utilisation == pytest.approx(0.5, abs=0.002)
    assert "1/4 in" in trial.standard.summary(trial.sizes, "us") and trial.standard.draw(trial.situation, trial.sizes)


def test_what_it_does_not_carry_or_know_never_passes():
    turned = read_trial(TRIAL | {"actions": [{"name": "A", "V": "2 kip", "M": "50 kip*in"}]}).run()
    assert turned.status == "fail" and "which a toy tab does not carry" in turned.reason
    pulled = read_trial(TRIAL | {"actions": [{"name": "A", "V": "2 kip", "N": "20 kip"}]}).run()
    assert pulled.status == "fail" and "which a toy tab does not carry" in pulled.reason
    assert read_trial(TRIAL | {"geometry": {"skew": "10 deg"}}).run().status == "unchecked"


def test_a_building_is_sized_by_it(demo_folder):
    """By rule, up its ladder; those alike are one mark; one that fails has a remedy that makes it pass."""
    building = read_bundle(demo_folder)
    plan = Plan.of(building, frame(building), read_rulebook(BOOK), code())
    outcomes = {plan.assigned[k].connection.id: o for k, o in plan.work().items()}
    assert len(outcomes) > 20 and {o.status for o in outcomes.values()} <= {"pass", "fail"}
    thick = {o.sizes["plate_thickness"].value for o in outcomes.values()}
    assert len(thick) > 1, "the ladder was climbed"
    marks = gathered(plan, {key: o.sizes for key, o in outcomes.items()})
    assert all(piece.standard == "toy_tab" for piece in marks.values()) and len(marks) < len(outcomes)
    worst = max((key for key, o in outcomes.items() if o.status == "pass"), key=lambda key: outcomes[key].utilisation)
    thin = plan.with_(overrides={worst: {"plate_thickness": 3.2}}).work({worst})
    ((_, failing),) = thin.items()
    assert failing.status == "fail"
    assert remedies(plan, {worst: failing.sizes})[worst].remedies
