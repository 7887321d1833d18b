"""What results rest on, as digests: one that does not match any more says that its result is stale."""

from __future__ import annotations

import hashlib
from collections.abc import Collection, Mapping
from dataclasses import dataclass

from handrail import __version__
from handrail.core.checking.assigning import members_of
from handrail.core.checking.batch import Family
from handrail.core.checking.plan import Plan
from handrail.core.standards.sizes import Sizes

SIZED, VERIFIED, NONE = "sized", "verified", "none"


@dataclass(frozen=True)
class Grounds:
    """How a result is made: SIZED by its rule, VERIFIED as it stood, or there is NONE; and the digest of all that it
    rests on."""

    made: str
    digest: str


def grounds(
    plan: Plan, wanted: Collection[str] | None = None, stored: Mapping[str, Sizes] | None = None
) -> dict[str, Grounds]:
    """What the result of each connection in `wanted` (all) rests on.

    It covers the engine's version, the forces (its own, opposite, the support's), members, code, combinations, target
    and what the rulebook and overrides give, or why there is nothing to work out; where bolts may be shared, all that
    of the connections that share them too. Where `stored` has a connection's sizes, it is that of verifying them, and
    of what its rule would make of it."""
    own = _of_each(plan, wanted, stored)
    partners = {name: some for name in own if (some := plan.partners(name))}
    beside = {p for some in partners.values() for p in some}
    afresh = {p for p in beside if p not in own or (stored is not None and p in stored)}
    theirs = own | (_of_each(plan, afresh, None) if afresh else {})
    all_grounds = {}
    for name, of in own.items():
        shared = "".join(theirs[p].digest for p in partners.get(name, ()))
        all_grounds[name] = Grounds(of.made, _digest(f"{of.digest} {shared}".encode())) if shared else of
    return all_grounds


def _of_each(plan: Plan, wanted: Collection[str] | None, stored: Mapping[str, Sizes] | None) -> dict[str, Grounds]:
    """Of each connection by itself."""
    of_each: dict[str, Grounds] = {}
    said: dict[int, bytes] = {}

    def digest_of(family: Family | None) -> bytes:
        if id(family) not in said:
            said[id(family)] = _digest(repr(family).encode()).encode()
        return said[id(family)]

    for family, members in plan.families(wanted, stored).items():
        alike = _digest(repr((family, plan.code)).encode() + plan.acting.formed).encode()
        made = VERIFIED if stored is not None and plan.assigned[members[0]].connection.id in stored else SIZED
        for k in members:
            # what stands rests on what a run would size afresh, too
            ruled = digest_of(plan.by_rule(plan.assigned[k])) if made == VERIFIED else b""
            of = _digest(_ENGINE + made.encode() + alike + ruled + plan.acting.rests_on(k))
            of_each[plan.assigned[k].connection.id] = Grounds(made, of)
    for k, assigned in enumerate(plan.assigned):
        name = assigned.connection.id
        if name not in of_each and (wanted is None or name in wanted):
            why = repr((assigned.status, assigned.reason, assigned.rule.name if assigned.rule else "")).encode()
            if assigned.status == "elsewhere":  # said of what came to it then
                members_there = repr(members_of(plan.building, assigned.connection)).encode()
                why += members_there + plan.acting.formed + plan.acting.rests_on(k)
            of_each[name] = Grounds(NONE, _digest(_ENGINE + why))
    return of_each


_ENGINE = __version__.encode()


def _digest(of: bytes) -> str:
    return hashlib.blake2b(of, digest_size=16).hexdigest()
