"""Bodies as lines: what is hidden, what is cut, by hand and however the whole is turned."""

from __future__ import annotations

import math
from collections import defaultdict

import pytest
from manifold3d import CrossSection, FillRule, Manifold

from handrail.core.solids.axes import Axes, X, Z, combined
from handrail.core.solids.lines import Body, Run, seen

FRONT = Axes(x=X, y=Z)  # its z is towards -Y of what holds it


def block(name: str, low: tuple[float, float, float], high: tuple[float, float, float]) -> Body:
    size = tuple(b - a for a, b in zip(low, high, strict=True))
    return Body(name, name, "piece", Manifold.cube(size).translate(low))


def lengths(runs: list[Run]) -> dict[tuple[str, str], float]:
    found: dict[tuple[str, str], float] = defaultdict(float)
    for run in runs:
        for (x, y), (u, v) in zip(run.points, run.points[1:], strict=False):
            found[run.name, run.style] += math.hypot(u - x, v - y)
    return {of: round(long, 1) for of, long in found.items()}


def test_a_block_before_another_hides_what_is_behind_it():
    """A wall 100 by 50 and, behind it, a beam 20 wide that stands out 30 over its top: 60 of its outline is above."""
    wall, beam = block("wall", (0, 0, 0), (100, 10, 50)), block("beam", (40, 20, 10), (60, 200, 80))
    assert FRONT.z == (0.0, -1.0, 0.0)
    found = lengths(seen([wall, beam], FRONT))
    assert found == {("wall", "outline"): 300.0, ("beam", "outline"): 80.0, ("beam", "hidden"): 100.0}
    behind = lengths(seen([wall, beam], Axes(x=combined((-1.0, X)), y=Z)))
    assert behind == {("beam", "outline"): 180.0, ("wall", "outline"): 280.0, ("wall", "hidden"): 20.0}


def test_what_stands_slanted_goes_behind_half_way():
    """A bar that runs from before a wall to behind it, through its plane: 1 at the middle of its length."""
    wall = block("wall", (0, 0, 0), (100, 1, 50))
    bar = Body(
        "bar",
        "bar",
        "piece",
        Manifold.cube((200, 0.5, 0.5)).translate((-100, 0, 0)).rotate((0, 0, 45)).translate((50, 0, 25)),
    )
    found = lengths(seen([wall, bar], FRONT))
    whole = 2 * 200 * math.cos(math.radians(45))
    seen_, hidden = found["bar", "outline"], found["bar", "hidden"]
    assert seen_ + hidden == pytest.approx(whole, abs=3) and hidden == pytest.approx(2 * 50, abs=4)


def test_a_cut_outlines_what_it_goes_through_and_takes_the_rest_away():
    tube = Manifold.cube((100, 100, 300), True) - Manifold.cube((80, 80, 400), True)
    plate = block("plate", (-200, 60, -20), (200, 70, 20))
    found = lengths(seen([Body("tube", "tube", "member", tube), plate], Axes(), 0.0))
    assert found["tube", "cut"] == 400 + 320 and found["plate", "cut"] == 820
    assert ("tube", "hidden") not in found
    higher = lengths(seen([Body("tube", "tube", "member", tube), plate], Axes(), 100.0))
    assert higher["plate", "outline"] == 820 and ("plate", "cut") not in higher


def test_a_line_under_the_seam_of_two_faces_is_hidden():
    """A roof of two slopes hides the post below it, of which one line lies under the ridge: that is the ridge's."""
    roof = Manifold.extrude(CrossSection([[(-50, 0), (50, 0), (0, 20)]], FillRule.Positive), 100).rotate((90, 0, 0))
    post = Manifold.cube((30, 30, 10)).translate((0, -60, -40))
    found = lengths(seen([Body("roof", "roof", "piece", roof), Body("post", "post", "piece", post)], Axes()))
    assert found[("post", "hidden")] == 90 and ("post", "outline") not in found


@pytest.mark.parametrize("turn", [0.0, 0.3, 2.0])
def test_turning_all_changes_nothing(turn):
    bodies = [block("wall", (0, 0, 0), (100, 10, 50)), block("beam", (40, 20, 10), (60, 200, 80))]
    at = Axes((7.0, -3.0, 100.0)).turned(turn)
    rows = [[at.x[k], at.y[k], at.z[k], at.origin[k]] for k in range(3)]
    moved = [Body(b.name, b.part, b.kind, b.solid.transform(rows)) for b in bodies]
    there, here = lengths(seen(moved, at.holding(FRONT))), lengths(seen(bodies, FRONT))
    assert there == pytest.approx(here, abs=0.2)


def test_a_hole_is_seen_through_and_round_corners_have_no_lines():
    """A round bar is its outline; through a hole what is behind is seen."""
    plate = Body(
        "plate",
        "plate",
        "piece",
        Manifold.cube((100, 10, 100)) - Manifold.cylinder(40, 20, 20, 64).rotate((-90, 0, 0)).translate((50, -10, 50)),
    )
    bar = Body("bar", "bar", "bolt", Manifold.cylinder(200, 5, 5, 32).rotate((0, 90, 0)).translate((-50, 50, 50)))
    found = lengths(seen([plate, bar], FRONT))
    outside, through = 4 * 50 + 2 * 10, 2 * 2 * math.sqrt(20**2 - 5**2)
    assert found["bar", "outline"] == pytest.approx(outside + through, abs=2)
    rim = 2 * math.pi * 20
    assert found["plate", "outline"] == pytest.approx(400 + rim, abs=1) and ("plate", "hidden") not in found
