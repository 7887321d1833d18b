"""The steel as an IFC 4 file (reference view): members with what is taken off them, and each connection as an assembly
of its plates, bolts and welds; solids, materials, marks and how each stands; on storeys, with the grid."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator

from handrail import __version__
from handrail.core.building.model import GridLine, Level
from handrail.core.solids import words
from handrail.core.solids.axes import Axes, combined
from handrail.core.solids.collisions import Solid
from handrail.core.solids.pieces import Bar, Fastener, Plate, Rod, Solids, Weld
from handrail.interchange.steel_model.entities import Entities, Entity
from handrail.interchange.steel_model.whole import Connected, Modelled, Whole

VIEW = "ViewDefinition [ReferenceView_V1.2]"
KINDS = {"beam": "IfcBeam", "column": "IfcColumn"}
SETS = {"member": "HandRail_Member", "connection": "HandRail_Connection", "part": "HandRail_Part"}
NOWHERE = Level("as analysed", 0.0)


def write_ifc(whole: Whole) -> bytes:
    """The file. Its text is the same for the same model."""
    return _Writing(whole).written()


class _Writing:
    def __init__(self, whole: Whole) -> None:
        self.whole = whole
        self.to = Entities(whole.job)
        self.steel: dict[str, Entity] = {}
        self.inside: dict[str, list[Entity]] = defaultdict(list)  # storey -> what is on it
        self.of_material: dict[int, list[Entity]] = defaultdict(list)
        self.alike: dict[tuple[str, ...], list[Entity]] = defaultdict(list)  # what is said of parts -> these
        self.materials: dict[int, Entity] = {}
        self.places: dict[str, tuple[Level, Entity]] = {}
        self.storeys: dict[str, Entity] = {}

    def written(self) -> bytes:
        self._site()
        for one in self.whole.steel:
            self._member(one)
        for connected in self.whole.connections:
            self._connection(connected)
        self._relations()
        header = self.to.file.header
        header.file_description.description = (VIEW,)
        header.file_name.name = f"{self.whole.job}.ifc"
        header.file_name.time_stamp = self.whole.made[:19]
        header.file_name.originating_system = f"Hand Rail {__version__}"
        header.file_name.preprocessor_version = f"Hand Rail {__version__}"
        return self.to.text()

    def _site(self) -> None:
        """Project, site, building, storeys, grid."""
        to, whole = self.to, self.whole
        units = [to.add("IfcSIUnit", None, "LENGTHUNIT", "MILLI", "METRE"), *(
            to.add("IfcSIUnit", None, kind, prefix, name)
            for kind, prefix, name in (
                ("AREAUNIT", None, "SQUARE_METRE"),
                ("VOLUMEUNIT", None, "CUBIC_METRE"),
                ("MASSUNIT", "KILO", "GRAM"),
                ("PLANEANGLEUNIT", None, "RADIAN"),
            )
        )]  # fmt: skip
        title = whole.title or whole.job
        project = to.add("IfcProject", to.number("project"), None, title, None, None, None, None, (to.model,),
                         to.add("IfcUnitAssignment", units))  # fmt: skip
        at = to.placed(Axes())
        site = to.add("IfcSite", to.number("site"), None, "Site", None, None, at, None, None, "ELEMENT", None, None,
                      None, None, None)  # fmt: skip
        within = to.placed(Axes(), at)
        building = to.add("IfcBuilding", to.number("building"), None, title, None, None, within, None, None,
                          "ELEMENT", None, None, None)  # fmt: skip
        to.relate("IfcRelAggregates", "project", project, (site,))
        to.relate("IfcRelAggregates", "site", site, (building,))
        for level in self.whole.levels or (NOWHERE,):
            place = to.placed(Axes((0.0, 0.0, level.z)), within)
            self.places[level.name] = (level, place)
            self.storeys[level.name] = to.add(
                "IfcBuildingStorey", to.number("storey", level.name), None, level.name, None, None, place, None, None,
                "ELEMENT", level.z,
            )  # fmt: skip
        to.relate("IfcRelAggregates", "building", building, tuple(self.storeys.values()))
        said = to.properties("building", "HandRail_Model", whole.said)
        to.relate("IfcRelDefinesByProperties", "building", (building,), said)
        if len(whole.families) > 1:
            grid = self._grid(to.placed(Axes(), within))
            to.relate("IfcRelContainedInSpatialStructure", "building", (grid,), building)

    def _grid(self, at: Entity) -> Entity:
        to = self.to
        axes = [[to.add("IfcGridAxis", line.name, self._line(line), True) for line in family]
                for family in self.whole.families]  # fmt: skip
        curves = [axis.AxisCurve for family in axes for axis in family]
        drawn = to.add("IfcGeometricCurveSet", curves)
        shape = to.add("IfcShapeRepresentation", to.plan, "FootPrint", "GeometricCurveSet", (drawn,))
        shown = to.add("IfcProductDefinitionShape", None, None, (shape,))
        return to.add("IfcGrid", to.number("grid"), None, "Grid", None, None, at, shown, axes[0], axes[1], None, None)

    def _line(self, line: GridLine) -> Entity:
        ends = [self.to.add("IfcCartesianPoint", (x + 0.0, y + 0.0)) for x, y in (line.start, line.end)]
        return self.to.add("IfcPolyline", ends)

    def _on(self, level: str) -> tuple[str, Level, Entity]:
        """A storey by its name; the lowest where there is none of that name."""
        name = level if level in self.places else next(iter(self.places))
        return name, *self.places[name]

    def _member(self, one: Modelled) -> None:
        to, steel = self.to, one.steel
        storey, level, place = self._on(one.level)
        at, shape = to.of_one(steel.bar, "member", steel.bar.length)
        kind = KINDS.get(steel.role, "IfcMember")
        used = {"IfcMember": "BRACE"}.get(kind, kind.removeprefix("Ifc").upper())
        made = to.add(kind, to.number("member", steel.name), None, steel.name, None, steel.section.name,
                      to.placed(_below(at, level), place), shape, None, used)  # fmt: skip
        self.steel[steel.name] = made
        self.inside[storey].append(made)
        self._material(made, to.profiled(steel.section, steel.bar.grade))
        said = to.properties(steel.name, SETS["member"], one.said)
        to.relate("IfcRelDefinesByProperties", f"member {steel.name}", (made,), said)

    def _material(self, made: Entity, material: Entity) -> None:
        self.materials[material.id()] = material
        self.of_material[material.id()].append(made)

    def _connection(self, one: Connected) -> None:
        to = self.to
        storey, level, place = self._on(one.level)
        at = Axes(one.node)
        own = to.placed(_below(at, level), place)
        whole = to.add("IfcElementAssembly", to.number("connection", one.key), None, one.key, None, one.title, own,
                       None, one.mark or None, None, "USERDEFINED")  # fmt: skip
        self.inside[storey].append(whole)
        parts = [self._part(one, solid, at, own) for solid in _parts(one.solids)]
        if parts:
            to.relate("IfcRelAggregates", f"connection {one.key}", whole, parts)
        said = to.properties(one.key, SETS["connection"], one.said)
        to.relate("IfcRelDefinesByProperties", f"connection {one.key}", (whole, *parts), said)
        held = [self.steel[name] for name in one.members if name in self.steel]
        if len(held) == 2:
            to.relate("IfcRelConnectsWithRealizingElements", f"connection {one.key}", None, held[1], held[0], (whole,),
                      None)  # fmt: skip

    def _part(self, one: Connected, solid: Solid, at: Axes, within: Entity) -> Entity:
        to, shape, place = self.to, None, within
        if not (isinstance(solid, Weld) and solid.kind != "fillet"):  # a groove lies within what it joins
            stands, mapped = to.shape(solid, _colour(solid, one.stands))
            shape = to.of_map(mapped)
            place = to.placed(Axes(at.seen(stands.origin), stands.x, stands.y), within)
        else:
            place = to.placed(Axes(), within)
        start = (to.number("part", one.key, solid.name), None, solid.name, None, solid.part, place, shape, None)
        made = self._thing(solid, start)
        if grade := getattr(solid, "grade", ""):
            self._material(made, to.material(grade))
        self.alike[_said_of(solid, self.whole.system)].append(made)
        return made

    def _thing(self, solid: Solid, start: tuple[object, ...]) -> Entity:
        add = self.to.add
        if isinstance(solid, Plate):
            return add("IfcPlate", *start, "NOTDEFINED")
        if isinstance(solid, Bar):
            return add("IfcMember", *start, "NOTDEFINED")
        if isinstance(solid, Fastener):
            return add("IfcMechanicalFastener", *start, solid.bolt.d, solid.length, "BOLT")
        if isinstance(solid, Rod):
            return add("IfcMechanicalFastener", *start, solid.d, solid.length, "ANCHORBOLT")
        return add("IfcFastener", *start, "WELD")

    def _relations(self) -> None:
        to = self.to
        for name, things in self.inside.items():
            to.relate("IfcRelContainedInSpatialStructure", name, things, self.storeys[name])
        for number, (key, things) in enumerate(self.of_material.items()):
            to.relate("IfcRelAssociatesMaterial", str(number), things, self.materials[key])
        for said, things in self.alike.items():
            of = "\0".join(said)
            named = dict(zip(("Part", "Description", "Made"), said, strict=True))
            own = to.properties(of, SETS["part"], {word: value for word, value in named.items() if value})
            to.relate("IfcRelDefinesByProperties", of, things, own)


def _below(at: Axes, level: Level) -> Axes:
    """A place of the building as a storey has it."""
    return Axes(combined((1.0, at.origin), (-1.0, (0.0, 0.0, level.z))), at.x, at.y)


def _parts(solids: Solids) -> Iterator[Solid]:
    yield from solids.pieces
    yield from solids.bolts
    yield from solids.welds
    yield from solids.rods


def _colour(solid: Solid, stands: str) -> str:
    if isinstance(solid, Fastener | Rod):
        return "bolt"
    return "weld" if isinstance(solid, Weld) else stands


def _said_of(solid: Solid, system: str) -> tuple[str, ...]:
    made = ("at the site" if solid.field else "in the shop") if isinstance(solid, Fastener | Weld) else ""
    return solid.part, words.said(solid, system), made
