"""Anchors in shear: each rod's steel, what breaks out towards each edge, what is pried out behind."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from handrail.core.actions import Actions
from handrail.core.limit_state import LimitState, Under
from handrail.core.parts.anchors.bond import patches
from handrail.core.parts.anchors.group import AnchorGroup, widest
from handrail.core.parts.anchors.tension import Cone, cones
from handrail.core.quantities.lines import NULL, Trace

Shears = Callable[[Actions, Trace], np.ndarray]  # (..., rods, 2) along x and y, N: what each rod puts on the concrete
OUT = np.array([[-1.0, 0.0], [1.0, 0.0], [0.0, -1.0], [0.0, 1.0]])  # of group.SIDES


@dataclass(frozen=True, kw_only=True)
class Wedge:
    """What breaks out towards a side with some rods of one row: strength, N, of shear to the edge and along it. `whole`
    says that it is held against the shear of all rods, not of its own."""

    side: int
    rods: tuple[int, ...]
    edge: float
    towards: float
    along: float
    whole: bool
    share: float


def states(group: AnchorGroup, under: Under, shears: Shears, barred: tuple[int, ...] = ()) -> Iterator[LimitState]:
    """Every limit state in shear, of rods whose shears `shears` gives for every combination; nothing breaks out towards
    the `barred` sides, which bars cross."""
    steel = under.trace()
    held = group.steel_shear(steel)
    yield under.state("anchor_steel_shear", "force", lambda a, t: (_largest(shears(a, t), t), held), steel)
    if any(w.side not in barred for w in wedges(group)):
        lines = under.trace()
        list(_wedges(group, lines, barred))
        yield under.state(
            "anchor_breakout_shear",
            "number",
            lambda a, t: (breakout(group, shears(a, t), barred), 1.0),
            lines,
        )
    pry = under.trace()
    for kind in _pried(group):
        kind(group, tuple(range(group.n)), pry)
    yield under.state("anchor_pryout", "force", lambda a, t: pryout(group, shears(a, t)), pry)


def _largest(values: np.ndarray, trace: Trace) -> np.ndarray:
    return trace("Vua", "the largest of a rod", np.hypot(values[..., 0], values[..., 1]).max(axis=-1), kind="force")


@lru_cache(maxsize=4096)
def wedges(group: AnchorGroup) -> tuple[Wedge, ...]:
    """Every wedge that can break out: towards each side that is not too far to count."""
    return tuple(_wedges(group, NULL))


def _wedges(group: AnchorGroup, trace: Trace, barred: tuple[int, ...] = ()) -> Iterator[Wedge]:
    for side in (s for s in range(4) if s not in barred):
        rows = group.rows(side)
        first = float(group.edges[list(rows[0]), side].min())
        if not np.isfinite(first):
            continue
        behind = float(group.edges[list(rows[1]), side].min()) - first if len(rows) > 1 else np.inf
        crowded = len(rows) > 1 and behind < first  # rows closer than ca1: the first takes it all (R17.7.2.1)
        yield from _of_row(group, side, rows[0], crowded, trace)
        if len(rows) > 1 and group.welded:  # all rods hold together: the last row may take it all
            yield from _of_row(group, side, rows[-1], True, trace)


def _of_row(group: AnchorGroup, side: int, row: tuple[int, ...], whole: bool, trace: Trace) -> Iterator[Wedge]:
    edge = float(group.edges[list(row), side].min())
    if edge <= 0:
        yield Wedge(side=side, rods=row, edge=1.0, towards=0.0, along=0.0, whole=whole, share=1.0)
        return
    for rods in _runs(group, row, side, 1.5 * edge):
        yield _wedge(group, side, rods, edge, whole, len(rods) / len(row), trace)


def _runs(group: AnchorGroup, row: tuple[int, ...], side: int, reach: float) -> list[tuple[int, ...]]:
    """The rods of a row whose wedges meet: closer than three times the edge distance."""
    along = 1 - side // 2
    order = sorted(row, key=lambda k: group.xy[k, along])
    runs = [[order[0]]]
    for k in order[1:]:
        near = group.xy[k, along] - group.xy[runs[-1][-1], along] < 2 * reach
        runs[-1].append(k) if near else runs.append([k])
    return [tuple(run) for run in runs]


def _wedge(
    group: AnchorGroup,
    side: int,
    rods: tuple[int, ...],
    edge: float,
    whole: bool,
    share: float,
    trace: Trace,
) -> Wedge:
    c = group.concrete
    across = [s for s in range(4) if s // 2 != side // 2]
    beside = group.edges[np.ix_(rods, across)].min(axis=0)  # to the edges at the wedge's two ends
    ca1 = edge
    if (beside < 1.5 * edge).all() and c.thickness < 1.5 * edge:  # narrow and shallow (17.7.2.1.2)
        ca1 = min(
            edge, max(float(beside.max()) / 1.5, c.thickness / 1.5, widest(group.xy[list(rods), 1 - side // 2]) / 3)
        )
    Vb = group.code.shear.basic_breakout(ca1, group.rod.d, group.bearing_length, c.fc, trace, group.light)
    wide = _covered(group, rods, side, 1.5 * ca1)
    towards, plain = group.code.shear.wedge(
        Vb, wide * min(c.thickness, 1.5 * ca1), ca1, float(beside.min()), c.thickness, c.cracked, len(rods), trace
    )
    return Wedge(
        side=side,
        rods=rods,
        edge=ca1,
        towards=group.code.available(towards, "breakout", c.confined, trace, "V"),
        along=2 * group.code.available(plain, "breakout", c.confined, symbol="V"),
        whole=whole,
        share=share,
    )


def _covered(group: AnchorGroup, rods: tuple[int, ...], side: int, reach: float) -> float:
    """How much of the edge the wedges of a row take, each part once, mm."""
    axis = 1 - side // 2
    low, high = (2, 3) if axis else (0, 1)
    ends = sorted(
        (group.xy[k, axis] - min(group.edges[k, low], reach), group.xy[k, axis] + min(group.edges[k, high], reach))
        for k in rods
    )
    total, at = 0.0, -np.inf
    for a, b in ends:
        total += max(b - max(a, at), 0.0)
        at = max(at, b)
    return float(total)


def breakout(group: AnchorGroup, forces: np.ndarray, barred: tuple[int, ...] = ()) -> np.ndarray:
    """The utilisation of the wedge that is nearest to breaking out, in the shape of `forces` (..., rods, 2) less its
    last two axes.

    Shear to the edge and shear along it, which has twice the strength without the corner's loss (17.7.2.1c), count
    together as the root of their squares: the code has no word on both at once. Shear away from the edge breaks nothing
    out."""
    worst = np.zeros(forces.shape[:-2])
    for w in (w for w in wedges(group) if w.side not in barred):
        worst = np.maximum(worst, used(group, w, forces))
    return worst


def used(group: AnchorGroup, w: Wedge, forces: np.ndarray) -> np.ndarray:
    """The utilisation of one wedge, as `breakout` gives it."""
    out = OUT[w.side]
    own = forces[..., list(w.rods), :]
    acting = own.sum(axis=-2)
    if w.whole:  # all of the shear, with what turns the base besides in these rods
        acting = acting + forces.sum(axis=-2) * (w.share - len(w.rods) / forces.shape[-2])
    towards, beside = np.maximum(acting @ out, 0.0), np.abs(acting @ out[::-1])
    factor = _eccentricity(group, w, own)
    with np.errstate(divide="ignore", invalid="ignore"):
        parts = [
            np.where(f == 0, 0.0, f / held) for f, held in ((towards, w.towards * factor), (beside, w.along * factor))
        ]
    return np.hypot(*parts)


def _eccentricity(group: AnchorGroup, wedge: Wedge, own: np.ndarray) -> np.ndarray:
    """psi_ec,V of how the row's rods share their shear (17.7.2.3)."""
    axis = 1 - wedge.side // 2
    at = group.xy[list(wedge.rods), axis]
    size = np.hypot(own[..., 0], own[..., 1])
    total = size.sum(axis=-1)
    e = np.divide(size @ (at - at.mean()), total, out=np.zeros_like(total), where=total > 0)
    return group.code.shear.eccentricity_factor(e, wedge.edge)


def _pried(group: AnchorGroup) -> tuple[Callable[..., tuple[Cone, ...]], ...]:
    return (cones, patches) if group.installed and group.installed.adhesive else (cones,)


def pryout(group: AnchorGroup, forces: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """(shear, design strength) of the group that is nearest to being pried out, each in the shape of `forces` less its
    last two axes (17.7.3): kcp times its breakout in tension, or the bond of adhesive anchors where that is less, with
    the eccentricity of the shear."""
    kcp = group.code.shear.pryout_factor(group.hef)
    size = np.hypot(forces[..., 0], forces[..., 1])
    demand, strength = np.zeros(size.shape[:-1]), np.zeros(size.shape[:-1])
    worst = np.full(size.shape[:-1], -1.0)
    for cone in (cone for kind in _pried(group) for cone in kind(group, tuple(range(group.n)))):
        own = size[..., list(cone.rods)]
        together = np.linalg.norm(forces[..., list(cone.rods), :].sum(axis=-2), axis=-1)
        total = own.sum(axis=-1)
        at = group.xy[list(cone.rods)] - np.array(cone.centre)
        e = np.divide(own @ at, total[..., None], out=np.zeros((*total.shape, 2)), where=total[..., None] > 0)
        factor = group.code.tension.eccentricity_factor(e[..., 0], cone.reach) * group.code.tension.eccentricity_factor(
            e[..., 1], cone.reach
        )
        held = (
            kcp * group.code.available(cone.nominal, "pryout", False, symbol="V") * factor
        )  # 17.10.5.4 lowers tension alone
        with np.errstate(divide="ignore", invalid="ignore"):
            use = np.where(together == 0, 0.0, np.where(held > 0, together / held, np.inf))
        more = (use > worst) | np.isnan(use)
        worst, demand, strength = (
            np.where(more, use, worst),
            np.where(more, together, demand),
            np.where(more, held, strength),
        )
    return demand, strength


def interaction(pull: np.ndarray, push: np.ndarray) -> np.ndarray:
    """Tension and shear together as a utilisation (17.8): either alone up to a fifth of the other, else their sum over
    1.2."""
    both = (pull + push) / 1.2
    return np.where(push <= 0.2, pull, np.where(pull <= 0.2, push, both))
