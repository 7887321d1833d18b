"""The drawing has what a shop needs, at the sizes given."""

from __future__ import annotations

import pytest

from handrail.core.checking.trial import read_trial
from tests.worked.sheet import FLANGE, GIRDER, data


def scene(base, parameters=None, **more):
    trial = read_trial(data(base, parameters, **more))
    return trial.standard.draw(trial.situation, trial.sizes)


def texts(view) -> list[str]:
    return [d.text for d in view.dimensions] + [n.text for n in view.notes]


def test_elevation_of_a_plate_on_a_flange():
    elevation, section = scene(FLANGE).views
    found = texts(elevation)
    assert 'PL 1/4" x 4-1/2" x 11-1/2" A36' in found
    assert "(4) 3/4 A325-N, STD holes" in found
    assert '3 @ 3" = 9"' in found and found.count('1-1/4"') == 2
    assert "W16X50" in found and "W14X90" in found
    assert any(n.weld == '3/16"' for n in elevation.notes)
    bolts = [s for s in elevation.shapes if s.part == "bolts" and hasattr(s, "radius")]
    assert len(bolts) == 4
    assert {round(b.centre[0] / 25.4, 3) for b in bolts} == {3.0}
    assert [d.text for d in section.dimensions] == ['1/4"', '11-1/2"']


def test_a_metric_job_is_drawn_in_millimetres():
    """Nothing in inches but the bolts' own names: 1/4 in. is 6.35, 3 x 76.2 = 228.6."""
    trial = read_trial(data(FLANGE))
    elevation, section = trial.standard.draw(trial.situation, trial.sizes, "si").views
    found = texts(elevation) + texts(section)
    assert (elevation.title, section.title) == ("Elevation, mm", "Section through bolts, mm")
    assert "PL 6.35 x 114.3 x 292.1 A36" in found and "3 @ 76.2 = 228.6" in found and "12.7" in found
    assert not [text for text in found if '"' in text]


def test_copes_and_columns_are_drawn():
    elevation = scene(GIRDER, {"columns": 2}).views[0]
    found = texts(elevation)
    assert '4-1/4"' in found and '2"' in found
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


def test_plain_data():
    plain = scene(FLANGE).as_dict()
    assert {"title", "shapes", "dimensions", "notes"} == set(plain["views"][0])
