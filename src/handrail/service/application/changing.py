"""Changes of a connection's sizes, or of its standard, worked out before anything is kept: several at once,
alternatives side by side."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from handrail.core.actions import COMPONENTS
from handrail.core.checking.assigning import BY_OTHERS, ELSEWHERE, NONE_HERE, STANDARD, Assigned
from handrail.core.checking.batch import Outcome
from handrail.core.checking.colliding import COLLISION, Colliding, to_stand
from handrail.core.checking.digests import grounds as grounds_of
from handrail.core.checking.plan import ACTIONS, Plan
from handrail.core.checking.result import CEILING
from handrail.core.errors import InputError
from handrail.core.quantities.units import parse, show
from handrail.core.standards import STANDARDS, Standard, standard
from handrail.core.standards.sizes import NOT_CHOSEN, Sizes, Value
from handrail.service.application import standing
from handrail.service.application.attempting import Basis
from handrail.service.application.keeping import Said, ToKeep, decision
from handrail.service.application.kept import Kept
from handrail.service.application.looking import beside
from handrail.service.application.plans import Seen, assigned_of, look_at, overridden, plan_around
from handrail.service.application.refused import Refused
from handrail.service.application.sides import Side, side_of
from handrail.store import connections
from handrail.store.database import reading
from handrail.store.models import Connection, Job

FORCE_UNIT = 1000.0  # a bare number of a force is in kN


@dataclass(frozen=True)
class Change:
    """One size as it is to be, with the words for it and for what stood."""

    parameter: str
    value: Any
    shown: str
    stood: str


@dataclass(frozen=True)
class Worked:
    """What changes make of a connection, and of the one that shares its bolts."""

    record: Connection
    seen: Seen
    plan: Plan
    changes: tuple[Change, ...]
    outcomes: dict[int, Outcome]
    shared: tuple[str, ...]  # those that the same bolts hold, where a size of these is among the changes

    @property
    def assigned(self) -> Assigned:
        """The connection as it is taken then."""
        return assigned_of(self.plan, self.record.key)

    @property
    def outcome(self) -> Outcome | None:
        """Of the connection itself; None where it is elsewhere."""
        return self.outcomes.get(self.plan.index[self.record.key])

    @property
    def basis(self) -> Basis:
        """What it was worked out from."""
        return Basis.of(self.seen, [self.record], only=self.record.key)

    @cached_property
    def sides(self) -> list[tuple[Side, Side]]:
        """Of each change, how the connection stands without it and with all of them."""
        after = self.outcome or self.assigned
        also = self.also()
        return [(side_of(self.record, c.stood), side_of(after, c.shown, also)) for c in self.changes]

    def shared_in(self, change: Change) -> tuple[str, ...]:
        """Those that a change is one for."""
        common = self.plan.sharing.common(self.record.key) if self.shared else ()
        return self.shared if change.parameter in common else ()

    def to_keep(self, said: Said) -> ToKeep:
        """As it is to be kept. Raises Refused where it changes what others share and nobody said so."""
        key, plan = self.record.key, self.plan
        if self.shared and not said.both:
            names = ", ".join(c.parameter for c in self.changes)
            raise Refused(
                409,
                f"{names}: the same bolts hold {key} and {' and '.join(self.shared)} opposite: say both to change"
                " both; for one alone they cannot differ",
            )
        rests = beside(plan, {key})
        made = [
            decision(key, c.parameter, c.value, c.shown, said, sides, self.shared_in(c), rests[key, c.parameter])
            for c, sides in zip(self.changes, self.sides, strict=True)
        ]
        return ToKeep(self.basis, said.author, made, rests=rests, rows=[self.results])

    @cached_property
    def results(self) -> standing.Results:
        """What is to be written of it, and of others of its joint."""
        changed = self.plan.together({self.record.key})
        return standing.results(self.seen, self.plan, self.outcomes, grounds_of(self.plan, changed), changed)

    @cached_property
    def beside(self) -> list[dict[str, Any]]:
        """Others of its joint that come out otherwise by what stands in them then."""
        found = {self.plan.assigned[k].connection.id: o for k, o in self.results.mates.outcomes.items()}
        records = connections.of_keys(self.record.job, found)
        return [{"connection": key, "before": side_of(records[key]), "after": side_of(o)} for key, o in found.items()]

    def drawing(self) -> dict[str, Any] | None:
        """What would stand, as it is drawn; None where nothing is sized then."""
        assigned, outcome = self.assigned, self.outcome
        if outcome is None or not outcome.sizes or assigned.situation is None or assigned.rule is None:
            return None
        scene = STANDARDS[assigned.rule.use].draw(assigned.situation, outcome.sizes, self.plan.building.system)
        return scene.as_dict() if scene.views else None

    def also(self) -> list[str]:
        """What else is sized otherwise then."""
        return also(
            self.record, self.assigned, self.outcome, {c.parameter for c in self.changes}, self.plan.building.system
        )


def also(
    record: Connection, assigned: Assigned, outcome: Outcome | None, said: Collection[str], system: str
) -> list[str]:
    """Sizes that somebody or a rule chose and that are other ones then than are kept, but for those `said`: in
    words."""
    if outcome is None or assigned.rule is None or assigned.rule.use != record.standard:
        return []
    of, before, told = STANDARDS[record.standard], connections.sizes_of(record), []
    for name, size in outcome.sizes.items():
        was = before.get(name)
        if name in said or was is None or was.value == size.value or {was.source, size.source} <= set(NOT_CHOSEN):
            continue
        now, then = (of.parameter(name).show(s.value, system) for s in (was, size))
        if now != then:
            told.append(f"{name} {now or 'none'} to {then or 'none'}")
    return told


def looked_at(job: Job, key: str) -> tuple[Connection, Seen, Plan]:
    """A connection with its plan as they stand. Raises Refused where there is none."""
    with reading():
        record = connections.find(job, key)
        if record is None:
            raise Refused(404, f"there is no connection '{key}' in '{job.name}'")
        seen = look_at(job, key)
        return record, seen, plan_around(seen, record)


def work_out(job: Job, key: str, wanted: Mapping[str, Any]) -> Worked:
    """The connection with other sizes (text with a unit, or numbers in mm and kN), or by another `standard`. Raises
    Refused, InputError."""
    record, seen, plan = looked_at(job, key)
    chosen, changes = read_changes(record, plan, wanted)
    sizes = connections.sizes_of(record)
    plan = plan.with_(overrides=overridden(seen, {record.key: {c.parameter: c.value for c in changes}}))
    assigned = assigned_of(plan, record.key)
    refuse_unsized(assigned)
    if chosen is None or assigned.rule is None:
        return Worked(record, seen, plan, tuple(changes), recheck(seen, plan, record.key), ())
    same = bool(record.sizes) and chosen.name == record.standard == assigned.rule.use
    common = {c.parameter for c in changes} & plan.sharing.common(record.key)
    shared = plan.partners(record.key) if same and chosen.through(sizes) and common else ()
    plan = plan.with_(overrides=plan.sharing.giving_way(plan.overrides, shared, common))
    return Worked(record, seen, plan, tuple(changes), recheck(seen, plan, record.key), shared)


def recheck(seen: Seen, plan: Plan, key: str) -> dict[int, Outcome]:
    """A connection worked out as the next run does, and the one that shares its bolts."""
    return standing.work(seen, plan, plan.together({key}))


def refuse_unsized(assigned: Assigned) -> None:
    """Raises Refused(409) for a connection that a change would leave without sizes, unless it is said to be
    elsewhere."""
    if assigned.status != "elsewhere" and (assigned.rule is None or assigned.reason):
        raise Refused(
            409, f"connection {assigned.connection.id} cannot be sized now ({assigned.reason}); nothing was changed"
        )


def read_changes(record: Connection, plan: Plan, wanted: Mapping[str, Any]) -> tuple[Standard | None, list[Change]]:
    """What is wanted of a connection, and the standard that it is read by; None where it is to be elsewhere. Raises
    Refused, InputError."""
    system = plan.building.system
    if ELSEWHERE in wanted:
        if len(wanted) > 1:
            raise Refused(422, f"{ELSEWHERE}: a connection that is not here has no sizes to change; say this alone")
        said = str(wanted[ELSEWHERE]).strip().lower()
        if said not in (NONE_HERE, BY_OTHERS):
            raise Refused(422, f"{ELSEWHERE}: say '{NONE_HERE}' (no connection here) or '{BY_OTHERS}'")
        return None, [Change(ELSEWHERE, said, said, record.standard or record.reason)]
    chosen, sizes = _standard(record, plan, wanted), connections.sizes_of(record)
    return chosen, [_changed(chosen, name, value, record, sizes, system) for name, value in wanted.items()]


def _stated(raw: Any, system: str) -> tuple[dict[str, float], str]:
    """Actions in place of the model's, `V = 26 kip, N = 5 kip`, as N and N*mm, and in words."""
    stated: dict[str, float] = {}
    for part in str(raw).replace(";", ",").split(","):
        name, sign, text = (p.strip() for p in part.partition("="))
        if name not in COMPONENTS or not sign or name in stated:
            raise Refused(
                422,
                f"{ACTIONS}: '{part.strip()}' is no action; write like 'V = 26 kip, N = 5 kip' with"
                f" {', '.join(COMPONENTS)}, each once",
            )
        try:
            stated[name] = parse(text, _kind(name), FORCE_UNIT if _kind(name) == "force" else FORCE_UNIT * 1e3)
        except InputError as exc:
            raise InputError(f"{ACTIONS}: {name}: {exc.words}") from exc
    return stated, ", ".join(f"{n} = {show(v, _kind(n), system)}" for n, v in stated.items())


def _kind(component: str) -> str:
    return "force" if component in COMPONENTS[:3] else "moment"


def _standard(record: Connection, plan: Plan, wanted: Mapping[str, Any]) -> Standard:
    """The standard that stands, or the one that is wanted."""
    if STANDARD in wanted:
        chosen = standard(str(wanted[STANDARD]))
        if record.framing not in chosen.framings:
            raise Refused(
                422, f"{STANDARD}: {chosen.name} goes with {', '.join(chosen.framings)}, not {record.framing}"
            )
        if assigned_of(plan, record.key).situation is None and record.status == "unchecked":
            raise Refused(409, f"connection {record.key} cannot be sized: {record.reason}")
        return chosen
    now = assigned_of(plan, record.key)
    if now.rule is None or now.status == "elsewhere":
        raise Refused(
            409,
            f"connection {record.key} has no standard ({now.reason}); there is nothing to override; choose a {STANDARD}"
            " first",
        )
    return STANDARDS[now.rule.use]


def _changed(chosen: Standard, name: str, raw: Any, record: Connection, sizes: Sizes, system: str) -> Change:
    if name == STANDARD:
        return Change(STANDARD, chosen.name, chosen.name, record.standard)
    if name == COLLISION:
        return Change(COLLISION, *_standing(record, raw, system))
    if name == ACTIONS:
        return Change(ACTIONS, *_stated(raw, system), "as the model gives them")
    parameter = chosen.parameter(name)
    value = chosen.read_one(name, raw, bare=FORCE_UNIT if parameter.kind == "force" else 1.0)
    stood = sizes.get(name) if chosen.name == record.standard else None
    return Change(name, value, parameter.show(value, system), parameter.show(stood.value, system) if stood else "")


def _standing(record: Connection, raw: Any, system: str) -> tuple[Any, str, str]:
    """Collisions that are to stand, of those that there are: with `all`, or with some connections by name; what is
    kept, in words, and what stands so far in words."""
    collides = [c for c in map(Colliding.of, record.collides) if c.stands or c.breaks]
    asked = {part.strip() for part in str(raw).replace(";", ",").split(",") if part.strip()}
    there = {c.other for c in collides}
    if not asked or not there or (asked != {"all"} and asked - there):
        having = f"what stands in it is of {', '.join(sorted(there))}" if there else "nothing stands in it"
        raise Refused(422, f"{COLLISION}: name connections whose collisions with {record.key} may stand: {having}")
    stand = [c for c in collides if c.stands or asked == {"all"} or c.other in asked]

    def words(some: list[Colliding]) -> str:
        named = ((*c.stand_parts, c.other, show(c.depth, "length", system)) for c in some)
        return ", ".join(f"{part} in {its} of {other} by {deep}" for part, its, other, deep in named)

    return to_stand(stand), words(stand), words([c for c in collides if c.stands])


def held_with(job: Job, key: str, wanted: Mapping[str, Any]) -> dict[str, Any]:
    """What is wanted, and with it every other size that a ladder climbed, as it stands. Raises Refused."""
    record = connections.find(job, key)
    if record is None or not record.sizes or wanted.keys() & {STANDARD, ELSEWHERE}:
        raise Refused(422, f"hold: {key} keeps its sizes only where it has some, and its standard stays")
    of = STANDARDS[record.standard]
    climbed = {
        n: of.parameter(n).given(s.value)
        for n, s in connections.sizes_of(record).items()
        if s.source.startswith("rung") and n not in wanted
    }
    return {**climbed, **wanted}


def taken_from(job: Job, key: str, other: str) -> dict[str, Any]:
    """What makes connection `key` like `other`: its standard where it is another, and the sizes that were chosen for
    it, as they are kept."""
    record, source = (connections.find(job, k) for k in (key, other))
    if record is None or source is None:
        raise Refused(404, f"there is no connection '{key if record is None else other}' in '{job.name}'")
    if not source.standard or not source.sizes:
        raise Refused(409, f"connection {other} is not sized ({source.reason}); there is nothing to take over")
    own, of = connections.sizes_of(record), STANDARDS[source.standard]
    values: dict[str, Any] = {} if record.standard == source.standard else {STANDARD: source.standard}
    for name, size in connections.sizes_of(source).items():
        same = record.standard == source.standard and name in own and own[name].value == size.value
        if size.source not in NOT_CHOSEN and not same:
            values[name] = as_given(of, name, size.value)
    if not values:
        raise InputError(f"{key} has all sizes of {other} already")
    return values


def as_given(of: Standard, name: str, value: Value) -> Any:
    """A kept value as a change takes it: forces in kN."""
    return float(value) / FORCE_UNIT if of.parameter(name).kind == "force" and not isinstance(value, str) else value


def side_by_side(worked: Worked | Kept, name: str) -> dict[str, Any]:
    """One alternative in figures: how it is used, what it is made of, whether it fits."""
    if isinstance(worked, Worked):
        plan, outcome, assigned = worked.plan, worked.outcome, worked.assigned
        assert outcome is not None
        status, use, check, action, reason, sizes = (
            outcome.status,
            outcome.utilisation,
            outcome.check,
            outcome.action,
            outcome.reason,
            outcome.sizes,
        )
    else:
        record, plan, assigned, sizes = worked.record, worked.plan, worked.assigned, worked.sizes
        status, use, check, action, reason = (
            record.status,
            record.utilisation,
            record.check_name,
            record.action,
            record.reason,
        )
    assert assigned.rule is not None and assigned.situation is not None
    of = STANDARDS[assigned.rule.use]
    broken = [r.rule for r in of.examine(assigned.situation, sizes, plan.code).detailing if not r.ok] if sizes else []
    made = of.quantities(assigned.situation, sizes) if sizes else None
    return {
        "name": name,
        "standard": of.name,
        "summary": of.summary(sizes, plan.building.system) if sizes else "",
        "status": status,
        "utilisation": round(min(use, CEILING), 6),
        "check": check,
        "action": action,
        "reason": reason,
        "fits": not broken,
        "broken": broken,
        "field_bolts": made.field_bolts if made else None,
        "shop_bolts": made.shop_bolts if made else None,
        "steel": round(made.steel, 3) if made else None,
        "weld": round(made.weld, 4) if made else None,
        "field_weld": round(made.field_weld, 1) if made else None,
    }
