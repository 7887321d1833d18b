"""What is in a building, for everybody to agree on before anything is designed: sections with their weight, joints by
kind, the largest forces, and how much of its own section's strength each member end is asked for."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.building.combining import CombinationSet
from handrail.core.building.framing import Framing
from handrail.core.building.model import ENDS, Building
from handrail.core.building.yielding import COMPONENTS, yields
from handrail.core.catalogue import Section

STEEL = 7850e-9  # kg a cubic millimetre
RARE = 2  # members of a section that is used so seldom
NEAR, LIGHTEST, HEAVIEST = 0.08, 0.98, 1.15  # depths and weights of a section that could stand in for another
BINS = 12  # of the histogram, tenths; the last is all beyond
SHOWN = 200
PART = 2000  # members worked out at a time
_SIGN = np.array([-1.0, 1.0])[:, None]  # of the resultant within the member, from the node's force on it


@dataclass(frozen=True)
class Survey:
    """`sections`, heaviest in all first; `rare` ones with what could stand in for them; `framings` counted; `peaks` of
    each component within members; `demands`, the member ends that are asked for most of their section, and how many are
    asked for how much; kg, mm, N, N*mm."""

    sections: list[dict[str, Any]]
    rare: list[dict[str, Any]]
    framings: dict[str, int]
    roles: dict[str, int]
    peaks: list[dict[str, Any]]
    demands: list[dict[str, Any]]
    histogram: list[int]
    unknown: int


def survey(building: Building, framing: Framing, combined: CombinationSet) -> Survey:
    """The survey of one model under the combinations `combined`."""
    peaks, use, what, where = _worked(building, combined)
    known = ~np.isnan(use)
    flat = np.where(known, use, 0.0)
    order = np.argsort(-flat, axis=None, kind="stable")[:SHOWN]
    demands = [_demand(building, combined, int(k), flat, what, where) for k in order if flat.flat[k] > 0]
    bins = np.clip((flat[known] * 10).astype(int), 0, BINS - 1)
    sections = _sections(building)
    return Survey(
        sections,
        _rare(building, sections),
        dict(Counter(c.framing for c in framing.connections).most_common()),
        dict(Counter(framing.pieces.roles)),
        peaks,
        demands,
        np.bincount(bins, minlength=BINS).tolist(),
        int((~known).sum()),
    )


def asked(building: Building, combined: CombinationSet) -> np.ndarray:
    """(members, 2) what share of its own section each end is asked for, of the component and combination that asks the
    most; NaN where a section or a force is not known."""
    return _worked(building, combined)[1]


def _sections(building: Building) -> list[dict[str, Any]]:
    by_section: dict[str, dict[str, Any]] = {}
    for k, member in enumerate(building.members):
        row = by_section.setdefault(
            member.section,
            {"section": member.section, "family": "", "grades": set(), "members": 0, "length": 0.0, "mass": 0.0},
        )
        s = building.section(member.section)
        row["members"] += 1
        row["grades"].add(member.grade)
        row["length"] += float(building.lengths[k])
        if s is not None:
            row["family"] = s.family
            row["mass"] += float(building.lengths[k]) * s.A * STEEL
    rows = [row | {"grades": sorted(row["grades"])} for row in by_section.values()]
    return sorted(rows, key=lambda row: (-row["mass"], row["section"]))


def _rare(building: Building, sections: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Sections used once or twice, with one used more often that is as deep and hardly heavier."""
    held = {row["section"]: s for row in sections if (s := building.section(row["section"])) is not None}
    usual = {row["section"]: row["members"] for row in sections if row["members"] > RARE}
    rare = []
    for row in sections:
        own = held.get(row["section"])
        if row["members"] <= RARE and own is not None:
            near = [name for name in usual if name in held and _stands_in(held[name], own)]
            rare.append(
                {
                    "section": row["section"],
                    "members": row["members"],
                    "instead": max(near, key=usual.__getitem__, default=""),
                }
            )
    return rare


def _stands_in(other: Section, own: Section) -> bool:
    return (
        other.family == own.family
        and abs(other.d / own.d - 1) < NEAR
        and LIGHTEST <= other.A / own.A <= HEAVIEST
        and other.Sx >= LIGHTEST * own.Sx
    )


def _worked(
    building: Building, combined: CombinationSet
) -> tuple[list[dict[str, Any]], np.ndarray, np.ndarray, np.ndarray]:
    """(peaks; (members, 2) share of its own section that each end is asked for, NaN where not known; which component;
    which combination)."""
    count, names = len(building.members), combined.names
    use, what, where = np.full((count, 2), np.nan), np.zeros((count, 2), int), np.zeros((count, 2), int)
    best: dict[tuple[str, bool], tuple[float, int, int, int]] = {}
    known = [yields(building, m) for m in building.members]
    strengths = np.array([np.full(6, np.nan) if own is None else own for own in known]).reshape(-1, 6)
    for start in range(0, count, PART) if names else ():
        part = slice(start, min(start + PART, count))
        within = combined.forces(building.forces[part].transpose(0, 2, 1, 3)) * _SIGN[None, :, :, None]  # (m, 2, c, 6)
        shares = np.abs(within) / strengths[part, None, None, :]
        shares = np.where(np.isinf(strengths[part, None, None, :]), 0.0, shares)
        flat = shares.transpose(0, 1, 3, 2).reshape(*shares.shape[:2], -1)
        bad = np.isnan(flat).any(axis=-1)
        at = np.nan_to_num(flat, nan=-1.0).argmax(axis=-1)
        use[part] = np.where(bad, np.nan, np.take_along_axis(flat, at[..., None], axis=-1)[..., 0])
        what[part], where[part] = at // len(names), at % len(names)
        for c, name in enumerate(COMPONENTS):
            own = np.nan_to_num(within[..., c])
            for high, k in ((True, own.argmax()), (False, own.argmin())):
                m, end, combination = np.unravel_index(int(k), own.shape)
                value = float(own[m, end, combination])
                held = best.get((name, high))
                if held is None or (value > held[0] if high else value < held[0]):
                    best[name, high] = (value, start + int(m), int(end), int(combination))
    peaks = [
        {
            "component": name,
            "largest": high,
            "value": value,
            "member": building.members[m].name,
            "end": ENDS[end],
            "combination": names[combination],
        }
        for (name, high), (value, m, end, combination) in best.items()
        if value
    ]
    return peaks, use, what, where


def _demand(
    building: Building, combined: CombinationSet, k: int, use: np.ndarray, what: np.ndarray, where: np.ndarray
) -> dict[str, Any]:
    m, end = divmod(k, 2)
    member = building.members[m]
    return {
        "member": member.name,
        "end": ENDS[end],
        "section": member.section,
        "share": float(use[m, end]),
        "component": COMPONENTS[what[m, end]],
        "combination": combined.names[where[m, end]],
        "node": building.nodes[member.node(end)],
    }
