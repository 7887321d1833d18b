"""Names in a rulebook that nothing has, with the nearest; what is there, or may come from the catalogue, is not
told."""

from __future__ import annotations

from handrail.core.building.framing import frame
from handrail.core.checking.nameless import nameless
from handrail.core.checking.plan import Plan
from handrail.core.codes import code
from handrail.core.rulebook import read_rulebook
from handrail.interchange.bundle import read_bundle
from tests.bundles import DEMO

BOOK = """rulebook: 1
tables:
  beams: {by: supported.section, match: prefix, rows: [{supported.section: W16, rows: 3}, {supported.section: WW16, rows: 4}]}
rules:
  - {name: One, when: {supported.section: [W16X31, W16X3O], level: rof}, use: single_plate}
  - {name: Two, when: {any: [{support.section: W14*}, {support.section: V14*}], level: "*"}, use: single_plate}
  - {name: Three, when: {not: {group: stairs}, supported.section: W44X335}, use: single_plate}
  - {name: Rest, when: {framing: beam_to_girder}, use: single_plate, sizes: beams}
"""  # noqa: E501


def test_what_fits_nothing_is_told_with_the_nearest():
    building = read_bundle(DEMO / "bundle")
    plan = Plan.of(building, frame(building), read_rulebook(BOOK), code("AISC 360-22", "LRFD"), {})
    found = {(n.where, n.fact, n.name): n.near for n in nameless(plan)}
    assert found.keys() == {
        ("rule 'One'", "supported.section", "W16X3O"),
        ("rule 'One'", "level", "rof"),
        ("rule 'Two'", "support.section", "V14*"),
        ("rule 'Three'", "group", "stairs"),
        ("table beams", "supported.section", "WW16"),
    }
    assert (
        found["rule 'One'", "supported.section", "W16X3O"].startswith("W16X3")
        and found["rule 'One'", "level", "rof"] == "roof"
    )
    assert found["rule 'Three'", "group", "stairs"] == ""
