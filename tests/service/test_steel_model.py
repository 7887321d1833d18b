"""The steel as IFC and DXF, opened again by general readers: the same bodies in the same places, with what is said of
them."""

from __future__ import annotations

import csv
import io

import ezdxf
import ifcopenshell
import ifcopenshell.geom
import ifcopenshell.validate
import numpy as np
import pytest
from ezdxf.render import MeshBuilder
from ifcopenshell.util.element import get_aggregate, get_container, get_material, get_psets
from manifold3d import Manifold, Mesh

from tests.bundles import across
from tests.service.house import House, bundle

JOB = "alder-street"
FEET = 304.8


@pytest.fixture(scope="module")
def bay(tmp_path_factory):
    """The small bay with beams on two sides of its girder, run; and its model."""
    folder = tmp_path_factory.mktemp("home")
    house = House(folder)
    house.send(bundle(folder, 1.0, across("W16X31", "W16X31", 20, 20)))
    house.run()
    yield house
    house.close()


def read(house, of=""):
    answer = house.call("GET", f"/jobs/bay/steel-model.ifc{of}")
    assert answer.status_code == 200, answer.json
    return answer.data, ifcopenshell.file.from_string(answer.data.decode())


def faults(model):
    found = ifcopenshell.validate.json_logger()
    ifcopenshell.validate.validate(model, found, express_rules=True)
    return found.statements


def shapes(model):
    """name of a product -> (volume mm^3, lowest, highest corner mm) as the library's own kernel has it."""
    settings = ifcopenshell.geom.settings()
    settings.set("use-world-coords", True)
    iterator = ifcopenshell.geom.iterator(settings, model, 1)
    found = {}
    assert iterator.initialize()
    while True:
        shape = iterator.get()
        points = np.array(shape.geometry.verts, np.float32).reshape(-1, 3) * 1000
        faces = np.array(shape.geometry.faces, np.uint32).reshape(-1, 3)
        own = model.by_id(shape.id)
        body = Manifold(Mesh(points - points.mean(axis=0), faces))
        within = get_aggregate(own)
        name = f"{within.Name}: {own.Name}" if within else own.Name
        found[name] = (body.volume(), points.min(axis=0), points.max(axis=0))
        if not iterator.next():
            return found


def test_the_library_s_own_validator_finds_nothing(bay):
    """With the schema's rules, of the whole and of one connection."""
    for of in ("", "?connection=B1.i"):
        _, model = read(bay, of)
        assert model.schema == "IFC4" and "ReferenceView" in model.header.file_description.description[0]
        assert faults(model) == []


def test_the_same_job_makes_the_same_file(bay):
    assert read(bay)[0] == read(bay)[0]


def test_bodies_stand_where_the_bay_has_them(bay):
    """Members from end to end less what is taken off, at the height of the floor; what two beams share is there
    once."""
    _, model = read(bay)
    found = shapes(model)
    assert {m.Name for m in model.by_type("IfcColumn")} == {"C1", "C2"}
    _, low, high = found["B1"]
    taken = {r["member"] + r["end"]: r for r in listed(bay, "ends")}
    off = float(taken["B1start"]["taken off, in"]) * 25.4
    assert low[1] == pytest.approx(off, abs=0.1) and high[1] == pytest.approx(20 * FEET, abs=0.1)
    assert high[2] == pytest.approx(12 * FEET, abs=0.1) and high[0] + low[0] == pytest.approx(2 * 15 * FEET, abs=0.1)
    mass = found["B1"][0] * 7.85e-6
    assert mass == pytest.approx(31 * 1.488 * (high[1] - low[1]) / 1e3, rel=0.03)  # 31 lb/ft
    bolts = [b for b in model.by_type("IfcMechanicalFastener") if b.PredefinedType == "BOLT"]
    assert len(bolts) == sum(int(r["count"]) for r in listed(bay, "bolts"))
    assert {round(b.NominalDiameter, 2) for b in bolts} <= {19.05, 22.22, 25.4}


def test_plates_weigh_what_the_list_says(bay):
    _, model = read(bay)
    found = shapes(model)
    plates = [f"{get_aggregate(p).Name}: {p.Name}" for p in model.by_type("IfcPlate")]
    angles = [f"{get_aggregate(p).Name}: {p.Name}" for p in model.by_type("IfcMember") if get_aggregate(p)]
    weight = sum(found[name][0] for name in plates + angles) * 7.85e-6 / 0.45359237
    said = sum(float(r["weight, lb"]) for r in listed(bay, "plates"))
    assert 0.9 * said < weight <= said * 1.001  # the list weighs as bought, holes and copes not taken off


def listed(house, of):
    return list(csv.DictReader(io.StringIO(house.call("GET", f"/jobs/bay/lists/{of}.csv").data.decode())))


def test_what_is_said_of_connections_and_members(bay):
    _, model = read(bay)
    whole = {a.Name: a for a in model.by_type("IfcElementAssembly")}
    own = bay.call("GET", "/jobs/bay/connections/B1.i").json
    said = get_psets(whole["B1.i"])["HandRail_Connection"]
    assert (said["Status"], said["Mark"]) == (own["status"], whole["B1.i"].Tag)
    assert said["Utilisation"] == pytest.approx(own["utilisation"], abs=5e-4)
    assert "NOT RELEASED" in said["Remarks"] and get_container(whole["B1.i"]).is_a("IfcBuildingStorey")
    beam = next(b for b in model.by_type("IfcBeam") if b.Name == "B1")
    assert get_material(beam).MaterialProfiles[0].Profile.ProfileName == "W16X31"
    assert get_psets(beam)["HandRail_Member"]["At its end"] == "no connection: as far as its node"
    joined = {r.RealizingElements[0].Name: (r.RelatingElement.Name, r.RelatedElement.Name)
              for r in model.by_type("IfcRelConnectsWithRealizingElements")}  # fmt: skip
    assert joined["B1.i"][1] == "B1" and joined["B1.i"][0].startswith("G")


def test_one_connection_for_a_person(bay):
    """Its members broken off, all of its bolts though another has them too; as DXF in the job's units."""
    _, model = read(bay, "?connection=B2.i")
    assert [a.Name for a in model.by_type("IfcElementAssembly")] == ["B2.i"]
    found = shapes(model)
    assert {"B2"} < {name for name in found if ":" not in name} and found["B2"][2][1] - found["B2"][1][1] < 1500
    answer = bay.call("GET", "/jobs/bay/steel-model.dxf?connection=B2.i")
    doc = ezdxf.read(io.StringIO(answer.data.decode()))
    assert doc.audit().errors == [] and doc.units == ezdxf.units.IN
    for layer, kind in (("PLATES", "IfcPlate"), ("MEMBERS", "IfcBeam")):
        drawn = [MeshBuilder.from_mesh(m) for m in doc.modelspace().query(f"MESH[layer=='{layer}']")]
        here = sum(map(volume, drawn))
        names = [p.Name for p in model.by_type(kind)]
        there = sum(v for name, (v, _, _) in found.items() if name.split(": ")[-1] in names)
        assert here * 25.4**3 == pytest.approx(there, rel=1e-3)


def volume(drawn):
    points = np.array([tuple(v) for v in drawn.vertices])
    a, b, c = (points[[face[k] for face in drawn.faces]] for k in range(3))
    return abs(float((a * np.cross(b, c)).sum() / 6))


@pytest.mark.parametrize(("of", "status", "said"), [("dxf", 422, "of one connection"), ("stl", 404, "ifc or dxf"),
                                                    ("ifc?connection=B9.i", 404, "no connection 'B9.i'"),
                                                    ("ifc?where=nothing", 422, "not a filter")])  # fmt: skip
def test_what_is_no_model(bay, of, status, said):
    answer = bay.call("GET", f"/jobs/bay/steel-model.{of}")
    assert answer.status_code == status and said in answer.json["detail"]


def test_a_job_that_never_ran_has_members_only(tmp_path):
    house = House(tmp_path / "home")
    _, model = read(house)
    assert faults(model) == [] and len(model.by_type("IfcColumn")) == 2 and not model.by_type("IfcElementAssembly")
    beam = next(b for b in model.by_type("IfcBeam") if b.Name == "B1")
    said = get_psets(beam)["HandRail_Member"]
    assert said["At its start"] == "B1.i has no sizes that stand: as far as its node"
    assert said["At its end"] == "no connection: as far as its node"
    house.close()


def test_a_floor_of_the_demo(service):
    """Its connections and the members that they hold, on storeys, with the grid."""
    engineer = service.client("engineer")
    model = ifcopenshell.file.from_string(engineer.steel_model(JOB, where="level=2").decode())
    totals = engineer.schedule(JOB, where="level=2")["totals"]
    assert len(model.by_type("IfcElementAssembly")) == totals["count"]
    grid = model.by_type("IfcGrid")[0]
    assert {a.AxisTag for a in grid.UAxes} >= {"A", "B"} and {a.AxisTag for a in grid.VAxes} >= {"1", "2"}
    assert "2" in {s.Name for s in model.by_type("IfcBuildingStorey")}
    numbers = [root.GlobalId for root in model.by_type("IfcRoot")]
    assert len(numbers) == len(set(numbers))
