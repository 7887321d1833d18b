"""Patterns as people change them and hand them over, their strength beside their actions; groups."""

from __future__ import annotations

import base64
import io
from pathlib import Path

import numpy as np
import pytest
from python_calamine import CalamineWorkbook

from handrail.client import ServiceError
from tests.bundles import DEMO
from tests.service.running import Service


@pytest.fixture(scope="module")
def client(tmp_path_factory):
    service = Service(tmp_path_factory.mktemp("patterns") / "home").start()
    found = service.client("engineer")
    yield found
    service.stop()


JOB = "alder-street"


def points(client, name, slot):
    found = client.pattern_points(JOB, name, slot)
    table = np.frombuffer(base64.b64decode(found["data"]), "<f4").reshape(
        len(found["connections"]), len(found["combinations"]), 6
    )
    return found, table


def shear_place(client):
    """A pattern and a place of it where single plates are."""
    for p in client.patterns(JOB):
        if p["joints"] > 3 and "beam_to_girder" in p["framings"]:
            whole = client.pattern(JOB, p["name"])
            return whole, next(k for k, place in enumerate(whole["places"]) if place["framing"] == "beam_to_girder")
    raise AssertionError


def test_the_boundary_is_where_the_worst_is_used_up(client):
    """A connection's governing action, along its own ray, reaches the line where it is divided by its utilisation (no
    other action acts on it)."""
    whole, slot = shear_place(client)
    found = client.pattern_boundary(JOB, whole["name"], slot, "V", "N")
    assert found["reason"] == "" and found["lines"] and found["governing"]
    line = np.array(found["lines"][0]["points"])
    worst = found["governing"][0]
    V, N = worst["values"][1], worst["values"][0]
    assert abs(N) < 0.02 * abs(V)
    along = line[np.argmax(line[:, 0] * np.sign(V))]
    assert abs(V) / abs(along[0]) == pytest.approx(worst["utilisation"], rel=0.03)
    assert [g["utilisation"] for g in found["governing"]] == sorted(
        (g["utilisation"] for g in found["governing"]), reverse=True
    )


def test_governing_points_are_of_the_cloud(client):
    whole, slot = shear_place(client)
    of, table = points(client, whole["name"], slot)
    for one in client.pattern_boundary(JOB, whole["name"], slot)["governing"]:
        at = table[of["connections"].index(one["connection"]), of["combinations"].index(one["combination"])]
        assert at == pytest.approx(one["values"], abs=1e-3)


def test_a_place_without_sizes_says_why(client):
    braced = next(p for p in client.patterns(JOB) if "brace_at_corner" in p["framings"])
    whole = client.pattern(JOB, braced["name"])
    slot = next(k for k, place in enumerate(whole["places"]) if place["framing"] == "brace_at_corner")
    found = client.pattern_boundary(JOB, braced["name"], slot)
    assert found["lines"] == [] and "no standard for brace_at_corner" in found["reason"]


def test_one_action_against_itself_has_no_boundary(client):
    found = client.pattern_boundary(JOB, "P1", 0, "V", "V")
    assert found["lines"] == [] and "two different actions" in found["reason"]


def sheets(content: bytes) -> dict[str, list[list[object]]]:
    book = CalamineWorkbook.from_filelike(io.BytesIO(content))
    return {name: book.get_sheet_by_name(name).to_python() for name in book.sheet_names}


def test_the_workbook_holds_every_peak(client):
    """Each largest and smallest of the pattern is a row of the workbook, in its units, with its joint and
    combination."""
    whole, slot = shear_place(client)
    found = sheets(client.pattern_workbook(JOB, whole["name"]))
    assert list(found) == ["joint", "actions", "joints"]
    head, *rows = found["actions"]
    assert head[:8] == ["load", "place", "N, kip", "V, kip", "Vw, kip", "M, kip*ft", "Mw, kip*ft", "T, kip*ft"]
    joint = {m["connections"][slot]: m["joint"] for m in whole["members"]}
    for peak in whole["places"][slot]["peaks"]:
        column = whole["actions"].index(peak["action"])
        if abs(peak["values"][column]) < 0.01:
            continue
        own = [
            r for r in rows if r[1] == slot + 1 and r[8] == joint[peak["connection"]] and r[11] == peak["combination"]
        ]
        assert own, peak
        scale = 4.4482216 if column < 3 else 1.3558179
        assert own[0][2 + column] == pytest.approx(peak["values"][column] / scale, abs=1e-3)
    assert len(found["joints"]) - 1 >= whole["joints"]


def test_points_that_are_picked_go_into_the_workbook(client):
    """With their numbers as the points have them; what runs through is one piece with another place."""
    whole, slot = shear_place(client)
    points = client.pattern_points(JOB, whole["name"], slot)
    key = points["connections"][-1]
    plain = sheets(client.pattern_workbook(JOB, whole["name"]))
    taken = {(r[10], r[11]) for r in plain["actions"][1:]}
    number = next(k for k, name in enumerate(points["combinations"]) if (key, name) not in taken)
    found = sheets(client.pattern_workbook(JOB, whole["name"], [(key, number)]))
    (own,) = [r for r in found["actions"][1:] if r[10] == key and r[11] == points["combinations"][number]]
    assert own[12] == "picked" and len(found["actions"]) > len(plain["actions"])
    values = np.frombuffer(base64.b64decode(points["data"]), "<f4").reshape(-1, len(points["combinations"]), 6)
    assert own[3] == pytest.approx(values[-1, number, 1] / 4.4482216, abs=1e-3)
    through = [cell for row in plain["joint"] for cell in row if str(cell).startswith("one piece with place")]
    assert len(through) >= 2  # the girder, at both of its places
    with pytest.raises(ServiceError, match="no connection"):
        client.pattern_workbook(JOB, whole["name"], [("B9999.i", 0)])
    with pytest.raises(ServiceError, match="there are combinations 0 to"):
        client.pattern_workbook(JOB, whole["name"], [(key, 999)])


def test_a_load_has_every_place_at_once(client):
    whole, _ = shear_place(client)
    _, *rows = sheets(client.pattern_workbook(JOB, whole["name"]))["actions"]
    fastened = sum(bool(p["framing"]) for p in whole["places"])
    loads = {r[0] for r in rows if r[0] != ""}
    assert loads and all(sum(r[0] == load for r in rows) == fastened for load in loads)


def test_a_joint_is_taken_out_and_put_back(client):
    whole, _ = shear_place(client)
    joint = whole["members"][1]["joint"]
    alone = client.put_in_pattern(JOB, joint, "", "its beam is to be reinforced")
    assert (alone["joints"], alone["at"]) == (1, [joint])
    assert client.pattern(JOB, whole["name"])["joints"] == whole["joints"] - 1
    said = client.pattern(JOB, alone["name"])["members"][0]["said"]
    assert said == "taken out of its own by engineer: its beam is to be reinforced"
    assert client.leave_in_pattern(JOB, joint)["name"] == whole["name"]
    assert client.pattern(JOB, whole["name"]) == whole


def test_a_joint_is_put_beside_another(client):
    """A joint of another size that looks the same goes into the pattern; one that does not is refused."""
    whole, slot = shear_place(client)
    beside = whole["members"][0]["joint"]
    with pytest.raises(ServiceError, match="cannot be laid on"):
        base = next(p for p in client.patterns(JOB) if "column_base" in p["framings"])
        client.put_in_pattern(JOB, base["at"][0], beside, "no")
    roles = [words.split(" ")[0] for words in whole["slots"]]
    alike = next(
        p
        for p in client.patterns(JOB)
        if p["name"] != whole["name"]
        and p["framings"] == whole["framings"]
        and [words.split(" ")[0] for words in p["slots"]] == roles
    )
    joint = alike["at"][0]
    found = client.put_in_pattern(JOB, joint, beside, "one detail for both")
    assert found["name"] == whole["name"] and joint in found["at"]
    ids, table = points(client, whole["name"], slot)
    assert (
        len(ids["connections"])
        == len(table)
        == sum(bool(m["connections"][slot]) for m in client.pattern(JOB, whole["name"])["members"])
    )
    client.leave_in_pattern(JOB, joint)


@pytest.mark.parametrize(
    ("joint", "beside", "reason", "words"),
    [
        ("n1", "n1", "why", "name another joint"),
        ("nowhere", "", "why", "is no joint"),
        ("n1", "nowhere", "why", "is no joint"),
        ("n1", "", " ", "say why"),
    ],
)
def test_what_is_refused_of_patterns(client, joint, beside, reason, words):
    with pytest.raises(ServiceError, match=words):
        client.put_in_pattern(JOB, joint, beside, reason)


def test_a_group_by_filter_and_by_name(client):
    made = client.put_group(JOB, "stair core", where="level=2, framing=beam_to_girder")
    assert (
        made["connections"]
        == len(client.connections(JOB, where="level=2, framing=beam_to_girder"))
        == len(made["keys"])
        > 10
    )
    assert made["common"]["framing"] == "beam_to_girder" and sum(made["statuses"].values()) == made["connections"]
    assert {c["connection"] for c in client.connections(JOB, where="group=stair core")} == set(made["keys"])
    rest = client.connections(JOB, where="level=2, group!=stair core")
    assert rest and not {c["connection"] for c in rest} & set(made["keys"])
    some = made["keys"][:3]
    assert client.put_group(JOB, "stair core", some, how="take")["connections"] == made["connections"] - 3
    assert client.put_group(JOB, "stair core", some[:1], how="add")["connections"] == made["connections"] - 2
    for name, values in client.group(JOB, "stair core")["differ"].items():
        assert len(values) > 1 or sum(values.values()) < made["connections"] - 2, name
    run = client.wait(JOB, client.start_run(JOB, where='group="stair core"', verify=True)["id"])
    assert sum(run["counts"].values()) == made["connections"] - 2
    client.drop_group(JOB, "stair core")
    assert "stair core" not in {g["name"] for g in client.groups(JOB)}
    assert len(client.connections(JOB)) == 1115


def test_a_group_follows_its_connections(client):
    """Revision C renames a dozen beams: those of the group stay in it under their new names, what is gone leaves."""
    keys = [c["connection"] for c in client.connections(JOB, where="member=B45")] + ["B100.i"]
    client.put_group(JOB, "east wing", keys)
    client.import_bundle(JOB, Path(DEMO / "revision-c"))
    found = client.group(JOB, "east wing")["keys"]
    assert found == [c["connection"] for c in client.connections(JOB, where="member=B2045")] and len(found) == 2


@pytest.mark.parametrize(
    ("name", "connections", "where", "words"),
    [
        ("a", ["B1.x"], "", "no connection 'B1.x'"),
        ("a", [], "", "made of some"),
        ("a", [], "status=elsewhere", "leaves none"),
        ('a"b', ["B1.i"], "", "without double quotes"),
        (" ", ["B1.i"], "", "a group has a name"),
        ("a", [], "level>2", "is text"),
    ],
)
def test_what_is_refused_of_groups(client, name, connections, where, words):
    with pytest.raises(ServiceError, match=words):
        client.put_group(JOB, name, connections, where)
    with pytest.raises(ServiceError, match="a connection is in a group"):
        client.connections(JOB, where="group~a")
    assert "a" not in [g["name"] for g in client.groups(JOB)]
