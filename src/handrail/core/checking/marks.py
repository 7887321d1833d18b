"""Marks: connections that are the same pieces as fabricated share one; and what fewer of them would cost."""

from __future__ import annotations

import hashlib
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from handrail.core.checking.assembled import assembled
from handrail.core.checking.assigning import Assigned
from handrail.core.checking.batch import Batch, Family
from handrail.core.checking.plan import Plan
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.progress import Progress, quiet
from handrail.core.solids.counting import fillets
from handrail.core.solids.shapes import shapes
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.formulas import diameter
from handrail.core.standards.sizes import NOT_CHOSEN, PIECE, Sized, Sizes

BOLT_PRICE, WELD_PRICE = 3.0, 10.0  # what a bolt, and a kg of weld, count beside a kg of steel
AS_DRAWN, MIRRORED = "as drawn", "mirrored"
NEAR = 8  # marks that each is tried to be merged into, the cheapest first


def pieces(standard: Standard, situation: Situation, sizes: Sizes, mirrored: bool = False) -> tuple[Any, ...]:
    """What a connection is as the shop makes it, of one hand or `mirrored`; two that are equal in it are one mark: by
    the shapes of its pieces, however they lie, its bolts, its welds, how the member comes to it, and what was
    chosen."""
    made = standard.solids(situation, sizes)
    return (
        standard.name,
        round(abs(np.degrees(situation.skew)), 1),
        round(float(np.degrees(situation.slope)), 1),
        shapes(made, mirrored),
        (len(made.bolts), len(made.rods), made.erection),
        tuple(sorted((*of, round(length)) for of, length in fillets(made).items())),
        _made(standard, sizes),
    )


def formerly(piece: Piece, situation: Situation) -> str:
    """The digest that a mark had before shapes were compared: by the angles at which members come, and by the members
    to which pieces are cut."""
    standard, sizes = STANDARDS[piece.standard], piece.sizes
    said = {n: sizes[n].value for n in ("plate_fit", "plate_run", "through_plate") if n in sizes}
    on_members = standard.changing.axes is not None
    cut = on_members or bool({"full_depth", "flange_tip", "yes"} & set(said.values()))
    angles = (round(abs(np.degrees(situation.skew)), 1), round(float(np.degrees(situation.slope)), 1))
    member = situation.supported.section.name if on_members else ""
    carrier = situation.support.section.name if situation.support is not None and cut else ""
    return digest((standard.name, *angles, member, carrier, _made(standard, sizes)))


def _made(standard: Standard, sizes: Sizes) -> tuple[tuple[str, Any], ...]:
    """The sizes of the pieces."""
    return tuple(
        (p.name, _plain(sizes[p.name].value)) for p in standard.parameters if p.name in sizes and p.of == PIECE
    )


def _plain(value: Any) -> Any:
    return round(value, 3) if isinstance(value, float) else value


def digest(of: tuple[Any, ...]) -> str:
    """The name of what `pieces` gives that is the same from run to run."""
    return hashlib.blake2b(repr(of).encode(), digest_size=12).hexdigest()


def series(standard: str) -> str:
    """What the marks of a standard begin with: its initials."""
    return "".join(word[0] for word in standard.split("_")).upper()


@dataclass
class Piece:
    """One mark in a building: the connections that have it, and what one of them is made of."""

    digest: str
    standard: str
    sizes: Sizes
    connections: list[str] = field(default_factory=list)
    cost: float = 0.0
    bolts: int = 0
    steel: float = 0.0
    field_bolts: int = 0  # of the bolts
    hand: str = ""  # AS_DRAWN or MIRRORED, where the pieces of the two hands are not the same


@dataclass(frozen=True)
class Merge:
    """One step to fewer marks: `given` gives up its connections to `taken`, whose sizes they pass with, at most used
    `worst`; what that costs."""

    given: str
    taken: str
    marks: tuple[str, ...]  # that it gives up, with those that were given up for it before
    connections: tuple[str, ...]
    worst: float
    bolts: int
    steel: float


def gathered(plan: Plan, stood: Mapping[str, Sizes]) -> dict[str, Piece]:
    """The marks of connections with the sizes that they stand with, by digest."""
    held: dict[str, Piece] = {}
    for key, (name, hand) in _named(plan, stood).items():
        if name not in held:
            assigned = plan.assigned[plan.index[key]]
            assert assigned.rule is not None and assigned.situation is not None
            standard = STANDARDS[assigned.rule.use]
            made = standard.quantities(assigned.situation, stood[key])
            bolts = made.field_bolts + made.shop_bolts + made.rods
            cost = made.steel + WELD_PRICE * made.weld + BOLT_PRICE * bolts
            held[name] = Piece(name, standard.name, stood[key], [], cost, bolts, made.steel, made.field_bolts, hand)
        held[name].connections.append(key)
    return held


def _named(plan: Plan, stood: Mapping[str, Sizes]) -> dict[str, tuple[str, str]]:
    """connection -> (the digest of its mark, its hand). Its hand is asked for only where that makes other pieces."""
    both: dict[tuple[str, int, int], tuple[str, str]] = {}  # of alike ones, with the very same sizes, once
    named: dict[str, tuple[str, str]] = {}
    for key, sizes in stood.items():
        assigned = plan.assigned[plan.index[key]]
        if assigned.rule is None or assigned.situation is None:
            continue
        alike = assigned.rule.use, id(assigned.situation), id(sizes)
        if alike not in both:
            both[alike] = either_hand(STANDARDS[assigned.rule.use], assigned.situation, sizes)
        named[key] = both[alike]
    other = _of_the_other_hand(plan, stood, {key for key, (one, two) in named.items() if one != two})
    hands = {True: MIRRORED, False: AS_DRAWN}
    return {
        key: (two if key in other else one, "" if one == two else hands[key in other])
        for key, (one, two) in named.items()
    }


def either_hand(standard: Standard, situation: Situation, sizes: Sizes) -> tuple[str, str]:
    """The digests of a connection's mark, and of the one of the other hand: the same where its pieces are."""
    one, two = (digest(pieces(standard, situation, sizes, mirrored)) for mirrored in (False, True))
    return one, two


def _of_the_other_hand(plan: Plan, stood: Mapping[str, Sizes], asked: set[str]) -> set[str]:
    """Those among the connections that stand mirrored in their joints."""
    nodes = {plan.assigned[plan.index[key]].connection.node for key in asked}
    there = (plan.assigned[plan.index[key]] for key in stood) if nodes else ()
    standing = [(a, (a.rule.use, stood[a.connection.id])) for a in there if a.connection.node in nodes and a.rule]
    hands = {key: other for joint in assembled(plan.building, standing) for key, other in joint.hands().items()}
    return {key for key in asked if hands.get(key)}


def fewer(plan: Plan, stood: Mapping[str, Sizes], progress: Progress = quiet) -> list[Merge]:
    """Merges in their order, each the cheapest that is left and keeps every connection passing, as far as there are
    any. Connections that share bolts with the one opposite, or fail, stay as they are."""
    marks = gathered(plan, {key: sizes for key, sizes in stood.items() if not plan.partners(key)})
    trying = _Trying(plan)
    into: dict[str, dict[str, float]] = {}
    for number, (name, own) in enumerate(marks.items()):
        progress(number, len(marks))
        near = sorted(
            (m for m in marks.values() if m.standard == own.standard and m.digest != name),
            key=lambda m: abs(m.cost - own.cost),
        )[:NEAR]
        into[name] = {m.digest: worst for m in near if (worst := trying.worst(own.connections, m)) is not None}
    return _merged(marks, into)


def _merged(marks: Mapping[str, Piece], into: Mapping[str, Mapping[str, float]]) -> list[Merge]:
    """The cheapest merge first, until none is left: what was merged before goes along where all of it fits."""
    groups: dict[str, list[str]] = {name: [name] for name in marks}  # what has come together under a mark
    merges: list[Merge] = []
    while True:
        best: tuple[float, str, str] | None = None
        for given, members in groups.items():
            for taken in set.intersection(*(set(into[m]) for m in members)) & (groups.keys() - {given}):
                cost = sum((marks[taken].cost - marks[given].cost) * len(marks[m].connections) for m in members)
                if best is None or (cost, given, taken) < best:
                    best = (cost, given, taken)
        if best is None:
            return merges
        _, given, taken = best
        members = groups.pop(given)
        keys = tuple(key for m in members for key in marks[m].connections)
        groups[taken] += members
        a, b, worst = marks[given], marks[taken], max(into[m][taken] for m in members)
        merges.append(
            Merge(
                given,
                taken,
                tuple(members),
                keys,
                worst,
                (b.bolts - a.bolts) * len(keys),
                (b.steel - a.steel) * len(keys),
            )
        )


@dataclass(frozen=True)
class Tried:
    """The worst of some connections with other sizes: how it is used, which it is, by what; and whether every detailing
    rule holds for all."""

    use: float
    connection: str
    check: str
    sound: bool

    @property
    def told(self) -> tuple[float, str, str]:
        """Without the last."""
        return self.use, self.connection, self.check


@dataclass(frozen=True)
class AsOne:
    """One set of sizes for connections of one standard: `sizes`, the worst of them, what it costs beside how they
    stand; `passes` where all do."""

    standard: str
    connections: tuple[str, ...]
    sizes: Sizes
    stood: tuple[Sizes, ...]
    worst: Tried
    passes: bool
    bolts: int
    steel: float


def as_one(plan: Plan, stood: Mapping[str, Sizes], progress: Progress = quiet) -> list[AsOne]:
    """For each standard among connections with the sizes that they stand with, the least of those sizes with which all
    pass under their own forces; else the largest of each size together; else what comes nearest."""
    sized = []
    marks = gathered(plan, stood)
    names, done = dict.fromkeys(piece.standard for piece in marks.values()), 0
    for standard in names:
        own = sorted((p for p in marks.values() if p.standard == standard), key=lambda p: p.cost)
        keys = tuple(key for p in own for key in p.connections)
        trying, candidates = _Trying(plan), [p.sizes for p in own]
        tried = []
        for sizes in (*candidates, _largest(STANDARDS[standard], candidates)):
            progress(done := done + 1, len(marks) + len(names))
            if (worst := trying.tried(keys, sizes)) is not None:
                tried.append((sizes, worst))
        if not tried:
            continue
        fit = [one for one in tried if one[1].sound and one[1].use <= plan.target(keys)]
        sizes, worst = fit[0] if fit else min(tried, key=lambda one: (not one[1].sound, one[1].use))
        first = plan.assigned[plan.index[keys[0]]].situation
        assert first is not None
        made = STANDARDS[standard].quantities(first, STANDARDS[standard].complete(first, dict(sizes)))
        once = plan.sharing.counted_with(
            {key: p.sizes for p in own for key in p.connections}
        )  # bolts that hold two are bolts of one
        stood_bolts = sum(p.bolts - (p.field_bolts if key in once else 0) for p in own for key in p.connections)
        each = made.field_bolts + made.shop_bolts + made.rods
        bolts = each * len(keys) - made.field_bolts * len(once) - stood_bolts
        steel = made.steel * len(keys) - sum(p.steel * len(p.connections) for p in own)
        sized.append(AsOne(standard, keys, sizes, tuple(candidates), worst, bool(fit), bolts, steel))
    return sized


def _largest(standard: Standard, candidates: Sequence[Sizes]) -> Sizes:
    """Of every size that was climbed or chosen the largest of all, bolts and rods by their diameter."""
    largest: Sizes = {}
    for sizes in candidates:
        for name in changes_to(standard, sizes):
            if name not in largest or _size(sizes[name].value) > _size(largest[name].value):
                largest[name] = sizes[name]
    return largest


def _size(value: Any) -> float:
    if not isinstance(value, str):
        return float(value)
    try:
        return diameter(value)
    except InputError:
        return 0.0


@dataclass
class _Trying:
    """Sizes of one mark put on the connections of another."""

    plan: Plan

    def __post_init__(self) -> None:
        self.batch: Batch = self.plan.batch()

    def worst(self, keys: Sequence[str], mark: Piece) -> float | None:
        """The utilisation of the worst of the connections as this mark; None where one is over the target, or its
        pieces would be others there."""
        use = self.tried(keys, mark.sizes, mark.digest)
        return use.use if use is not None and use.sound and use.use <= self.plan.target(keys) else None

    def tried(self, keys: Sequence[str], sizes: Sizes, mark: str = "") -> Tried | None:
        """How connections are used with the sizes; None where they cannot be made there, or (of a `mark`) would be
        other pieces."""
        worst = Tried(0.0, "", "", True)
        for assigned, indices in self._alike(keys).values():
            assert assigned.rule is not None and assigned.situation is not None
            standard, situation = STANDARDS[assigned.rule.use], assigned.situation
            given = taken_over(self.plan, assigned, sizes)
            try:
                completed = standard.complete(situation, given)
            except InputError:
                return None
            if mark and (
                not self._has(mark, standard, situation, completed, indices)
                or not standard.examine(situation, completed, self.plan.code).sound
            ):
                return None
            family = Family(standard.name, situation, tuple(sorted(given.items())), ((),))
            judged = self.batch.judge(family, completed, self.batch.acted(family, np.array(indices)))
            k = int(judged.use.argmax())
            here = Tried(
                float(judged.use[k]),
                self.plan.assigned[indices[k]].connection.id,
                judged.check[k] or "unchecked",
                not judged.broken,
            )
            worst = Tried(*((here if here.use > worst.use else worst).told), worst.sound and here.sound)
        return worst

    def _has(self, mark: str, standard: Standard, situation: Situation, sizes: Sizes, indices: Sequence[int]) -> bool:
        """Whether connections that share no bolts are made of the pieces of a mark, each of its own hand."""
        one, two = either_hand(standard, situation, sizes)
        if one == two or mark not in (one, two):
            return mark == one
        stood = {self.plan.assigned[k].connection.id: sizes for k in indices}
        other = _of_the_other_hand(self.plan, stood, set(stood))
        return other == (set(stood) if mark == two else set())

    def _alike(self, keys: Sequence[str]) -> dict[Any, tuple[Assigned, list[int]]]:
        alike: dict[Any, tuple[Assigned, list[int]]] = defaultdict()
        for key in keys:
            k = self.plan.index[key]
            assigned = self.plan.assigned[k]
            alike.setdefault(
                (id(assigned.situation), id(assigned.rule), repr(self.plan.overrides.get(key))), (assigned, [])
            )[1].append(k)
        return alike


def taken_over(plan: Plan, assigned: Assigned, sizes: Sizes) -> Sizes:
    """The sizes of a mark on another connection: those chosen for its pieces, the rest (how it is judged, what is cut
    in the members) as its own rule and people have it."""
    assert assigned.rule is not None
    standard = STANDARDS[assigned.rule.use]
    known = {p.name for p in standard.parameters}
    decided = {n: Sized(v, "override") for n, v in plan.decided(assigned).items() if n in known}
    apart = {p.name for p in standard.parameters if p.of != PIECE}
    kept = {n: s for n, s in ((assigned.rule.base or {}) | decided).items() if n in apart}
    return kept | {n: Sized(v, "override") for n, v in changes_to(standard, sizes).items()}


def changes_to(standard: Standard, sizes: Sizes) -> dict[str, Any]:
    """What was chosen of the pieces of a mark; the rest of them follows from it."""
    made = {name for name, _ in _made(standard, sizes)}
    return {n: s.formula or s.value for n, s in sizes.items() if n in made and s.source not in NOT_CHOSEN}


def changes_from(standard: Standard, taken: Sizes, given: Sequence[Sizes]) -> dict[str, Any]:
    """What of the pieces of a mark has to be said of connections that stand with the sizes `given`, so that they have
    it and keep it: what is otherwise there, and what a ladder climbs."""
    chosen = changes_to(standard, taken)
    changes: dict[str, Any] = {}
    for name, value in _made(standard, taken):
        own = [sizes[name] for sizes in given if name in sizes]
        differs = len(own) < len(given) or any(_plain(size.value) != value for size in own)
        climbs = any(size.source.startswith("rung") for size in (taken[name], *own))
        said = differs and any(
            size.source not in NOT_CHOSEN for size in own
        )  # by their own rules, and not by the mark's
        if (name in chosen and (differs or climbs)) or said:
            changes[name] = chosen.get(name, taken[name].value)
    return changes
