"""Whatever fact a rulebook asks for, as a condition, in a table or looked up: list, page, why, override, alternatives
and a dry run agree."""

from __future__ import annotations

import json
import math
from typing import Any

import pytest

from handrail.core.rulebook.facts import FACTS, OF_RULE
from handrail.core.rulebook.tables import SEVERAL
from handrail.core.standards.sizes import NOT_CHOSEN
from handrail.interchange.archive import zip_folder
from handrail.service.application.plans import look_at, plan_of
from handrail.store import jobs
from handrail.store.database import proxy
from tests.bundles import small, with_foundations, write
from tests.service.house import House
from tests.wide import some, wide

BAY = "/jobs/bay"
TAIL = """  - {name: Bases, when: {framing: column_base}, use: base_plate, set: {shear_path: anchors, washers: welded}}
  - {name: Ends, when: {released: true}, use: double_angle}
"""
UNIT = {"length": "mm", "angle": "deg", "stress": "MPa", "force": "N", "moment": "N*mm"}


def told(tables):
    """The small bay with what else rules can ask for: foundations, grid lines, levels, what the author meant, a set of
    service combinations."""
    tables = with_foundations(tables)
    tables["grids"] = [
        dict(zip(("grid", "x1", "y1", "x2", "y2"), row))
        for row in (("A", 0, -5, 0, 25), ("B", 30, -5, 30, 25), ("1", -5, 0, 35, 0), ("2", -5, 20, 35, 20))
    ]
    tables["levels"] = [{"level": "ground", "z": 0}, {"level": "floor", "z": 12}]
    for name in ("grids", "levels"):
        tables["manifest"]["resources"].append({"name": name, "path": f"{name}.csv"})
    for member in tables["members"]:
        member["intent_i"] = "tab" if member["member"] == "G1" else ""
        member["seismic"] = "collector" if member["member"] == "G1" else ""
    for method in ("LRFD", "ASD"):
        tables["combinations"].append(
            {"combination": f"over {method}", "set": "overstrength", "method": method, "case": "D", "factor": "1.5"}
        )
    tables["combinations"].append({"combination": "S", "set": "service", "method": "LRFD", "case": "D", "factor": "1"})
    return tables


@pytest.fixture(scope="module")
def house(tmp_path_factory):
    folder = tmp_path_factory.mktemp("facts")
    made = House(folder)
    zip_folder(write(told(small()), folder / "b"), folder / "b.zip")
    sent = made.send((folder / "b.zip").read_bytes())
    assert sent["state"] == "done", sent
    made.call("PUT", f"{BAY}/rulebook", json={"text": f"rulebook: 1\nrules:\n{TAIL}"})
    made.run()
    made.call("POST", f"{BAY}/labels", json={"connections": ["G1.i"], "add": ["rush"], "sequence": "2"})
    made.call("PUT", f"{BAY}/groups/some", json={"connections": ["G1.i", "C1.i"], "how": "add"})
    yield made
    made.close()


def condition(name: str, value: Any) -> Any:
    """What a fact with this value, in the core's units, holds."""
    kind = FACTS[name.partition("@")[0]].kind
    if kind in UNIT:
        value = math.degrees(value) if kind == "angle" else value
        near = abs(value) * 1e-6 + 1e-6
        return f"{value - near:.9f} {UNIT[kind]} .. {value + near:.9f} {UNIT[kind]}"
    if kind == "flag":
        return value
    return value[0] if isinstance(value, list | tuple) else str(value)


def facts_of(house: House) -> list[tuple[str, str, Any]]:
    """(connection, fact, condition) of everything that a connection has."""
    found = []
    asking = "  - {name: Labels, when: {tag: none, group: none, sequence: none, pattern: none}, use: single_plate}\n"
    house.call("PUT", f"{BAY}/rulebook", json={"text": f"rulebook: 1\nrules:\n{asking}{TAIL}"})
    with proxy.connection_context():
        plan = plan_of(look_at(jobs.find_job("bay")))
        for k, assigned in enumerate(plan.by_rules):
            if assigned.situation is not None:
                known = plan.facts(k, assigned.situation, every=True)
                found += [
                    (assigned.connection.id, n, condition(n, v))
                    for n, v in known.items()
                    if v is not None and v != "" and n in FACTS
                ]
    return found


def shown(house: House) -> dict[str, dict]:
    """Every connection in the list and by itself; they have to say the same, and whatever can be asked of one is
    answered."""
    rows = {c["connection"]: c for c in house.call("GET", f"{BAY}/connections").json["items"]}
    for name, row in rows.items():
        page = house.call("GET", f"{BAY}/connections/{name}")
        assert page.status_code == 200, (name, page.json)
        for key in ("status", "rule", "standard", "reason", "utilisation", "summary"):
            assert page.json[key] == row[key], (name, key, page.json[key], row[key])
        assert page.json["stale"] == row["reason"].startswith("stale"), (name, page.json["stale"], row["reason"])
        why = house.call("GET", f"{BAY}/connections/{name}/rule")
        assert why.status_code == 200, (name, why.json)
        if not page.json["stale"]:
            assert why.json["rule"] == row["rule"], (name, why.json["rule"], row["rule"])
        if not row["standard"]:
            continue
        for kind, path, body in (
            (
                "alternatives",
                "alternatives",
                {"alternatives": [{"parameters": {OTHER[row["standard"]][0]: OTHER[row["standard"]][1]}}]},
            ),
            ("matrix", "matrix", None),
        ):
            answer = house.call(
                "POST" if body else "GET", f"{BAY}/connections/{name}/{path}", **({"json": body} if body else {})
            )
            assert answer.status_code in (200, 409), (name, kind, answer.json)
            assert answer.status_code == 200 or page.json["stale"], (name, kind, answer.json)
        change = {"connections": [name], "changes": dict([OTHER[row["standard"]]]), "preview": True}
        tried = house.call("POST", f"{BAY}/changes", json=change)
        assert tried.status_code == 200, (name, tried.json)
    return rows


OTHER = {
    "base_plate": ("weld_size", "3/8 in"),
    "double_angle": ("bolt", "7/8 A325-N"),
    "single_plate": ("bolt", "7/8 A325-N"),
}


def agree(house: House, text: str) -> dict[str, dict]:
    """The rows by a rulebook, which all that shows them agrees on before a run and after it, as a dry run does."""
    put = house.call("PUT", f"{BAY}/rulebook", json={"text": text})
    assert put.status_code == 200, (text, put.json)
    shown(house)
    house.run()
    rows = shown(house)
    assert not [name for name, row in rows.items() if row["reason"].startswith("stale")]
    tried = house.call("POST", f"{BAY}/rulebook/try", json={"text": text}).json
    assert tried["compared"]["touched"] == 0, tried["compared"]
    return rows


def test_every_fact_as_a_condition(house):
    """Rules that would take a connection if it lacked a fact that it has stand first: nothing may be taken by them."""
    facts = facts_of(house)
    missing = set(FACTS) - {name for _, name, _ in facts}
    assert missing <= {"face", "T", "T.max", "T.min", *OF_RULE}, missing  # which also-rules alone can ask for
    rules = [
        {"name": f"lacks {fact} {k}", "when": {"connection": connection, "not": {fact: asked}}, "use": "single_plate"}
        for k, (connection, fact, asked) in enumerate(facts)
    ]
    for k in range(0, len(rules), 400):
        some = "".join(f"  - {json.dumps(rule)}\n" for rule in rules[k : k + 400])
        rows = agree(house, f"rulebook: 1\nrules:\n{some}{TAIL}")
        assert {row["rule"] for row in rows.values()} <= {"Bases", "Ends", ""}, [r["rule"] for r in rows.values()]


GIVEN = {
    "C": ("base_plate", "weld_size", "1/2 in", "shear_path: anchors, washers: welded, "),
    "G": ("single_plate", "plate_thickness", "7/16 in", ""),
}


def by_table(number: int, connection: str, fact: str, asked: Any) -> tuple[str, str]:
    """A table with a row for a fact of a connection, and the rule that takes it by that row and has a size looked up
    there."""
    use, size, value, more = GIVEN["C" if connection.startswith("C") else "G"]
    quantity = FACTS[fact.partition("@")[0]].kind in UNIT or FACTS[fact.partition("@")[0]].kind == "number"
    row = {fact: str(asked).lower() if isinstance(asked, bool) else str(asked), size: value}
    table = {"by": fact, **({"match": "range"} if quantity else {}), "rows": [row]}
    rule = (
        f"  - {{name: By {fact} {number}, when: {{connection: {connection}, row_in: t{number}}}, use: {use}, "
        f'set: {{{more}{size}: "= look_up(t{number}, {size})"}}}}\n'
    )
    return f"  t{number}: {json.dumps(table)}\n", rule


@wide
def test_every_fact_in_a_table_and_looked_up(house):
    """Each fact once, on a connection that has it; as many in one rulebook as there are connections."""
    having: dict[str, list[tuple[str, Any]]] = {}
    for connection, fact, asked in facts_of(house):
        if fact not in SEVERAL:  # tables are found by what a connection has one of
            having.setdefault(fact, []).append((connection, asked))
    mine: dict[str, list[tuple[str, Any]]] = {}
    for fact, own in having.items():
        connection, asked = min(own, key=lambda one: len(mine.get(one[0], [])))
        mine.setdefault(connection, []).append((fact, asked))
    assert len({fact for own in mine.values() for fact, _ in own}) > 50
    for turn in range(max(map(len, mine.values()))):
        some = [(c, *own[turn]) for c, own in mine.items() if turn < len(own)]
        made = [by_table(k, *one) for k, one in enumerate(some)]
        text = f"rulebook: 1\ntables:\n{''.join(t for t, _ in made)}rules:\n{''.join(r for _, r in made)}{TAIL}"
        rows = agree(house, text)
        for k, (connection, fact, _) in enumerate(some):
            assert rows[connection]["rule"] == f"By {fact} {k}", (
                fact,
                rows[connection]["rule"],
                rows[connection]["reason"],
            )
            sizes = {p["name"]: p for p in house.call("GET", f"{BAY}/connections/{connection}").json["parameters"]}
            size = GIVEN["C" if connection.startswith("C") else "G"][1]
            assert sizes[size]["text"] == GIVEN["C" if connection.startswith("C") else "G"][2], (fact, sizes[size])


def test_layers_and_formulas_with_facts(house):
    """Also-rules, targets, formulas with facts and cases, metric stock: list, page, why, dry run and run agree."""
    also = """also:
  - {name: Stout, when: {supported.length: "> 1 m", "V@D": "> 0.001 kN"}, least: {rows: 3, plate_thickness: 10 mm}}
  - name: Ends
    when: {standard: double_angle}
    target_utilisation: 0.5
    set: {bolt: "= 'M20 A325M-N' if V_share > 0.01 else 'M16 A325M-N'"}
  - {name: Bases, use: base_plate, least: {plate_thickness: "= 30 mm if foundation.fc > 3 ksi else 20 mm"}}
"""
    rows = agree(house, f"rulebook: 1\npractice: {{stock: mm}}\nrules:\n{TAIL}{also}")
    why = house.call("GET", f"{BAY}/connections/G1.i/rule").json
    assert [a["rule"] for a in why["also"] if a["took"]] == ["Stout", "Ends"] and why["target"] == 0.5
    page = house.call("GET", f"{BAY}/connections/G1.i").json
    assert page["target"] == 0.5 and {p["name"]: p["text"] for p in page["parameters"]}["bolt"] == "M20 A325M-N"
    assert rows["C1.i"]["status"] in ("pass", "fail")


@wide
def test_another_standard_by_the_rulebook_or_a_label(house):
    """Before the run everything that shows it says that it is stale, with the old result; after it everything is
    new."""
    plain = f"rulebook: 1\nrules:\n{TAIL}"
    agree(house, plain)
    rush = "  - {name: Rush, when: {tag: rush}, use: single_plate}\n"
    for text in (plain.replace("use: double_angle", "use: single_plate"), plain, f"rulebook: 1\nrules:\n{rush}{TAIL}"):
        agree(house, text)
    house.call("POST", f"{BAY}/labels", json={"connections": ["G2.j"], "add": ["rush"]})
    rows = shown(house)
    assert rows["G2.j"]["reason"].startswith("stale") and rows["G2.j"]["standard"] == "double_angle"
    page = house.call("GET", f"{BAY}/connections/G2.j").json
    assert page["checks"] and page["parameters"] and any("single_plate" in note for note in page["notes"])
    house.run()
    assert shown(house)["G2.j"]["standard"] == "single_plate"
    house.call("POST", f"{BAY}/labels", json={"connections": ["G2.j"], "remove": ["rush"]})


def test_a_decided_or_verified_connection_follows_the_rulebook_like_its_neighbours(house):
    """A later rulebook makes it stale, and its release falls with it."""
    plain = f"rulebook: 1\nrules:\n{TAIL}"
    agree(house, plain)
    made = house.call(
        "POST", f"{BAY}/connections/G2.j/overrides", json={"parameter": "bolt", "value": "7/8 A325-N", "reason": "so"}
    )
    assert made.status_code == 201, made.json
    numbers = [o["id"] for o in house.call("GET", f"{BAY}/overrides?state=holding").json["items"]]
    assert (
        house.call("POST", f"{BAY}/overrides/review", json={"act": "accept", "overrides": numbers}).status_code == 200
    )
    house.run(verify=True)
    house.call("POST", f"{BAY}/releases", json={"where": "status=pass", "skip": True, "word": "so"})
    before = shown(house)
    assert before["G2.j"]["released"] or before["G2.j"]["status"] != "pass"
    house.call(
        "PUT",
        f"{BAY}/rulebook",
        json={"text": plain.replace("use: double_angle", "use: double_angle, set: {pitch: 3-1/2 in}")},
    )
    after = shown(house)
    for name in ("G1.i", "G2.j", "B1.i"):
        assert after[name]["reason"].startswith("stale") and not after[name]["released"], name
    assert not after["C1.i"]["reason"].startswith("stale")
    overrides = house.call("GET", f"{BAY}/overrides").json["items"]
    house.call("DELETE", f"{BAY}/overrides/{overrides[0]['id']}")
    house.run()


CLIMBING = """rulebook: 1
practice: {target_utilisation: 0.5}
rules:
  - {name: Bases, when: {framing: column_base}, use: base_plate, set: {shear_path: anchors, washers: welded}}
  - name: Ends
    when: {released: true}
    use: single_plate
    ladder: {climb: [{rows: 2 .. 5}, {plate_thickness: [1/4 in, 3/8 in]}], order: lightest}
"""


@pytest.mark.parametrize(
    ("name", "parameter", "value"),
    some(
        [
            ("G1.i", "bolt", "1 A490-X"),
            ("G1.i", "pitch", "4 in"),
            ("G2.j", "plate_thickness", "1/2 in"),
            ("B1.i", "rows", "4"),
            ("C1.i", "plate_length", "30 in"),
            ("C1.i", "rod", "1 F1554-55"),
        ],
        2,
    ),
)
def test_a_decision_shows_what_the_next_run_finds(house, name, parameter, value):
    """Already in its preview, with what the ladder takes otherwise then; alone as among many."""
    agree(house, CLIMBING)
    before = house.call("GET", f"{BAY}/connections/{name}").json
    body = {"parameter": parameter, "value": value, "reason": "so"}
    preview = house.call("POST", f"{BAY}/connections/{name}/overrides", json=body | {"preview": True}).json["after"]
    many = house.call(
        "POST", f"{BAY}/changes", json={"connections": [name], "changes": {parameter: value}, "preview": True}
    ).json["worst"][0]["after"]
    made = house.call("POST", f"{BAY}/connections/{name}/overrides", json=body)
    assert made.status_code == 201, made.json
    now = house.call("GET", f"{BAY}/connections/{name}").json
    house.run()
    then = house.call("GET", f"{BAY}/connections/{name}").json
    for key in ("status", "utilisation", "summary", "parameters", "reason"):
        assert now[key] == then[key], key
    for told in (preview, many, made.json["after"]):
        assert (told["status"], told["utilisation"]) == (then["status"], pytest.approx(then["utilisation"], abs=1e-6))
        sizes = {p["name"]: (p["text"], p["source"]) for p in before["parameters"]}
        other = {
            p["name"]
            for p in then["parameters"]
            if p["text"] != sizes[p["name"]][0] and not {p["source"], sizes[p["name"]][1]} <= set(NOT_CHOSEN)
        }
        assert {words.split()[0] for words in told.get("also", [])} == other - {parameter}
    house.call("DELETE", f"{BAY}/overrides/{made.json['id']}")
    house.run()


def test_every_fact_is_a_filter(house):
    """A connection is among those that a filter by any of its facts leaves, and not among those of which it does not
    hold."""
    agree(house, f"rulebook: 1\nrules:\n{TAIL}")
    for name in ("G1.i", "C1.i"):
        for connection, fact, asked in facts_of(house):
            if connection != name or (isinstance(asked, str) and any(c in asked for c in ",|")):
                continue
            text = asked if not isinstance(asked, bool) else str(asked).lower()
            inside, outside = (
                house.call("GET", f"{BAY}/connections", query_string={"where": f"{fact}{sign}{text}"})
                for sign in ("=", "!=")
            )
            if fact in ("elevation", "released"):  # of lists their own: mm without a unit, and by whom it is released
                continue
            assert inside.status_code == outside.status_code == 200, (fact, text, inside.json, outside.json)
            there, others = ({c["connection"] for c in found.json["items"]} for found in (inside, outside))
            assert name in there and name not in others, (fact, text)
    agree(house, f"rulebook: 1\nrules:\n{TAIL}")
    for where, words in (
        ("fixity=loose", "is none of"),
        ("skew~5", "is compared with"),
        ("skew>five", "skew"),
        ("fixty=fixed", "is not a filter"),
        ("braced=perhaps", "true or false"),
        ("fixity>1", "is text"),
    ):
        refused = house.call("GET", f"{BAY}/connections", query_string={"where": where})
        assert refused.status_code == 422 and words in refused.json["detail"], (where, refused.json)
    run = house.call("POST", f"{BAY}/runs", json={"where": "supported.section=W18*, V>1 kip"})
    assert run.status_code == 202
    house.work()
    assert house.call("GET", f"{BAY}/runs").json["items"][0]["state"] == "done"


def test_the_rest_held_as_it_stood(house):
    """What the ladder climbed stays with a decision that would have it otherwise, by overrides of the same reason."""
    agree(house, CLIMBING)
    before = house.call("GET", f"{BAY}/connections/G1.i").json
    climbed = {p["name"]: p["text"] for p in before["parameters"] if p["source"].startswith("rung")}
    assert climbed
    body = {"changes": {"bolt": "1 A490-X"}, "reason": "so", "hold": True}
    made = house.call("POST", f"{BAY}/connections/G1.i/changes", json=body)
    assert made.status_code == 201 and {o["parameter"] for o in made.json["overrides"]} == {"bolt", *climbed}, made.json
    house.run()
    after = {
        p["name"]: (p["text"], p["source"]) for p in house.call("GET", f"{BAY}/connections/G1.i").json["parameters"]
    }
    assert {name: after[name] for name in climbed} == {name: (text, "override") for name, text in climbed.items()}
    for o in house.call("GET", f"{BAY}/overrides?state=holding").json["items"]:
        house.call("DELETE", f"{BAY}/overrides/{o['id']}")
    refused = house.call(
        "POST",
        f"{BAY}/connections/G1.i/changes",
        json={"changes": {"standard": "double_angle"}, "reason": "so", "hold": True},
    )
    assert refused.status_code == 422
