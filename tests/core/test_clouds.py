"""Clouds stand around what is lettered otherwise, and around nothing else."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st
from shapely import Polygon, box

from handrail.core.checking.trial import read_trial
from handrail.core.drawing.clouds import clouded, cusps, outline
from tests.worked.sheet import FLANGE, data


def views(parameters):
    trial = read_trial(data(FLANGE, parameters))
    return trial.standard.views(trial.situation, trial.sizes)


def test_what_is_the_same_has_none():
    for now, before in zip(views({}), views({}), strict=True):
        assert clouded(now, before).draw(20.0).clouds == []
        assert clouded(now, None).draw(20.0).clouds == []


def test_every_word_that_changed_is_in_one():
    """Four rows at 3 in. become four at 4: the chain, the plate's note and its depth."""
    for now, before in zip(views({"pitch": "4 in"}), views({}), strict=True):
        view, old = clouded(now, before).draw(20.0), before.draw(20.0)
        said = {d.text for d in old.dimensions} | {n.text for n in old.notes}
        boxes = list(view.lettered())
        texts = [d.text for d in view.dimensions] + [n.text for n in view.notes]
        for text, own in zip(texts, boxes, strict=True):
            inside = any(box(*cloud).covers(box(*own)) for cloud in view.clouds)
            assert inside == (text not in said)
        turned = clouded(now, before).mirrored().draw(20.0).clouds
        assert sorted((-x1, y0, -x0, y1) for x0, y0, x1, y1 in turned) == view.clouds
    assert clouded(views({"pitch": "4 in"})[0], views({})[0]).draw(20.0).clouds


@given(st.floats(5, 500), st.floats(5, 500), st.floats(3, 30))
def test_a_cloud_goes_around_its_box(wide, high, letters):
    around = (10.0, -20.0, 10.0 + wide, -20.0 + high)
    drawn = Polygon(outline(cusps(around, letters)))
    assert drawn.is_valid and drawn.buffer(1e-6).covers(box(*around))
