"""A building as it was analysed, in N, mm and rad, Z up, forces as what the node does to the member's end."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Any

import numpy as np

from handrail.core.catalogue import Grade, Section, grade, own, section
from handrail.core.catalogue.lateral import DETAILED, OVERSTRONG
from handrail.core.errors import UnknownName

ENDS = ("i", "j")
RELEASES = ("N", "Vy", "Vz", "T", "My", "Mz")
VERTICAL, STEEP = np.sin(np.radians(0.1)), np.cos(np.radians(5.0))
PLUMB = 3.0  # mm that a short member may run aside and be vertical: what coordinates are off by


@lru_cache(maxsize=65536)
def _held(find: Callable[[str], Any], name: str, of: tuple[int, str]) -> Any:
    """What `find` gives, None where it holds nothing; kept, because looking for the nearest name is slow. `of`
    says which of the house's own stand, and for whom."""
    try:
        return find(name)
    except UnknownName:
        return None


PART = "~"  # between the name of a member that is cut at a splice and the number of its piece
_CUT = re.compile(r"(~+|/)\d+$")  # a stroke in revisions that came in before


@dataclass(frozen=True)
class Case:
    """One load case; `kind` is linear, nonlinear, spectrum or envelope."""

    name: str
    title: str
    nature: str
    kind: str = "linear"


@dataclass(frozen=True)
class Combination:
    """Factored terms of a set; `method` is LRFD, ASD or none."""

    name: str
    set: str
    method: str
    terms: tuple[tuple[str, float], ...]


@dataclass(frozen=True)
class Member:
    """One analysis element. `i` and `j` index the building's nodes; `roll` rad, lengths mm."""

    name: str
    i: int
    j: int
    section: str
    grade: str
    roll: float = 0.0
    role: str = ""
    physical: str = ""
    release_i: frozenset[str] = frozenset()
    release_j: frozenset[str] = frozenset()
    top_offset: float = 0.0
    intent_i: str = ""
    intent_j: str = ""
    end_offset_i: float = 0.0
    end_offset_j: float = 0.0
    seismic: str = ""
    lateral: str = ""

    @property
    def detailed(self) -> bool:
        """Whether AISC 341 applies to it: of a kind that it is made for; where none is stated, of the lateral
        system."""
        return self.lateral in DETAILED or (not self.lateral and self.seismic in ("column", "beam", "brace"))

    @property
    def collects(self) -> bool:
        """Whether overstrength counts for it whatever its system: a collector, or what carries a wall or frame that
        ends above it."""
        return self.seismic == "collector" or self.lateral in OVERSTRONG

    def node(self, end: int) -> int:
        return self.j if end else self.i

    def release(self, end: int) -> frozenset[str]:
        return self.release_j if end else self.release_i


@dataclass(frozen=True)
class Foundation:
    """The concrete under a node: `kind` pedestal, footing or slab, of `fc` MPa and `thickness` mm.

    `edges` are from the node to the concrete's edges along -x, +x, -y, +y, mm (without end where too far to count),
    these axes turned by `turn` rad about up."""

    kind: str
    fc: float
    thickness: float
    edges: tuple[float, float, float, float] = (math.inf,) * 4
    turn: float = 0.0
    cracked: bool = True


@dataclass(frozen=True)
class GridLine:
    """A grid line in plan, from `start` to `end` (x, y) mm; one with a kink is several of one name."""

    name: str
    start: tuple[float, float]
    end: tuple[float, float]


@dataclass(frozen=True)
class Level:
    """A floor's name and height, mm."""

    name: str
    z: float


@dataclass(frozen=True)
class NodeForces:
    """Forces at nodes: `node` (k,), `result` (k,) indices and `values` (k, 6), global axes."""

    node: np.ndarray
    result: np.ndarray
    values: np.ndarray

    @classmethod
    def none(cls) -> NodeForces:
        return cls(np.zeros(0, int), np.zeros(0, int), np.zeros((0, 6)))


@dataclass(frozen=True)
class Building:
    """One revision of an analysis model.

    `xyz` (nodes, 3) mm; `results` names the second axis of `forces` (members, results, 2 ends, 6), local
    axes, N and N*mm, NaN where the bundle gave none.
    """

    name: str
    title: str
    revision: str
    date: str
    source: str
    units: dict[str, str]
    nodes: tuple[str, ...]
    xyz: np.ndarray
    members: tuple[Member, ...]
    supports: dict[int, tuple[bool, ...]]
    cases: tuple[Case, ...]
    combinations: tuple[Combination, ...]
    results: tuple[str, ...]
    forces: np.ndarray
    reactions: NodeForces
    node_loads: NodeForces
    own_sections: dict[str, Section] = field(default_factory=dict)
    diaphragms: dict[int, str] = field(default_factory=dict)
    foundations: dict[int, Foundation] = field(default_factory=dict)
    spliced: frozenset[int] = frozenset()  # nodes where one member was cut in two: no piece runs through
    unknown_splices: dict[int, str] = field(default_factory=dict)  # of these, why the forces there are not known
    forces_at: str = "node"
    grids: tuple[GridLine, ...] = ()
    levels: tuple[Level, ...] = ()  # the lowest first
    north: float | None = None  # rad, to the left of the plan's y axis; None where nobody said
    category: str = ""  # seismic design category; empty where nobody said
    pieces_differ: tuple[str, ...] = ()  # where a building model's pieces have other sections, in words
    pieces_alone: tuple[str, ...] = ()  # pieces of a building model that no member is analysed for
    unread: tuple[str, ...] = ()  # tables of the bundle that are not used yet

    def section(self, name: str) -> Section | None:
        """The job's own section of that name, else the catalogue's, else None."""
        return self.own_sections.get(name) or _held(section, name, (own.version(), own.here.get()))

    def grade(self, name: str) -> Grade | None:
        """The catalogue's grade of that name, else None."""
        return _held(grade, name, (own.version(), own.here.get()))

    @property
    def system(self) -> str:
        """The unit system people see: us where lengths come in feet or inches."""
        return "us" if self.units.get("length", "") in ("ft", "in", "foot", "inch") else "si"

    @cached_property
    def axes(self) -> np.ndarray:
        """(members, 3, 3) rows x, y, z of each member's local axes in global ones."""
        return local_axes(
            self.xyz[[m.i for m in self.members]],
            self.xyz[[m.j for m in self.members]],
            np.array([m.roll for m in self.members]),
        )

    @cached_property
    def analysed(self) -> tuple[tuple[str, float], ...]:
        """Of each member what it is called in the analysis, and how far along that member its i end is, mm: the parts
        of one that was cut at splices are one member there."""
        found: list[tuple[str, float]] = []
        for number, member in enumerate(self.members):
            if member.i in self.spliced:
                name, start = found[-1]
                found.append((name, start + float(self.lengths[number - 1])))
            else:
                cut = member.j in self.spliced
                found.append((_CUT.sub("", member.name) if cut else member.name, 0.0))
        return tuple(found)

    @cached_property
    def lengths(self) -> np.ndarray:
        i, j = [m.i for m in self.members], [m.j for m in self.members]
        return np.linalg.norm(self.xyz[j] - self.xyz[i], axis=1)

    @cached_property
    def ends_at(self) -> dict[int, list[tuple[int, int]]]:
        """node -> [(member, end)]."""
        ends: dict[int, list[tuple[int, int]]] = {}
        for index, member in enumerate(self.members):
            for end in (0, 1):
                ends.setdefault(member.node(end), []).append((index, end))
        return ends


def upright(runs: np.ndarray) -> np.ndarray:
    """(m,) which members that run (m, 3) mm from end to end are vertical: within 0.1 degrees, or aside by less than
    PLUMB."""
    aside, whole = np.hypot(runs[:, 0], runs[:, 1]), np.linalg.norm(runs, axis=1)
    return np.asarray((aside < VERTICAL * whole) | ((aside < PLUMB) & (np.abs(runs[:, 2]) > STEEP * whole)))


def local_axes(start: np.ndarray, end: np.ndarray, roll: np.ndarray) -> np.ndarray:
    """(m, 3, 3) rows x, y, z for members from `start` to `end` (m, 3) rolled by `roll` (m,) rad.

    y lies in the vertical plane through x and points up; of a vertical member, along global X.
    """
    vertical = upright(end - start)
    x = end - start
    x = x / np.linalg.norm(x, axis=1, keepdims=True)
    up = np.array([0.0, 0.0, 1.0])
    toward = np.where(vertical[:, None], np.array([1.0, 0.0, 0.0]), up)
    y = toward - (toward * x).sum(axis=1, keepdims=True) * x
    y = y / np.linalg.norm(y, axis=1, keepdims=True)
    z = np.cross(x, y)
    cos, sin = np.cos(roll)[:, None], np.sin(roll)[:, None]
    turned = cos * y + sin * z
    return np.stack([x, turned, np.cross(x, turned)], axis=1)
