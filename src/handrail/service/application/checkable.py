"""What would make a connection that cannot be judged one that can (another of its standard's choices, or another
standard), and one clear of what stands in it (another size of what does): tried like a remedy."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from handrail.core.checking.assigning import STANDARD
from handrail.core.checking.colliding import Colliding
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import share
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS
from handrail.core.standards.made_by import made_by
from handrail.core.standards.sizes import ASKED, KNOWN
from handrail.service.application import standing
from handrail.service.application.plans import Seen, assigned_of, overridden
from handrail.store.connections import sizes_of
from handrail.store.models import Connection

COLLIDES = (
    "it passes by itself, and stands in what another connection of its joint is made of; no other size of it alone"
    " helps: change the other one too, or let the collision stand with a reason"
)
OFFERED, TRIED = 3, 40  # ways that are put forward, and that are tried at most
Change = tuple[str, Any]
Way = tuple[str, list[dict[str, Any]]]


def checkable(
    plan: Plan, seen: Seen, records: Sequence[Connection]
) -> list[tuple[Connection, str, list[dict[str, Any]]]]:
    """Each of these with the best way in words, or that there is none, and each way as a remedy is kept. What helped
    one is tried first on the others."""
    helped: list[Change] = []
    open_ones = []
    for record in records:
        ways = _ways(plan, seen, record, [*helped, *_changes(plan, record)])
        helped += [change for change, _ in ways if change not in helped]
        open_ones.append((record, *_told(record, ways)))
    return open_ones


def clear(plan: Plan, seen: Seen, record: Connection) -> Way:
    """The best way in words to have a connection clear of what stands in it, or that there is none of one size, and
    each way as a remedy is kept."""
    ways, system = _ways(plan, seen, record, _apart(plan, record)), plan.building.system
    if not ways:
        return COLLIDES, []
    standard = STANDARDS[record.standard]
    kept = [_kept(name, str(standard.parameter(name).given(value)), use) for (name, value), use in ways]
    (name, value), use = ways[0]
    return f"{name} to {standard.parameter(name).show(value, system)} clears it, and passes at {share(use)}", kept


def _apart(plan: Plan, record: Connection) -> Iterator[Change]:
    """Other sizes of what stands in another connection: the nearest first, those of its own first."""
    assigned, sizes = assigned_of(plan, record.key), sizes_of(record)
    if assigned.situation is None or assigned.rule is None or assigned.rule.use != record.standard:
        return
    standard, shop = STANDARDS[record.standard], assigned.situation.shop
    made = made_by(standard, assigned.situation, tuple(sorted(standard.renewed(assigned.situation, sizes).items())))
    names = dict.fromkeys(n for c in record.collides if Colliding.of(c).breaks for n in made.get(c["part"], ()))
    for far in (1, -1, 2, -2, 4, 8, 16):
        for name in names:
            parameter, size = standard.parameter(name), sizes.get(name)
            if size is None or isinstance(size.value, str) or size.source == "override":
                continue
            if parameter.kind == "length" or (parameter.kind == "count" and abs(far) == 1):
                try:
                    yield name, parameter.bounded(size.value + far * (shop.width if parameter.kind == "length" else 1))
                except InputError:  # it cannot be that
                    continue


def _ways(plan: Plan, seen: Seen, record: Connection, changes: Iterable[Change]) -> list[tuple[Change, float]]:
    """Changes with which it passes, the first found first, and how it is used then."""
    ways = []
    for change in list(dict.fromkeys(changes))[:TRIED]:
        then = plan.with_(overrides=overridden(seen, {record.key: dict([change])}))
        outcomes = standing.work(seen, then, then.together({record.key}))
        own = outcomes.get(plan.index[record.key])
        if own is not None and all(o.status == "pass" for o in outcomes.values()):
            ways.append((change, own.utilisation))
            if len(ways) == OFFERED:
                break
    return ways


def _changes(plan: Plan, record: Connection) -> Iterator[Change]:
    """Every other choice of the standard that it has, one at a time, then every other standard that goes with its
    framing."""
    assigned = assigned_of(plan, record.key)
    if assigned.situation is None or assigned.reason:
        return
    standard, sizes = STANDARDS[record.standard], sizes_of(record)
    for p in standard.parameters:
        said = p.name in sizes and sizes[p.name].source == "override"
        if p.kind == "choice" and not said and p.of not in (KNOWN, ASKED):
            yield from ((p.name, value) for value in p.offered if p.name not in sizes or sizes[p.name].value != value)
    for name, other in STANDARDS.items():
        if name != record.standard and assigned.situation.framing in other.framings:
            yield STANDARD, name


def _told(record: Connection, ways: Sequence[tuple[Change, float]]) -> Way:
    if not ways:
        return (
            (
                "no other choice and no other standard can be judged and passes: give what is missing, or design it"
                " elsewhere"
            ),
            [],
        )
    kept = [_kept(name, str(value), use) for (name, value), use in ways]
    (name, value), use = ways[0]
    return f"it can be judged with {name} {value}, and passes at {share(use)}", kept


def _kept(name: str, value: str, use: float) -> dict[str, Any]:
    """A way as a remedy is kept."""
    return {"changes": {name: value}, "utilisation": round(use, 4), "over_target": False, "cost": 0.0, "more": {}}
