"""The drawing has what a shop needs, at the sizes given."""

from __future__ import annotations

import itertools
from dataclasses import replace

import pytest
from manifold3d import Manifold

from handrail.core.catalogue import section
from handrail.core.checking.trial import read_trial
from handrail.core.drawing.scene import Circle
from handrail.core.standards import STANDARDS
from handrail.core.standards.shear_end.sheet import ELEVATION, PLAN, SECTION
from tests.bundles import DEMO, plan_of
from tests.wide import some
from tests.worked.sheet import FLANGE, GIRDER, data
from tests.worked.test_beam_splice import SPLICE


def scene(base, parameters=None, **more):
    if more.get("standard", "single_plate") != "single_plate":
        base = {**base, "parameters": {}}
    trial = read_trial(data(base, parameters, **more))
    return trial.standard.draw(trial.situation, trial.sizes)


def texts(view) -> list[str]:
    return [d.text for d in view.dimensions] + [n.text for n in view.notes]


def test_elevation_of_a_plate_on_a_flange():
    elevation, _, section = scene(FLANGE).views
    found = texts(elevation)
    assert 'PL 1/4" x 4-1/2" x 11-1/2" A36' in found
    assert "(4) 3/4 A325-N, STD holes" in found
    assert '3 @ 3" = 9"' in found and found.count('1-1/4"') == 2
    assert "W16X50" in found and "W14X90" in found
    assert any(n.weld == '3/16"' for n in elevation.notes)
    bolts = [s for s in elevation.shapes if s.part == "bolts" and hasattr(s, "radius")]
    assert len(bolts) == 4
    assert {round(b.centre[0] / 25.4, 3) for b in bolts} == {-3.0}  # seen from where the plate stands
    assert [d.text for d in section.dimensions] == ['11-1/2"'] and 'PL 1/4"' in texts(section)


def test_a_metric_job_is_drawn_in_millimetres():
    """Nothing in inches but the bolts' own names: 1/4 in. is 6.35, 3 x 76.2 = 228.6."""
    trial = read_trial(data(FLANGE))
    elevation, plan, section = trial.standard.draw(trial.situation, trial.sizes, "si").views
    found = texts(elevation) + texts(plan) + texts(section)
    assert (elevation.title, plan.title, section.title) == (
        "Elevation, mm",
        "Plan through bolts, mm",
        "Section through bolts, mm",
    )
    assert "PL 6.35 x 114.3 x 292.1 A36" in found and "3 @ 76.2 = 228.6" in found and "12.7" in found
    assert not [text for text in found if '"' in text]


def test_copes_and_columns_are_drawn():
    elevation = scene(GIRDER, {"columns": 2}).views[0]
    found = texts(elevation)
    assert 'cope 4-1/4" x 2"' in found
    assert len([s for s in elevation.shapes if s.part == "bolts" and hasattr(s, "radius")]) == 8


@pytest.mark.parametrize(
    "more",
    [
        {"framing": "beam_to_column_web"},
        {"framing": "beam_to_hollow_column", "support": {"section": "HSS6X6X3/8", "grade": "A500C"}},
        {"framing": "beam_to_hollow_column", "support": {"section": "Pipe6STD", "grade": "A53B"}},
    ],
)
def test_every_support_is_drawn(more):
    for view in scene(FLANGE, **more).views:
        assert view.shapes
    assert any(s.part == "support" for s in scene(FLANGE, **more).views[0].shapes)


@pytest.mark.parametrize("skew", [60, 80, 88, 90, 91, 120])
@pytest.mark.parametrize("support", [{}, {"framing": "beam_to_column_web"}, {"framing": "beam_to_girder"}])
def test_a_beam_that_comes_at_any_skew_has_a_drawing_or_none(skew, support):
    """Of one that runs along its support there is nothing to draw."""
    for view in scene(FLANGE, geometry={"skew": f"{skew} deg"}, **support).views:
        assert view.shapes and view.extent()


def test_plain_data():
    plain = scene(FLANGE).as_dict()
    assert {"title", "lettering", "shapes", "dimensions", "notes", "clouds", "extent"} == set(plain["views"][0])


def segments(view):
    """Every line of the objects, of their edges and of what is hidden."""
    for s in view.shapes:
        if isinstance(s, Circle) or s.style in ("face", "hatch"):
            continue
        points = [*s.points, s.points[0]] if s.closed else list(s.points)
        yield from zip(points, points[1:], strict=False)


def crossing(one, other) -> bool:
    """Whether two segments cross away from their ends; one that only touches does not."""

    def side(p, q, r):
        return (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])

    (a, b), (c, d) = one, other
    small = 1e-6 * max(1.0, *(abs(v) for p in (a, b, c, d) for v in p)) ** 2
    return side(a, b, c) * side(a, b, d) < -small and side(c, d, a) * side(c, d, b) < -small


def through(box, line) -> bool:
    """Whether a line comes into a box."""
    x0, y0, x1, y1 = box
    inside = any(x0 < x < x1 and y0 < y < y1 for x, y in line)
    return inside or crossing(((x0, y0), (x1, y1)), line) or crossing(((x0, y1), (x1, y0)), line)


def overlap(one, other) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def clashes(view) -> list[str]:
    """Dimension lines that cross something, lettering that something runs through, lettering over lettering."""
    found, objects = [], list(segments(view))
    leaders = [line for n in view.notes for line in zip(n.leader, n.leader[1:], strict=False)]
    for k, d in enumerate(view.dimensions):
        others = [line for j, o in enumerate(view.dimensions) if j != k for line in (o.line, *o.extensions)]
        if any(crossing(d.line, line) for line in objects + others):
            found.append(f"{view.title}: the dimension {d.text} ({d.parameter}) crosses a line")
    boxes = list(view.lettered())
    names = [d.text for d in view.dimensions] + [n.text for n in view.notes]
    drawn = objects + [line for d in view.dimensions for line in (d.line, *d.extensions)]
    for k, box in enumerate(boxes):
        note = view.notes[k - len(view.dimensions)] if k >= len(view.dimensions) else None
        own = list(zip(note.leader, note.leader[1:], strict=False)) if note else []
        if any(through(box, line) for line in drawn + [line for line in leaders if line not in own]):
            found.append(f"{view.title}: a line runs through {names[k]}")
        found += [f"{view.title}: {names[k]} over {names[j]}" for j in range(k) if overlap(box, boxes[j])]
    return found


def test_nothing_runs_through_lettering_on_the_demo():
    """A third of the connections of the demo building that are different, as its rules size them."""
    plan = plan_of(DEMO / "bundle")
    outcomes = dict(plan.batch().run(plan.families()))
    found, seen = {}, set()
    for k, outcome in outcomes.items():
        assigned = plan.assigned[k]
        alike = (assigned.rule.use, assigned.situation, tuple(sorted((n, s.value) for n, s in outcome.sizes.items())))
        if alike in seen:
            continue
        seen.add(alike)
        if len(seen) % 3:
            continue
        for system in ("us", "si") if len(seen) % 2 else ("us",):
            for view in STANDARDS[assigned.rule.use].draw(assigned.situation, outcome.sizes, system).views:
                for said in clashes(view):
                    found.setdefault(said, assigned.connection.id)
    assert len(outcomes) > 880 and len(seen) > 60 and found == {}


@pytest.mark.parametrize("beam", some(["W8X10", "W16X31", "W36X150", "W44X335"], 3))
@pytest.mark.parametrize(
    "more",
    [
        {},
        {"framing": "beam_to_column_web"},
        {"framing": "beam_to_hollow_column", "support": {"section": "HSS8X8X3/8", "grade": "A500C"}},
        {"framing": "beam_to_girder", "support": {"section": "W44X335", "grade": "A992"}},
    ],
)
def test_nothing_runs_through_lettering_at_odd_sizes(more, beam):
    """Small beams and large ones, as few and as many rows as their webs hold, one line of bolts and two, whether or not
    they pass."""
    looked = 0
    for rows, columns in itertools.product((1, 3, 12), (1, 2)):
        parameters = {"rows": rows, "columns": columns, "bolt": "1 A490-X", "plate_thickness": "1/2 in"}
        views = scene(FLANGE, parameters, supported={"section": beam, "grade": "A992"}, **more).views
        plate = next(s for s in views[0].shapes if s.part == "plate")
        if min(y for _, y in plate.points) >= section(beam).k - section(beam).d:
            looked += 1
            assert [said for view in views for said in clashes(view)] == []
    assert looked >= 2


@pytest.mark.parametrize("beam", some(["W8X10", "W16X31", "W24X68", "W44X335"], 3))
@pytest.mark.parametrize(
    "more",
    [
        {},
        {"framing": "beam_to_column_web"},
        {"framing": "beam_to_girder", "support": {"section": "W44X335", "grade": "A992"}},
    ],
)
@pytest.mark.parametrize(
    ("standard", "choices"),
    [
        ("shear_end_plate", {}),
        ("double_angle", {}),
        ("double_angle", {"stagger": "half_pitch"}),
        ("double_angle", {"support_side": "welded"}),
        ("single_angle", {"beam_side": "welded", "support_side": "welded"}),
        ("single_angle", {}),
    ],
)
def test_angles_and_end_plates_at_odd_sizes(standard, choices, more, beam):
    """As above, for what is drawn with two groups of bolts, or with welds on either side."""
    for rows in (1, 6):
        views = scene(
            FLANGE,
            {"rows": rows, "bolt": "1 A490-X"} | choices,
            standard=standard,
            supported={"section": beam, "grade": "A992"},
            **more,
        ).views
        made = next(s for s in views[0].shapes if s.part in ("plate", "angle"))
        if min(y for _, y in made.points) >= section(beam).k - section(beam).d:
            assert [said for view in views for said in clashes(view)] == []


@pytest.mark.parametrize("system", ["us", "si"])
@pytest.mark.parametrize(
    ("standard", "section", "parameters"),
    [
        ("column_flange_splice", "W14X90", {"rows": 3, "columns": 2, "web_plates": "both"}),
        ("column_flange_splice", "W8X31", {"rows": 1, "columns": 1, "web_plates": "one", "flange_rows": 2}),
        ("column_flange_splice", "W14X370", {"rows": 3, "columns": 1, "web_plates": "both", "flange_rows": 6}),
        ("beam_web_splice", "W24X76", {"rows": 5, "columns": 2}),
        ("beam_web_splice", "W8X10", {"rows": 1}),
        ("beam_flange_splice", "W36X150", {"rows": 9, "columns": 3, "flange_rows": 6}),
        ("beam_flange_splice", "W12X19", {"rows": 2, "flange_rows": 1}),
    ],
)
def test_nothing_runs_through_lettering_of_splices(standard, section, parameters, system):
    """Few bolts and many; every line of them has its distance lettered, webs too."""
    piece = {"section": section, "grade": "A992"}
    framing = "column_splice" if standard.startswith("column") else "beam_splice"
    trial = read_trial({**SPLICE, "standard": standard, "framing": framing, "supported": piece, "support": piece,
                        "parameters": parameters})  # fmt: skip
    views = trial.standard.draw(trial.situation, trial.sizes, system).views
    assert [said for view in views for said in clashes(view)] == []
    named = {d.parameter for view in views for d in view.dimensions}
    wanted = {"end_distance", "edge_distance", "plate_depth", "beam_edge_distance"}
    wanted |= {"pitch"} if parameters["rows"] > 1 else set()
    wanted |= {"gauge"} if parameters.get("columns", 1) > 1 else set()
    if "column" in standard:
        wanted -= {"end_distance"}  # across the web, half of what is left of the plate
    assert wanted <= named


def test_others_of_the_joint_are_dimmed_and_hide_nothing():
    """A cube before everything, and one far away: its lines are there in the one case, and nothing else changes."""
    trial = read_trial(data(FLANGE))
    bare = trial.standard.solids(trial.situation, trial.sizes)
    for at, drawn in (((-300.0, 100.0, -100.0), True), ((-9000.0, 100.0, -100.0), False)):
        beside = (Manifold.cube((200.0, 200.0, 200.0)).translate(at),)
        views = trial.standard.views(trial.situation, trial.sizes, "us", replace(bare, beside=beside))
        alone = trial.standard.views(trial.situation, trial.sizes, "us", bare)
        for one, other in zip(views[:2], alone[:2], strict=True):
            there = one.draw(20.0)
            own = [shape for shape in there.shapes if shape.style != "beside"]
            assert own == other.draw(20.0).shapes and there.dimensions == other.draw(20.0).dimensions
            assert any(shape.style == "beside" for shape in there.shapes) == drawn


def test_welds_by_iso_2553_where_lengths_are_mm():
    """A leg is z, the other side's line is dashed where the weld is on one side only; in inches neither."""
    angles = {**GIRDER, "standard": "double_angle", "parameters": {"beam_side": "welded", "support_side": "welded"}}
    trial = read_trial(data(angles))
    for system in ("us", "si"):
        views = [laid.draw(20.0) for laid in trial.standard.views(trial.situation, trial.sizes, system)]
        welds = [note for view in views for note in view.notes if note.weld]
        assert welds and all(note.dashed == (system == "si" and note.arrow_side) for note in welds)
        assert all(note.weld.startswith("z") == (system == "si") for note in welds)


def test_a_view_fits_its_sheet():
    """The letters are as high as they can be: the view takes its sheet's width or its height."""
    for view, (columns, rows) in zip(scene(GIRDER).views, (ELEVATION, PLAN, SECTION), strict=True):
        x0, y0, x1, y1 = view.extent()
        taken = (x1 - x0) / view.lettering / columns, (y1 - y0) / view.lettering / rows
        assert max(taken) == pytest.approx(1.0, abs=0.05) and view.lettering > 0
