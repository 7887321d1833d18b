"""The whole language of rulebooks: conditions joined, tables, look-ups, ladders, practice by use, inheriting; each as
the docs have it."""

from __future__ import annotations

import math

import numpy as np
import pytest

from handrail.core.building.combining import strength_set
from handrail.core.building.end_actions import end_actions
from handrail.core.catalogue import Steel, grade, section
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.codes import code
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import INCH, KIP
from handrail.core.rulebook import RulebookError, Text, read_rulebook
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sized
from tests.bundles import plan_of

HEAD = "rulebook: 1\n"
SITUATION = Situation.of(
    "beam_to_girder", Steel(section("W16X40"), grade("A992")), Steel(section("W24X68"), grade("A992")), code=code()
)
FACTS = {
    "framing": "beam_to_girder",
    "skew": 0.0,
    "slope": 0.0,
    "released": True,
    "supported.section": "W16X40",
    "support.section": "W24X68",
    "supported.role": "beam",
    "level": "3",
    "group": ("Stair core", "Bay A"),
    "tag": (),
    "V": 100e3,
    "V@service": 70e3,
    "supported.depth": 15.9 * INCH,
}


def book(rules: str, tables: str = "", files: dict[str, str] | None = None, top: str = ""):
    return read_rulebook(HEAD + top + (f"tables:\n{tables}" if tables else "") + f"rules:\n{rules}", files)


def taken(when: str, facts=FACTS) -> bool:
    return book(f"  - name: A\n    use: single_plate\n    when: {when}\n").rule_for(facts) is not None


@pytest.mark.parametrize(
    ("when", "holds"),
    [
        ("{not: {support.section: W14*}}", True),
        ("{not: {support.section: W24*}}", False),
        ("{support.section: {not: W24X68}}", False),
        ("{intent: {not: tab}}", True),  # what it has not, it has not: not holds
        ("{not: {support.section: W24*, skew: '> 5 deg'}}", True),  # not both
        ("{not: [{support.section: W24*}, {skew: '> 5 deg'}]}", False),  # none of them
        ("{any: [{skew: '> 5 deg'}, {V: '> 20 kip'}]}", True),
        ("{any: {skew: '> 5 deg', V: '> 20 kip'}}", True),
        ("{any: [{skew: '> 5 deg'}, {V: '> 25 kip'}]}", False),
        ("{any: [{skew: '< 5 deg', V: '> 25 kip'}, {released: false}]}", False),
        ("{all: [{V: '> 20 kip'}, {V: '< 23 kip'}]}", True),
        ("{all: [{V: '> 20 kip'}, {V: '< 22 kip'}]}", False),
        ("{any: [{all: [{skew: '< 1 deg'}, {not: {released: false}}]}]}", True),
        ("{group: stair core}", True),
        ("{group: [Bay B, Bay A]}", True),
        ("{group: bay*}", True),
        ("{tag: painted}", False),
        ("{level: 3}", True),
        ("{V@service: '< 16 kip'}", True),
        ("{V@seismic: '> 0 kip'}", False),
        ("{supported.role: beam}", True),
        ("{supported.section: w16x40}", True),
    ],
)
def test_conditions_joined(when: str, holds: bool) -> None:
    assert taken(when) is holds


BEAMS = """  beams:
    by: supported.section
    match: prefix
    csv: |
      supported.section, rows, plate_thickness [in], bolt, note
      W16, 4, 1/4, 3/4 A325-N, usual
      W16X40, 3, 3/8, 7/8 A325-N,
      W2, 6, , ,
"""
RULE = "  - name: A\n    use: single_plate\n    sizes: beams\n"


def sizes_of(found, section: str) -> dict[str, tuple[object, str]]:
    rule = found.rule_for(FACTS | {"supported.section": section})
    assert rule is not None and not rule.problem, rule and rule.problem
    return {
        name: (round(s.value, 4) if isinstance(s.value, float) else s.value, s.source) for name, s in rule.base.items()
    }


def test_the_longest_prefix_gives_the_sizes() -> None:
    found = book(RULE, BEAMS)
    assert sizes_of(found, "W16X40") == {
        "rows": (3, "table beams: W16X40"),
        "plate_thickness": (9.525, "table beams: W16X40"),
        "bolt": ("7/8 A325-N", "table beams: W16X40"),
    }
    assert sizes_of(found, "W16X45")["rows"] == (4, "table beams: W16")
    assert sizes_of(found, "W24X55") == {"rows": (6, "table beams: W2")}  # an empty cell leaves practice and default
    gone = found.rule_for(FACTS | {"supported.section": "W18X40"})
    assert gone is not None and "no row for supported.section W18X40" in gone.problem


def test_a_row_can_be_asked_for() -> None:
    found = book(RULE + "    when: {row_in: beams}\n  - {name: B, use: single_plate}\n", BEAMS)
    assert [found.rule_for(FACTS | {"supported.section": s}).name for s in ("W16X40", "W18X40")] == ["A", "B"]
    assert book(RULE + "    when: {not: {row_in: beams}}\n", BEAMS).rule_for(FACTS) is None


def test_ranges_touch_and_the_first_row_wins_where_they_do() -> None:
    tables = (
        "  t:\n    by: V\n    match: range\n    rows:\n      - {V: 0 .. 20 kip, rows: 2}\n      - {V: 20 .. 40 kip,"
        " rows: 3}\n      - {V: '> 40 kip', rows: 5}\n"
    )
    found = book("  - {name: A, use: single_plate, sizes: t}\n", tables)

    def rows(kip: float) -> object:
        rule = found.rule_for(FACTS | {"V": kip * KIP})
        return rule.problem or rule.base["rows"].value

    assert [rows(k) for k in (0, 19.9, 20, 20.1, 40, 40.1)] == [2, 2, 2, 3, 3, 5]
    assert "no row for V" in str(rows(-1))


def test_several_keys_and_files() -> None:
    files = {
        "sizes/b.csv": (
            "framing,supported.depth [in],rows\nbeam_to_girder,< 12,2\nbeam_to_girder,12 .. 20,4\nbeam_splice,< 50,9\n"
        )
    }
    tables = "  t: {by: [framing, supported.depth], match: {supported.depth: range}, file: sizes/b.csv}\n"
    found = book("  - {name: A, use: single_plate, sizes: t}\n", tables, files)
    assert found.rule_for(FACTS).base["rows"].value == 4
    assert found.rule_for(FACTS | {"supported.depth": 200.0}).base["rows"].value == 2


CLEAR = """  clear:
    by: diameter
    match: range
    csv: |
      diameter [in], edge [in]
      <= 3/4, 1-1/4
      0.76 .. 1, 1-3/4
"""


@pytest.mark.parametrize(
    ("bolt", "edge"),
    [("5/8 A325-N", 1.25), ("3/4 A325-N", 1.25), ("7/8 A325-N", 1.75), ("1 A325-N", 1.75), ("1-1/8 A325-N", None)],
)
def test_a_table_by_a_number_goes_with_what_climbs(bolt: str, edge: float | None) -> None:
    """The bolt is a rung's: the edge that goes with it is found when the rung is tried."""
    rule = book(
        '  - name: A\n    use: single_plate\n    set: {edge_distance: "= look_up(clear, edge, diameter(bolt))"}\n',
        CLEAR,
    ).rule_for(FACTS)
    sized = rule.base | {"bolt": Sized(bolt, "rung")}
    if edge is None:
        with pytest.raises(InputError, match="none of the spans"):
            STANDARDS["single_plate"].complete(SITUATION, sized)
    else:
        assert STANDARDS["single_plate"].complete(SITUATION, sized)["edge_distance"].value == pytest.approx(edge * INCH)


def test_look_up_in_formulas_and_alone() -> None:
    rules = (
        '  - name: A\n    use: single_plate\n    set: {rows: "= look_up(beams, rows) + 1", bolt: "= look_up(beams,'
        ' bolt)", plate_thickness: "= max(look_up(beams, plate_thickness), 5/16 in)"}\n'
    )
    rule = book(rules, BEAMS).rule_for(FACTS)
    assert rule.base["rows"].value == "= (3) + 1" and rule.base["rows"].source == "rule 'A'; table beams: W16X40"
    assert rule.base["bolt"].value == "7/8 A325-N" and rule.base["plate_thickness"].value == "= max((3/8 in), 5/16 in)"
    none = book(rules, BEAMS).rule_for(FACTS | {"supported.section": "W21X44"})
    assert "no bolt for W2" in none.problem or "no plate_thickness for W2" in none.problem


def test_one_row_changes_what_it_should_and_nothing_else(demo_folder) -> None:
    """Every beam of the demo has its shop size from a table by its section; a changed row moves the grounds of just its
    beams."""
    plan = plan_of(demo_folder)
    sections = sorted(
        {plan.building.members[c.member].section for c in plan.framing.connections if c.framing.startswith("beam_to_")}
    )
    rows = {s: f"{s}, {2 + k % 4}, {3 + k % 3}/16" for k, s in enumerate(sections)}

    def grounds(**changes: str) -> dict[str, str]:
        text = "\n      ".join(["supported.section, rows, plate_thickness [in]", *(rows | changes).values()])
        table = book(RULE, f"  beams:\n    by: supported.section\n    csv: |\n      {text}\n")
        own = plan_of(demo_folder).with_(rulebook=table)
        assert all(a.rule.base["rows"].source.startswith("table beams") for a in own.assigned if a.rule)
        return grounds_of(own)

    before, changed = grounds(), sections[3]
    after = grounds(**{changed: f"{changed}, 9, 3/8"})
    moved = {key for key in before if before[key] != after[key]}
    assert moved == {
        c.id
        for c in plan.framing.connections
        if c.framing.startswith("beam_to_") and plan.building.members[c.member].section == changed
    }
    assert moved


def rungs(ladder: str) -> list[tuple[object, ...]]:
    rule = book(f"  - name: A\n    use: single_plate\n    ladder:\n{ladder}").rules[0]
    return [
        tuple(round(s.value / INCH, 4) if isinstance(s.value, float) else s.value for s in rung.values())
        for rung in rule.ladder.rungs
    ]


def test_ladders_climb_the_first_entry_fastest_and_ties_together() -> None:
    found = rungs(
        "      climb:\n        - rows: 3 .. 4\n        - plate_thickness: 1/4 .. 3/8 in by 1/16 in\n         "
        " weld_size: [3/16 in, 1/4 in, 1/4 in]\n"
    )
    assert found == [
        (3, 0.25, 0.1875),
        (4, 0.25, 0.1875),
        (3, 0.3125, 0.25),
        (4, 0.3125, 0.25),
        (3, 0.375, 0.25),
        (4, 0.375, 0.25),
    ]
    assert rungs("      climb: {rows: 6 .. 2 by 2}\n") == [(6,), (4,), (2,)]
    assert rungs("      climb: {rows: 3 .. 8 by 2, bolt: [3/4 A325-N, 1 A325-N]}\n")[-1] == (7, "1 A325-N")


def test_the_lightest_first(demo_folder) -> None:
    """Rungs written heaviest first are tried lightest first where the ladder says so: the sizes that come out are the
    lightest that pass."""
    ladder = "    ladder:\n      climb: {plate_thickness: [1/2 in, 3/8 in, 1/4 in], rows: 6 .. 3}\n"

    def of(order: str):
        plan = plan_of(demo_folder)
        plan = plan.with_(
            rulebook=book(
                "  - name: A\n    when: {framing: beam_to_girder, skew: '< 1 deg'}\n    use: single_plate\n"
                f"{ladder}      order: {order}\n"
            )
        )
        key = next(a.connection.id for a in plan.assigned if a.rule)
        return plan.work({key})[plan.index[key]]

    heavy, light = of("as_written"), of("lightest")
    assert (heavy.status, light.status) == ("pass", "pass")
    assert light.sizes["rows"].value <= heavy.sizes["rows"].value
    assert light.sizes["plate_thickness"].value == pytest.approx(INCH / 4) and heavy.sizes[
        "plate_thickness"
    ].value == pytest.approx(INCH / 2)


def test_what_is_held_does_not_climb(demo_folder) -> None:
    plan = plan_of(demo_folder)
    rule = "  - {name: A, when: {framing: beam_to_girder}, use: single_plate, hold: plate_thickness}\n"
    plan = plan.with_(rulebook=book(rule, top="practice: {plate_thickness: 5/16 in}\n"))
    assigned = next(a for a in plan.assigned if a.rule)
    family = plan.family(assigned)
    assert (
        family.rungs
        and all("plate_thickness" not in dict(rung) for rung in family.rungs)
        and any("rows" in dict(rung) for rung in family.rungs)
    )
    assert dict(family.given)["plate_thickness"].source == "practice"


def test_finishes_are_words_over_what_is_inherited() -> None:
    rules = "  - {name: A, use: single_plate}\n"
    top = 'practice: {finish: {bolts: "  hot-dip   galvanized ", steel: primed}}\n'
    assert book(rules, top=top).finish == {"steel": "primed", "bolts": "hot-dip galvanized"}
    assert book(rules).finish == {}
    for wrong, said in (
        ("practice: {finish: {bolt: plain}}\n", "did you mean bolts?"),
        ("practice: {finish: {bolts: 3}}\n", "a few words"),
        ("practice: {finish: plain}\n", "a mapping with steel, bolts, rods"),
    ):
        with pytest.raises(RulebookError, match=said):
            book(rules, top=wrong)


def test_practice_by_use_and_by_standard() -> None:
    top = """practice:
  bolt: 3/4 A325-N
  bolts: {moment: 1 A490-X}
  holes: {leg: SSLT}
  edges: {end: "= 2 * diameter(bolt)"}
  clearances: {gap: 3/4 in, splice: 1/4 in}
  double_angle: {gap: 5/8 in, bolt: 7/8 A325-N}
"""
    found = book("  - {name: A, use: single_plate}\n", top=top).practice
    assert found["single_plate"]["bolt"].value == "3/4 A325-N" and found["double_angle"]["bolt"].value == "7/8 A325-N"
    assert (
        found["beam_flange_splice"]["flange_bolt"].value == found["column_end_plate_splice"]["bolt"].value == "1 A490-X"
    )
    assert found["double_angle"]["leg_hole"].value == "SSLT" and "leg_hole" not in found["single_plate"]
    assert found["single_plate"]["end_distance"].value == "= 2 * diameter(bolt)"
    gaps = {name: sizes["gap"].value for name, sizes in found.items() if "gap" in sizes}
    assert (
        gaps["single_plate"] == 0.75 * INCH
        and gaps["double_angle"] == 0.625 * INCH
        and gaps["beam_web_splice"] == 0.25 * INCH
    )


def test_what_bases_stand_on_is_said_in_one_mapping() -> None:
    found = (
        book(
            "  - name: A\n    use: base_plate\n    set: {rod: 1 F1554-36, foundation: {kind: pedestal, fc: 5 ksi,"
            " plus_along: 18 in}}\n"
        )
        .rules[0]
        .set
    )
    assert {n: s.value for n, s in found.items() if n != "rod"} == {
        "foundation_kind": "pedestal",
        "foundation_fc": pytest.approx(34.47, rel=1e-3),
        "foundation_plus_along": pytest.approx(18 * INCH),
    }
    assert found["foundation_kind"].source == "rule 'A'"


HOUSE = """rulebook: 1
practice: {bolt: 7/8 A325-N, pitch: 3 in, target_utilisation: 0.9}
tables:
  depths: {by: supported.section, rows: [{supported.section: W16X40, rows: 3}]}
rules:
  - {name: Girders, when: {framing: beam_to_girder}, use: single_plate, sizes: depths}
  - {name: Columns, when: {framing: beam_to_column_flange}, use: single_plate}
  - {name: Splices, when: {framing: beam_splice}, use: beam_web_splice}
"""


def test_a_rulebook_on_top_of_another() -> None:
    def library(name: str) -> Text:
        if name != "shop R2":
            raise InputError(f"the house has no rulebook '{name}'")
        return Text(HOUSE)

    text = """rulebook: 1
inherits: shop R2
leave_out: Splices
practice: {pitch: 4 in}
rules:
  - {name: Columns, when: {framing: beam_to_column_flange}, use: double_angle}
"""
    found = read_rulebook(text, None, library)
    assert [(r.name, r.use, r.origin) for r in found.rules] == [
        ("Columns", "double_angle", ""),
        ("Girders", "single_plate", "shop R2"),
    ]
    assert found.target == 0.9 and found.inherits == "shop R2"
    practice = found.practice["single_plate"]
    assert (practice["pitch"].value, practice["pitch"].source) == (4 * INCH, "practice")
    assert (practice["bolt"].value, practice["bolt"].source) == ("7/8 A325-N", "practice of shop R2")
    assert found.rule_for(FACTS).base["rows"].value == 3
    with pytest.raises(RulebookError, match="has no rulebook 'shop R3'"):
        read_rulebook(text.replace("R2", "R3"), None, library)
    with pytest.raises(RulebookError, match="no inherited rule is called 'Welds'"):
        read_rulebook(text.replace("Splices", "Welds"), None, library)
    with pytest.raises(RulebookError, match="goes in a circle"):
        read_rulebook(text, None, lambda name: Text(text))


@pytest.mark.parametrize(
    ("text", "line", "words"),
    [
        (
            "rules:\n  - {name: A, use: single_plate, when: {framing: beam_to_girdr}}\n",
            3,
            "did you mean beam_to_girder",
        ),
        (
            "rules:\n  - {name: A, use: single_plate, when: {suported.depth: '> 1 in'}}\n",
            3,
            "did you mean supported.depth",
        ),
        ("rules:\n  - {name: A, use: singel_plate}\n", 3, "did you mean single_plate"),
        ("rules:\n  - name: A\n    use: single_plate\n    wehn: {}\n", 5, "did you mean when"),
        ("rules:\n  - name: A\n    use: single_plate\n    when:\n      any: []\n", 6, "any takes facts"),
        ("rules:\n  - name: A\n    use: single_plate\n    when:\n      skew@service: '> 1 deg'\n", 6, "only actions"),
        ("rules:\n  - name: A\n    use: single_plate\n    set:\n      rows: = rows + 1\n", 6, "goes in a circle"),
        (
            (
                "practice:\n  end_distance: = edge_distance\n  edge_distance: = end_distance\nrules:\n  - {name: A,"
                " use: single_plate}\n"
            ),
            6,
            "goes in a circle",
        ),
        ("rules:\n  - name: A\n    use: single_plate\n    sizes: beams\n", 5, "no table 'beams'"),
        (
            "rules:\n  - name: A\n    use: single_plate\n    set: {rows: '= look_up(beams, rows)'}\n",
            5,
            "no table 'beams'",
        ),
        (
            (
                "tables:\n  beams:\n    by: supported.section\n    csv: |\n      supported.section, rows\n      W16X40,"
                " 99\nrules:\n  - {name: A, use: single_plate, sizes: beams}\n"
            ),
            7,
            "more than 24",
        ),
        (
            (
                "tables:\n  beams:\n    by: supported.section\n    csv: |\n      supported.section, rows,"
                " plate_thicknes [in]\n      W16X40, 3, 1/4\nrules:\n  - {name: A, use: single_plate, sizes: beams}\n"
            ),
            6,
            "nothing takes column 'plate_thicknes'",
        ),
        (
            (
                "tables:\n  beams:\n    by: supported.section\n    rows:\n      - {supported.section: W16X40, rows:"
                " 3}\n      - {supported.section: W16x40, rows: 4}\nrules:\n  - {name: A, use: single_plate, sizes:"
                " beams}\n"
            ),
            7,
            "is there twice",
        ),
        (
            (
                "tables:\n  t:\n    by: V\n    match: range\n    rows:\n      - {V: 0 .. 20 kip, rows: 3}\n"
                "      - {V: 10 .. 30 kip, rows: 4}\nrules:\n"
                "  - {name: A, use: single_plate, sizes: t}\n"
            ),
            8,
            "overlaps",
        ),
        (
            (
                "tables:\n  t:\n    by: V\n    rows:\n      - {V: 20 kip, rows: 3}\nrules:\n  - {name: A, use:"
                " single_plate, sizes: t}\n"
            ),
            4,
            "write match: range",
        ),
        (
            "tables:\n  t: {by: supported.section, file: t.csv}\nrules:\n  - {name: A, use: single_plate, sizes: t}\n",
            3,
            "no file 't.csv'",
        ),
        (
            (
                "rules:\n  - name: A\n    use: single_plate\n    ladder:\n      climb:\n        - {rows: 2 .. 5,"
                " weld_size: [1/4 in, 5/16 in]}\n"
            ),
            7,
            "moves together",
        ),
        (
            "rules:\n  - name: A\n    use: single_plate\n    ladder:\n      climb: {plate_thickness: 1/4 .. 1/2 in}\n",
            6,
            "by which step",
        ),
        (
            (
                "rules:\n  - name: A\n    use: base_plate\n    ladder:\n      climb: {weld_size: 1/4 .. 1/2 in by 1/16"
                " in}\n      order: cheapest\n"
            ),
            7,
            "order is one of",
        ),
        (
            "rules:\n  - name: A\n    use: single_plate\n    hold: rows\n    ladder:\n      climb: {rows: 3 .. 5}\n",
            5,
            "rows is held",
        ),
        ("practice:\n  bolts: {wind: 3/4 A325-N}\nrules:\n  - {name: A, use: single_plate}\n", 3, "no use of bolts"),
        (
            (
                "rules:\n  - name: A\n    use: base_plate\n    set:\n      foundation:\n        kind: pedestal\n       "
                " depth: 3 ft\n"
            ),
            8,
            "foundation_depth",
        ),
        (
            "lateral:\n  members:\n    - {role: brace, is: chevron}\nrules:\n  - {name: A, use: single_plate}\n",
            4,
            "is no kind",
        ),
        ("lateral:\n  category: G\nrules:\n  - {name: A, use: single_plate}\n", 3, "none of A, B"),
        ("lateral:\n  members: brace\nrules:\n  - {name: A, use: single_plate}\n", 3, "members is a list"),
        ("inherits: shop R1\nrules:\n  - {name: A, use: single_plate}\n", 2, "only a rulebook of a job"),
        (
            "rules:\n  - name: A\n    use: single_plate\n    set: {plate_depth: = max(3 in, 4 in)}\n",
            5,
            "goes in quotes",
        ),
    ],
)
def test_every_mistake_has_its_line_and_a_hint(text: str, line: int, words: str) -> None:
    with pytest.raises(RulebookError) as caught:
        read_rulebook(HEAD + text)
    assert any(found == line and words in message for found, _, message in caught.value.problems), caught.value.problems


def test_what_would_take_long_is_refused() -> None:
    """Bounded in formulas, tables, files, rungs, nesting of conditions and of formulas."""
    formulas = "\n".join(f"  - {{name: R{k}, use: single_plate, set: {{rows: '= {k} + 1'}}}}" for k in range(1001))
    deep = "{not: " * 8 + "{skew: '> 1 deg'}" + "}" * 8
    for text, words in (
        (f"rules:\n{formulas}\n", "1001 formulas"),
        (
            (
                "rules:\n  - {name: A, use: single_plate, ladder: {climb: {rows: 1 .. 24, plate_thickness: 4 .. 50 mm"
                " by 1 mm}}}\n"
            ),
            "at most 500",
        ),
        (f"rules:\n  - {{name: A, use: single_plate, when: {deep}}}\n", "nested deeper"),
        (
            "rules:\n  - {name: A, use: single_plate, set: {plate_depth: '= "
            + "up(" * 40
            + "pitch"
            + ")" * 40
            + "'}}\n",
            "nested too deep",
        ),
    ):
        with pytest.raises(RulebookError, match=words):
            read_rulebook(HEAD + text)
    with pytest.raises(RulebookError, match="at most 400000"):
        read_rulebook(HEAD + "rules:\n  - {name: A, use: single_plate}\n", {"t.csv": "x" * 400_001})


def test_levels_and_sets_are_the_models(demo_folder) -> None:
    """Facts of the place and over another set of combinations, against the model's own figures."""
    plan = plan_of(demo_folder)
    k = plan.index["B5.i"]
    plan = plan.with_(
        rulebook=book(
            "  - {name: A, use: single_plate, when: "
            "{any: {N.min@service: '< 0 kip', V@service: '> 0 kip', level: x, grid: y, supported.role: beam}}}\n"
        )
    )
    facts = plan.facts(k, plan.by_rules[k].situation)
    c = plan.framing.connections[k]
    service = end_actions(
        plan.building, strength_set(plan.building, "LRFD", "service"), np.array([c.member]), np.array([c.end])
    )[0]
    if len(service):
        assert facts["V@service"] == pytest.approx(np.abs(service[:, 1]).max()) and facts[
            "N.min@service"
        ] == pytest.approx(min(0.0, service[:, 0].min()))
    assert facts["level"] and facts["grid"] and facts["supported.role"] == "beam"
    assert math.isfinite(facts["V"])


def test_what_is_set_holds_against_the_rules_own_ladder(demo_folder) -> None:
    """A rung that names it too climbs the rest; the source is the rule."""
    text = (
        HEAD
        + "rules:\n  - name: A\n    when: {framing: beam_to_girder}\n    use: single_plate\n    set: {plate_thickness:"
        " 1/2 in}\n    ladder:\n      - {rows: 2, plate_thickness: 1/4 in}\n      - {rows: 3, plate_thickness: 1/4"
        " in}\n"
    )
    plan = plan_of(demo_folder)
    plan = plan.with_(rulebook=read_rulebook(text))
    some = {a.connection.id for a in plan.assigned if a.rule and not a.reason}
    sizes = [o.sizes for o in plan.work(set(sorted(some)[:20])).values()]
    assert sizes and all(
        (s["plate_thickness"].value, s["plate_thickness"].source) == (INCH / 2, "rule 'A'") for s in sizes
    )
    assert all(s["rows"].source.startswith("rung") for s in sizes)
