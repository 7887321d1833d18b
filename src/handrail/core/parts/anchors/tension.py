"""Anchors in tension: each rod's steel and head, and what breaks out of the concrete with those that pull in a
combination."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.limit_state import LimitState, Under, ratio
from handrail.core.parts.anchors.group import AnchorGroup, chosen, masks
from handrail.core.quantities.lines import NULL, Trace

NOTHING = 1.0  # N: a rod with less does not pull
Tensions = Callable[[Actions, Trace], np.ndarray]  # (..., rods), N
Cones = Callable[..., "tuple[Cone, ...]"]  # (group, rods that pull, trace)


@dataclass(frozen=True)
class Cone:
    """What comes out with some rods about their `centre`, without eccentricity: `nominal` and design `strength`, N;
    `reach` mm of each."""

    rods: tuple[int, ...]
    nominal: float
    strength: float
    reach: float
    centre: tuple[float, float]


def states(group: AnchorGroup, under: Under, tensions: Tensions) -> Iterator[LimitState]:
    """Steel and breakout of rods whose tensions `tensions` gives for every combination."""
    steel = under.trace()
    most = group.steel_tension(steel)
    yield under.state("anchor_steel_tension", "force", lambda a, t: (largest(tensions(a, t), t), most), steel)
    yield under.state(
        "anchor_breakout_tension",
        "force",
        lambda a, t: less(group, a, breakout(group, tensions(a, t), t), t),
    )


def heads(group: AnchorGroup, under: Under, tensions: Tensions) -> Iterator[LimitState]:
    """What holds cast-in rods besides: their heads, and the face that these may burst."""
    head = under.trace()
    held = group.code.tension.pullout(group.rod, group.concrete.fc, group.concrete.cracked, head)
    yield under.state(
        "anchor_pullout", "force", lambda a, t: less(group, a, (largest(tensions(a, t), t), held), t), head
    )
    if faces(group):
        yield under.state(
            "anchor_side_face_blowout",
            "force",
            lambda a, t: less(group, a, blowout(group, tensions(a, t), t), t),
        )


def pulling(tensions: np.ndarray) -> tuple[int, ...]:
    """Which rods pull, of the tensions (rods,) of one combination."""
    return tuple(int(k) for k in np.nonzero(tensions > NOTHING)[0])


def largest(strengths: np.ndarray, trace: Trace) -> np.ndarray:
    """Demand of the rod that pulls most, N."""
    return trace("Nua", "the largest of a rod", strengths.max(axis=-1), kind="force")


def less(group: AnchorGroup, actions: Actions, strengths: tuple[Any, Any], trace: Trace) -> tuple[Any, Any]:
    """(demand, strength) of concrete in tension with what an earthquake leaves of the strength in its combinations
    (17.10.5.4)."""
    if not group.seismic or not actions.shaken.any():
        return strengths
    return strengths[0], group.code.tension.shaken(actions.shaken, trace) * strengths[1]


@lru_cache(maxsize=4096)
def _cones(group: AnchorGroup, pulling: tuple[int, ...]) -> tuple[Cone, ...]:
    return tuple(_cone(group, rods, NULL) for rods in group.groups(pulling, 1.5 * group.hef))


def cones(group: AnchorGroup, pulling: tuple[int, ...], trace: Trace = NULL) -> tuple[Cone, ...]:
    """What breaks out with the rods that pull: one cone for each group that is close enough (17.6.2.1)."""
    if trace is NULL:
        return _cones(group, pulling)
    return tuple(_cone(group, rods, trace) for rods in group.groups(pulling, 1.5 * group.hef))


def _cone(group: AnchorGroup, rods: tuple[int, ...], trace: Trace) -> Cone:
    c = group.concrete
    x, y = group.xy[list(rods)].mean(axis=0)
    hef = group.effective_depth(rods)
    reach = 1.5 * hef
    nearest = float(group.edges[list(rods)].min())
    if nearest <= 0:
        return Cone(rods, 0.0, 0.0, reach, (float(x), float(y)))  # outside the concrete there is nothing to break
    Nb = group.code.tension.basic_breakout(
        hef, c.fc, trace, group.installed.kc if group.installed else None, group.light
    )
    Ncb = group.code.tension.cone(
        Nb, group.area(rods, reach), hef, nearest, group.uncracked(nearest, hef), len(rods), trace
    )
    design = group.code.available(Ncb, "breakout", c.confined, trace, category=group.category)
    return Cone(rods, Ncb, design, reach, (float(x), float(y)))


def breakout(group: AnchorGroup, pulls: np.ndarray, trace: Trace = NULL) -> tuple[np.ndarray, np.ndarray]:
    """(tension, design strength) of the group that is nearest to breaking out, as `worst_of` gives them (17.6.2.1b)."""
    return worst_of(cones, group, pulls, trace)


def worst_of(cones: Cones, group: AnchorGroup, pulls: np.ndarray, trace: Trace = NULL) -> tuple[np.ndarray, np.ndarray]:
    """(tension, design strength) of that of the `cones` of the rods that pull which is used most, each in the shape of
    `pulls` (..., rods) less its last axis; the strength counts the eccentricity of the rods that pull (17.6.2.3,
    17.6.5.3)."""
    flat = pulls.reshape(-1, group.n)
    every = min(
        (cone.strength for cone in cones(group, tuple(range(group.n)))), default=0.0
    )  # shown where nothing pulls
    demand, strength = np.zeros(len(flat)), np.full(len(flat), every)
    which, at = masks(flat > NOTHING)
    for k, mask in enumerate(which):
        if not mask:
            continue
        here = at == k
        worst = np.full(int(here.sum()), -1.0)
        for cone in cones(group, chosen(int(mask))):
            total, held = share(cone, group, flat[np.ix_(here, cone.rods)])
            use = ratio(total, held)
            more = use > worst
            worst = np.where(more, use, worst)
            demand[here] = np.where(more, total, demand[here])
            strength[here] = np.where(more, held, strength[here])
    unknown = np.isnan(flat).any(axis=1)
    demand[unknown] = np.nan
    if trace.on and len(flat):
        cones(group, pulling(flat[0]), trace)
        trace("Nu", "rods that pull and come out together", demand[0], kind="force")
        group.code.tension.eccentric(float(strength[0]), trace)
    return demand.reshape(pulls.shape[:-1]), strength.reshape(pulls.shape[:-1])


def share(cone: Cone, group: AnchorGroup, own: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """(tension, design strength) of one cone, each (m,) N, of its rods that pull `own` (m, rods) N, with their
    eccentricity (17.6.2.3)."""
    total = own.sum(axis=1)
    e = own @ (group.xy[list(cone.rods)] - np.array(cone.centre)) / total[:, None]
    return total, cone.strength * group.code.tension.eccentricity_factor(
        e[:, 0], cone.reach
    ) * group.code.tension.eccentricity_factor(e[:, 1], cone.reach)


def faces(group: AnchorGroup) -> list[int]:
    """The edges that a deep rod is so near to that its head can burst the face (17.6.4: hef > 2.5 ca1)."""
    return [side for side in range(4) if (group.hef > 2.5 * group.edges[:, side]).any()]


@lru_cache(maxsize=4096)
def _bursts(group: AnchorGroup, pulling: tuple[int, ...]) -> tuple[tuple[tuple[int, ...], float], ...]:
    return tuple(_blowouts(group, pulling, NULL))


def _blowouts(group: AnchorGroup, pulling: tuple[int, ...], trace: Trace) -> list[tuple[tuple[int, ...], float]]:
    """(rods, design strength) of each rod and each run of rods along a face that they are near to."""
    rows = []
    for side in faces(group):
        for row in group.rows(side):
            own = tuple(k for k in row if k in pulling)
            ca1 = float(group.edges[list(row), side].min())
            if not own or group.hef <= 2.5 * ca1:
                continue
            runs = group.groups(own, 3 * ca1)  # closer than 6 ca1
            rows += [(run, _burst(group, run, side, ca1, trace)) for run in runs]
    return rows


def _burst(group: AnchorGroup, run: tuple[int, ...], side: int, ca1: float, trace: Trace) -> float:
    if ca1 <= 0:
        return 0.0
    Nsb = group.code.tension.blowout(ca1, group.rod, group.concrete.fc, trace, group.light)
    beside = [s for s in range(4) if s // 2 != side // 2]
    other, spread = float(group.edges[run[0], beside].min()), float(np.ptp(group.xy[list(run), 1 - side // 2]))
    Nsb = group.code.tension.burst(Nsb, ca1, other, spread, len(run), trace)
    return group.code.available(Nsb, "breakout", group.concrete.confined, trace)


def blowout(group: AnchorGroup, pulls: np.ndarray, trace: Trace = NULL) -> tuple[np.ndarray, np.ndarray]:
    """(tension, design strength) of the run of rods that is nearest to bursting a face, as `breakout` gives them."""
    flat = pulls.reshape(-1, group.n)
    every = min((held for _, held in _bursts(group, tuple(range(group.n)))), default=0.0)
    demand, strength = np.zeros(len(flat)), np.full(len(flat), every)
    which, at = masks(flat > NOTHING)
    for k, mask in enumerate(which):
        here, worst = at == k, np.full(int((at == k).sum()), -1.0)
        for run, held in _bursts(group, chosen(int(mask))):
            total = flat[np.ix_(here, run)].sum(axis=1)
            use = ratio(total, held)
            more = use > worst
            worst = np.where(more, use, worst)
            demand[here] = np.where(more, total, demand[here])
            strength[here] = np.where(more, held, strength[here])
    demand[np.isnan(flat).any(axis=1)] = np.nan
    if trace.on and len(flat):
        _blowouts(group, pulling(flat[0]), trace)
    return demand.reshape(pulls.shape[:-1]), strength.reshape(pulls.shape[:-1])
