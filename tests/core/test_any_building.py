"""Frames of whatever shape: each end is framed or named, each connection judged, alone as in the batch."""

from __future__ import annotations

import random
import tempfile
from pathlib import Path

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from handrail.core.building.audit import audit
from handrail.core.building.combining import strength_set
from handrail.core.building.compare import compare
from handrail.core.building.framing import frame
from handrail.core.building.patterns import find_patterns
from handrail.core.building.survey import survey
from handrail.core.checking.connection import check
from handrail.core.checking.result import CEILING
from handrail.core.standards import STANDARDS
from handrail.interchange.bundle import read_bundle
from tests.bundles import SIX, Tables, plan_of, small, write
from tests.wide import wide

BEAMS = ["W12X19", "W16X31", "W18X50", "W24X76", "C10X15.3", "HSS8X4X1/4", "NO-SUCH"]
COLUMNS = ["W8X31", "W12X65", "W14X90", "HSS6X6X3/8", "HSS6.000X0.250"]
GRADES = {"W": "A992", "C": "A36", "N": "A992"}
RELEASES = ["My Mz", "My Mz", "My Mz", "T My Mz", "Mz", ""]


class Frame:
    """Draws up a frame on a grid: storeys, bays, secondary beams, braces, cantilevers, slopes, gaps."""

    def __init__(self, seed: int) -> None:
        self.pick = random.Random(seed)
        self.tables: Tables = small()
        self.at: dict[tuple, str] = {}
        for name in ("nodes", "members", "supports", "end_forces"):
            self.tables[name] = []
        self.nx, self.ny, self.nz = (self.pick.randint(1, n) for n in (3, 2, 3))
        self.tilt = self.pick.choice([0.0, 0.0, 0.1])
        self.columns()
        for z in range(1, self.nz + 1):
            self.floor(z)

    def chance(self, share: float) -> bool:
        return self.pick.random() < share

    def node(self, x: float, y: float, z: float) -> str:
        key = (round(x, 3), round(y, 3), round(z, 3))
        if key not in self.at:
            self.at[key] = f"n{len(self.at)}"
            lean = self.tilt * x if z > 1 else 0.0
            self.tables["nodes"].append({"node": self.at[key], "x": 25 * x, "y": 20 * y, "z": 13 * z + 25 * lean})
        return self.at[key]

    def member(self, i: str, j: str, sections: list[str], role: str, ends: list[str] | None = None, **more) -> None:
        if i == j:
            return
        name = f"m{len(self.tables['members'])}"
        section = self.pick.choice(sections)
        grade = (
            "A500C"
            if section.startswith("HSS8") or section.startswith("HSS6X")
            else GRADES.get(section[0], "A500B-round")
        )
        releases = {f"release_{e}": self.pick.choice(ends or [""]) for e in "ij"}
        if self.chance(0.3):
            i, j = j, i
        row = {
            "member": name,
            "i": i,
            "j": j,
            "section": section,
            "grade": grade,
            "role": role if self.chance(0.7) else "",
            **releases,
        }
        self.tables["members"].append(row | {"roll": more.get("roll", 0), "top_offset": more.get("top_offset", 0)})
        if self.chance(0.02):
            return  # no forces for this one
        for end, sign in (("i", 1), ("j", -1)):
            values = [
                self.pick.uniform(-15, 15),
                sign * self.pick.uniform(0, 30),
                0,
                0,
                0,
                self.pick.choice([0, 0, 0, 12]),
            ]
            self.tables["end_forces"].append({"member": name, "end": end, "result": "D", **dict(zip(SIX, values))})

    def columns(self) -> None:
        for x in range(self.nx + 1):
            for y in range(self.ny + 1):
                first, last = int(self.chance(0.1)), self.nz - int(self.chance(0.2))
                section, roll = self.pick.choice(COLUMNS), self.pick.choice([0, 0, 90, 30])
                for z in range(first, last):
                    section = self.pick.choice(COLUMNS) if self.chance(0.2) else section
                    self.member(self.node(x, y, z), self.node(x, y, z + 1), [section], "column", roll=roll)
                if first == 0:
                    self.tables["supports"].append(
                        {"node": self.node(x, y, 0), **{k: 1 for k in ("ux", "uy", "uz", "rx", "ry", "rz")}}
                    )

    def floor(self, z: int) -> None:
        for x in range(self.nx + 1):
            for y in range(self.ny + 1):
                if x < self.nx and self.chance(0.9):
                    self.girder((x, y), (x + 1, y), z, self.chance(0.5))
                if y < self.ny and self.chance(0.8):
                    self.girder((x, y), (x, y + 1), z, False)
                if self.chance(0.1):
                    self.member(self.node(x, y, z), self.node(x + 0.3, y, z), BEAMS, "beam")
                if x < self.nx and self.chance(0.15):
                    self.member(
                        self.node(x, y, z - 1), self.node(x + 1, y, z), ["HSS6X6X3/8", "W12X65"], "brace", ["My Mz"]
                    )

    def girder(self, a: tuple, b: tuple, z: int, parted: bool) -> None:
        ends, offset = RELEASES, self.pick.choice([0, 0, 0, 3])
        if not parted:
            self.member(self.node(*a, z), self.node(*b, z), BEAMS, "beam", ends, top_offset=offset)
            return
        middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        section = [self.pick.choice(BEAMS)]
        for i, j in ((a, middle), (middle, b)):
            self.member(self.node(*i, z), self.node(*j, z), section, "beam", ["", "", "My Mz"])
        far = (middle[0], middle[1] + self.pick.choice([1, -1, 0.5]))
        self.member(self.node(*middle, z), self.node(*far, z), BEAMS, "beam", ends, top_offset=offset)


@given(st.integers(0, 10**6))
def test_any_frame_is_surveyed_compared_and_patterned(seed):
    """Whatever is in it: every connection in one pattern, every member in the survey, and nothing changed against
    itself."""
    tables = Frame(seed).tables
    assume(tables["members"] and tables["supports"])
    with tempfile.TemporaryDirectory() as folder:
        building = read_bundle(write(tables, Path(folder)))
    framing = frame(building)
    listed = [c for p in find_patterns(building, framing) for m in p.members for c in m.connections if c]
    assert sorted(listed) == sorted(c.id for c in framing.connections)
    found = survey(building, framing, strength_set(building, "LRFD"))
    assert sum(s["members"] for s in found.sections) == len(building.members) and sum(
        found.histogram
    ) + found.unknown == 2 * len(building.members)
    assert compare(building, building, framing, framing, "LRFD").changes == []


@settings(max_examples=max(6, settings.default.max_examples // 5))
@given(st.integers(0, 10**6))
@wide
def test_any_frame_is_framed_and_judged_whole(seed):
    tables = Frame(seed).tables
    assume(tables["members"] and tables["supports"] and tables["end_forces"])
    with tempfile.TemporaryDirectory() as folder:
        plan = plan_of(write(tables, Path(folder)))
    building, framing = plan.building, plan.framing
    assert audit(building).counts["members"] == len(tables["members"])
    ids = [c.id for c in framing.connections]
    assert len(ids) == len(set(ids))
    named = {*ids, *(word for word, _ in framing.without)}
    spliced = {building.nodes[c.node] for c in framing.connections if c.framing == "column_splice"}
    for node, ends in framing.pieces.ending.items():
        for member, end in ends:
            assert f"{building.members[member].name}.{'ij'[end]}" in named or building.nodes[node] in spliced
    run = dict(plan.batch().run(plan.families()))
    for index, assigned in enumerate(plan.assigned):
        outcome = run.get(index)
        if outcome is None:
            assert assigned.reason, assigned.connection.id
            continue
        assert outcome.status in ("pass", "fail", "unchecked") and (outcome.status == "pass" or outcome.reason)
        assert np.isfinite(outcome.utilisation)
        if outcome.status != "unchecked":
            actions = plan.acting.actions(np.array([index]))
            alone = check(STANDARDS[assigned.rule.use], assigned.situation, outcome.sizes, plan.code, actions)
            assert min(alone.utilisation, CEILING) == pytest.approx(outcome.utilisation, rel=1e-9)
            assert alone.governing is None or alone.governing.check == outcome.check
