"""IFC 4: the demo's analysis model with results by case, read through a map that statics completes; a building model
beside it, matched by place."""

from __future__ import annotations

import numpy as np
import pytest

from handrail.core.building.audit import audit
from handrail.interchange.bundle import read_bundle
from handrail.interchange.ifc import ifc_tables
from handrail.interchange.incoming import propose, read_model
from handrail.interchange.problems import BundleError
from tests.bundles import DEMO
from tests.ifc_style import CASES, analysis, building
from tests.interchange.test_column_maps import HEAD
from tests.styles import Demo
from tests.wide import wide


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    found = tmp_path_factory.mktemp("ifc")
    analysis(found / "analysis.ifc", Demo())
    building(found / "building.ifc", Demo(), 25.0)
    return found


@pytest.fixture(scope="module")
def text(folder):
    return propose(folder)


@pytest.fixture(scope="module")
def model(folder, text):
    return read_model(folder, text)


def test_nothing_is_asked_and_statics_tells_the_sense(text):
    """The members' forces stand as those on the nodes: no sense is fixed by the schema."""
    assert '"?"' not in text
    assert 'forces = "on_member"' in text and 'Fx = {column = "Fx", unit = "N", factor = -1}' in text
    assert 'method = {value = "LRFD"}' in text and "by their factors" in text
    for table in (
        "nodes",
        "members",
        "supports",
        "cases",
        "combinations",
        "end_forces",
        "reactions",
        "node_loads",
        "grids",
        "levels",
        "pieces",
    ):
        assert f"[tables.{table}]" in text, table


def test_it_is_the_demo_building(model):
    bundle = read_bundle(DEMO / "bundle")
    names = {m.name: m for m in bundle.members}
    for member in model.members:
        base = names.get(member.name)
        if base is None:  # spliced in the bundle
            continue
        assert (member.section, member.grade, member.release_i, member.release_j) == (
            base.section,
            base.grade,
            base.release_i,
            base.release_j,
        )
    assert model.xyz == pytest.approx(bundle.xyz[: len(model.xyz)], abs=0.1)
    assert {n: s for n, s in model.supports.items()} == bundle.supports
    assert {(c.name, c.nature) for c in model.cases} == {("D", "dead"), ("L", "live"), ("WX+", "wind")}
    at = {m.name: k for k, m in enumerate(bundle.members)}
    own = [k for k, m in enumerate(model.members) if m.name in at]
    for case in CASES:
        one = model.forces[own, model.results.index(case)]
        other = bundle.forces[[at[model.members[k].name] for k in own], bundle.results.index(case)]
        assert np.abs(one[..., :3] - other[..., :3]).max() < 0.1 and np.abs(one[..., 3:] - other[..., 3:]).max() < 200.0


def test_axes_of_columns_are_as_the_file_has_them(model):
    """The web along the file's local z, whichever way up a column runs."""
    bundle = read_bundle(DEMO / "bundle")
    at = {m.name: k for k, m in enumerate(bundle.members)}
    for k, member in enumerate(model.members):
        if member.name in at:
            assert model.axes[k] == pytest.approx(bundle.axes[at[member.name]], abs=1e-5)


def test_places_of_the_building_model(model):
    """Grid lines and storeys by name; the tops of beams 25 mm below the line they were analysed on."""
    assert {g.name for g in model.grids} == {g.name for g in read_bundle(DEMO / "bundle").grids}
    assert [level.name for level in model.levels] == [level.name for level in read_bundle(DEMO / "bundle").levels]
    tops = {round(m.top_offset, 2) for m in model.members if m.name.startswith("G")}
    assert tops == {25.0}
    assert not any(m.top_offset for m in model.members if m.name.startswith("C"))


def test_it_is_doubted_by_nobody(model):
    sideways = ("case_unused", "no_least_dead", "one_sense")  # four combinations of three cases
    assert [f.message for f in audit(model).findings if f.severity != "note" and f.code not in sideways] == []


@wide
def test_a_piece_of_another_section_is_told(folder, text):
    assert read_model(folder, text).pieces_differ == ()
    before, _, after = text.partition("[tables.pieces]")
    changed = after.replace('section = "section"\n', 'section = {column = "section", values = {"W24X68" = "W24X76"}}\n')
    messages = [
        f.message
        for f in audit(read_model(folder, f"{before}[tables.pieces]{changed}")).findings
        if f.code == "piece_differs"
    ]
    assert messages and "is W24X76 in the building model, W24X68 in the analysis (member G" in messages[0]


def test_what_is_no_ifc_is_told(tmp_path):
    (tmp_path / "a.ifc").write_text("no IFC")
    with pytest.raises(ValueError, match="no IFC file"):
        ifc_tables(tmp_path / "a.ifc")
    text = f'{HEAD}[tables.nodes]\nfile = "a.ifc"\ncolumns = {{}}\n'
    with pytest.raises(BundleError, match=r"a\.ifc: cannot be read as IFC"):
        read_model(tmp_path, text)
