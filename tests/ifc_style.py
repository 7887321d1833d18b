"""The demo building as IFC 4 files: its structural analysis model with results by case, and a building model's grids,
storeys and pieces; made by script."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import ifcopenshell
import ifcopenshell.guid
import numpy as np

from handrail.core.building.model import local_axes
from tests.styles import FT, KIP, KIPFT, SIX, Demo, read

CASES = ("D", "L", "WX+")
SOURCES = {"dead": "DEAD_LOAD_G", "live": "LIVE_LOAD_Q", "wind": "WIND_W"}


class Writer:
    """A file in mm and kN, its forces those of the members on the nodes: no program says so."""

    def __init__(self) -> None:
        self.file = ifcopenshell.file(schema="IFC4")
        make = self.file.create_entity
        milli = make("IfcSIUnit", None, "LENGTHUNIT", "MILLI", "METRE")
        force = make("IfcSIUnit", None, "FORCEUNIT", "KILO", "NEWTON")
        metre = make("IfcSIUnit", None, "LENGTHUNIT", None, "METRE")
        torque = make(
            "IfcDerivedUnit",
            [make("IfcDerivedUnitElement", force, 1), make("IfcDerivedUnitElement", metre, 1)],
            "TORQUEUNIT",
        )
        self.root(
            "IfcProject", "Alder Street Library", UnitsInContext=make("IfcUnitAssignment", [milli, force, torque])
        )

    def root(self, kind: str, name: str = "", **more: Any) -> Any:
        return self.file.create_entity(kind, GlobalId=ifcopenshell.guid.new(), Name=name or None, **more)

    def point(self, place: Any) -> Any:
        return self.file.create_entity("IfcCartesianPoint", [round(float(v), 3) for v in place])

    def shape(self, kind: str, item: Any, identifier: str = "Reference") -> Any:
        of = "IfcTopologyRepresentation" if kind in ("Vertex", "Edge") else "IfcShapeRepresentation"
        return self.file.create_entity(
            "IfcProductDefinitionShape", Representations=[self.file.create_entity(of, None, identifier, kind, [item])]
        )

    def force(self, values: Any) -> Any:
        return self.file.create_entity("IfcStructuralLoadSingleForce", None, *(round(float(v), 5) for v in values))

    def assign(self, kind: str, group: Any, objects: list[Any], **more: Any) -> None:
        self.root(kind, RelatedObjects=objects, RelatingGroup=group, **more)

    def on(self, element: Any, activity: Any) -> None:
        self.root("IfcRelConnectsStructuralActivity", RelatingElement=element, RelatedStructuralActivity=activity)


def _condition(w: Writer, held: dict[str, bool]) -> Any:
    wrap = {n: w.file.create_entity("IfcBoolean", on) for n, on in held.items()}
    return w.file.create_entity(
        "IfcBoundaryNodeCondition", None, *(wrap[n] for n in ("ux", "uy", "uz", "rx", "ry", "rz"))
    )


def analysis(path: Path, demo: Demo) -> None:
    """The structural analysis model: values at both ends of each member, reactions at nodes, by case."""
    w = Writer()
    at = {n["node"]: np.array([float(n[c]) for c in "xyz"]) * FT * 1000 for n in demo.nodes}
    held = {s["node"]: {k: s[k] == "1" for k in ("ux", "uy", "uz", "rx", "ry", "rz")} for s in demo.supports}
    vertex = {n: w.file.create_entity("IfcVertexPoint", w.point(p)) for n, p in at.items()}
    nodes = {
        n: w.root(
            "IfcStructuralPointConnection",
            n,
            Representation=w.shape("Vertex", vertex[n]),
            AppliedCondition=_condition(w, held[n]) if n in held else None,
        )
        for n in at
    }
    steels = {g: w.file.create_entity("IfcMaterial", g) for g in {m["grade"] for m in demo.members}}
    sets: dict[tuple[str, str], list[Any]] = {}
    members = {}
    for m in demo.members:
        own = local_axes(at[m["i"]][None], at[m["j"]][None], np.zeros(1))[0]
        edge = w.file.create_entity("IfcEdge", vertex[m["i"]], vertex[m["j"]])
        one = members[m["member"]] = w.root(
            "IfcStructuralCurveMember",
            m["member"],
            Representation=w.shape("Edge", edge),
            PredefinedType="RIGID_JOINED_MEMBER",
            Axis=w.file.create_entity("IfcDirection", [float(v) for v in own[1]]),
        )
        sets.setdefault((m["section"], m["grade"]), []).append(one)
        for end in "ij":
            free = m[f"release_{end}"].split()
            # the web along local z: our y is its z, our z its -y
            theirs = {"ux": "N", "uz": "Vy", "uy": "Vz", "rx": "T", "rz": "My", "ry": "Mz"}
            fixed = _condition(w, {name: ours not in free for name, ours in theirs.items()})
            w.root(
                "IfcRelConnectsStructuralMember",
                RelatingStructuralMember=one,
                RelatedStructuralConnection=nodes[m[end]],
                AppliedCondition=fixed,
            )
    for (section, grade), own in sets.items():
        profile = w.file.create_entity("IfcProfileDef", "AREA", section)
        part = w.file.create_entity("IfcMaterialProfile", None, None, steels[grade], profile)
        w.root(
            "IfcRelAssociatesMaterial",
            RelatedObjects=own,
            RelatingMaterial=w.file.create_entity("IfcMaterialProfileSet", None, None, [part]),
        )
    natures = {c["case"]: c["nature"] for c in demo.cases}
    cases = {
        c: w.root(
            "IfcStructuralLoadCase",
            c,
            PredefinedType="LOAD_CASE",
            ActionType="VARIABLE_Q",
            ActionSource=SOURCES[natures[c]],
        )
        for c in CASES
    }
    for name, terms in (
        ("1.2D+1.6L", {"D": 1.2, "L": 1.6}),
        ("1.2D+1.0WX+", {"D": 1.2, "WX+": 1.0}),
        ("0.9D+1.0WX+", {"D": 0.9, "WX+": 1.0}),
        ("0.9D-1.0WX+", {"D": 0.9, "WX+": -1.0}),
    ):
        group = w.root(
            "IfcStructuralLoadGroup",
            name,
            PredefinedType="LOAD_COMBINATION",
            ActionType="NOTDEFINED",
            ActionSource="NOTDEFINED",
        )
        for case, factor in terms.items():
            w.assign("IfcRelAssignsToGroupByFactor", group, [cases[case]], Factor=factor)
    for case, group in cases.items():
        _results(w, demo, case, group, members, nodes)
    w.file.write(str(path))


def _results(w: Writer, demo: Demo, case: str, group: Any, members: dict[str, Any], nodes: dict[str, Any]) -> None:
    results = w.root(
        "IfcStructuralResultGroup",
        f"results {case}",
        TheoryType="FIRST_ORDER_THEORY",
        ResultForLoadGroup=group,
        IsLinear=True,
    )
    found = []
    for (member, result), both in demo.forces.items():
        if result == case:
            ends = []
            for end in "ij":
                x, y, z, a, b, c = (
                    v * (KIP if k < 3 else KIPFT) * (1 if end == "i" else -1) for k, v in enumerate(both[end])
                )
                ends.append(w.force((x, -z, y, a, -c, b)))  # of the member on its nodes, in its own axes
            load = w.file.create_entity(
                "IfcStructuralLoadConfiguration", None, ends, [[0.0], [demo.length[member] * FT * 1000]]
            )
            one = w.root(
                "IfcStructuralCurveReaction", AppliedLoad=load, GlobalOrLocal="LOCAL_COORDS", PredefinedType="DISCRETE"
            )
            w.on(members[member], one)
            found.append(one)
    for kind, rows, sign in (
        ("IfcStructuralPointReaction", demo.reactions, 1),
        ("IfcStructuralPointAction", demo.loads, 1),
    ):
        own = []
        for r in rows:
            if r["result"] == case:
                values = [sign * float(r[k]) * (KIP if n < 3 else KIPFT) for n, k in enumerate(SIX)]
                one = w.root(
                    kind,
                    AppliedLoad=w.force(values),
                    GlobalOrLocal="GLOBAL_COORDS",
                    **({"DestabilizingLoad": None} if "Action" in kind else {}),
                )
                w.on(nodes[r["node"]], one)
                own.append(one)
        if "Action" in kind and own:
            w.assign("IfcRelAssignsToGroup", group, own)
        else:
            found += own
    w.assign("IfcRelAssignsToGroup", results, found)


def building(path: Path, demo: Demo, drop: float = 0.0) -> None:
    """A building model: grid lines, storeys, beams where they really are, their tops `drop` mm below the analysis'
    line."""
    w = Writer()
    for level in read("levels"):
        w.root("IfcBuildingStorey", level["level"], Elevation=float(level["z"]) * FT * 1000)
    axes = []
    for g in read("grids"):
        line = w.file.create_entity(
            "IfcPolyline",
            [w.point([float(g[a]) * FT * 1000, float(g[b]) * FT * 1000]) for a, b in (("x1", "y1"), ("x2", "y2"))],
        )
        axes.append(w.file.create_entity("IfcGridAxis", g["grid"], line, True))
    w.root("IfcGrid", "grid", UAxes=axes[::2], VAxes=axes[1::2])
    at = {n["node"]: np.array([float(n[c]) for c in "xyz"]) * FT * 1000 for n in demo.nodes}
    profiles: dict[str, Any] = {}
    for m in demo.members:
        if m["role"] == "beam":
            section = m["section"]
            if section not in profiles:
                profile = w.file.create_entity("IfcIShapeProfileDef", "AREA", section, None, 200.0, 400.0, 10.0, 15.0)
                part = w.file.create_entity("IfcMaterialProfile", None, None, None, profile)
                profiles[section] = w.file.create_entity(
                    "IfcMaterialProfileSetUsage", w.file.create_entity("IfcMaterialProfileSet", None, None, [part]), 8
                )
            down = np.array([0, 0, drop])
            line = w.file.create_entity("IfcPolyline", [w.point(at[m["i"]] - down), w.point(at[m["j"]] - down)])
            beam = w.root("IfcBeam", f"steel {m['member']}", Representation=w.shape("Curve3D", line, "Axis"))
            w.root("IfcRelAssociatesMaterial", RelatedObjects=[beam], RelatingMaterial=profiles[section])
    w.file.write(str(path))
