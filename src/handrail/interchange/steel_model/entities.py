"""IFC entities for places, shapes, materials and properties: what is alike is written once."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

import ifcopenshell

from handrail.core.catalogue import Section
from handrail.core.solids.axes import ZERO, Axes, Vector
from handrail.core.solids.collisions import Solid, body_of
from handrail.core.solids.meshes import mesh
from handrail.core.solids.own import own
from handrail.interchange.steel_model.numbers import number
from handrail.interchange.steel_model.whole import Said

Entity = Any
COLOURS = {
    "member": (0.62, 0.65, 0.68),
    "pass": (0.36, 0.55, 0.45),
    "fail": (0.72, 0.22, 0.18),
    "unchecked": (0.74, 0.55, 0.20),
    "bolt": (0.30, 0.32, 0.36),
    "weld": (0.86, 0.62, 0.28),
}
FINE = 9  # decimals of a direction


class Entities:
    """A file being written, mm and kg; `job` makes its numbers of things its own."""

    def __init__(self, job: str) -> None:
        self.file = ifcopenshell.file(schema="IFC4")
        self.job = job
        self._shapes: dict[tuple[Solid, str], Entity | None] = {}
        self._styles: dict[str, Entity] = {}
        self._materials: dict[str, Entity] = {}
        self._profiles: dict[str, Entity] = {}
        self._points: dict[Vector, Entity] = {}
        self._ways: dict[Vector, Entity] = {}
        self._values: dict[tuple[str, Said], Entity] = {}
        self.world = self._placement(Axes())
        self.body, self.axis, self.plan = self._contexts()

    def add(self, kind: str, *values: Any) -> Entity:
        """One entity, its attributes in the schema's order."""
        return self.file.create_entity(kind, *values)

    def text(self) -> bytes:
        """The file as it is written."""
        written: str = self.file.to_string()  # type: ignore[no-untyped-call]
        return written.encode()

    def number(self, *of: str) -> str:
        """The number of a thing by what it is called: the same in every file of the job."""
        return number(self.job, *of)

    def _contexts(self) -> tuple[Entity, Entity, Entity]:
        self.model = self.add("IfcGeometricRepresentationContext", None, "Model", 3, 1e-3, self.world, None)
        inner = (None, None, None, None, self.model, None)
        body, axis = (
            self.add("IfcGeometricRepresentationSubContext", name, "Model", *inner, view, None)
            for name, view in (("Body", "MODEL_VIEW"), ("Axis", "GRAPH_VIEW"))
        )
        plan = self.add("IfcGeometricRepresentationSubContext", "FootPrint", "Model", *inner, "PLAN_VIEW", None)
        return body, axis, plan

    def point(self, at: Vector) -> Entity:
        key = (at[0] + 0.0, at[1] + 0.0, at[2] + 0.0)
        if key not in self._points:
            self._points[key] = self.add("IfcCartesianPoint", key)
        return self._points[key]

    def way(self, way: Vector) -> Entity:
        key = (round(way[0], FINE) + 0.0, round(way[1], FINE) + 0.0, round(way[2], FINE) + 0.0)
        if key not in self._ways:
            self._ways[key] = self.add("IfcDirection", key)
        return self._ways[key]

    def _placement(self, at: Axes) -> Entity:
        return self.add("IfcAxis2Placement3D", self.point(at.origin), self.way(at.z), self.way(at.x))

    def placed(self, at: Axes, within: Entity | None = None) -> Entity:
        """Where a thing stands in another's placement."""
        return self.add("IfcLocalPlacement", within, self._placement(at))

    def shape(self, solid: Solid, colour: str) -> tuple[Axes, Entity | None]:
        """Where a solid stands, and its shape in its own axes to be mapped there."""
        at, bare = own(solid)
        key = (bare, colour)
        if key not in self._shapes:
            self._shapes[key] = self._mapped(self._faces(bare, colour))
        return at, self._shapes[key]

    def _faces(self, solid: Solid, colour: str) -> Entity | None:
        """None of what nothing is left of."""
        made = mesh(body_of(solid), ZERO)
        if not made.faces:
            return None
        points = [made.points[k : k + 3] for k in range(0, len(made.points), 3)]
        faces = [tuple(n + 1 for n in made.faces[k : k + 3]) for k in range(0, len(made.faces), 3)]
        listed = self.add("IfcCartesianPointList3D", points)
        item = self.add("IfcTriangulatedFaceSet", listed, None, True, faces, None)
        self.add("IfcStyledItem", item, (self._style(colour),), None)
        return self.add("IfcShapeRepresentation", self.body, "Body", "Tessellation", (item,))

    def _mapped(self, shape: Entity | None) -> Entity | None:
        return None if shape is None else self.add("IfcRepresentationMap", self._placement(Axes()), shape)

    def of_map(self, mapped: Entity | None) -> Entity | None:
        """The shape of one thing that is as others are."""
        if mapped is None:
            return None
        same = self.add("IfcCartesianTransformationOperator3D", None, None, self.point(ZERO), None, None)
        item = self.add("IfcMappedItem", mapped, same)
        body = self.add("IfcShapeRepresentation", self.body, "Body", "MappedRepresentation", (item,))
        return self.add("IfcProductDefinitionShape", None, None, (body,))

    def of_one(self, solid: Solid, colour: str, length: float) -> tuple[Axes, Entity]:
        """Where a bar stands, and its shape with the line that it is along."""
        at, bare = own(solid)
        line = self.add("IfcPolyline", (self.point(ZERO), self.point((0.0, 0.0, max(length, 1.0)))))
        axis = self.add("IfcShapeRepresentation", self.axis, "Axis", "Curve3D", (line,))
        shapes = [shape for shape in (axis, self._faces(bare, colour)) if shape is not None]
        return at, self.add("IfcProductDefinitionShape", None, None, shapes)

    def _style(self, colour: str) -> Entity:
        if colour not in self._styles:
            rgb = self.add("IfcColourRgb", None, *COLOURS.get(colour, COLOURS["unchecked"]))
            shade = self.add("IfcSurfaceStyleShading", rgb, 0.0)
            self._styles[colour] = self.add("IfcSurfaceStyle", colour, "BOTH", (shade,))
        return self._styles[colour]

    def material(self, grade: str) -> Entity:
        if grade not in self._materials:
            self._materials[grade] = self.add("IfcMaterial", grade, None, "steel")
        return self._materials[grade]

    def profiled(self, section: Section, grade: str) -> Entity:
        """A section of a grade, as the material of members."""
        key = f"{section.name}\0{grade}"
        if key not in self._profiles:
            profile = _profile(self.add, section)
            material = self.material(grade) if grade else None
            one = self.add("IfcMaterialProfile", section.name, None, material, profile, None, None)
            self._profiles[key] = self.add("IfcMaterialProfileSet", section.name, None, (one,), None)
        return self._profiles[key]

    def properties(self, of: str, name: str, said: Mapping[str, Said]) -> Entity:
        """A set of what is said; `of` whom tells it from others."""
        return self.add("IfcPropertySet", self.number("said", name, of), None, name, None, [
            self._value(word, value) for word, value in said.items()
        ])  # fmt: skip

    def _value(self, word: str, value: Said) -> Entity:
        key = (word, value)
        if key not in self._values:
            kind = {bool: "IfcBoolean", float: "IfcReal", str: "IfcLabel"}[type(value)]
            text = value[:255] if isinstance(value, str) else value
            self._values[key] = self.add(
                "IfcPropertySingleValue", word, None, self.file.create_entity(kind, text), None
            )
        return self._values[key]

    def relate(self, kind: str, of: str, *values: Any) -> Entity:
        """A relation, numbered by what it is `of`."""
        return self.add(kind, self.number(kind, of), None, None, None, *values)


def _profile(add: Callable[..., Entity], s: Section) -> Entity:
    """By the schema's own shapes; one that they have none for by its name alone."""
    if s.open:
        fillet = max(s.k - s.tf, 0.0) or None
        return add("IfcIShapeProfileDef", "AREA", s.name, None, s.bf, s.d, s.tw, s.tf, fillet, None, None)
    if s.channel:
        return add("IfcUShapeProfileDef", "AREA", s.name, None, s.d, s.bf, s.tw, s.tf, None, None, None)
    if s.round:
        return add("IfcCircleHollowProfileDef", "AREA", s.name, None, s.d / 2, s.wall)
    if s.hollow:
        return add("IfcRectangleHollowProfileDef", "AREA", s.name, None, s.bf, s.d, s.wall, s.wall, 2 * s.wall)
    if s.family == "L":
        return add(
            "IfcLShapeProfileDef", "AREA", s.name, None, max(s.d, s.bf), min(s.d, s.bf), s.wall, None, None, None
        )
    return add("IfcRectangleProfileDef", "AREA", s.name, None, max(s.bf, s.wall, 1.0), max(s.d, 1.0))
