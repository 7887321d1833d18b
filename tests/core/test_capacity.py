"""A capacity table: what it says a plate holds is what a trial of it says, and the lightest is the lightest."""

from __future__ import annotations

import pytest

from handrail.core.checking.capacity import KEYS, capacities, lightest, read_asked_of
from handrail.core.checking.trial import read_trial
from handrail.core.errors import InputError
from handrail.core.quantities.units import KIP

TABLE = {
    "standard": "single_plate",
    "framing": "beam_to_column_flange",
    "support": {"section": "W12X65", "grade": "A992"},
    "sections": "W16X3*, W18X35",
    "parameters": {"bolt": "3/4 A325-N", "plate_grade": "A572-50"},
    "values": [{"rows": "2 .. 5"}, {"plate_thickness": ["1/4 in", "3/8 in"]}],
    "shears": "20 .. 60 kip by 20 kip",
}


@pytest.mark.parametrize("standard", ["single_plate", "double_angle", "shear_end_plate"])
def test_a_trial_under_what_it_holds_is_just_used_up(standard):
    table = {**TABLE, "standard": standard, "values": [{"rows": "3 .. 4"}], "parameters": {"bolt": "3/4 A325-N"}}
    asked = read_asked_of(table)
    found = capacities(asked)
    assert {one.section for one in found} == {"W16X31", "W16X36", "W18X35"} and len(found) == 6
    for one in found:
        trial = {
            "standard": standard,
            "framing": table["framing"],
            "supported": {"section": one.section, "grade": "A992"},
            "support": table["support"],
            "parameters": {"bolt": "3/4 A325-N", "rows": one.sizes["rows"].value},
            "actions": [{"name": "V", "V": f"{one.shear / KIP} kip"}],
        }
        result = read_trial(trial).run()
        if one.why:
            assert result.status != "pass"
        else:
            assert result.status == "pass" or result.utilisation < 1 + 1e-6
            assert result.utilisation == pytest.approx(1.0, abs=1e-6) and result.governing.check == one.check


def test_the_lightest_for_a_shear():
    asked = read_asked_of(TABLE)
    found = capacities(asked)
    assert [round(v / KIP) for v in asked.shears] == [20, 40, 60]
    for shear in asked.shears:
        best = lightest(found, shear)
        for section, one in best.items():
            holding = [c for c in found if c.section == section and not c.why and c.shear >= shear]
            assert one in holding and one.weight == min(c.weight for c in holding)
        assert {c.section for c in found if not c.why and c.shear >= shear} == set(best)
    assert len(lightest(found, 1000 * KIP)) == 0


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"standard": "base_plate"}, "goes with no end of a beam"),
        ({"sections": "W99*"}, "is like 0 sections"),
        ({"section": "W16"}, "'section' is not known"),
        ({"support": "W12X65"}, "give its section and grade"),
        ({"shears": "10 .. 20 kip"}, "by which step"),
        ({"values": [{"row": "2 .. 3"}]}, "did you mean rows"),
    ],
)
def test_what_is_wrong_is_named(change, words):
    with pytest.raises(InputError, match=words.replace("(", r"\(")):
        read_asked_of({**TABLE, **change})


@pytest.mark.parametrize("name", [*KEYS, "support.section", "support.grade", "geometry.skew", "parameters.rows"])
def test_whatever_stands_in_an_entry_is_read_or_refused(name):
    """A list or a text where a mapping belongs, numbers out of bounds, nothing: no other error."""
    outer, _, inner = name.partition(".")
    for odd in ([1, 2], ["a"], "text", 5, -1, float("inf"), {}, {"a": [1]}, {"a": None}, True, None, [[]], [{}], ""):
        given = {**TABLE, outer: {**TABLE.get(outer, {}), inner: odd} if inner else odd}
        try:
            capacities(read_asked_of(given))
        except InputError as exc:
            assert str(exc)


@pytest.mark.parametrize("name", ["geometry", "parameters"])
def test_a_list_where_a_mapping_belongs_is_named(name):
    with pytest.raises(InputError, match=f"{name}: give it as a mapping"):
        read_asked_of({**TABLE, name: ["rows"]})
