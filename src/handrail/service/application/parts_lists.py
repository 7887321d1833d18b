"""Lists of what connections are made of and what they do to members, as they stand; plates as files to cut by."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from itertools import chain

from handrail.core.checking import lists, member_lists
from handrail.core.checking.assembled import Assembled, assembled
from handrail.core.checking.details import counted
from handrail.core.checking.lists import Made, Table, cuts, table
from handrail.core.checking.steelwork import Steel, steelwork
from handrail.core.solids import words
from handrail.core.solids.pieces import Solids
from handrail.interchange.drawings.outlines import outlines
from handrail.interchange.transmittal.zipped import zipped
from handrail.service.application import effort
from handrail.service.application.mark_schedule import Standing, in_order
from handrail.service.application.plans import assigned_of
from handrail.service.application.refused import Refused
from handrail.store.database import rows
from handrail.store.models import Job

KINDS = (*lists.KINDS, "parts", "ends", "holes")


def listed(job: Job, kind: str, where: str = "") -> Table:
    """A list by its name, of the connections that a filter leaves. Raises Refused, InputError."""
    if kind not in KINDS:
        raise Refused(404, f"there is no list '{kind}'; there are {', '.join(KINDS)}")
    standing = Standing(job, where)
    system = standing.plan.building.system
    if kind == "parts":
        return _parts(made(standing, set(standing.shown)), system)
    if kind in lists.KINDS:
        return table(kind, made(standing, set(standing.shown)), system, standing.plan.rulebook.finish)
    levels = levels_of(standing)
    shown = {key: levels.get(key, "") for key in standing.shown}
    marks = {key: standing.names[name] for key, name in standing.mark_of.items()}
    listing = member_lists.ends if kind == "ends" else member_lists.holes
    return listing(steel_of(standing), marks, shown, system)


def _parts(of: list[Made], system: str) -> Table:
    """A row for each kind of piece, bolt, rod and weld of a mark: what one connection is made of."""
    number = Counter(one.mark for one in of)
    first = {one.mark: one.solids for one in reversed(of)}
    pieces: dict[str, list[lists.Cut]] = {mark: [] for mark in first}
    for cut in cuts(of):
        pieces[cut.mark].append(cut)
    found: list[list[lists.Cell]] = []
    for mark in number:
        found += [[mark, number[mark], cut.name, cut.each, words.said(cut.piece, system)] for cut in pieces[mark]]
        others = counted(replace(first[mark], pieces=()), system)
        found += [[mark, number[mark], "", count or "", what] for count, what in others]
    return ["mark", "connections", "piece", "each", "what"], found


def to_cut(job: Job, where: str = "") -> bytes:
    """A zip with a DXF of every plate. Raises Refused(404) where there is none."""
    standing = Standing(job, where)
    system = standing.plan.building.system
    files = outlines(cuts(made(standing, set(standing.shown))), system)
    if not files:
        raise Refused(404, "no plate is among these connections: there is nothing to cut")
    return zipped(files, {"job": job.name, "title": job.title, "units": "in" if system == "us" else "mm"})


def steel_of(standing: Standing) -> list[Steel]:
    """Every member as a piece of steel, with what all connections that stand do to it."""
    plan = standing.plan
    connections = {a.connection.id: a.connection for a in plan.assigned}
    return sorted(steelwork(plan.building, plan.framing.pieces, connections, _standing(standing)), key=_by_name)


def _by_name(steel: Steel) -> tuple[str, int, str]:
    return in_order(steel.name)


def made(standing: Standing, shown: set[str]) -> list[Made]:
    """Connections that are `shown`, each with its solids: a bolt that holds two stands with one of them."""
    levels = levels_of(standing)
    found = [
        Made(standing.names[standing.mark_of[key]], levels.get(key, ""), solids)
        for key, solids in _standing(standing)
        if key in shown
    ]
    return sorted(found, key=lambda one: (in_order(one.mark), one.level))


def joints_of(standing: Standing, at: str = "") -> Iterator[Assembled]:
    """The joints of all connections that stand, or the one `at` which a connection is."""
    plan, records = standing.plan, standing.records
    keys = plan.at_joint({at}) if at else set(standing.sizes)
    there = [
        (assigned_of(plan, key), (records[key].standard, sizes)) for key, sizes in standing.sizes.items() if key in keys
    ]
    for number, joint in enumerate(assembled(plan.building, there)):
        effort.step(number, len(there))
        yield joint


def _standing(standing: Standing) -> Iterator[tuple[str, Solids]]:
    """Every connection that stands, with its solids in the building's axes."""
    return chain.from_iterable(joint.solids() for joint in joints_of(standing))


def levels_of(standing: Standing) -> dict[str, str]:
    """connection -> its level."""
    found = rows("SELECT key, level FROM connection WHERE job_id = ?", standing.seen.job.id)
    return {key: str(level or "") for key, level in found}
