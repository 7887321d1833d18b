"""How a program means its end forces, found by trying: each answer is put to statics, and the one that closes is taken.

At a node the forces that its members' ends take, the load and the reaction are nothing together; from end to end the
end moments of a member close with its end shears over its length (exactly where nothing loads it, and with a load that
is even). Both are linear in the sign of each component, so every answer is tried: forces on the member or within it,
which way is up, where the web of a vertical member lies, whether y and z are another way round, the sign of each
component, of the reactions and of the loads on nodes."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from handrail.core.building.model import local_axes
from handrail.core.building.precision import precision_of

OUT = 0.02  # of what meets at a node, that may be left over by rounding
MOST_NODES, MOST_RESULTS, MOST_MEMBERS = 160, 5, 1500
SMALL = 1e-3  # of a component's largest: nothing
CONVENTIONS = ("on_member", "internal")
UPS = ("Z", "Y")
TOWARDS = {"Z": ("X", "Y", "-X", "-Y"), "Y": ("X", "Z", "-X", "-Z")}  # the way that local y of a vertical member points
WAYS = {"X": (1, 0, 0), "Y": (0, 1, 0), "Z": (0, 0, 1)}
PAIRS = ((1, 5), (2, 4))  # shears and the moments that they make
SWAP = [0, 2, 1, 3, 5, 4]
COMPONENTS = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")


@dataclass(frozen=True)
class Frame:
    """A frame as its tables give it, in one unit of length: `xyz` (n, 3) with the program's own axes, `ends` (m, 2)
    nodes, `roll` (m,) rad, `forces` (m, r, 2, 6) as they stand, NaN where there are none; `reactions` and `loads` (n,
    r, 6), `held` (n,) nodes on supports."""

    xyz: np.ndarray
    ends: np.ndarray
    roll: np.ndarray
    forces: np.ndarray
    reactions: np.ndarray
    loads: np.ndarray
    held: np.ndarray
    gravity: int = -1  # the result that pulls down; -1 where nobody said


@dataclass(frozen=True)
class Sense:
    """One answer: `signs` (6,) of the components as they stand, after y and z are `swapped` where they are another way
    round."""

    forces: str = "internal"
    up: str = "Z"
    toward: str = "X"
    swapped: bool = False
    signs: tuple[int, ...] = (1,) * 6
    reactions: int = 1
    loads: int = 1


@dataclass(frozen=True)
class Tried:
    """An answer with how many of `nodes` it leaves out of balance and how many of `members` do not close from end to
    end; `ratio` is what their moments are of shear times length where they are alike, which is 1 in one system of
    units."""

    sense: Sense
    out: int
    nodes: int
    open: int = 0
    members: int = 0
    ratio: float = 1.0

    @property
    def left(self) -> float:
        """What it leaves over, of all nodes and members."""
        return self.out / max(self.nodes, 1) + self.open / max(self.members, 1)


def best_sense(frame: Frame, given: Sense | None = None) -> tuple[Tried, list[Tried]]:
    """(the answer that closes most, one that needs the fewest changes of `given` where several do; the best of each
    other arrangement)."""
    judged = _Judge(frame)
    given = given or Sense()
    tried = [
        judged.best(Sense(forces, up, toward, swapped, given.signs, given.reactions, given.loads), given)
        for forces, up, swapped in itertools.product(CONVENTIONS, UPS, (False, True))
        for toward in TOWARDS[up]
    ]
    tried.sort(key=lambda t: (round(t.left, 3), changes(t.sense, given)))
    return tried[0], tried[1:]


def judge(frame: Frame, sense: Sense) -> Tried:
    """What one answer leaves over."""
    return _Judge(frame).judge(sense)


def changes(sense: Sense, given: Sense) -> int:
    """In how many ways two answers differ."""
    plain = sum(
        getattr(sense, name) != getattr(given, name)
        for name in ("forces", "up", "toward", "swapped", "reactions", "loads")
    )
    return plain * 2 + sum(a != b for a, b in zip(sense.signs, given.signs, strict=True))


class _Judge:
    """Tries answers on some of a frame's nodes, results and members."""

    def __init__(self, frame: Frame) -> None:
        self.frame = frame
        known = np.nan_to_num(frame.forces)
        sizes = np.abs(known).sum(axis=(0, 2, 3))
        live = np.nonzero(sizes > 0)[0]
        self.results = (
            live[np.unique(np.linspace(0, len(live) - 1, min(MOST_RESULTS, len(live))).astype(int))]
            if len(live)
            else live
        )
        if 0 <= frame.gravity < len(sizes) and frame.gravity not in self.results and sizes[frame.gravity] > 0:
            self.results = np.append(self.results[:-1], frame.gravity)
        own = frame.forces[:, self.results]
        gone = np.isnan(own).any(axis=(1, 2, 3))
        self.own = np.nan_to_num(own)
        degree = np.bincount(frame.ends.reshape(-1), minlength=len(frame.xyz))
        bad = np.zeros(len(frame.xyz), bool)
        bad[frame.ends[gone].reshape(-1)] = True
        without = frame.held & ~np.abs(frame.reactions[:, self.results]).any(axis=(1, 2))
        usable = np.nonzero((degree > 1) & ~bad & ~without | (frame.held & ~bad & ~without & (degree > 0)))[0]
        self.nodes = (
            usable[np.unique(np.linspace(0, len(usable) - 1, min(MOST_NODES, len(usable))).astype(int))]
            if len(usable)
            else usable
        )
        self.place = np.full(len(frame.xyz), -1)
        self.place[self.nodes] = np.arange(len(self.nodes))
        self._axes: dict[tuple[str, str], tuple[np.ndarray, np.ndarray]] = {}
        self._ratio: dict[tuple[str, bool], list[tuple[np.ndarray, np.ndarray]]] = {}
        self.rounding = precision_of(frame.forces).left(
            degree[self.nodes] + 2
        )  # the reaction and the load there are rounded too
        self.largest = np.abs(self.own).max(axis=(0, 1, 2), initial=0.0)

    def turned(self, up: str, toward: str) -> tuple[np.ndarray, np.ndarray]:
        """(local axes (m, 3, 3), the program's axes in ours (3, 3)) with one way up."""
        if (up, toward) not in self._axes:
            turn = (
                np.eye(3) if up == "Z" else np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]])
            )  # rows: X, Y, Z of the program in ours
            xyz = self.frame.xyz @ turn
            start, end = xyz[self.frame.ends[:, 0]], xyz[self.frame.ends[:, 1]]
            way = np.array(WAYS[toward[-1]]) * (-1 if toward[0] == "-" else 1) @ turn
            about = np.arctan2(way[1], way[0])
            run = end - start
            vertical = np.hypot(run[:, 0], run[:, 1]) < 2e-3 * np.linalg.norm(run, axis=1)
            roll = self.frame.roll + np.where(vertical, np.where(run[:, 2] > 0, about, -about), 0.0)
            self._axes[up, toward] = local_axes(start, end, roll), turn
        return self._axes[up, toward]

    def parts(self, sense: Sense) -> tuple[np.ndarray, np.ndarray]:
        """(what each component does at the nodes (2 kinds, 5, nodes, results, 3) with its sign as it stands: three of
        the ends, reaction, load; what meets there (2, nodes, results))."""
        axes, turn = self.turned(sense.up, sense.toward)
        own = self.own[..., SWAP] if sense.swapped else self.own
        n, r = len(self.nodes), len(self.results)
        totals, met = np.zeros((2, 5, n, r, 3)), np.zeros((2, n, r))
        for end in (0, 1):
            at = self.place[self.frame.ends[:, end]]
            here = np.nonzero(at >= 0)[0]
            flip = -1.0 if sense.forces == "internal" and end == 0 else 1.0
            for kind in (0, 1):
                values = own[here][:, :, end, 3 * kind : 3 * kind + 3]
                for k in range(3):
                    np.add.at(totals[kind, k], at[here], -flip * values[:, :, k, None] * axes[here, k][:, None, :])
                np.add.at(met[kind], at[here], np.linalg.norm(values, axis=-1))
        for k, given in ((3, self.frame.reactions), (4, self.frame.loads)):
            some = given[self.nodes][:, self.results]
            for kind in (0, 1):
                values = some[..., 3 * kind : 3 * kind + 3] @ turn
                totals[kind, k] = values
                met[kind] += np.linalg.norm(values, axis=-1)
        return totals, met

    def best(self, sense: Sense, given: Sense) -> Tried:
        """The signs that leave the fewest nodes out, with one arrangement."""
        totals, met = self.parts(sense)
        choices = np.array(list(itertools.product((1, -1), repeat=5)))
        out = [self._out(totals[kind], met[kind], choices, kind, met) for kind in (0, 1)]  # (choices, nodes)
        tried = []
        for force, moment in self._candidates(out, choices):
            signs = tuple(int(s) for s in (*choices[force][:3], *choices[moment][:3]))
            for flip in (1, -1):  # moments by themselves balance with either sign: members decide
                turned = (*signs[:3], *(flip * s for s in signs[3:]))
                one = replace(sense, signs=turned, reactions=int(choices[force][3]), loads=int(choices[force][4]))
                both = np.array(out[0][force]) | np.array(out[1][moment])
                tried.append(self._closed(one, int(both.sum())))
        least = min(round(t.left, 3) for t in tried)
        tried = [self._upright(t) for t in tried if round(t.left, 3) == least]
        return min(tried, key=lambda t: (round(t.left, 3), changes(t.sense, given)))

    def _candidates(self, out: list[np.ndarray], choices: np.ndarray) -> Iterator[tuple[int, int]]:
        """Pairs of choices of force and moment signs that leave least, the reactions and loads with one sense in both
        where both are there."""
        counts = [o.sum(axis=1) for o in out]
        best = [np.nonzero(c <= c.min() + 0.02 * max(len(self.nodes), 1))[0][:16] for c in counts]
        pairs = [(f, m) for f in best[0] for m in best[1]]
        same = [
            (f, m)
            for f, m in pairs
            if (choices[f][3:] == choices[m][3:]).all() or (choices[f][3:] == -choices[m][3:]).all()
        ]
        yield from (same or pairs)[:64]

    def _out(self, totals: np.ndarray, met: np.ndarray, choices: np.ndarray, kind: int, both: np.ndarray) -> np.ndarray:
        """(choices, nodes) which are out in any result."""
        left = np.linalg.norm(np.tensordot(choices, totals, axes=(1, 0)), axis=-1)
        floor = max(float(both[kind].max(initial=0.0)) * SMALL, 1e-12)
        if kind:
            long = np.linalg.norm(self.frame.xyz[self.frame.ends[:, 1]] - self.frame.xyz[self.frame.ends[:, 0]], axis=1)
            floor = max(
                floor, float(both[0].max(initial=0.0)) * SMALL * float(np.median(long)) * (self._moment_per() or 0.0)
            )
        rounded = np.broadcast_to(np.asarray(self.rounding[kind])[..., None], met.shape)
        return (left > np.maximum(OUT * np.maximum(met, floor), rounded)).any(axis=-1)

    def _moment_per(self) -> float:
        """About what one of force times length is in the moments' unit; 0 where nobody can tell."""
        ratio = self._moments("on_member", False)[0][0]
        return abs(float(np.median(ratio))) if len(ratio) else 1.0

    def _closed(self, sense: Sense, out: int) -> Tried:
        """With how many members close from end to end."""
        pairs = self._moments(sense.forces, sense.swapped)
        ratio = np.concatenate(
            [r * sense.signs[v] * sense.signs[m] for (r, _), (v, m) in zip(pairs, PAIRS, strict=True)]
        )
        which = np.concatenate([w for _, w in pairs])
        if not len(ratio):
            return Tried(sense, out, len(self.nodes))
        middle = float(np.median(ratio))
        fits = np.abs(ratio / middle - 1) < 0.05 if middle > 0 else np.zeros(len(ratio), bool)
        members = np.unique(which)
        bad = np.unique(which[~fits])
        return Tried(sense, out, len(self.nodes), len(bad), len(members), middle if middle > 0 else 1.0)

    def _moments(self, forces: str, swapped: bool) -> list[tuple[np.ndarray, np.ndarray]]:
        """`_ratios` of both bending moments with their shears, as they stand."""
        if (forces, swapped) not in self._ratio:
            own = self.own[..., SWAP] if swapped else self.own
            if forces == "internal":
                own = own * np.array([-1.0, 1.0])[None, None, :, None]
            self._ratio[forces, swapped] = [self._ratios(own, shear, moment) for shear, moment in PAIRS]
        return self._ratio[forces, swapped]

    def _ratios(self, own: np.ndarray, shear: int, moment: int) -> tuple[np.ndarray, np.ndarray]:
        """(end moments over shear times length of members' results that nothing loads; of which member each is)."""
        long = np.linalg.norm(self.frame.xyz[self.frame.ends[:, 1]] - self.frame.xyz[self.frame.ends[:, 0]], axis=1)
        some = slice(None, None, max(len(own) // MOST_MEMBERS, 1))
        V, M = own[some, :, :, shear], own[some, :, :, moment].sum(axis=-1)
        size = np.abs(V).max(axis=-1)
        wanted = (1.0 if (shear, moment) == (1, 5) else -1.0) * (V[..., 0] - V[..., 1]) / 2 * long[some, None]
        counts = (size > 10 * SMALL * max(float(self.largest[1:3].max()), 1e-12)) & (
            np.abs(V.sum(axis=-1)) < 2e-3 * size
        )
        counts &= np.abs(wanted) > 0.02 * np.abs(wanted).max(initial=0.0)
        return M[counts] / wanted[counts], (np.arange(len(own))[some][:, None] + 0 * size).astype(int)[counts]

    def _upright(self, tried: Tried) -> Tried:
        """With all forces the other way where the frame would hang from its supports: all signs together leave the same
        over."""
        sense = tried.sense
        axes, _ = self.turned(sense.up, sense.toward)
        shears = SWAP[:3] if sense.swapped else (0, 1, 2)
        at = np.nonzero(self.results == self.frame.gravity)[0]
        lift = np.zeros(len(self.results))
        for end in (0, 1):
            here = self.frame.held[self.frame.ends[:, end]]
            flip = -1.0 if sense.forces == "internal" and end == 0 else 1.0
            own = self.own[here][:, :, end, shears] * np.array(sense.signs[:3])
            lift += flip * np.einsum("mrk,mk->r", own, axes[here][:, :, 2])
        if not len(lift):
            return tried
        if lift[int(at[0]) if len(at) else int(np.abs(lift).argmax())] >= 0:
            return tried
        return replace(
            tried,
            sense=replace(sense, signs=tuple(-s for s in sense.signs), reactions=-sense.reactions, loads=-sense.loads),
        )

    def judge(self, sense: Sense) -> Tried:
        """What one answer leaves over."""
        totals, met = self.parts(sense)
        one = [np.array([[*sense.signs[3 * kind : 3 * kind + 3], sense.reactions, sense.loads]]) for kind in (0, 1)]
        out = self._out(totals[0], met[0], one[0], 0, met)[0] | self._out(totals[1], met[1], one[1], 1, met)[0]
        return self._closed(sense, int(out.sum()))
