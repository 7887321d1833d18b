"""Sizes that follow from others by formulas: read, worked out, climbed with, refused."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from handrail.core.catalogue import Steel, grade, section
from handrail.core.checking.batch import Outcome
from handrail.core.checking.trial import read_trial
from handrail.core.codes import code
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH
from handrail.core.rulebook import RulebookError, read_rulebook
from handrail.core.rulebook.conditional import facts_in, with_facts
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes
from tests.bundles import DEMO, plan_of

SPLICE = STANDARDS["beam_flange_splice"]
PLACE = Situation.of(
    "beam_splice", Steel(section("W24X76"), grade("A992")), Steel(section("W21X62"), grade("A992")), code=code()
)


def sized(**given: object) -> Sizes:
    return SPLICE.complete(PLACE, SPLICE.read(given, "given"))


@pytest.mark.parametrize(
    ("formula", "value"),
    [
        ("= 2 * ceil(rows / 2)", 4),
        ("=rows+2", 6),
        ("= 2 * (rows - 1)", 6),
        ("= ceil(rows / 3)", 2),
        ("= max(rows, columns, 5)", 5),
        ("= up(rows * 1.1)", 5),
        ("= plate_depth / 3 in", 4),
        ("= -rows + 10", 6),
        ("= floor(supported.depth / 1-1/2 in)", 15),
        ("= 5 if rows > 3 else 2", 5),
        ("= 5 if rows > 4 else 2", 2),
        ("= 5 if not rows == 4 or plate_depth >= 12 in else 7", 5),
        ("= 5 if rows == 4 and plate_depth < 12 in else 7 if supported.depth > 24 in else 8", 8),
        ("= max(usual, 3)", 3),
        ("= usual + 2", 5),
    ],
)
def test_a_count_follows(formula: str, value: int) -> None:
    """By hand: 4 rows, 1 column, a plate of 12 in., 3 rows in flanges where nobody says; W24X76 is 23.9 in. deep: 15.93
    times 1-1/2 in."""
    found = sized(rows=4, plate_depth="12 in", flange_rows=formula)["flange_rows"]
    assert (found.value, found.source) == (value, "given")
    assert found.formula.startswith("= ")


@pytest.mark.parametrize(
    ("formula", "inches"),
    [
        ("= (rows - 1) * pitch + 2 * 1.5 in", 12),
        ("= up((rows - 1) * pitch + 2.6 in, 1/2 in)", 12),
        ("= 10 * diameter(bolt) + 5 in", 12.5),
        ("= down(supported.depth, 1 in)", 23),
        ("= min(supported.depth, support.depth)", 21.0),
        ("= 305 mm - 0.2 mm", 12),
        ("= rows * 3 in", 12),
        ("= 1 ft", 12),
        ('= 12"', 12),
    ],
)
def test_a_length_follows(formula: str, inches: float) -> None:
    """By hand: 4 rows at 3 in. of 3/4 in. bolts, W24X76 of 23.9 in. beside W21X62 of 21.0 in."""
    found = sized(rows=4, plate_depth=formula)["plate_depth"]
    assert float(found.value) / INCH == pytest.approx(inches, abs=2e-4)


@pytest.mark.parametrize(
    ("name", "formula", "says"),
    [
        ("plate_depth", "= pitch + 3", "units"),
        ("plate_depth", "= 2 * ceil(rows / 2)", "not a length"),
        ("flange_rows", "= pitch", "not a count"),
        ("flange_rows", "= row + 2", "'row' is no size; there is rows"),
        ("bolt", "= rows", "formulas give numbers"),
        ("flange_rows", "=", "1 to 300"),
        ("flange_rows", "= rows +", "cannot be read"),
        ("flange_rows", "= rows ** 9", "takes names"),
        ("flange_rows", "= rows.real", "takes names"),
        ("flange_rows", "= __import__('os')", "takes names"),
        ("flange_rows", "= 'a' * 9", "takes names"),
        ("flange_rows", "= min(rows, key=1)", "takes names"),
        ("flange_rows", "= [rows]", "takes names"),
        ("flange_rows", "= rows if rows else 2", "after if stands a comparison"),
        ("flange_rows", "= tightening", "not a number"),
        ("flange_rows", "= " + "(" * 60 + "rows" + ")" * 60 + "+ -" * 40 + "1", "nested too deep"),
        ("flange_rows", "= rows" + " + 1" * 200, "1 to 300"),
        ("plate_depth", "= 3 furlong + 2 parsnip", "unit"),
        ("plate_depth", "= supported.area", "takes names"),
        ("plate_depth", "= supported", "supported"),
        ("flange_rows", "= diameter(rows)", "units|number|count|length"),
        ("plate_depth", "= up(pitch, 2)", "up|units|dimension|convert"),
    ],
)
def test_what_does_not_go_is_told(name: str, formula: str, says: str) -> None:
    with pytest.raises(InputError, match=says) as told:
        SPLICE.read({name: formula}, "given")
    assert str(told.value).startswith(f"{name}: ")


def test_a_circle_is_told() -> None:
    with pytest.raises(InputError, match="rows -> flange_rows -> rows goes in a circle"):
        sized(rows="= flange_rows", flange_rows="= rows")
    with pytest.raises(InputError, match="circle"):
        sized(rows="= plate_depth / pitch")  # the depth follows from the rows where it is not given


@pytest.mark.parametrize(
    ("given_sizes", "says"),
    [
        ({"rows": 3, "flange_rows": "= rows / 2"}, "1.5 is not a whole number; use floor or ceil"),
        ({"rows": 20, "flange_rows": "= rows * 2"}, "more than 24"),
        ({"rows": 3, "flange_rows": "= 6 / (rows - 3)"}, "divides by nothing"),
        ({"rows": 3, "pitch": "= 1 in - rows * 1 in"}, "less than"),
    ],
)
def test_a_value_that_cannot_be_is_told(given_sizes: dict[str, object], says: str) -> None:
    with pytest.raises(InputError, match=says):
        sized(**given_sizes)


@given(st.text(alphabet="=+-*/().,0123456789 inrowspitch'\"_[]{}", max_size=60))
def test_any_text_is_a_formula_or_told(text: str) -> None:
    try:
        found = sized(rows=4, plate_depth=f"={text}")["plate_depth"]
    except InputError as exc:
        assert str(exc).strip()
    else:
        assert math.isfinite(float(found.value))


def trial(**parameters: object) -> dict[str, object]:
    return {
        "framing": "beam_splice",
        "standard": "beam_flange_splice",
        "supported": {"section": "W24X76", "grade": "A992"},
        "support": {"section": "W24X76", "grade": "A992"},
        "parameters": parameters,
        "actions": [{"name": "1", "V": "40 kip", "M": "150 kip*ft"}],
    }


def test_a_tied_trial_is_the_one_written_out() -> None:
    tied, plain = (read_trial(trial(rows=4, flange_rows=rows)) for rows in ("= 2 * ceil(rows / 2)", 4))
    a, b = tied.run(), plain.run()
    assert (a.status, a.utilisation) == (b.status, b.utilisation)
    size = tied.answer(a)["parameters"]["flange_rows"]
    assert size == {"value": 4, "source": "given", "formula": "= 2 * ceil(rows / 2)"}


RULES = """rulebook: 1
rules:
  - name: Tied
    use: beam_flange_splice
    set: {{flange_rows: {formula}}}
"""


def test_a_rulebook_says_where_a_formula_is_wrong() -> None:
    with pytest.raises(RulebookError) as told:
        read_rulebook(RULES.format(formula="= row + 2"))
    assert told.value.problems[0][:2] == (5, 24)
    assert (
        read_rulebook(RULES.format(formula="= 2 * ceil(rows / 2)")).rules[0].set["flange_rows"].asked
        == "= 2 * ceil(rows / 2)"
    )


def girder_splices(formula: str) -> dict[str, Outcome]:
    """The demo's girder splices, sized with the rows in their flanges tied."""
    plan = plan_of(DEMO / "bundle")
    text = (DEMO / "rulebook.yaml").read_text()
    held = "    use: beam_flange_splice\n    set: {flange_bolt: 7/8 A325-N"
    assert held in text
    plan = plan.with_(rulebook=read_rulebook(text.replace(held, f"{held}, flange_rows: {formula}")))
    wanted = {a.connection.id for a in plan.assigned if a.rule and a.rule.use == "beam_flange_splice"}
    return {plan.assigned[k].connection.id: o for k, o in plan.batch().run(plan.families(wanted))}


def test_sizing_climbs_what_a_tied_size_follows() -> None:
    found = girder_splices("= rows - 1")
    assert found
    for outcome in found.values():
        rows, tied = outcome.sizes["rows"], outcome.sizes["flange_rows"]
        assert (outcome.status, tied.value, tied.formula, rows.source) == (
            "pass",
            int(rows.value) - 1,
            "= rows - 1",
            "rung",
        )
    few, many = girder_splices("= rows - 2"), girder_splices("= rows + 4")
    for name, outcome in few.items():  # what the flanges need is reached through the rows of the web
        assert outcome.status == "pass"
        assert int(outcome.sizes["rows"].value) >= int(many[name].sizes["rows"].value)


def test_a_formula_without_a_value_leaves_the_connection_unchecked() -> None:
    for outcome in girder_splices("= rows / 7").values():
        assert (outcome.status, outcome.reason) == (
            "unchecked",
            outcome.reason,
        ) and "is not a whole number" in outcome.reason


@pytest.mark.parametrize(
    ("text", "asks"),
    [
        ("= 1 if framing == beam_to_girder else (2 if released else V / 1 kip)", {"framing", "released", "V"}),
        ("= 3 if released and opposed or N.min@overstrength > 3 kip else M_share", {
            "released", "opposed", "N.min@overstrength", "M_share"}),
        ("= look_up(level, V, N / 2 kip)", {"N"}),
        ("= rows + 1", set()),
    ],
)  # fmt: skip
def test_every_fact_of_every_side_is_asked_for(text: str, asks: set[str]) -> None:
    assert set(facts_in(text, SPLICE.names)) == asks


FACTS = {"framing": "beam_splice", "released": True, "opposed": False, "V": 137e3, "V_share": 0.6, "level": "2"}


@pytest.mark.parametrize(
    ("text", "comes_to", "as_"),
    [
        ("= 4 if V > 30 kip else 3", "= 4", ["V > 30 kip"]),
        ("= 4 if V > 31 kip else 3", "= 3", ["not V > 31 kip"]),
        ("= 4 if V_share > 0.5 else rows", "= 4", ["V_share > 0.5"]),
        ("= 4 if framing in (beam_splice, column_splice) and not opposed else 3", "= 4", None),
        ("= 4 if opposed or rows > 3 else 3", "= 4 if rows > 3 else 3", []),
        ("= 4 if released and rows > 3 else 3", "= 4 if rows > 3 else 3", []),
        ("= 4 if opposed and V > 1 kip else 3", "= 3", ["not (opposed and V > 1 kip)"]),
        ("= '7/8 A325-N' if level == 2 else '3/4 A325-N'", "7/8 A325-N", None),
        ("= V / 10 kip", "= 137000 N / 10 kip", []),
        ("=2*(rows-1)  + 1", "=2*(rows-1)  + 1", []),
    ],
)
def test_what_hangs_on_facts_is_settled_for_the_connection(text: str, comes_to: str, as_: list[str] | None) -> None:
    """137 kN are 30.8 kip."""
    if "level ==" in text:
        text = text.replace("level == 2", "level == '2'")
    found, words = with_facts(text, SPLICE.names, FACTS)
    assert found == comes_to and (as_ is None or words == as_)


@pytest.mark.parametrize(
    ("written", "told"),
    [
        ("rows: = 4 if released else V", "units do not go"),
        ('plate_thickness: "= 1/2 in if framing == beam_splice else (3 if released else 1 in)"', "units do not go"),
        (
            "bolt: \"= '7/8 A325-N' if released else ('3/4 A325-N' if opposed else '1 A49-X')\"",
            "'1 A49-X' is not a bolt",
        ),
        ("rows: = released", "gives true or false"),
        ("rows: = framing", "is words; compare it"),
        ("rows: = 3 if framing > beam_splice else 4", "compared with =="),
        ("rows: = 3 if framing == beam_splic else 4", "did you mean beam_splice"),
    ],
)
def test_a_formula_with_facts_is_read_to_the_end_of_each_side(written: str, told: str) -> None:
    with pytest.raises(RulebookError) as exc:
        read_rulebook(f"rulebook: 1\nrules:\n  - name: A\n    use: beam_flange_splice\n    set: {{{written}}}\n")
    words = exc.value.problems[0][2]
    assert told in words and "0 < 1" not in words, words
