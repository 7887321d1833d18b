"""Which rule takes each connection of a building, or why none does."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from handrail.core.building.base_reactions import braced
from handrail.core.building.framing import SHEAR_ENDS
from handrail.core.building.model import Building
from handrail.core.catalogue import INCHES, Shop, Steel, grades_fit
from handrail.core.checking.acting import Acting, kind, lateral
from handrail.core.checking.doubts import Doubts
from handrail.core.checking.facts import Facts
from handrail.core.checking.foundations import foundation_problem, under
from handrail.core.codes.family import Code
from handrail.core.joint.connection import Connection, Joined
from handrail.core.joint.relations import SHARES
from handrail.core.joint.situation import Piece, Situation
from handrail.core.rulebook import Rule, Rulebook, chosen
from handrail.core.standards import STANDARDS

NO_RULE = "no rule takes it"
STANDARD = "standard"  # an override of this name chooses the standard
ELSEWHERE = "elsewhere"  # and one of this says that there is nothing to connect here, or that others do it
NONE_HERE, BY_OTHERS = "none", "by others"
DESIGNED = (
    *SHEAR_ENDS,
    "column_base",
    "beam_splice",
    "column_splice",
)  # framing conditions that there are standards for


@dataclass(frozen=True)
class Assigned:
    """A connection with the rule that took it, or why none did."""

    connection: Connection
    situation: Situation | None
    rule: Rule | None
    reason: str
    status: str = "unchecked"  # what `reason` makes of it: unchecked, or unassigned where nothing took it


def assign(
    building: Building,
    connections: Sequence[Connection],
    rulebook: Rulebook,
    acting: Acting,
    facts: Facts,
    doubts: Doubts,
    code: Code,
) -> list[Assigned]:
    """Every connection with the first rule that takes it, or why it is not judged: `doubts` about its combinations come
    first. What is alike in all that rules ask for is asked once; connections that stand alike share one situation."""
    no_overstrength = (
        f"and the model has no overstrength combinations of {acting.method}" if not acting.overstrength.names else ""
    )
    situations: dict[Any, Situation] = {}
    rules: dict[Any, Rule | None] = {}
    assigned = []
    for k, connection in enumerate(connections):
        if blocked := _unassignable(building, connection):
            assigned.append(blocked)
            continue
        like = (*_alike(building, connection), bool(acting.quaking[k]))
        situation = situations.get(like) or situations.setdefault(
            like, situation_of(building, connection, code, like[-1], rulebook.shop)
        )
        known = facts.of(k, situation)
        asked = tuple(known.get(name) for name in rulebook.asks)
        rule = rules[asked] if asked in rules else rules.setdefault(asked, rulebook.rule_for(known))
        if rule is None:
            assigned.append(Assigned(connection, situation, None, NO_RULE, "unassigned"))
        else:
            why = (
                doubts.of(k)
                or rule.problem
                or unjudged(building, connection, no_overstrength if acting.collector[k] else "")
            )
            assigned.append(Assigned(connection, situation, rule, why))
    return assigned


def by_choice(
    building: Building, assigned: Assigned, use: str, taken: Callable[[Rule, Situation], Rule], code: Code, shop: Shop
) -> Assigned:
    """A connection with the standard `use` that a person chose for it, whatever the rules say; with the reason where it
    does not go with its framing (any more). `taken` gives a rule the sizes that practice has for the connection."""
    standard, connection = STANDARDS.get(use), assigned.connection
    if unknown(building, connection):
        return assigned
    if standard is None or connection.framing not in standard.framings:
        why = (
            f"{use}, which a person chose, does not go with {connection.framing}: clear the override, or choose another"
        )
        return Assigned(connection, assigned.situation, assigned.rule, why)
    situation = assigned.situation or situation_of(building, connection, code, shop=shop)
    rule, reason = taken(chosen(use), situation), assigned.reason if assigned.rule else ""
    if assigned.rule is not None and reason == assigned.rule.problem:
        reason = ""
    return Assigned(connection, situation, rule, rule.problem or reason)


def not_here(assigned: Assigned, said: str) -> Assigned:
    """A connection of which a person said that there is none (`none`), or that it is `by others`."""
    why = "by others: a person said so" if said == BY_OTHERS else "no connection here: a person said so"
    return Assigned(assigned.connection, assigned.situation, None, why, "elsewhere")


def members_of(building: Building, connection: Connection) -> tuple[str, ...]:
    """Framing, and section and grade of the members that a connection joins."""
    members = [building.members[k] for k in (connection.member, connection.support) if k is not None]
    return (connection.framing, *(text for m in members for text in (m.section, m.grade)))


_ASKED = (
    "a base of the lateral system, or one whose anchors an earthquake gives more than a fifth of their force in"
    " category C to F"
)


def unjudged(building: Building, connection: Connection, no_overstrength: str) -> str:
    """In words what a connection is judged by and is not there; empty where it is all there."""
    if connection.node in building.unknown_splices and connection.framing.endswith("_splice"):
        return building.unknown_splices[connection.node]
    if connection.framing == "column_splice" and no_overstrength:
        return f"a splice of the lateral system, {no_overstrength}"
    if connection.framing != "column_base":
        return f"a collector, {no_overstrength}" if no_overstrength else ""
    return foundation_problem(building, connection) or (f"{_ASKED}, {no_overstrength}" if no_overstrength else "")


def _unassignable(building: Building, connection: Connection) -> Assigned | None:
    if problem := unknown(building, connection):
        return Assigned(connection, None, None, problem)
    if connection.framing in DESIGNED:
        return None
    recognised = connection.framing != "unrecognised"
    why = f"no standard for {connection.framing} yet" if recognised else f"framing not recognised: {connection.reason}"
    return Assigned(connection, None, None, why, "unassigned")


def unknown(building: Building, connection: Connection) -> str:
    """What the catalogue lacks of a connection's members, in words; empty where it holds them all."""
    for index in (connection.member, connection.support):
        if index is None:
            continue
        member = building.members[index]
        section, grade = building.section(member.section), building.grade(member.grade)
        if section is None:
            return f"section {member.section} is not in the catalogue"
        if grade is None:
            return f"grade {member.grade} is not in the catalogue"
        if problem := grades_fit(section, grade):
            return problem
    return ""


def _alike(building: Building, connection: Connection) -> tuple[Any, ...]:
    """What the situation of a connection is made of."""
    members = [building.members[p.member] for p in connection.pieces]
    met = [(p.skew, p.slope, p.offset, p.face, p.ends_here) for p in _in_line(connection)]
    pieces = [(m.section, m.grade, *how) for m, how in zip(members, met, strict=True)]
    return (connection.framing, *pieces, _kinds(connection), *_of_framing(building, connection).values())


def situation_of(
    building: Building, connection: Connection, code: Code, quaking: bool = False, shop: Shop = INCHES
) -> Situation:
    """The situation of a connection of which nothing is `unknown`; of a base whether its anchors take more than a fifth
    by an earthquake."""
    pieces = tuple(
        Piece(
            p.role,
            _steel(building, p.member),
            skew=round(float(np.radians(p.skew)), 5),
            slope=round(float(np.radians(p.slope)), 5),
            offset=round(p.offset, 3),
            face=p.face,
            ends_here=p.ends_here,
        )
        for p in _in_line(connection)
    )
    facts = _of_framing(building, connection)
    return Situation(connection.framing, pieces, _kinds(connection), quaking=quaking, shop=shop, code=code, **facts)


def _in_line(connection: Connection) -> tuple[Joined, ...]:
    """The pieces as they meet each other: those of a splice are in one line, however that slopes."""
    if not connection.framing.endswith("_splice"):
        return connection.pieces
    return tuple(replace(p, slope=0.0) for p in connection.pieces)


def _kinds(connection: Connection) -> tuple[str, ...]:
    """The kinds of relations that a connection's geometry depends on: not whether bolts may be shared."""
    return tuple(dict.fromkeys(r.kind for r in connection.relations if r.kind != SHARES))


def _of_framing(building: Building, connection: Connection) -> dict[str, Any]:
    """What else of a situation its framing condition asks for: what a base stands on, was modelled as, and whether
    braces land on it; where a column's splice stands between the floors; the lateral system."""
    if connection.framing == "beam_splice":
        return {}
    of_frame: dict[str, Any] = {"lateral": kind(building, connection), "category": building.category}
    if connection.framing == "column_base":
        return of_frame | {
            "foundation": under(building, connection),
            "seismic": lateral(building, connection),
            "fixity": connection.facts.get("support_type", ""),
            "braced": braced(building, connection.node),
            "storey": connection.facts.get("storey"),
        }
    if connection.framing == "column_splice":
        heights = {name: connection.facts.get(name) for name in ("above_floor", "storey", "clear")}
        return of_frame | heights | {"seismic": lateral(building, connection)}
    return of_frame | {"detailed": building.members[connection.member].detailed}


def _steel(building: Building, index: int) -> Steel:
    member = building.members[index]
    section, grade = building.section(member.section), building.grade(member.grade)
    assert section is not None and grade is not None
    return Steel.of(section, grade)
