"""The schedule of a job: a row a mark; and what fewer marks would cost."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence, Set
from typing import Any

from handrail.core.checking.marks import (
    AsOne,
    Merge,
    Piece,
    as_one,
    changes_from,
    changes_to,
    fewer,
    formerly,
    gathered,
    series,
)
from handrail.core.checking.plan import Plan
from handrail.core.checking.result import CEILING
from handrail.core.quantities.units import WEIGHT
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import Sizes
from handrail.service.application import effort
from handrail.service.application.plans import Seen, assigned_of, look_at, plan_of
from handrail.store import connections, events, listing, marks
from handrail.store.database import reading
from handrail.store.models import Job


class Standing:
    """A job's sized connections as they stand, by mark."""

    def __init__(self, job: Job, where: str = "") -> None:
        with reading():
            self.seen: Seen = look_at(job)
            wanted = listing.keys(job, where) if where else None
            self.records = connections.sized(job)
            self.notes = events.notes(job)
        self.plan: Plan = plan_of(self.seen)
        self.sizes: dict[str, Sizes] = {}
        self._alike: dict[tuple[int, str], Sizes] = {}
        for number, (key, record) in enumerate(self.records.items()):
            effort.step(number, len(self.records))
            if (sizes := self._sizes(key, record)) is not None:
                self.sizes[key] = sizes
        self.shown = [key for key in self.sizes if wanted is None or key in wanted]
        self.pieces: dict[str, Piece] = gathered(self.plan, self.sizes)
        self.mark_of = {key: name for name, piece in self.pieces.items() for key in piece.connections}
        self.once = self.plan.sharing.counted_with(self.sizes)
        series_of = {name: series(piece.standard) for name, piece in self.pieces.items()}
        self.names = marks.named(job, series_of, self._formerly)

    def _formerly(self, name: str) -> str:
        """The digest that one of its marks had in earlier records."""
        situation = assigned_of(self.plan, self.pieces[name].connections[0]).situation
        assert situation is not None
        return formerly(self.pieces[name], situation)

    def _sizes(self, key: str, record: connections.SizedConnection) -> Sizes | None:
        """The sizes with which a connection stands, the same of all that are alike; None where the rules say otherwise
        by now: what stands by what holds no more is stale."""
        assigned = assigned_of(self.plan, key)
        situation = assigned.situation
        if assigned.rule is None or assigned.rule.use != record.standard or situation is None:
            return None
        of = id(situation), record.sizes
        if of not in self._alike:
            self._alike[of] = STANDARDS[record.standard].renewed(situation, connections.sizes_in(record.sizes))
        return self._alike[of]


def schedule(job: Job, where: str = "") -> dict[str, Any]:
    """A row a mark, of the connections that a filter leaves: how many, sizes, members, what they are made of, how they
    stand. Raises InputError."""
    standing = Standing(job, where)
    shown = set(standing.shown)
    return scheduled(standing, shown) | {"unsized": _unsized(job, where, len(shown))}


def scheduled(standing: Standing, shown: Set[str]) -> dict[str, Any]:
    """The same of connections that are `shown`."""
    rows = [
        _row(standing, name, [key for key in piece.connections if key in shown])
        for name, piece in standing.pieces.items()
    ]
    rows = sorted((row for row in rows if row["connections"]), key=lambda row: (row["standard"], in_order(row["mark"])))
    totals = {
        n: round(sum(row[n] for row in rows), 3)
        for n in ("count", "field_bolts", "shop_bolts", "rods", "steel", "weld")
    }
    return {
        "system": standing.plan.building.system,
        "rows": rows,
        "totals": totals,
    }


def _unsized(job: Job, where: str, sized: int) -> int:
    return len(listing.keys(job, where)) - sized


def in_order(mark: str) -> tuple[str, int, str]:
    """By which marks, or connections, are put in order: letters, then numbers as numbers."""
    sure = mark.removesuffix(marks.UNSURE)
    found = re.match(r"(\D*)(\d*)(.*)", sure)
    assert found is not None
    letters, number, rest = found.groups()
    return letters, int(number or 0), rest


def _row(standing: Standing, name: str, keys: list[str]) -> dict[str, Any]:
    piece = standing.pieces[name]
    standard, records = STANDARDS[piece.standard], [standing.records[key] for key in keys]
    system, first = standing.plan.building.system, assigned_of(standing.plan, piece.connections[0])
    assert first.situation is not None
    made = standard.quantities(first.situation, piece.sizes)
    count = len(keys)
    opposite = [key for key in keys if key in standing.once]
    sharing = {
        standing.once.get(key) or next((k for k, p in standing.once.items() if p == key), "") for key in keys
    } - {""}
    return {
        "mark": standing.names[name],
        "hand": piece.hand,
        "standard": standard.name,
        "title": standard.title,
        "count": count,
        "summary": standard.summary(piece.sizes, system),
        "sizes": _sizes(standard, piece.sizes, system),
        "members": sorted({c.section for c in records}),
        "supports": sorted({c.support_section for c in records if c.support_section}),
        "framings": sorted({c.framing for c in records}),
        "statuses": dict(Counter(c.status for c in records)),
        "utilisation": round(min(max((c.utilisation for c in records), default=0.0), CEILING), 6),
        "field_bolts": made.field_bolts * (count - len(opposite)) if made else 0,
        "shop_bolts": made.shop_bolts * count if made else 0,
        "rods": made.rods * count if made else 0,
        "steel_each": round(made.steel, 3) if made else 0.0,
        "steel": round(made.steel * count, 3) if made else 0.0,
        "weld": round(made.weld * count, 4) if made else 0.0,
        "connections": keys,
        "shared_with": sorted({standing.names[standing.mark_of[key]] for key in sharing}, key=in_order),
        "counted_there": len(opposite),
    }


def _sizes(standard: Standard, sizes: Sizes, system: str) -> dict[str, str]:
    """The sizes of its pieces, those that were chosen and those that follow, as text."""
    chosen = {*changes_to(standard, sizes), *standard.brief}
    return {
        p.name: p.show(sizes[p.name].value, system) for p in standard.parameters if p.name in sizes and p.name in chosen
    }


def consolidation(job: Job) -> dict[str, Any]:
    """How many marks there are, and merges in their order with what each costs in bolts and steel: from the cheapest
    on, as long as all passes."""
    standing = Standing(job)
    passing = {key: sizes for key, sizes in standing.sizes.items() if standing.records[key].status == "pass"}
    merges = fewer(standing.plan, passing, effort.step)
    system = standing.plan.building.system
    counts = Counter(piece.standard for piece in standing.pieces.values())
    return {
        "system": system,
        "marks": len(standing.pieces),
        "standards": dict(counts),
        "connections": len(standing.sizes),
        "merges": [_merge(standing, merge, number, len(standing.pieces)) for number, merge in enumerate(merges, 1)],
        "shared": sum(bool(standing.plan.partners(key)) for key in standing.sizes),
    }


def _merge(standing: Standing, merge: Merge, number: int, marks_now: int) -> dict[str, Any]:
    given, taken = standing.pieces[merge.given], standing.pieces[merge.taken]
    standard, system = STANDARDS[taken.standard], standing.plan.building.system
    changed = changes_from(standard, taken.sizes, [standing.pieces[name].sizes for name in merge.marks])
    changes = {name: standard.parameter(name).given(value) for name, value in changed.items()}
    return {
        "number": number,
        "marks": marks_now - number,
        "given": standing.names[merge.given],
        "taken": standing.names[merge.taken],
        "standard": standard.name,
        "given_summary": standard.summary(given.sizes, system),
        "taken_summary": standard.summary(taken.sizes, system),
        "connections": list(merge.connections),
        "worst": round(merge.worst, 4),
        "bolts": merge.bolts,
        "steel": round(merge.steel, 3),
        "changes": changes,
    }


def sized_as_one(job: Job, keys: Sequence[str]) -> dict[str, Any]:
    """One set of sizes, of each standard among them, for all of these connections under their own forces; nothing is
    kept."""
    standing = Standing(job)
    stood = {key: standing.sizes[key] for key in keys if key in standing.sizes}
    system = standing.plan.building.system
    return {
        "system": system,
        "items": [_as_one(sized, system) for sized in as_one(standing.plan, stood, effort.step)],
        "unsized": [k for k in keys if k not in stood],
    }


def _as_one(sized: AsOne, system: str) -> dict[str, Any]:
    standard = STANDARDS[sized.standard]
    changed = changes_from(standard, sized.sizes, sized.stood)
    return {
        "standard": standard.name,
        "connections": list(sized.connections),
        "passes": sized.passes,
        "worst": round(min(sized.worst.use, CEILING), 4),
        "worst_at": sized.worst.connection,
        "check": sized.worst.check,
        "sound": sized.worst.sound,
        "bolts": sized.bolts,
        "steel": round(sized.steel, 3),
        "sizes": {n: standard.parameter(n).show(sized.sizes[n].value, system) for n in changed},
        "changes": {n: standard.parameter(n).given(value) for n, value in changed.items()},
    }


HEAD = (
    "mark",
    "standard",
    "number",
    "sizes",
    "members",
    "supports",
    "pass",
    "fail",
    "other",
    "worst used",
    "field bolts",
    "shop bolts",
    "anchor rods",
)


def as_table(answer: dict[str, Any]) -> tuple[list[str], list[list[Any]]]:
    """The schedule as (names of columns, rows), weights in lb or kg, a row of sums at its end."""
    unit, scale = WEIGHT[answer["system"]]
    head = [
        *HEAD,
        f"steel each ({unit})",
        f"steel ({unit})",
        f"weld ({unit})",
        "shares field bolts with",
        "hand",
        "all sizes",
        "connections",
    ]
    rows: list[list[Any]] = [_line(row, scale) for row in answer["rows"]]
    sums = answer["totals"]
    rows.append(
        [
            "all",
            "",
            sums["count"],
            *[""] * 7,
            sums["field_bolts"],
            sums["shop_bolts"],
            sums["rods"],
            "",
            round(sums["steel"] * scale, 1),
            round(sums["weld"] * scale, 2),
            *[""] * 4,
        ]
    )
    return head, rows


def _sharing(row: dict[str, Any]) -> str:
    """The marks whose field bolts are those of this one, and how many of it are counted there."""
    words = f" ({row['counted_there']} counted there)" if row["counted_there"] else ""
    return ", ".join(row["shared_with"]) + words if row["shared_with"] else ""


def _line(row: dict[str, Any], scale: float) -> list[Any]:
    passed, failed = row["statuses"].get("pass", 0), row["statuses"].get("fail", 0)
    return [
        row["mark"],
        row["title"],
        row["count"],
        row["summary"],
        ", ".join(row["members"]),
        ", ".join(row["supports"]),
        passed,
        failed,
        row["count"] - passed - failed,
        round(row["utilisation"], 3),
        row["field_bolts"],
        row["shop_bolts"],
        row["rods"],
        round(row["steel_each"] * scale, 2),
        round(row["steel"] * scale, 1),
        round(row["weld"] * scale, 2),
        _sharing(row),
        row["hand"],
        "; ".join(f"{n} {v}" for n, v in row["sizes"].items()),
        ", ".join(row["connections"]),
    ]
