"""IFC 4 files as tables: what a structural analysis model says (nodes, curve members, releases, cases, groups,
results), and what a building model says of places (grids, storeys, where pieces of steel really are). Read with the
general IFC library; what a file does not have, its tables have not.

All in m, N and N*m. A curve member's web lies along its local z (IfcStructuralCurveMember.Axis), which is our y; our z
is its -y. The schema fixes no sense for forces at a member's ends: they stand as the file has them, and statics tells.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from functools import cached_property
from pathlib import Path
from typing import Any

import numpy as np

from handrail.core.building.model import local_axes

Grid = list[list[str]]
FORCE = ("ForceX", "ForceY", "ForceZ", "MomentX", "MomentY", "MomentZ")
LINEAR = ("LinearForceX", "LinearForceY", "LinearForceZ")
STIFF = ("Translational", "Rotational")
SIX = ["Fx", "Fy", "Fz", "Mx", "My", "Mz"]
HEADS: dict[str, tuple[list[str], list[str]]] = {
    "nodes": (["node", "x", "y", "z"], ["", "m", "m", "m"]),
    "members": (
        ["member", "i", "j", "section", "grade", "roll", "release_i", "release_j"],
        ["", "", "", "", "", "deg", "", ""],
    ),
    "supports": (["node", "ux", "uy", "uz", "rx", "ry", "rz"], []),
    "cases": (["case", "nature", "title"], []),
    "combinations": (["combination", "case", "factor"], []),
    "end_forces": (["member", "distance", "result", *SIX], ["", "m", "", *["N"] * 3, *["N*m"] * 3]),
    "reactions": (["node", "result", *SIX], ["", "", *["N"] * 3, *["N*m"] * 3]),
    "node_loads": (["node", "result", *SIX], ["", "", *["N"] * 3, *["N*m"] * 3]),
    "member_loads": (["member", "case", "kind", "direction", "from", "to", "value"], ["", "", "", "", "m", "m", ""]),
    "grids": (["grid", "x1", "y1", "x2", "y2"], ["", "m", "m", "m", "m"]),
    "levels": (["level", "z"], ["", "m"]),
    "pieces": (["piece", "section", "x1", "y1", "z1", "x2", "y2", "z2", "top"], ["", "", *["m"] * 7]),
}
NATURES = {
    "DEAD_LOAD_G": "dead",
    "COMPLETION_G1": "dead",
    "LIVE_LOAD_Q": "live",
    "SNOW_S": "snow",
    "WIND_W": "wind",
    "EARTHQUAKE_E": "seismic",
    "TEMPERATURE_T": "temperature",
}
OURS = np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]])  # rows: our x, y, z in the member's own
RELEASED = {(0, "X"): "N", (0, "Z"): "Vy", (0, "Y"): "Vz", (1, "X"): "T", (1, "Z"): "My", (1, "Y"): "Mz"}
ONE_POINT = 1e-3  # m
TOPS = {
    8: 0.0,
    7: 0.0,
    9: 0.0,
    4: 0.5,
    5: 0.5,
    6: 0.5,
    10: 0.5,
    1: 1.0,
    2: 1.0,
    3: 1.0,
}  # cardinal point -> depths that the top is above the axis


def ifc_tables(path: Path) -> dict[str, Grid]:
    """Every table that an IFC file has, its names and units in the first rows. Raises ValueError where it is none that
    can be read."""
    import ifcopenshell

    try:
        model = ifcopenshell.open(str(path))
    except Exception as exc:  # the library raises kinds of its own
        raise ValueError(
            f"is no IFC file that can be read ({str(exc).splitlines()[0] if str(exc) else type(exc).__name__})"
        ) from exc
    if isinstance(model, ifcopenshell.sqlite) or not hasattr(model, "by_type"):
        raise ValueError("is no IFC file in STEP form")
    read = _Model(model)
    tables = {name: list(make()) for name, make in read.tables.items()}
    return {
        name: [HEADS[name][0], *([HEADS[name][1]] if HEADS[name][1] else []), *rows]
        for name, rows in tables.items()
        if rows
    }


class _Model:
    """One file, read table by table."""

    def __init__(self, model: Any) -> None:
        from ifcopenshell.util.unit import calculate_unit_scale

        self.model = model
        self._cells: dict[tuple[int, ...], str] = {}
        self.long = float(calculate_unit_scale(model, "LENGTHUNIT"))
        force = self._unit("FORCEUNIT")
        self.six = np.array([force] * 3 + [self._unit("TORQUEUNIT") or force * self.long] * 3)
        self.per_length = self._unit("LINEARFORCEUNIT") or force / self.long
        self.tables: dict[str, Callable[[], Iterator[list[str]]]] = {
            "nodes": self._nodes,
            "members": self._members,
            "supports": self._supports,
            "cases": self._cases,
            "combinations": self._combinations,
            "end_forces": self._end_forces,
            "reactions": self._reactions,
            "node_loads": self._node_loads,
            "member_loads": self._member_loads,
            "grids": self._grids,
            "levels": self._levels,
            "pieces": self._pieces,
        }

    def _unit(self, kind: str) -> float:
        """A unit of the file in SI; 1 for forces where it does not say, 0 for what follows of others."""
        from ifcopenshell.util.unit import calculate_unit_scale

        projects = self.model.by_type("IfcProject")
        own = projects[0].UnitsInContext.Units if projects and projects[0].UnitsInContext else ()
        said = any(getattr(unit, "UnitType", "") == kind for unit in own)
        return float(calculate_unit_scale(self.model, kind)) if said else 1.0 if kind == "FORCEUNIT" else 0.0

    def _all(self, kind: str) -> list[Any]:
        try:
            return list(self.model.by_type(kind))
        except RuntimeError:  # not of this schema
            return []

    @cached_property
    def names(self) -> dict[int, str]:
        """What everything is called: its name, told apart by its number where several share one."""
        names: dict[int, str] = {}
        for kind in (
            "IfcStructuralPointConnection",
            "IfcStructuralCurveMember",
            "IfcStructuralLoadGroup",
            "IfcStructuralResultGroup",
            "IfcBuiltElement",
            "IfcBuildingElement",
        ):
            seen: dict[str, int] = {}
            for one in self._all(kind):
                name = " ".join(str(one.Name or "").split()) or f"#{one.id()}"
                seen[name] = seen.get(name, 0) + 1
                names[one.id()] = name if seen[name] == 1 else f"{name} #{one.id()}"
        return names

    def _placed(self, one: Any) -> np.ndarray:
        """(4, 4) where it stands, m."""
        from ifcopenshell.util.placement import get_local_placement

        matrix = (
            np.array(get_local_placement(one.ObjectPlacement), float)
            if getattr(one, "ObjectPlacement", None)
            else np.eye(4)
        )
        matrix[:3, 3] *= self.long
        return matrix

    def _at(self, one: Any, point: Any) -> np.ndarray:
        """A cartesian point of something, in the file's own axes, m."""
        given = [float(v) * self.long for v in point.Coordinates]
        return np.asarray((self._placed(one) @ np.array([*given, *[0.0] * (3 - len(given)), 1.0]))[:3])

    def _items(self, one: Any) -> Iterator[Any]:
        for shape in one.Representation.Representations if getattr(one, "Representation", None) else ():
            yield from shape.Items

    @cached_property
    def points(self) -> dict[str, np.ndarray]:
        """Nodes by name, those that only member ends have too."""
        points: dict[str, np.ndarray] = {}
        for one in self._all("IfcStructuralPointConnection"):
            for item in self._items(one):
                if item.is_a("IfcVertexPoint"):
                    self._put(points, self.names[one.id()], self._at(one, item.VertexGeometry))
        for member in self._all("IfcStructuralCurveMember"):
            for end in self._edge(member) or ():
                if self._node_at(points, end) is None:
                    self._put(points, f"node {len(points) + 1}", end)
        return points

    def _put(self, points: dict[str, np.ndarray], name: str, place: np.ndarray) -> None:
        points[name] = place
        self._cells[_cell(place)] = name

    def _edge(self, member: Any) -> tuple[np.ndarray, np.ndarray] | None:
        for item in self._items(member):
            if item.is_a("IfcEdge"):
                return self._at(member, item.EdgeStart.VertexGeometry), self._at(member, item.EdgeEnd.VertexGeometry)
        return None

    def _node_at(self, points: dict[str, np.ndarray], place: np.ndarray) -> str | None:
        key = _cell(place)
        around = ((a, b, c) for a in (0, -1, 1) for b in (0, -1, 1) for c in (0, -1, 1))
        near = (self._cells.get((key[0] + a, key[1] + b, key[2] + c)) for a, b, c in around)
        return next((n for n in near if n is not None and np.linalg.norm(points[n] - place) < 5 * ONE_POINT), None)

    def _nodes(self) -> Iterator[list[str]]:
        for name, place in self.points.items():
            yield [name, *map(_text, place)]

    @cached_property
    def axes(self) -> dict[int, np.ndarray]:
        """(3, 3) rows: our local axes of each curve member."""
        axes = {}
        for member in self._all("IfcStructuralCurveMember"):
            if (edge := self._edge(member)) is None:
                continue
            x = (edge[1] - edge[0]) / max(float(np.linalg.norm(edge[1] - edge[0])), 1e-9)
            given = getattr(member, "Axis", None)
            up = (
                self._placed(member)[:3, :3] @ np.array([float(v) for v in given.DirectionRatios])
                if given is not None
                else np.array([0, 0, 1.0])
            )
            y = up - (up @ x) * x
            if float(np.linalg.norm(y)) < 1e-6:
                y = np.array([1.0, 0, 0]) - x[0] * x
            y = y / np.linalg.norm(y)
            axes[member.id()] = np.stack([x, y, np.cross(x, y)])
        return axes

    def _members(self) -> Iterator[list[str]]:
        for member in self._all("IfcStructuralCurveMember"):
            if (edge := self._edge(member)) is None:
                continue
            i, j = (self._node_at(self.points, end) or "" for end in edge)
            plain = local_axes(edge[0][None] * 1000, edge[1][None] * 1000, np.zeros(1))[0]
            own = self.axes[member.id()]
            roll = math.degrees(math.atan2(float(own[1] @ plain[2]), float(own[1] @ plain[1])))
            section, grade = self._profile(member)
            free = {name: " ".join(self._free(condition)) for name, condition in self._ends(member, edge)}
            yield [
                self.names[member.id()],
                i,
                j,
                section,
                grade,
                _text(round(roll, 6)),
                free.get("i", ""),
                free.get("j", ""),
            ]

    def _ends(self, member: Any, edge: tuple[np.ndarray, np.ndarray]) -> Iterator[tuple[str, Any]]:
        """(end, the condition there) of each connection of a member."""
        for one in getattr(member, "ConnectedBy", None) or ():
            place = self.points.get(self.names.get(one.RelatedStructuralConnection.id(), ""))
            if place is not None and one.AppliedCondition is not None:
                yield (
                    "i" if np.linalg.norm(place - edge[0]) <= np.linalg.norm(place - edge[1]) else "j",
                    one.AppliedCondition,
                )

    def _stiffness(self, condition: Any) -> Iterator[tuple[int, str, bool]]:
        """(translation or rotation, axis, whether it is held)."""
        for kind, word in enumerate(STIFF):
            for axis in "XYZ":
                given = getattr(condition, f"{word}Stiffness{axis}", None) or getattr(
                    condition, f"LinearStiffness{axis}" if kind == 0 else "_", None
                )
                value = getattr(given, "wrappedValue", given)
                yield kind, axis, value is not None and value is not False and value != 0

    def _free(self, condition: Any) -> list[str]:
        free = {RELEASED[kind, axis] for kind, axis, held in self._stiffness(condition) if not held}
        return [name for name in ("N", "Vy", "Vz", "T", "My", "Mz") if name in free]

    def _profile(self, one: Any) -> tuple[str, str]:
        """(profile, material) by name."""
        from ifcopenshell.util.element import get_material

        material: Any = get_material(one, should_skip_usage=True)
        if material is None:
            return "", ""
        parts = getattr(material, "MaterialProfiles", None) or (
            [material] if material.is_a("IfcMaterialProfile") else []
        )
        if parts:
            profile, steel = parts[0].Profile, parts[0].Material
            return str(getattr(profile, "ProfileName", "") or parts[0].Name or ""), str(
                getattr(steel, "Name", "") or ""
            )
        return "", str(getattr(material, "Name", "") or "")

    def _supports(self) -> Iterator[list[str]]:
        for one in self._all("IfcStructuralPointConnection"):
            held = (
                {(kind, axis): on for kind, axis, on in self._stiffness(one.AppliedCondition)}
                if one.AppliedCondition
                else {}
            )
            if any(held.values()):
                yield [self.names[one.id()], *(str(int(held[kind, axis])) for kind in (0, 1) for axis in "XYZ")]

    def _groups(self, combined: bool) -> list[Any]:
        return [
            g
            for g in self._all("IfcStructuralLoadGroup")
            if (g.PredefinedType == "LOAD_COMBINATION") is combined and g.PredefinedType != "LOAD_GROUP"
        ]

    def _cases(self) -> Iterator[list[str]]:
        for group in self._groups(False):
            source = str(getattr(group, "ActionSource", "") or "")
            nature = NATURES.get(source) or ("dead" if getattr(group, "ActionType", "") == "PERMANENT_G" else "other")
            yield [self.names[group.id()], nature, str(group.Description or group.Purpose or "")]

    def _combinations(self) -> Iterator[list[str]]:
        for group in self._groups(True):
            for one in getattr(group, "IsGroupedBy", None) or ():
                factor = float(getattr(one, "Factor", None) or getattr(group, "Coefficient", None) or 1.0)
                for case in one.RelatedObjects:
                    yield [self.names[group.id()], self.names.get(case.id(), str(case.Name)), _text(factor)]

    def _result_of(self, activity: Any) -> str:
        """The case or combination that a reaction is of, by the result group that it is in."""
        for one in getattr(activity, "HasAssignments", None) or ():
            group = getattr(one, "RelatingGroup", None)
            if group is not None and group.is_a("IfcStructuralResultGroup"):
                loads = group.ResultForLoadGroup
                return self.names.get(loads.id(), "") if loads is not None else self.names.get(group.id(), "")
        return ""

    def _case_of(self, activity: Any) -> str:
        for one in getattr(activity, "HasAssignments", None) or ():
            group = getattr(one, "RelatingGroup", None)
            if group is not None and group.is_a("IfcStructuralLoadGroup"):
                return self.names.get(group.id(), "")
        return ""

    def _on(self, activity: Any) -> Any:
        return next((one.RelatingElement for one in getattr(activity, "AssignedToStructuralItem", None) or ()), None)

    def _forces(self, load: Any) -> np.ndarray:
        return np.array([float(getattr(load, name, None) or 0.0) for name in FORCE]) * self.six

    def _own(self, activity: Any, member: Any, values: np.ndarray) -> np.ndarray:
        """Forces on a member in our local axes: as they are given, local or global."""
        if activity.GlobalOrLocal == "GLOBAL_COORDS":
            axes = self.axes[member.id()]
            return np.concatenate([axes @ values[:3], axes @ values[3:]])
        return np.concatenate([OURS @ values[:3], OURS @ values[3:]])

    def _end_forces(self) -> Iterator[list[str]]:
        for activity in [*self._all("IfcStructuralCurveReaction"), *self._all("IfcStructuralPointReaction")]:
            member = self._on(activity)
            if member is None or not member.is_a("IfcStructuralCurveMember") or (edge := self._edge(member)) is None:
                continue
            long, result = float(np.linalg.norm(edge[1] - edge[0])), self._result_of(activity)
            for place, load in self._along(activity, edge, long):
                values = self._own(activity, member, self._forces(load))
                yield [self.names[member.id()], _text(place), result, *map(_text, values)]

    def _along(self, activity: Any, edge: tuple[np.ndarray, np.ndarray], long: float) -> Iterator[tuple[float, Any]]:
        """(distance from the start, load) of what is given at points, at both ends, or is the same all along."""
        load = activity.AppliedLoad
        if load.is_a("IfcStructuralLoadConfiguration"):
            places = load.Locations or [[0.0], [long / self.long]]
            for at, one in zip(places, load.Values, strict=False):
                yield float(at[0]) * self.long, one
        elif activity.is_a("IfcStructuralPointReaction"):
            vertex = next((i for i in self._items(activity) if i.is_a("IfcVertexPoint")), None)
            if vertex is not None:
                yield float(np.linalg.norm(self._at(activity, vertex.VertexGeometry) - edge[0])), load
        else:
            yield 0.0, load
            yield long, load

    def _at_nodes(self, kind: str, of: Callable[[Any], str]) -> Iterator[list[str]]:
        for activity in self._all(kind):
            node = self._on(activity)
            if node is not None and node.is_a("IfcStructuralPointConnection") and (result := of(activity)):
                yield [self.names[node.id()], result, *map(_text, self._forces(activity.AppliedLoad))]

    def _reactions(self) -> Iterator[list[str]]:
        yield from self._at_nodes("IfcStructuralPointReaction", self._result_of)

    def _node_loads(self) -> Iterator[list[str]]:
        yield from self._at_nodes("IfcStructuralPointAction", self._case_of)

    def _member_loads(self) -> Iterator[list[str]]:
        """Even loads all along members, a row a component."""
        for activity in self._all("IfcStructuralCurveAction"):
            member, load = self._on(activity), activity.AppliedLoad
            if member is None or member.id() not in self.axes or not load.is_a("IfcStructuralLoadLinearForce"):
                continue
            values = np.array([float(getattr(load, name, None) or 0.0) for name in LINEAR]) * self.per_length
            local = activity.GlobalOrLocal != "GLOBAL_COORDS"
            for axis, value in zip("xyz" if local else "XYZ", OURS @ values if local else values, strict=True):
                if value:
                    yield [
                        self.names[member.id()],
                        self._case_of(activity),
                        "distributed",
                        axis,
                        "0",
                        "",
                        _text(float(value)),
                    ]

    def _grids(self) -> Iterator[list[str]]:
        for grid in self._all("IfcGrid"):
            for axis in [*grid.UAxes, *grid.VAxes, *(grid.WAxes or ())]:
                points = _ends_of(axis.AxisCurve)
                if len(points) >= 2:
                    first, last = (
                        self._placed(grid) @ np.array([*(float(v) * self.long for v in p[:2]), 0.0, 1.0])
                        for p in (points[0], points[-1])
                    )
                    yield [str(axis.AxisTag or ""), *map(_text, (*first[:2], *last[:2]))]

    def _levels(self) -> Iterator[list[str]]:
        for storey in self._all("IfcBuildingStorey"):
            high = (
                float(storey.Elevation) * self.long
                if storey.Elevation is not None
                else float(self._placed(storey)[2, 3])
            )
            yield [str(storey.Name or f"#{storey.id()}"), _text(high)]

    def _pieces(self) -> Iterator[list[str]]:
        """Where beams, columns and members really are, with the top of those that lie."""
        for kind in ("IfcBeam", "IfcColumn", "IfcMember"):
            for one in self._all(kind):
                if (ends := self._run(one)) is None:
                    continue
                section, _ = self._profile(one)
                top = self._top(one, ends)
                yield [
                    self.names[one.id()],
                    section,
                    *map(_text, (*ends[0], *ends[1])),
                    "" if top is None else _text(top),
                ]

    def _run(self, one: Any) -> tuple[np.ndarray, np.ndarray] | None:
        """A piece's axis: of its axis representation, else of the body that is extruded."""
        matrix = self._placed(one)
        for shape in one.Representation.Representations if one.Representation else ():
            for item in shape.Items:
                if shape.RepresentationIdentifier == "Axis" and len(points := _ends_of(item)) >= 2:
                    ends = [
                        matrix @ np.array([*(float(v) * self.long for v in p), *[0.0] * (3 - len(p)), 1.0])
                        for p in (points[0], points[-1])
                    ]
                    return ends[0][:3], ends[1][:3]
        for item in self._items(one):
            if item.is_a("IfcExtrudedAreaSolid"):
                from ifcopenshell.util.placement import get_axis2placement

                own = np.array(get_axis2placement(item.Position), float) if item.Position else np.eye(4)
                own[:3, 3] *= self.long
                way = (
                    np.array([float(v) for v in item.ExtrudedDirection.DirectionRatios]) * float(item.Depth) * self.long
                )
                return (matrix @ own @ np.array([0, 0, 0, 1.0]))[:3], (matrix @ own @ np.array([*way, 1.0]))[:3]
        return None

    def _top(self, one: Any, ends: tuple[np.ndarray, np.ndarray]) -> float | None:
        """Top of steel of a piece that lies level, where its depth and the point of its profile on the axis are known;
        the middle where none is said."""
        from ifcopenshell.util.element import get_material

        usage = get_material(one)
        parts = get_material(one, should_skip_usage=True)
        profile = next((p.Profile for p in getattr(parts, "MaterialProfiles", None) or ()), None)
        deep = (
            getattr(profile, "OverallDepth", None) or getattr(profile, "YDim", None) or getattr(profile, "Depth", None)
        )
        if deep is None or abs(float(ends[1][2] - ends[0][2])) > 0.02 * float(np.linalg.norm(ends[1] - ends[0])):
            return None
        point = getattr(usage, "CardinalPoint", None) or 5
        return float(ends[0][2]) + TOPS.get(int(point), 0.5) * float(deep) * self.long


def _cell(place: np.ndarray) -> tuple[int, ...]:
    return tuple(np.round(place / ONE_POINT / 10).astype(int).tolist())


def _ends_of(curve: Any) -> list[tuple[float, ...]]:
    """The points of a polyline; none of other curves."""
    if curve.is_a("IfcPolyline"):
        return [tuple(p.Coordinates) for p in curve.Points]
    if curve.is_a("IfcIndexedPolyCurve"):
        return [tuple(p) for p in curve.Points.CoordList]
    return []


def _text(value: float) -> str:
    return f"{float(value):.9g}"
