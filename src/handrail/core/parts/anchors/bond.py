"""What holds post-installed anchors besides breakout: the bond of adhesive ones, by groups and for tension that lasts;
a report's pullout."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

import numpy as np

from handrail.core.actions import Actions
from handrail.core.limit_state import LimitState, Under
from handrail.core.parts.anchors.group import AnchorGroup
from handrail.core.parts.anchors.tension import Cone, Tensions, largest, less, worst_of
from handrail.core.quantities.lines import NULL, Trace


def states(group: AnchorGroup, under: Under, tensions: Tensions) -> Iterator[LimitState]:
    """Bond where they are adhesive, pullout where they are not."""
    anchor = group.installed
    assert anchor is not None
    lines = under.trace()
    if not anchor.adhesive:
        Np = group.code.installed.pullout(anchor.pullout, lines)
        held = group.code.available(Np, "pullout", False, lines, category=group.category)
        yield under.state(
            "anchor_pullout",
            "force",
            lambda a, t: less(group, a, (largest(tensions(a, t), t), held), t),
            lines,
        )
        return
    yield under.state(
        "anchor_bond",
        "force",
        lambda a, t: less(group, a, worst_of(patches, group, tensions(a, t), t), t),
    )
    Nba = group.code.installed.basic_bond(anchor.bond, group.rod.d, group.hef, lines, bond_light(group))
    design = group.code.available(Nba, "breakout", group.concrete.confined, lines, category=group.category)
    lasts = group.code.installed.lasting(design, lines)

    def stays(actions: Actions, t: Trace) -> tuple[np.ndarray, float]:
        return (
            t(
                "Nua,s",
                f"{anchor.sustained:g} of it lasts",
                anchor.sustained * largest(tensions(actions, t), t),
                kind="force",
            ),
            lasts,
        )

    yield under.state("anchor_bond_sustained", "force", stays, lines)


def bond_light(group: AnchorGroup) -> float:
    """lambda_a of bond (17.2.4.1): less in lightweight concrete alone."""
    return 1.0 if group.concrete.light >= 1.0 else group.code.installed.light_bond * group.concrete.light


@lru_cache(maxsize=4096)
def _patches(group: AnchorGroup, pulling: tuple[int, ...]) -> tuple[Cone, ...]:
    return tuple(_patch(group, rods, NULL) for rods in group.groups(pulling, _reach(group, NULL)))


def patches(group: AnchorGroup, pulling: tuple[int, ...], trace: Trace = NULL) -> tuple[Cone, ...]:
    """What lets go with the anchors that pull: one for each group whose bond meets (17.6.5.1)."""
    if trace is NULL:
        return _patches(group, pulling)
    return tuple(_patch(group, rods, trace) for rods in group.groups(pulling, _reach(group, trace)))


def _reach(group: AnchorGroup, trace: Trace) -> float:
    assert group.installed is not None
    return group.code.installed.reach(group.rod.d, group.installed.bond_uncracked, trace)


def _patch(group: AnchorGroup, rods: tuple[int, ...], trace: Trace) -> Cone:
    anchor, reach = group.installed, _reach(group, NULL)
    assert anchor is not None
    x, y = (float(v) for v in group.xy[list(rods)].mean(axis=0))
    nearest = float(group.edges[list(rods)].min())
    if nearest <= 0:
        return Cone(rods, 0.0, 0.0, reach, (x, y))
    Nba = group.code.installed.basic_bond(anchor.bond, group.rod.d, group.hef, trace, bond_light(group))
    Nag = group.code.installed.patch(
        Nba,
        group.area(rods, reach),
        reach,
        nearest,
        group.splitting(nearest, reach),
        anchor.critical_edge,
        len(rods),
        trace,
    )
    design = group.code.available(Nag, "breakout", group.concrete.confined, trace, category=group.category)
    return Cone(rods, Nag, design, reach, (x, y))
