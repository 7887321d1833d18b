"""What acts on every connection of a building in the combinations that a run checks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from handrail.core.actions import COMPONENTS, Actions, Forces
from handrail.core.building.base_reactions import braced, foot_forces
from handrail.core.building.combining import BY_STRENGTH, Chosen, CombinationSet, strength_set
from handrail.core.building.end_actions import end_actions
from handrail.core.building.model import Building, Member
from handrail.core.building.pieces import End
from handrail.core.catalogue.lateral import SHAKEN, strongest
from handrail.core.codes.family import Code
from handrail.core.joint.connection import Connection
from handrail.core.joint.relations import FACING

KEPT, PART = 5_000_000, 4000  # numbers that are kept for all, and connections of many that are gone through at a time
SHARE, LITTLE = 0.2, 1.0  # of a combination's action; N, N*mm: a sum's rest


@dataclass
class Acting:
    """The `chosen` combinations of the code's method for all; those of overstrength for collectors (ASCE 7 12.10.2.1)
    and for bases of the system that resists earthquakes; and for what stands on concrete those that judge it too,
    whatever the method."""

    building: Building
    connections: tuple[Connection, ...]
    code: Code
    roles: tuple[str, ...]
    chosen: Chosen = BY_STRENGTH
    stated: Mapping[int, Mapping[str, float]] = field(
        default_factory=dict
    )  # connection -> actions in place of the model's, in every combination

    def __post_init__(self) -> None:
        self._columns: dict[tuple[End, ...], np.ndarray] = {}

    @property
    def method(self) -> str:
        """That the combinations are of."""
        return self.code.method

    @cached_property
    def strength(self) -> CombinationSet:
        """The chosen combinations."""
        return self._of(self.method, self.chosen.set)

    @cached_property
    def overstrength(self) -> CombinationSet:
        """Those with overstrength."""
        return self._of(self.method, "overstrength" if self.chosen.overstrength else "")

    def _of(self, method: str, wanted: str) -> CombinationSet:
        return strength_set(self.building, method, wanted, self.chosen.only)

    @cached_property
    def names(self) -> tuple[str, ...]:
        """Strength, then overstrength; none where there is no strength combination."""
        return (*self.strength.names, *self.overstrength.names) if self.strength.names else ()

    @cached_property
    def anchored(self) -> tuple[CombinationSet, CombinationSet]:
        """(strength, overstrength) of the method that concrete is judged by, where the own is another; empty sets where
        it is not."""
        by = self.code.situations.concrete
        if self.method == by:
            return _NONE, _NONE
        return self._of(by, self.chosen.set), self._of(by, "overstrength" if self.chosen.overstrength else "")

    @cached_property
    def collector(self) -> np.ndarray:
        """(connections,) whether overstrength counts: the supported member is a collector, or a base or column splice
        of the lateral system, or a base whose anchors an earthquake asks for (ACI 318-19 17.10.5.3d, 17.10.6.3c)."""
        if not self.chosen.overstrength:
            return np.zeros(len(self.connections), bool)
        own = [self.building.members[c.member].collects or lateral(self.building, c) for c in self.connections]
        return np.array(own, bool) | self.quaking

    @cached_property
    def quaking(self) -> np.ndarray:
        """(connections,) bases outside the lateral system, of a structure in the categories C to F, of whose pull or
        shear an earthquake makes more than a fifth in a combination (ACI 318-19 17.10.5.1, 17.10.6.1)."""
        shaken = np.zeros(len(self.connections), bool)
        if self.building.category not in SHAKEN or not any(self.strength.seismic):
            return shaken
        for k, c in enumerate(self.connections):
            if c.framing == "column_base" and not lateral(self.building, c):
                shaken[k] = _asks(self._foot(k, self.strength), self._foot(k, self.strength.of_quakes))
        return shaken

    def _formed(self, indices: np.ndarray) -> np.ndarray:
        """(k, combinations, 6) of the ends of the connections `indices` in every combination; of few all are kept, of
        many each time made anew."""
        many = len(self.connections) * len(self.names) * len(COMPONENTS)
        return self._whole[indices] if many <= KEPT else self._form(indices)

    @cached_property
    def _whole(self) -> np.ndarray:
        return self._form(np.arange(len(self.connections)))

    def _form(self, indices: np.ndarray) -> np.ndarray:
        sets = (self.strength, self.overstrength) if self.names else (self.strength,)
        members, ends = self._ends
        parts = np.concatenate([end_actions(self.building, of, members[indices], ends[indices]) for of in sets], axis=1)
        own = {int(k): n for n, k in enumerate(indices)} if self._on_braced_base or self.stated else {}
        for k in own.keys() & set(self._on_braced_base):
            parts[own[k]] = np.concatenate([self._foot(k, combined) for combined in sets])
        for k in own.keys() & self.stated.keys():
            parts[own[k]] = self._as_stated(k, parts[own[k]])
        return parts

    @cached_property
    def _ends(self) -> tuple[np.ndarray, np.ndarray]:
        """(connections,) member and end of each."""
        return np.array([c.member for c in self.connections], int), np.array([c.end for c in self.connections], int)

    def _as_stated(self, index: int, table: np.ndarray) -> np.ndarray:
        """(combinations, 6) of one connection with what a person stated; also where the model has no forces."""
        own = self.stated.get(index, {})
        if own and np.isnan(table).any():
            table = np.zeros_like(table)
        for name, value in own.items():
            table[:, COMPONENTS.index(name)] = value
        return table

    def by_set(self, wanted: str) -> np.ndarray | None:
        """(connections, combinations, 6) of every end by another set of combinations, or in one result of the analysis
        by itself, unfactored; zero where forces are missing, None where there is neither of that name."""
        forces = self._of(self.method, wanted)
        if not forces.names:
            forces = self._alone(wanted)
        if not forces.names:
            return None
        table = np.nan_to_num(end_actions(self.building, forces, *self._ends))
        for k in self._on_braced_base:
            table[k] = np.nan_to_num(self._foot(k, forces))
        return table

    def _alone(self, result: str) -> CombinationSet:
        """One result of the analysis; none where there is none of that name, whichever case it is written in."""
        of = {name.casefold(): k for k, name in enumerate(self.building.results)}
        k = of.get(result.casefold())
        if k is None:
            return _NONE
        factors = np.repeat(np.eye(len(of))[k][None, :, None], len(COMPONENTS), axis=-1)
        return CombinationSet((self.building.results[k],), factors, ())

    @cached_property
    def _on_braced_base(self) -> list[int]:
        """Numbers of the bases that braces land on too."""
        return [
            k for k, c in enumerate(self.connections) if c.framing == "column_base" and braced(self.building, c.node)
        ]

    def _foot(self, k: int, combined: CombinationSet) -> np.ndarray:
        """(combinations, 6) of one base: what the support carries as a whole where braces land there."""
        c = self.connections[k]
        whole = foot_forces(self.building, c.member, c.end)[None] if k in self._on_braced_base else None
        return self._as_stated(
            k, end_actions(self.building, combined, np.array([c.member]), np.array([c.end]), whole)[0]
        )

    @cached_property
    def _facing(self) -> list[list[int]]:
        """Of each connection those whose beams stand on the other side, the one opposite first."""
        index = {c.id: k for k, c in enumerate(self.connections)}
        return [
            [index[o] for kind in FACING for o in c.others(kind) if o in index] if c.relations else []
            for c in self.connections
        ]

    def _counted(self, forces: np.ndarray, collector: np.ndarray) -> np.ndarray:
        """(k, combinations, ...) as it is; where not `collector`, the first strength combination stands for each of
        overstrength."""
        counts = collector[:, None] | (np.arange(forces.shape[1]) < len(self.strength.names))
        return (
            forces
            if counts.all()
            else np.where(counts.reshape(*counts.shape, *[1] * (forces.ndim - 2)), forces, forces[:, :1])
        )

    @property
    def all(self) -> np.ndarray:
        """(connections, combinations, 6) as N, V, Vw, M, Mw, T; NaN where forces are missing."""
        return self.on(np.arange(len(self.connections)))

    def on(self, indices: np.ndarray) -> np.ndarray:
        """(k, combinations, 6) of the connections `indices`; NaN where forces are missing."""
        return self._counted(self._formed(indices), self.collector[indices])

    def by_case(self, index: int) -> tuple[tuple[str, ...], np.ndarray]:
        """(names, (results, 6)) of one connection in each result of the analysis by itself, unfactored; what a person
        stated is in all of them."""
        names = tuple(self.building.results)
        alone = np.repeat(np.eye(len(names))[..., None], len(COMPONENTS), axis=-1)
        return names, self._foot(index, CombinationSet(names, alone, ()))

    def peaks(self) -> np.ndarray:
        """(connections, 6, 2) the lowest and the highest of each action over the combinations, 0 counted in and in
        place of what is missing."""
        parts = [np.zeros((0, len(COMPONENTS), 2))]
        for start in range(0, len(self.connections), PART):
            known = np.nan_to_num(self.on(np.arange(start, min(start + PART, len(self.connections)))))
            parts.append(np.stack([known.min(axis=1, initial=0.0), known.max(axis=1, initial=0.0)], axis=-1))
        return np.concatenate(parts)

    def _on_support(self, indices: np.ndarray) -> np.ndarray:
        """(k, combinations, 6) with N and V turned to the support's axes: normal to its face and along it."""
        met = [self.connections[k].supported for k in indices]
        skew, slope = np.radians([[p.skew for p in met], [p.slope for p in met]])[..., None]
        formed = self._formed(indices)
        on_support = formed.copy()
        N, V = formed[..., 0], formed[..., 1]
        on_support[..., 0] = (N * np.cos(slope) + V * np.sin(slope)) * np.cos(skew)
        on_support[..., 1] = V * np.cos(slope) - N * np.sin(slope)
        return on_support

    def others(self, indices: np.ndarray) -> dict[str, Forces]:
        """By role, the forces (k, combinations) of the other pieces at the connections `indices` that they are judged
        with: of the beams opposite and of the hollow columns that they stand on."""
        by_role = {"opposite": self._of_opposite(indices), "support": self._of_support(indices)}
        return {role: forces for role, forces in by_role.items() if forces is not None}

    def _of_opposite(self, indices: np.ndarray) -> Forces | None:
        """What the beams on the other side do to the shared support, zero where there is none; None where none has any.
        Shears of several are added up whichever way they go, pulls and thrusts as they are."""
        facing = [self._facing[k] for k in indices.tolist()]
        N: np.ndarray | float = 0.0
        V: np.ndarray | float = 0.0
        for turn in range(max(map(len, facing), default=0)):
            other = np.array([there[turn] if turn < len(there) else -1 for there in facing], int)
            theirs = self._counted(self._on_support(other), self.collector[indices])
            there_is = (other >= 0)[:, None]
            N = N + np.where(there_is, theirs[..., 0], 0.0)
            both = np.abs(V) + np.abs(theirs[..., 1]) if turn else theirs[..., 1]
            V = np.where(there_is, both, V)
        return Forces(N=N, V=V) if isinstance(N, np.ndarray) else None

    def _of_support(self, indices: np.ndarray) -> Forces | None:
        """The axial force, N (+ tension), of hollow columns, their moments added as the compression that they make at
        the corner; NaN where no forces are known, None where none stands on such a column."""
        if not any(self.connections[k].framing == "beam_to_hollow_column" for k in indices):
            return None
        columns = np.stack([self._column(int(k)) for k in indices])
        return Forces(N=self._counted(columns, self.collector[indices]))

    def _column(self, index: int) -> np.ndarray:
        """(combinations,) of one column at the joint: the most compressed of its elements above and below."""
        key = _ends_of_column(self.connections[index])
        if key not in self._columns:
            members, at = (np.array(v, int) for v in zip(*key, strict=True))
            sets = (self.strength, self.overstrength) if self.names else (self.strength,)
            forces = np.concatenate([end_actions(self.building, of_set, members, at) for of_set in sets], axis=1)
            self._columns[key] = np.stack([self._squeezed(m, f) for m, f in zip(members, forces, strict=True)]).min(
                axis=0
            )
        return self._columns[key]

    @cached_property
    def formed(self) -> bytes:
        """How the combinations are made: their names and the factors of each result, in whichever order the results
        came."""
        sets = (self.strength, self.overstrength, *self.anchored)
        return repr([(s.names, s.seismic) for s in sets]).encode() + b"".join(
            s.factors[:, self._by_name].tobytes() for s in sets if s.names
        )

    @cached_property
    def _by_name(self) -> np.ndarray:
        """The results by their names."""
        return np.array(sorted(range(len(self.building.results)), key=self.building.results.__getitem__), int)

    def rests_on(self, index: int) -> bytes:
        """What came in that acts on one connection: the forces of its end, of the beam opposite, of a hollow column's
        ends, each with what turns them into actions. The same whichever other connections are looked at with it."""
        connection = self.connections[index]
        facing = [self.connections[other].supported for other in self._facing[index]]
        columns = sorted(_ends_of_column(connection), key=self._name)
        ends = [*connection.supported.ends, *(end for one in facing for end in one.ends), *columns]
        turned = (
            [bool(self._rolled_over[m]) for m, _ in ends],
            *(turn for one in facing for turn in (one.skew, one.slope)),
        )
        sections = [self.building.section(self.building.members[m].section) for m, _ in ends] if columns else []
        forces = b"".join(self.building.forces[m, self._by_name, end].tobytes() for m, end in ends)
        if index in self._on_braced_base:
            forces += foot_forces(self.building, connection.member, connection.end)[self._by_name].tobytes()
        said = [sorted(self.stated[k].items()) for k in (index, *self._facing[index]) if k in self.stated]
        return forces + repr((turned, sections, bool(self.collector[index]), *said)).encode()

    def _name(self, end: tuple[int, int]) -> tuple[str, int]:
        return self.building.members[end[0]].name, end[1]

    @cached_property
    def _rolled_over(self) -> np.ndarray:
        """(members,) whether the web's axis points down."""
        return self.building.axes[:, 1, 2] < -1e-9

    def _squeezed(self, member: int, forces: np.ndarray) -> np.ndarray:
        """N less what both moments press at the corner, as a force over the whole section."""
        section = self.building.section(self.building.members[member].section)
        if section is None:
            return np.full(len(forces), np.nan)
        return forces[:, 0] - section.A * (np.abs(forces[:, 3]) / section.Sx + np.abs(forces[:, 4]) / section.Sy)

    @cached_property
    def sets(self) -> tuple[tuple[str, str], ...]:
        """(method, set) of each combination in `names`."""
        over = [(self.method, "overstrength")] * (len(self.names) - len(self.strength.names))
        return (*[(self.method, "strength")] * (len(self.names) - len(over)), *over)

    def actions(self, indices: np.ndarray) -> Actions:
        """(k, combinations) of the connections `indices`, all of one framing, with what stands opposite and the
        column's own force."""
        if len(indices) and self.connections[indices[0]].framing in ("column_base", "column_splice"):
            return self._of_columns(indices)
        return Actions.of(self.on(indices), self.names, self.others(indices), self.sets)

    def _of_columns(self, indices: np.ndarray) -> Actions:
        """Of bases or column splices, all or none of the lateral system: only what they are judged by, with which of it
        has an earthquake in it; of bases also what judges their concrete, in every job."""
        over = bool(self.collector[indices[0]])
        strong, more = self.anchored if self.connections[indices[0]].framing == "column_base" else (_NONE, _NONE)
        by = self.code.situations.concrete
        sets = [(self.strength, self.method, "strength"), (strong, by, "strength")]
        sets += [(self.overstrength, self.method, "overstrength"), (more, by, "overstrength")] if over else []
        sets = [of for of in sets if of[0].names] if self.names else []
        table = np.stack(
            [
                np.concatenate([self._foot(int(k), of) for of, _, _ in sets]) if sets else np.zeros((0, 6))
                for k in indices
            ]
        )
        return Actions.of(
            table,
            tuple(n for of, _, _ in sets for n in of.names),
            sets=tuple((by, name) for of, by, name in sets for _ in of.names),
            seismic=tuple(s for of, _, _ in sets for s in of.seismic),
        )


def _ends_of_column(connection: Connection) -> tuple[End, ...]:
    """The (member, end) at the joint of the elements of a hollow column that a beam is fastened to; none of others."""
    support = connection.carrier
    return support.ends if support and connection.framing == "beam_to_hollow_column" else ()


def _asks(whole: np.ndarray, quake: np.ndarray) -> bool:
    """Whether more than a fifth of what pulls or shears a base, of (combinations, 6) `whole`, is `quake`'s."""
    if np.isnan(whole).any():
        return False  # it is not judged at all
    shear = np.hypot(quake[:, 1], quake[:, 2]) > SHARE * np.hypot(whole[:, 1], whole[:, 2]) + LITTLE
    turned = (np.abs(quake[:, 3:]) > SHARE * np.abs(whole[:, 3:]) + LITTLE).any(axis=1)
    lifted = (whole[:, 0] > 0) & (quake[:, 0] > SHARE * whole[:, 0] + LITTLE)
    return bool((shear | turned | lifted).any())


_NONE = CombinationSet((), np.zeros((0, 0, 6)), ())


def lateral(building: Building, connection: Connection) -> bool:
    """Whether a base or a column's splice is of the system that resists earthquakes: a column there, or a brace that
    lands on the base."""
    if connection.framing not in ("column_base", "column_splice"):
        return False
    return any(m.detailed for m in _of_it(building, connection))


def kind(building: Building, connection: Connection) -> str:
    """The kind of lateral system that a connection's members are stated to be of, the one that asks most; empty where
    none is stated."""
    return strongest([m.lateral for m in _of_it(building, connection)])


def _of_it(building: Building, connection: Connection) -> list[Member]:
    """At a base all that lands there but its beams, at a splice the columns, else the member whose end it is."""
    if connection.framing == "column_base":
        return [
            building.members[m] for m, _ in building.ends_at[connection.node] if building.members[m].seismic != "beam"
        ]
    joined = (connection.member, connection.support) if connection.framing == "column_splice" else (connection.member,)
    return [building.members[m] for m in joined if m is not None]
