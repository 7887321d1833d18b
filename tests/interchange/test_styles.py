"""Exports of six made-up programs: what is proposed of each, with nothing but what it asks for answered, is the demo
building."""

from __future__ import annotations

import dataclasses
import json
import shutil

import numpy as np
import pytest

from handrail.core.building.audit import audit
from handrail.core.building.framing import frame
from handrail.interchange.bundle import read_bundle
from handrail.interchange.incoming import propose, read_model
from tests.bundles import DEMO
from tests.styles import STYLES, Demo
from tests.wide import some

LEFT_OUT = ("splices", "foundations", "grids", "levels", "member_loads")
ROUNDED = {
    "paged": 0.6,
    "wide": 0.1,
    "german": 0.6,
    "nested": 0.06,
    "dumped": 0.006,
    "french": 0.6,
}  # N that a force is written to


@pytest.fixture(scope="module")
def bundle(tmp_path_factory):
    """The demo without what none of the programs has: splices, concrete, grid lines, roles."""
    folder = tmp_path_factory.mktemp("bundle") / "demo"
    shutil.copytree(DEMO / "bundle", folder)
    manifest = json.loads((folder / "datapackage.json").read_text())
    manifest["resources"] = [r for r in manifest["resources"] if r["name"] not in LEFT_OUT]
    for name in LEFT_OUT:
        (folder / f"{name}.csv").unlink()
    (folder / "datapackage.json").write_text(json.dumps(manifest))
    found = read_bundle(folder)
    return dataclasses.replace(found, members=tuple(dataclasses.replace(m, role="") for m in found.members))


@pytest.fixture(scope="module", params=some(STYLES, 2))
def style(request, tmp_path_factory):
    folder = tmp_path_factory.mktemp("styles") / request.param
    STYLES[request.param](folder, Demo())
    text = propose(folder)
    return request.param, folder, text


def test_nothing_is_asked_that_the_data_answers(style):
    _, _, text = style
    assert [line for line in text.splitlines() if '"?"' in line] == []
    for table in ("nodes", "members", "supports", "cases", "combinations", "end_forces", "reactions", "node_loads"):
        assert f"[tables.{table}]\n" in text, table


def test_what_is_proposed_is_the_demo_building(style, bundle):
    name, folder, text = style
    found = read_model(folder, text)
    assert found.nodes == bundle.nodes and found.xyz == pytest.approx(bundle.xyz, abs=0.2)
    assert [(m.name, m.i, m.j, m.section, found.grade(m.grade), m.release_i, m.release_j) for m in found.members] == [
        (m.name, m.i, m.j, m.section, bundle.grade(m.grade), m.release_i, m.release_j) for m in bundle.members
    ]
    assert found.supports == bundle.supports
    assert [(c.name, c.nature) for c in found.cases] == [(c.name, c.nature) for c in bundle.cases]
    assert {(c.name, c.set, c.method, frozenset(c.terms)) for c in found.combinations} == {
        (c.name, c.set, c.method, frozenset(c.terms)) for c in bundle.combinations
    }
    order = [found.results.index(r) for r in bundle.results]
    assert np.isnan(found.forces[:, order]).tolist() == np.isnan(bundle.forces).tolist()
    off = np.nan_to_num(found.forces[:, order] - bundle.forces)
    assert np.abs(off[..., :3]).max() < ROUNDED[name] and np.abs(off[..., 3:]).max() < 1000 * ROUNDED[name]
    assert len(found.reactions.node) == len(bundle.reactions.node) and len(found.node_loads.node) == len(
        bundle.node_loads.node
    )


def test_it_is_framed_as_the_bundle_is(style, bundle):
    _, folder, text = style
    one, other = frame(bundle), frame(read_model(folder, text))
    assert [(c.framing, c.member, c.support) for c in one.connections] == [
        (c.framing, c.member, c.support) for c in other.connections
    ]


def test_its_audit_doubts_no_force(style):
    """Rounded to what the program writes, nothing is called out of balance."""
    _, folder, text = style
    doubts = [f.message for f in audit(read_model(folder, text)).findings if f.severity != "note"]
    assert doubts == []
