"""Also-rules: what they add to whichever rule took a connection, in which order, and how `why` tells it."""

from __future__ import annotations

import re
from functools import lru_cache
from itertools import combinations
from pathlib import Path

import pytest

from handrail.core.checking.coverage import added_to, coverage
from handrail.core.checking.plan import Plan
from handrail.core.quantities.units import INCH
from handrail.core.rulebook import Rulebook, RulebookError, read_rulebook
from handrail.core.rulebook.differing import differences
from tests.bundles import DEMO, plan_of

DOCS = (Path(__file__).parents[2] / "docs" / "rulebook.md").read_text(encoding="utf-8")
BOOK = next(t for t in re.findall(r"```yaml\n(.*?)```", DOCS, re.DOTALL) if "A fabricator's book" in t)
GIRDERS = {"framing": "beam_to_girder"}
RULES = """rulebook: 1
practice: {bolt: 3/4 A325-N, target_utilisation: 0.95}
rules:
  - {name: Girders, when: {framing: beam_to_girder}, use: single_plate}
  - {name: Columns, when: {framing: [beam_to_column_web, beam_to_column_flange]}, use: double_angle}
  - {name: Bases, when: {framing: column_base}, use: base_plate}
"""


@lru_cache(maxsize=1)
def demo() -> Plan:
    return plan_of(DEMO / "bundle")


@lru_cache(maxsize=8)
def ruled(text: str) -> Plan:
    return demo().with_(rulebook=read_rulebook(text))


def some(plan: Plan, framing: str, count: int = 6) -> list[str]:
    """Connections of one framing with a rule, here and there in the building."""
    own = [a.connection.id for a in plan.assigned if a.connection.framing == framing and a.rule and not a.reason]
    return own[:: max(1, len(own) // count)][:count]


def sized(plan: Plan, keys: list[str]) -> dict[str, dict[str, object]]:
    worked = plan.work(set(keys))
    return {k: {n: s.value for n, s in worked[plan.index[k]].sizes.items()} for k in keys}


def test_it_adds_to_whatever_rule_took_it() -> None:
    text = RULES + "also:\n  - {name: Large, set: {bolt: 7/8 A325-N}}\n"
    plan = ruled(text)
    for framing in ("beam_to_girder", "beam_to_column_flange"):
        for sizes in sized(plan, some(plan, framing)).values():
            assert sizes["bolt"] == "7/8 A325-N"
    (base,) = some(plan, "column_base", 1)
    assert plan.assigned[plan.index[base]].rule.added.layers == ()  # type: ignore[union-attr]


def test_the_least_holds_wherever_a_size_comes_from() -> None:
    """Climbed (rows, plate_thickness), by practice (pitch), by itself (weld_size) and of axes (a base's plate)."""
    least = "{rows: 4, plate_thickness: 3/8 in, pitch: 3-1/4 in, weld_size: 5/16 in}"
    text = RULES.replace("{bolt:", "{pitch: 3 in, bolt:") + f"also:\n  - {{name: Stout, least: {least}}}\n"
    plan, plain = ruled(text), ruled(RULES)
    keys = some(plan, "beam_to_girder", 12)
    stout, before = sized(plan, keys), sized(plain, keys)
    for key in keys:
        for name, value in (("rows", 4), ("plate_thickness", 9.525), ("pitch", 82.55), ("weld_size", 7.9375)):
            assert stout[key][name] >= value - 1e-6  # type: ignore[operator]
            if before[key][name] >= value:  # type: ignore[operator]
                assert stout[key][name] >= value  # type: ignore[operator]
    bases = some(plan, "column_base")
    assert all(s["plate_thickness"] >= 9.525 - 1e-6 for s in sized(plan, bases).values())  # type: ignore[operator]


def test_a_least_that_others_are_over_changes_nothing() -> None:
    text = RULES + "also:\n  - {name: Light, least: {rows: 2, plate_thickness: 1/4 in, plate_width: 4 in}}\n"
    plan, plain = ruled(text), ruled(RULES)
    for framing in ("beam_to_girder", "column_base"):
        keys = some(plan, framing)
        assert sized(plan, keys) == sized(plain, keys)


def test_a_later_one_holds_over_an_earlier_and_a_person_over_both() -> None:
    text = RULES + (
        "also:\n  - {name: First, set: {bolt: 7/8 A325-N, hole: SSLT}, target_utilisation: 0.9}\n"
        "  - {name: Second, when: {standard: single_plate}, set: {bolt: 1 A325-N}, target_utilisation: 0.7}\n"
    )
    plan = ruled(text)
    girder, column = some(plan, "beam_to_girder", 1)[0], some(plan, "beam_to_column_flange", 1)[0]
    assert sized(plan, [girder])[girder]["bolt"] == "1 A325-N"
    assert sized(plan, [column])[column]["bolt"] == "7/8 A325-N"
    assert (plan.target([girder]), plan.target([column]), plan.target([girder, column])) == (0.7, 0.9, 0.7)
    decided = plan.with_(overrides={girder: {"bolt": "3/4 A325-N", "rows": 2}})
    own = sized(decided, [girder])[girder]
    assert (own["bolt"], own["rows"]) == ("3/4 A325-N", 2)


def test_the_target_of_the_most_particular_counts() -> None:
    text = RULES.replace("0.95}", "0.95, base_plate: {target_utilisation: 0.85}}").replace(
        "use: double_angle}", "use: double_angle, target_utilisation: 0.6}"
    )
    plan = ruled(text)
    expected = {"beam_to_girder": 0.95, "beam_to_column_flange": 0.6, "column_base": 0.85}
    for framing, target in expected.items():
        keys = some(plan, framing, 8)
        assert {plan.target([key]) for key in keys} == {target}
        for outcome in (plan.work({key})[plan.index[key]] for key in keys):
            assert outcome.over_target == (target < outcome.utilisation <= 1.0 and outcome.status == "pass")
    light, hard = ruled(RULES), plan
    keys = some(plan, "beam_to_column_flange", 80)
    one, other = (p.work(set(keys)) for p in (light, hard))
    assert any(other[plan.index[k]].utilisation < one[plan.index[k]].utilisation for k in keys)


def test_what_is_asked_of_the_rule_and_why_is_told() -> None:
    text = RULES + (
        "also:\n  - {name: Mine, when: {rule: Gird*, V: '> 0 kip'}, hold: pitch, set: {plate_thickness: 1/2 in}}\n"
        "  - {name: Bases only, use: base_plate, least: {plate_thickness: 2 in}}\n"
    )
    plan = ruled(text)
    (key,) = some(plan, "beam_to_girder", 1)
    met = {also.name: failing for also, failing in added_to(plan, plan.index[key])}
    assert met["Mine"] == [] and "adds to base_plate" in met["Bases only"][0].asked
    found = coverage(plan)
    assert found.adds["Mine"] == found.takes["Girders"] and found.adds["Bases only"] == found.takes["Bases"]
    changed = {(d.what, d.name) for d in differences(read_rulebook(RULES), read_rulebook(text))}
    assert changed == {("also", "Mine"), ("also", "Bases only")}


def test_facts_of_members_copes_and_cases() -> None:
    """By hand: B-members of the demo span a bay; what a cope would be is at least the flange's half width."""
    plan = demo()
    keys = some(plan, "beam_to_girder", 10)
    for key in keys:
        k = plan.index[key]
        situation = plan.assigned[k].situation
        assert situation is not None and situation.support is not None
        facts = plan.facts(k, situation, every=True)
        assert facts["supported.name"] == key.split(".")[0]
        girder, beam = situation.support.section, situation.supported.section
        assert facts["deeper"] == (situation.top_offset + beam.d > girder.d + 0.5)
        if facts["cope"] != "none" and not situation.skew:
            assert facts["cope_length"] >= (girder.bf - girder.tw) / 2 - 13.0
            assert facts["cope_depth"] >= girder.tf - situation.top_offset
        strength = 0.6 * situation.supported.grade.Fy * beam.d * beam.tw
        if beam.h_tw <= 2.24 * (29000 / (situation.supported.grade.Fy / 6.894757)) ** 0.5:
            assert facts["V_share"] == pytest.approx(facts["V"] / strength, rel=1e-6)
    column = some(plan, "beam_to_column_web", 1)[0]
    k = plan.index[column]
    assert plan.facts(k, plan.assigned[k].situation, every=True)["axis"] == "weak"  # type: ignore[arg-type]


def test_an_action_in_one_case_alone() -> None:
    """As the analysis gave it: of a beam the shear that its case has at the end."""
    case = demo().building.results[0]
    text = RULES + f"also:\n  - {{name: In one, when: {{'V@{case}': '> 0.001 kip'}}, set: {{hole: SSLT}}}}\n"
    plan = ruled(text)
    for key in some(plan, "beam_to_girder", 8):
        k = plan.index[key]
        names, table = plan.modelled.by_case(k)
        alone = abs(table[names.index(case)][1])
        facts = plan.facts(k, plan.assigned[k].situation)  # type: ignore[arg-type]
        assert facts[f"V@{case}"] == pytest.approx(alone, abs=1e-6)
        layers = plan.assigned[k].rule.added.layers  # type: ignore[union-attr]
        assert layers == (("In one",) if alone > 4.45 else ())


def test_inherited_ones_come_first() -> None:
    house = RULES + "also:\n  - {name: A, set: {bolt: 7/8 A325-N}}\n  - {name: B, set: {hole: SSLT}}\n"

    def library(name: str) -> object:
        from handrail.core.rulebook import Text

        return Text(house)

    own = "rulebook: 1\ninherits: shop R1\n{}also:\n  - {{name: C, set: {{bolt: 1 A325-N}}}}\n{}"
    book = read_rulebook(own.format("", ""), library=library)  # type: ignore[arg-type]
    assert [a.name for a in book.also] == ["A", "B", "C"] and book.also[0].origin == "shop R1"
    book = read_rulebook(own.format("leave_out: B\n", "  - {name: A, set: {bolt: 5/8 A325-N}}\n"), library=library)  # type: ignore[arg-type]
    assert [(a.name, a.origin) for a in book.also] == [("C", ""), ("A", "")]
    with pytest.raises(RulebookError, match="no inherited rule is called 'Nobody'"):
        read_rulebook(own.format("leave_out: Nobody\n", ""), library=library)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("also", "told"),
    [
        ("{name: A}", "adds nothing"),
        ("{name: A, set: {rowz: 3}}", "no standard has a parameter 'rowz'; did you mean rows?"),
        ("{name: A, use: base_plate, set: {rows: 3}}", "no standard of base_plate has a parameter 'rows'"),
        ("{name: A, use: singel_plate, set: {rows: 3}}", "did you mean single_plate"),
        ("{name: A, target_utilisation: 1.2}", "from 0.1 to 1.0"),
        ("{name: A, set: {rows: 99}}", "99 is more than"),
        ("{name: A, least: {bolt: 7/8 A325-N}}", "is no number"),
        ("{name: A, ladder: [{rows: 3}]}", "'ladder' is not known"),
        ("{name: A, hold: rowz}", "has a parameter 'rowz'"),
        ("{name: A, sizes: nowhere}", "there is no table 'nowhere'"),
        ("{name: A, when: {rulle: A}, set: {rows: 3}}", "did you mean rule"),
        ("{name: A, set: {plate_thickness: = 1/2 in if V > 3 in else 1 in}}", "units do not go together"),
        ("{name: A, set: {bolt: = '7/8 A325-N' if rows > 3 else '3/4 A325-N'}}", "by facts of the connection alone"),
        ("{name: A, set: {bolt: = '7/8 A32-N' if V > 3 kip else '3/4 A325-N'}}", "7/8 A32-N"),
    ],
)
def test_mistakes_are_told_at_their_place(also: str, told: str) -> None:
    text = f"{RULES}also:\n  - {also}\n"
    with pytest.raises(RulebookError) as exc:
        read_rulebook(text)
    assert any(told in words for _, _, words in exc.value.problems)
    assert all(line == text.count("\n") for line, _, _ in exc.value.problems)


def flat(book: Rulebook, text: str) -> str:
    """The same without also-rules: each rule once more for each of them, and for those that go together. What is at
    least so is left out, which `set` cannot say."""
    whole, layers = text.split("also:\n")
    head, rules = whole.split("rules:\n")
    own = re.findall(r"  - name: (.*)\n    when: \{(.*)\}\n    use: (.*)\n", rules)
    added = re.findall(r"  - name: (.*)\n    when: \{(.*)\}\n((?:    .*\n)+)", layers)
    lines = [head + "rules:"]
    for name, when, use in own:
        for count in (3, 2, 1, 0):
            for together in combinations(added, count):
                if sum("grid" in w for _, w, _ in together) > 1:
                    continue  # no joint is in both bays
                lines += [f"  - name: {' and '.join([name, *(n for n, _, _ in together)])}"]
                lines += [f"    when: {{{', '.join([when, *(w for _, w, _ in together)])}}}", f"    use: {use}"]
                sizes = [re.search(r"set: \{(.*)\}", said) for _, _, said in together]
                given = [s[1] for s in sizes if s and (use == "single_plate" or "tie" not in s[1] or "angle" in use)]
                lines += [f"    set: {{{', '.join(given)}}}"] if given and use != "base_plate" else []
                lines += [f"    {t}" for _, _, said in together for t in re.findall(r"target_utilisation: .*", said)]
    return "\n".join(lines) + "\n"


def test_the_fabricator_s_book_is_half_as_long_as_without_layers() -> None:
    """And comes to the same: standard, sizes and verdict, where nothing is asked for at least."""
    layered = re.sub(r"    least: .*\n", "", BOOK)
    one, other = ruled(layered), ruled(flat(read_rulebook(layered), layered))
    grids = [name for name, adds in coverage(ruled(BOOK)).adds.items() if not adds]
    assert grids == []
    assert 2 * len(BOOK.splitlines()) <= len(flat(read_rulebook(BOOK), BOOK).splitlines())
    keys = {k for f in ("beam_to_girder", "beam_to_column_web", "column_splice") for k in some(one, f, 25)}
    a, b = one.work(keys), other.work(keys)
    for k in a:
        same = [{n: s.value for n, s in of[k].sizes.items()} for of in (a, b)]
        assert same[0] == same[1] and a[k].status == b[k].status, one.assigned[k].connection.id


def test_a_least_never_gives_less() -> None:
    """More asked for at least never makes a size less, nor a connection used more, as long as it passes."""
    plan = ruled(RULES)
    keys = some(plan, "beam_to_girder", 8)
    for rows in (3, 4, 5):
        more = ruled(RULES + f"also:\n  - {{name: A, least: {{rows: {rows}}}}}\n")
        for key, sizes in sized(more, keys).items():
            assert sizes["rows"] >= rows  # type: ignore[operator]
            assert sizes["plate_depth"] >= (rows - 1) * 3 * INCH, key  # type: ignore[operator]
