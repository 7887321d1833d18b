"""The questions that a program's tables leave open, put to statics: what is read through a draft is a frame, and each
answer either closes or does not."""

from __future__ import annotations

import copy
import math
import tempfile
import tomllib
from pathlib import Path
from typing import Any

import numpy as np
import polars as pl
import tomlkit

from handrail.core.building.senses import SWAP, Frame, Sense, Tried, best_sense, judge
from handrail.core.errors import InputError
from handrail.core.quantities import units
from handrail.interchange.columnmap.applying import bundled
from handrail.interchange.columnmap.drafts import Draft, Spec, Whole, text_of
from handrail.interchange.columnmap.language import ASK
from handrail.interchange.columnmap.parsing import read_map
from handrail.interchange.columnmap.words import SIX
from handrail.interchange.problems import BundleError

READ = 8 * 1024**2  # bytes of each file that are tried
NEEDED = ("nodes", "members", "supports", "end_forces", "reactions", "node_loads", "cases")
ANY = {"length": "m", "section": "mm", "force": "kN", "moment": "kN*m"}
MOMENTS = ("kN*m", "N*mm", "N*m", "kN*mm", "kN*cm", "kip*ft", "kip*in", "lbf*ft", "lbf*in")
ENOUGH = 0.5  # of the nodes and members that have to close, for an answer to be taken
WORDS = {"internal": "as the section's", "on_member": "as the node's on the member"}


def answer(whole: Whole, root: Path) -> None:
    """Write into the draft what statics says: forces, up, the way of webs, signs and y for z, units of moments; with
    the figure for each answer."""
    frame = read_frame(whole, root)
    if frame is None or not len(frame.ends) or not frame.forces.shape[1]:
        return
    best, others = best_sense(frame)
    if not best.nodes or best.out > ENOUGH * best.nodes:
        whole.why["forces"] += f"; no answer closes: {best.out} of {best.nodes} nodes are out at best"
        return
    other = min((t for t in others if t.sense.forces != best.sense.forces), key=lambda t: t.left)
    whole.stated["forces"] = best.sense.forces
    whole.why["forces"] = f"{WORDS[best.sense.forces]} {_said(best)}; {WORDS[other.sense.forces]} {_said(other)}"
    turned = min((t for t in others if t.sense.up != best.sense.up), key=lambda t: t.left)
    whole.stated["up"], whole.stated["vertical_y"] = best.sense.up, best.sense.toward
    whole.why["up"] = f"{_said(best)}; with {turned.sense.up} {_said(turned)}"
    way = min(
        (
            t
            for t in others
            if t.sense.toward != best.sense.toward
            and t.sense.up == best.sense.up
            and t.sense.forces == best.sense.forces
            and t.sense.swapped == best.sense.swapped
        ),
        key=lambda t: t.left,
    )
    whole.why["vertical_y"] = f"the web of a column without roll; {_said(best)}, with {way.sense.toward} {_said(way)}"
    _write(whole, frame, best)
    _moments(whole, best)


def tried(text: str, root: Path) -> str:
    """The text of a map with what statics says of it, as it reads now: forces, up, vertical_y, and signs of components,
    reactions and loads. Raises InputError where it cannot be read, or no answer closes."""
    document = tomlkit.parse(text)
    probe = tomllib.loads(text)
    probe |= {
        "forces": "internal",
        "up": "Z",
        "units": {k: ANY.get(k, v) if v == ASK else v for k, v in {**ANY, **probe.get("units", {})}.items()},
    }
    probe["tables"] = {name: node for name, node in probe.get("tables", {}).items() if name in NEEDED}
    probe.pop("vertical_y", None)
    with tempfile.TemporaryDirectory(prefix="handrail-") as scratch:
        try:
            bundled(read_map(tomlkit.dumps(probe)), root, Path(scratch), most=READ)
            frame = _frame(Path(scratch))
        except (BundleError, pl.exceptions.PolarsError) as exc:
            raise InputError(f"it cannot be tried yet: {exc}") from exc
    if frame is None or not len(frame.ends) or not frame.forces.shape[1]:
        raise InputError("it cannot be tried yet: nodes, members and end_forces are needed, with all that they need")
    best, others = best_sense(frame)
    if not best.nodes or best.out > ENOUGH * best.nodes:
        raise InputError(f"no answer closes: {best.out} of {best.nodes} nodes are out at best")
    other = min((t for t in others if t.sense.forces != best.sense.forces), key=lambda t: t.left)
    for name, value, why in (
        (
            "forces",
            best.sense.forces,
            f"{WORDS[best.sense.forces]} {_said(best)}; {WORDS[other.sense.forces]} {_said(other)}",
        ),
        ("up", best.sense.up, ""),
        ("vertical_y", best.sense.toward, ""),
    ):
        document[name] = tomlkit.string(value).comment(why) if why else value
    _into(document, best.sense)
    return tomlkit.dumps(document)


def _into(document: tomlkit.TOMLDocument, sense: Sense) -> None:
    """Signs and y for z into the map's columns."""
    tables: Any = document["tables"]
    forces = tables["end_forces"]
    for columns in [forces["ends"][end] for end in ("i", "j") if end in forces.get("ends", {})] or [forces["columns"]]:
        if sense.swapped:
            exchanged = {SIX[k]: columns[SIX[SWAP[k]]] for k in range(6)}
            for name, spec in exchanged.items():
                columns[name] = spec
        for name, sign in zip(SIX, sense.signs, strict=True):
            _turned(columns, name, sign)
    for table, sign in (("reactions", sense.reactions), ("node_loads", sense.loads)):
        for name in SIX if table in tables and sign < 0 else ():
            _turned(tables[table]["columns"], name, sign)


def _turned(columns: Any, name: str, sign: int) -> None:
    if sign > 0 or name not in columns:
        return
    given = columns[name]
    spec = {"column": str(given)} if isinstance(given, str) else dict(given)
    if "value" not in spec:
        factor = -float(spec.pop("factor", 1))
        table = tomlkit.inline_table()
        table.update(spec | ({} if factor == 1 else {"factor": int(factor) if factor.is_integer() else factor}))
        columns[name] = spec["column"] if list(table) == ["column"] else table


def _said(tried: Tried) -> str:
    members = f", {tried.open} of {tried.members} members do not close" if tried.open else ""
    return f"{tried.out} of {tried.nodes} nodes are out{members}"


def _write(whole: Whole, frame: Frame, best: Tried) -> None:
    """Signs and y for z into the columns."""
    forces = whole.table("end_forces")
    assert forces is not None
    sense = best.sense
    for own in forces.ends.values() or [forces.columns]:
        if sense.swapped:
            exchanged = {SIX[k]: own[SIX[SWAP[k]]] for k in range(6)}
            own |= {name: exchanged[name] for name in SIX}
        for name, sign in zip(SIX, sense.signs, strict=True):
            _turn(own[name], sign)
    if sense.swapped:
        without = judge(
            frame, Sense(sense.forces, sense.up, sense.toward, False, sense.signs, sense.reactions, sense.loads)
        )
        forces.notes.append(f"its y and z are another way round than ours: as they stand {_said(without)}")
    if any(sign < 0 for sign in sense.signs):
        plain = judge(
            frame, Sense(sense.forces, sense.up, sense.toward, sense.swapped, (1,) * 6, sense.reactions, sense.loads)
        )
        named = ", ".join(name for name, sign in zip(SIX, sense.signs, strict=True) if sign < 0)
        forces.notes.append(f"{named} the other way round: with all signs as they stand {_said(plain)}")
    if sense.swapped and (members := whole.table("members")) is not None:
        for end in "ij":
            _swap_release(members.columns.get(f"release_{end}", {}), members.texts.get(f"release_{end}", []))
    for table, sign in (("reactions", sense.reactions), ("node_loads", sense.loads)):
        draft = whole.table(table)
        if draft is None:
            continue
        other = Sense(
            sense.forces,
            sense.up,
            sense.toward,
            sense.swapped,
            sense.signs,
            *((-sense.reactions, sense.loads) if table == "reactions" else (sense.reactions, -sense.loads)),
        )
        for name in SIX:
            _turn(draft.columns[name], sign)
        way = "of the support on the frame" if (sign > 0) == (table == "reactions") else "of the frame on the support"
        said = (
            f"forces {way}"
            if table == "reactions"
            else "loads on the frame"
            if sign > 0
            else "loads with the other sign"
        )
        draft.notes.append(f"{said}: {_said(best)}; the other way round {judge(frame, other).out}")


def _turn(spec: Spec, sign: int) -> None:
    if sign < 0 and "value" not in spec:
        spec["factor"] = -spec.get("factor", 1)


def _swap_release(spec: Spec, texts: list[str]) -> None:
    """Releases by the program's own y and z, which are another way round."""
    other = {"Vy": "Vz", "Vz": "Vy", "My": "Mz", "Mz": "My"}
    if "flags" in spec:
        spec["flags"] = {other.get(ours, ours): theirs for ours, theirs in spec["flags"].items()}
    elif spec and "value" not in spec:
        meant = spec.get("values") or {t: t for t in texts if t}
        swapped = {
            text: words if words == ASK else " ".join(other.get(w, w) for w in words.split())
            for text, words in meant.items()
        }
        if swapped != {t: t for t in swapped}:
            spec["values"] = swapped


def _moments(whole: Whole, best: Tried) -> None:
    """The unit of moments, where it is one that nobody said: members close in one alone."""
    ratio, said = best.ratio, whole.units
    if not best.members or said["length"] == ASK or (said["force"] == ASK and said["moment"] == ASK):
        return
    force, long = said["force"], said["length"]
    drafted = whole.table("end_forces")
    assert drafted is not None
    stated = any(s.get("unit") for name in ("Mx", "My", "Mz") for s in drafted.specs(name))
    if said["moment"] == ASK or (
        not stated and abs(ratio * _factor(said["moment"]) / _factor(f"{force}*{long}") - 1) > 0.02
    ):
        per = units.factor(force, "force") * units.factor(long, "length") / ratio
        unit = next((u for u in (f"{force}*{long}", *MOMENTS) if math.isclose(_factor(u), per, rel_tol=0.02)), "")
        if unit:
            said["moment"] = unit
            whole.why["units.moment"] = (
                f"{best.members - best.open} of {best.members} members close from end to end in it"
            )
    elif abs((off := ratio * _factor(said["moment"]) / _factor(f"{force}*{long}")) - 1) > 0.02:
        whole.why["units.moment"] += (
            f"; but end moments are {off:.4g} times shear times length: one of the units is another"
        )


def _factor(unit: str) -> float:
    return units.factor(unit, "moment")


def read_frame(whole: Whole, root: Path) -> Frame | None:
    """The frame that a draft's tables are, read with nothing asked; None where they cannot be read."""
    draft = copy.deepcopy(whole)
    draft.stated |= {"forces": "internal", "up": "Z"}
    draft.units = {name: unit if unit != ASK else ANY[name] for name, unit in draft.units.items()}
    draft.tables = [_answered(t) for t in draft.tables if t.table in NEEDED]
    draft.missing = []
    with tempfile.TemporaryDirectory(prefix="handrail-") as scratch:
        try:
            bundled(read_map(text_of(draft)), root, Path(scratch), most=READ)
        except (BundleError, pl.exceptions.PolarsError):
            return None
        return _frame(Path(scratch))


def _answered(draft: Draft) -> Draft:
    """Without anything that is asked."""
    keep = {
        "nodes": ("node", "x", "y", "z"),
        "members": ("member", "i", "j", "roll"),
        "supports": ("node",),
        "cases": ("case", "nature"),
    }.get(draft.table)
    draft.columns = {n: s for n, s in draft.columns.items() if keep is None or n in keep}
    for spec in draft.columns.values():
        if ASK in (spec.get("values") or {}).values():
            spec["others"] = "keep"
            spec["values"] = {k: v for k, v in spec["values"].items() if v != ASK}
            if not spec["values"]:
                spec.pop("values")
    return draft


def _frame(folder: Path) -> Frame | None:
    tables = {p.stem: pl.read_csv(p, infer_schema=False) for p in folder.glob("*.csv")}
    if not {"nodes", "members", "end_forces"} <= set(tables) or not {"member", "end", "result"} <= set(
        tables["end_forces"].columns
    ):
        return None
    nodes = {n: k for k, n in enumerate(tables["nodes"]["node"])}
    xyz = _numbers(tables["nodes"], ["x", "y", "z"])
    members = tables["members"].filter(
        pl.col("i").is_in(list(nodes)) & pl.col("j").is_in(list(nodes)) & (pl.col("i") != pl.col("j"))
    )
    ends = np.array([[nodes[a], nodes[b]] for a, b in members.select("i", "j").iter_rows()], int).reshape(-1, 2)
    roll = np.radians(_numbers(members, ["roll"])[:, 0]) if "roll" in members.columns else np.zeros(len(ends))
    order = {m: k for k, m in enumerate(members["member"])}
    given = tables["end_forces"]
    results = {r: k for k, r in enumerate(given["result"].unique(maintain_order=True))}
    forces = np.full((len(ends), len(results), 2, 6), np.nan)
    rows = given.select(
        pl.col("member").replace_strict(order, default=None),
        pl.col("result").replace_strict(results, default=None),
        pl.col("end").replace_strict({"i": 0, "j": 1}, default=None),
    )
    known = ~rows.select(pl.any_horizontal(pl.all().is_null()).alias("x"))["x"].to_numpy()
    at = rows.filter(pl.Series(known)).to_numpy().astype(int)
    forces[at[:, 0], at[:, 1], at[:, 2]] = _numbers(given, list(SIX))[known]
    held = np.zeros(len(xyz), bool)
    held[[nodes[n] for n in (tables["supports"]["node"] if "supports" in tables else ()) if n in nodes]] = True
    reactions, loads = (_at_nodes(tables.get(name), nodes, results) for name in ("reactions", "node_loads"))
    return Frame(xyz, ends, roll, forces, reactions, loads, held, _gravity(tables.get("cases"), results))


def _gravity(cases: pl.DataFrame | None, results: dict[str, Any]) -> int:
    if cases is None or "nature" not in cases.columns:
        return -1
    return next(
        (results[c] for c, nature in cases.select("case", "nature").iter_rows() if nature == "dead" and c in results),
        -1,
    )


def _at_nodes(table: pl.DataFrame | None, nodes: dict[str, int], results: dict[str, int]) -> np.ndarray:
    at_nodes = np.zeros((len(nodes), len(results), 6))
    if table is not None and table.height:
        values = np.nan_to_num(_numbers(table, list(SIX)))
        for k, (node, result) in enumerate(table.select("node", "result").iter_rows()):
            if node in nodes and result in results:
                at_nodes[nodes[node], results[result]] += values[k]
    return at_nodes


def _numbers(table: pl.DataFrame, names: list[str]) -> np.ndarray:
    return (
        table.select(
            pl.col(n).cast(pl.Float64, strict=False) if n in table.columns else pl.lit(0.0).alias(n) for n in names
        )
        .to_numpy()
        .astype(float)
    )
