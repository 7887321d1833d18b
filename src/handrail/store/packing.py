"""A building as bytes and back: whole, without its nodes and members, member by member, and as the console draws it."""

from __future__ import annotations

import io
import json
import zlib
from collections.abc import Sequence
from dataclasses import asdict, replace
from typing import Any

import numpy as np

from handrail.core.building.base_reactions import braced, support_reaction
from handrail.core.building.framing import Framing
from handrail.core.building.model import Building, Case, Combination, Foundation, GridLine, Level, Member, NodeForces
from handrail.core.building.places import level_names, places
from handrail.core.catalogue import Section
from handrail.core.joint.connection import Connection, Joined

_PLAIN = (
    "name",
    "title",
    "revision",
    "date",
    "source",
    "units",
    "nodes",
    "results",
    "forces_at",
    "north",
    "category",
    "unread",
    "pieces_differ",
    "pieces_alone",
)
_TUPLES = ("unread", "pieces_differ", "pieces_alone")


def pack(building: Building) -> bytes:
    """Everything but the member forces, compressed."""
    data: dict[str, Any] = {name: getattr(building, name) for name in _PLAIN}
    data["members"] = [_member(m) for m in building.members]
    data["supports"] = [[k, *map(int, v)] for k, v in building.supports.items()]
    data["cases"] = [asdict(c) for c in building.cases]
    data["combinations"] = [asdict(c) for c in building.combinations]
    data["own_sections"] = [asdict(s) for s in building.own_sections.values()]
    data["diaphragms"] = list(building.diaphragms.items())
    data["foundations"] = [[k, asdict(f)] for k, f in building.foundations.items()]
    data["spliced"] = sorted(building.spliced)
    data["grids"] = [[g.name, g.start, g.end] for g in building.grids]
    data["levels"] = [[level.name, level.z] for level in building.levels]
    data["unknown_splices"] = list(building.unknown_splices.items())
    arrays = io.BytesIO()
    np.savez(
        arrays,
        xyz=building.xyz,
        **{
            f"{name}_{part}": getattr(getattr(building, name), part)
            for name in ("reactions", "node_loads")
            for part in ("node", "result", "values")
        },
    )
    text = json.dumps(data, separators=(",", ":")).encode()
    return len(text).to_bytes(8, "big") + zlib.compress(text + arrays.getvalue(), 3)


def unpack(blob: bytes, forces: np.ndarray) -> Building:
    """The building again, with its member forces."""
    size, raw = int.from_bytes(blob[:8], "big"), zlib.decompress(blob[8:])
    data, arrays = json.loads(raw[:size]), np.load(io.BytesIO(raw[size:]))
    node_forces = {
        n: NodeForces(*(arrays[f"{n}_{p}"] for p in ("node", "result", "values"))) for n in ("reactions", "node_loads")
    }
    plain: dict[str, Any] = {
        **{name: data[name] for name in _PLAIN if name in data and name not in ("nodes", "results", *_TUPLES)},
        **{name: tuple(data.get(name, ())) for name in _TUPLES},
        **node_forces,
    }
    return Building(
        **plain,
        nodes=tuple(data["nodes"]),
        results=tuple(data["results"]),
        xyz=arrays["xyz"],
        members=tuple(_as_member(m) for m in data["members"]),
        supports={row[0]: tuple(bool(v) for v in row[1:]) for row in data["supports"]},
        cases=tuple(Case(**c) for c in data["cases"]),
        combinations=tuple(
            Combination(c["name"], c["set"], c["method"], tuple((n, f) for n, f in c["terms"]))
            for c in data["combinations"]
        ),
        forces=forces,
        own_sections={s["name"]: Section(**s) for s in data["own_sections"]},
        diaphragms={k: v for k, v in data["diaphragms"]},
        foundations={k: _foundation(f) for k, f in data.get("foundations", ())},
        spliced=frozenset(data.get("spliced", ())),
        unknown_splices={k: why for k, why in data.get("unknown_splices", ())},
        grids=tuple(GridLine(name, tuple(start), tuple(end)) for name, start, end in data.get("grids", ())),
        levels=tuple(Level(name, z) for name, z in data.get("levels", ())),
    )


def _member(m: Member) -> dict[str, Any]:
    return {**m.__dict__, "release_i": sorted(m.release_i), "release_j": sorted(m.release_j)}


def _as_member(data: dict[str, Any]) -> Member:
    return Member(**{**data, "release_i": frozenset(data["release_i"]), "release_j": frozenset(data["release_j"])})


def head(building: Building) -> bytes:
    """What all members have in common: cases, combinations, own sections, names, grid lines and levels."""
    none = NodeForces.none()
    bare = replace(
        building,
        nodes=(),
        xyz=np.zeros((0, 3)),
        members=(),
        supports={},
        forces=building.forces[:0],
        reactions=none,
        node_loads=none,
        diaphragms={},
        foundations={},
        spliced=frozenset(),
        unknown_splices={},
    )
    return pack(bare)


def member_facts(building: Building, index: int, role: str) -> dict[str, Any]:
    """One member with its role and both its nodes, as it is kept beside its forces."""
    m = building.members[index]
    return {
        "member": _member(m),
        "role": role,
        "nodes": [[building.nodes[k], *building.xyz[k].tolist()] for k in (m.i, m.j)],
    }


_USUAL = (  # what most members' facts have in them
    b'{"member":{"name":"","i":0,"j":0,"section":"W","grade":"A992","roll":0.0,"role":"beam","physical":"","release_i":'
    b'["My","Mz"],"release_j":["My","Mz"],"top_offset":0.0,"intent_i":"","intent_j":"","end_offset_i":0.0,'
    b'"end_offset_j":0.0,"seismic":"","lateral":""},"role":"column","nodes":[["",0.0,0.0,0.0],["",0.0,0.0,0.0]]}'
)


def pack_facts(facts: dict[str, Any]) -> bytes:
    """`member_facts` as they are kept."""
    packer = zlib.compressobj(6, zdict=_USUAL)
    return packer.compress(json.dumps(facts, separators=(",", ":")).encode()) + packer.flush()


def unpack_facts(data: bytes) -> dict[str, Any]:
    """`member_facts` as `pack_facts` kept them."""
    return dict(json.loads(zlib.decompressobj(zdict=_USUAL).decompress(data)))


def pack_forces(forces: np.ndarray) -> bytes:
    """A member's forces as they are kept, not a bit of them lost: the first bytes of all numbers, then the second, as
    those of one place are more alike than those of one number."""
    return zlib.compress(np.ascontiguousarray(forces).view(np.uint8).reshape(-1, 8).T.tobytes(), 1)


def unpack_forces(data: bytes, packed: bool) -> np.ndarray:
    """A member's forces, one after the other, as `pack_forces` kept them, or as they are."""
    if not packed:
        return np.frombuffer(data)
    return np.frombuffer(zlib.decompress(data), np.uint8).reshape(8, -1).T.copy().view(np.float64)[:, 0]


def assemble(
    common: Building, rows: Sequence[tuple[dict[str, Any], np.ndarray]]
) -> tuple[Building, tuple[str, ...], dict[int, int]]:
    """A building of a few members out of what `head` and `member_facts` kept, their roles, and where each node went."""
    where: dict[int, int] = {}
    nodes: list[str] = []
    xyz: list[list[float]] = []
    members: list[Member] = []
    for facts, _ in rows:
        member = _as_member(facts["member"])
        for index, (name, *at) in zip((member.i, member.j), facts["nodes"], strict=True):
            if index not in where:
                where[index] = len(nodes)
                nodes.append(name)
                xyz.append(at)
        members.append(replace(member, i=where[member.i], j=where[member.j]))
    forces = np.stack([own for _, own in rows]).reshape(len(rows), -1, 2, 6)
    building = replace(common, nodes=tuple(nodes), xyz=np.array(xyz), members=tuple(members), forces=forces)
    return building, tuple(facts["role"] for facts, _ in rows), where


def beside(building: Building, c: Connection) -> dict[str, Any]:
    """What a base's check needs beside its column: the members that meet there, the foundation, and the reaction where
    braces land too; of a splice why its forces are not known; nothing of other connections."""
    if c.node in building.unknown_splices:
        return {"unknown": building.unknown_splices[c.node]}
    if c.framing != "column_base":
        return {}
    meeting = [m for m, _ in building.ends_at[c.node]]
    below = building.foundations.get(c.node)
    reaction = support_reaction(building, c.node).tolist() if braced(building, c.node) else None
    return {"meeting": meeting, "foundation": asdict(below) if below else None, "reaction": reaction}


def with_beside(building: Building, at: dict[str, Any], nodes: dict[int, int]) -> Building:
    """A building of a few members with what `beside` kept of the base or the splice at one of its nodes, if it is of
    one."""
    if "unknown" in at:
        return replace(building, unknown_splices={nodes[at["node"]]: at["unknown"]})
    if "meeting" not in at:
        return building
    node, below, reaction = nodes[at["node"]], at["foundation"], at["reaction"]
    whole = replace(building, foundations={node: _foundation(below)} if below else {})
    if reaction is None:
        return whole
    given = np.array(reaction, float)
    return replace(whole, reactions=NodeForces(np.full(len(given), node), np.arange(len(given)), given))


def _foundation(data: dict[str, Any]) -> Foundation:
    return Foundation(**{**data, "edges": tuple(data["edges"])})


_MET = ("skew", "slope", "offset", "face", "ends_here")


def piece(building: Building, joined: Joined) -> dict[str, Any]:
    """A member at a connection as it is kept: by role, with its name and its number."""
    member = building.members[joined.member]
    own = {"role": joined.role, "member": member.name, "section": member.section, "grade": member.grade}
    met = {name: getattr(joined, name) for name in _MET}
    return own | met | {"number": joined.member, "ends": [list(end) for end in joined.ends]}


def members_of(kept: dict[str, Any]) -> set[int]:
    """The numbers of the members that a kept piece is made of."""
    return {kept["number"], *(m for m, _ in kept["ends"])}


def as_piece(kept: dict[str, Any], index: dict[int, int]) -> Joined:
    """A kept piece in a building of a few members, where `index` has each of their numbers."""
    ends = tuple((index[m], end) for m, end in kept["ends"])
    return Joined(kept["role"], index[kept["number"]], ends, **{name: kept[name] for name in _MET})


def drawn(building: Building, framing: Framing) -> bytes:
    """What the console draws: nodes with their places, members with the way that their depth points, ends without a
    connection, grid lines, levels, north. JSON, compressed."""
    members = []
    for k, m in enumerate(building.members):
        section = building.section(m.section)
        members.append(
            {
                "member": m.name,
                "i": m.i,
                "j": m.j,
                "section": m.section,
                "grade": m.grade,
                "role": framing.pieces.roles[k],
                "piece": framing.pieces.piece[k],
                "shape": section.family if section else "",
                "depth": section.d if section else 200.0,
                "width": section.bf if section else 100.0,
                "up": [round(float(v), 4) for v in building.axes[k, 1]],
            }
        )
    names = zip(building.nodes, places(building), level_names(building), strict=True)
    data = {
        "title": building.title,
        "system": building.system,
        "nodes": [
            {
                "node": n,
                "xyz": [round(float(v), 1) for v in building.xyz[k]],
                "place": place,
                "level": level,
                "support": _held(building, k),
            }
            for k, (n, place, level) in enumerate(names)
        ],
        "members": members,
        "without": [{"end": end, "words": words} for end, words in framing.without],
        "grids": [{"grid": g.name, "start": g.start, "end": g.end} for g in building.grids],
        "levels": [{"level": level.name, "z": level.z} for level in building.levels],
        "north": None if building.north is None else round(float(np.degrees(building.north)), 3),
    }
    return zlib.compress(json.dumps(data, separators=(",", ":")).encode(), 3)


def _held(building: Building, node: int) -> str:
    """fixed, pinned or other where a node is supported; empty where it is not."""
    held = building.supports.get(node, ())
    if not any(held):
        return ""
    return "fixed" if held[3] and held[4] else "pinned" if held[0] and held[1] and held[2] else "other"
