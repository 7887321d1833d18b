"""A newcomer's check is seen by everything that there is: it governs, has its clause and its lines, and is named."""

from __future__ import annotations

from dataclasses import replace

import pytest

from handrail.core.checking.trial import read_trial
from handrail.core.limit_state import Under, shear
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import length
from tests.guides.test_add_a_standard import TRIAL
from tests.guides.toy_tab import TOY_TAB, strengths


def with_rupture(situation, sizes, code, tracing):
    """What the guide adds: the tab torn along a row of two 13/16 in. holes (J4.2), 2 x 7/8 in. taken out."""
    net = length(sizes, "plate_thickness") * (length(sizes, "plate_depth") - 2 * 22.225)
    under = Under(code, "plate", tracing)
    torn = under.fixed("plate_shear_rupture", "force", lambda t: code.plates.shear_rupture(400.0, net, t), shear)
    return [*strengths(situation, sizes, code, tracing), torn]


@pytest.fixture(autouse=True)
def held(monkeypatch):
    monkeypatch.setitem(STANDARDS, "toy_tab", replace(TOY_TAB, strengths=with_rupture))


def test_it_governs_by_its_clause_with_its_lines():
    """0.75 x 0.6 x 58 x (8.15 - 2 x 0.875) x 0.25 = 41.8 kip of a tab 8.15 in. deep, before 44.0 of its yielding."""
    found = read_trial(TRIAL | {"actions": [{"name": "A", "V": "30 kip"}]})
    governing = found.run(tracing=True).governing
    assert (governing.check, governing.clause) == ("plate_shear_rupture", "J4.2")
    assert governing.strength / 4448.2216 == pytest.approx(41.8, abs=0.1)
    assert "phi Rn" in {line.symbol for line in governing.lines}


def test_one_without_a_clause_stops():
    trial = read_trial(TRIAL)
    with pytest.raises(KeyError, match="nobody_wrote_this"):
        Under(trial.code, "plate").fixed("nobody_wrote_this", "force", lambda t: 1.0, shear)
