"""Are the forces right: there, within what a section carries, not through a release, alike in cases and combinations,
each member in balance?"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from handrail.core.building.audit.balance import UNSIGNED, signed
from handrail.core.building.audit.finding import Finding, several
from handrail.core.building.combining import strength_set
from handrail.core.building.model import ENDS, RELEASES, Building, Combination
from handrail.core.building.precision import precision
from handrail.core.building.yielding import COMPONENTS, yields
from handrail.core.quantities.units import FOOT, INCH, KIP, show

RELEASED = 0.01
AGREES = 0.005
CLOSES = 0.03  # of a member's moments that may be left over
DRIFT = 0.02  # of its length that a member may lean: the moment of its thrust by second-order analysis is no slip
MOST_AT_ONCE = 20_000_000  # numbers
FEW = 8  # told one by one
BENDING = frozenset(("My", "Mz"))
LEVEL, IDLE, NOTHING, FEWEST_LOST = (
    0.5,
    1e-3,
    1e-6,
    3,
)  # of a beam's slope; of the largest shear; of shear times length; ends
# how much too large moments are against shear times length, and what was probably taken for what
SLIPS = (
    (FOOT / 1000, "lengths in ft read as m"),
    (1000 / FOOT, "lengths in m read as ft"),
    (12.0, "moments in kip*in read as kip*ft"),
    (1 / 12.0, "moments in kip*ft read as kip*in"),
    (KIP / 1000, "moments in kN*m beside shears in kip"),
    (1000 / KIP, "shears in kN beside moments in kip*m"),
    (KIP * FOOT / 1e6, "moments in kN*m read as kip*ft"),
    (1e6 / (KIP * FOOT), "moments in kip*ft read as kN*m"),
    (1000.0, "moments in kN*mm read as kN*m"),
    (1e-3, "moments in kN*m read as kN*mm, or lengths in mm read as m"),
    (1 / INCH, "lengths in mm read as in"),
    (INCH, "lengths in in read as mm"),
)


def forces(building: Building) -> Iterator[Finding]:
    """Everything that this module looks for."""
    yield from _missing(building)
    yield from _cases(building)
    yield from _stiff_floors(building)
    yield from _released(building)
    yield from _unreleased(building)
    yield from _agreement(building)
    yield from _in_themselves(building)
    yield from _beyond(building)
    yield from _reactions(building)


def _missing(building: Building) -> Iterator[Finding]:
    gone = np.isnan(building.forces).any(axis=-1)  # (m, r, 2)
    for k, member in enumerate(building.members):  # said of the splice itself
        for end in (0, 1):
            gone[k, :, end] &= member.node(end) not in building.unknown_splices
    for index in np.nonzero(gone.any(axis=(1, 2)))[0]:
        results = [building.results[k] for k in np.nonzero(gone[index].any(axis=1))[0]]
        name = building.members[index].name
        text = "all results" if len(results) == len(building.results) else f"{len(results)} results ({results[0]} ...)"
        yield Finding(
            "forces_missing", "warning", f"member {name} has no forces for {text}", member=name, value=len(results)
        )


def _cases(building: Building) -> Iterator[Finding]:
    """Cases that are no plain superposition, and one that looks like it though it says otherwise."""
    column = {name: k for k, name in enumerate(building.results)}
    for case in building.cases:
        if case.kind in UNSIGNED:
            yield Finding(case.kind, "note", f"case {case.name} is {UNSIGNED[case.kind]}; its nodes cannot balance")
        elif case.nature == "seismic" and case.name in column and _one_sign(building.forces[:, column[case.name]]):
            yield Finding(
                "spectrum_as_linear",
                "warning",
                f"case {case.name} is declared linear, but all its forces have one sign, as those of a spectrum: "
                "is its kind right?",
            )


def _one_sign(own: np.ndarray) -> bool:
    """Whether (members, 2, 6) forces, as the node's on the member or within it, are nowhere of the other sign."""
    forces = np.nan_to_num(own)
    within = forces * np.array([-1.0, 1.0])[None, :, None]
    return len(forces) > 3 and bool(forces.any()) and any(bool((as_given >= 0).all()) for as_given in (forces, within))


def _stiff_floors(building: Building) -> Iterator[Finding]:
    """Beams on a rigid diaphragm have no axial force in the analysis: what they really carry is left out."""
    idle: dict[str, int] = {}
    for index, member in enumerate(building.members):
        floor = building.diaphragms.get(member.i)
        if (
            floor
            and floor == building.diaphragms.get(member.j)
            and np.abs(np.nan_to_num(building.forces[index, ..., 0])).max(initial=0.0) < 1.0
        ):
            idle[floor] = idle.get(floor, 0) + 1
    for floor, count in sorted(idle.items()):
        yield Finding(
            "diaphragm_axial",
            "note",
            f"diaphragm {floor}: N = 0 in {count} beams on it, because it is rigid; collectors need "
            "their axial force from elsewhere",
            value=count,
        )


def _released(building: Building) -> Iterator[Finding]:
    forces = np.abs(np.nan_to_num(building.forces)).max(axis=1, initial=0.0)  # (m, 2, 6)
    largest = np.array([forces[..., :3].max(initial=1e-9)] * 3 + [forces[..., 3:].max(initial=1e-9)] * 3)
    for index, member in enumerate(building.members):
        for end in (0, 1):
            for k, name in enumerate(RELEASES):
                own = max(forces[index, :, 3 * (k // 3) : 3 * (k // 3) + 3].max(), 1e-3 * largest[k])
                if name in member.release(end) and forces[index, end, k] > RELEASED * own:
                    amount = show(float(forces[index, end, k]), "force" if k < 3 else "moment", building.system)
                    yield Finding(
                        "release_denied",
                        "warning",
                        f"member {member.name} end {ENDS[end]} releases {name} but carries {amount}",
                        member=member.name,
                        value=float(forces[index, end, k]),
                    )


def _unreleased(building: Building) -> Iterator[Finding]:
    """Ends of beams that carry shear and no moment in any result, though nothing is released there: releases that were
    lost on the way."""
    largest = np.abs(np.nan_to_num(building.forces)).max(axis=1, initial=0.0)  # (m, 2, 6)
    if not largest.size:
        return
    shear, bending = largest[..., 1:3].max(axis=-1), largest[..., 4:].max(axis=-1)
    lever = building.lengths[:, None] * shear
    level = np.abs(building.axes[:, 0, 2]) < LEVEL
    lost = [
        (k, e)
        for k, e in np.argwhere(
            level[:, None] & (shear > IDLE * float(shear.max(initial=0.0))) & (bending < NOTHING * lever)
        ).tolist()
        if not building.members[k].release(e) & BENDING
        and building.members[k].node(e) not in building.spliced
        and sum(
            not building.members[m].release(end) & BENDING for m, end in building.ends_at[building.members[k].node(e)]
        )
        > 1
    ]
    if len(lost) < FEWEST_LOST:
        return
    whole = not any(m.release_i or m.release_j for m in building.members)
    names = several([f"{building.members[k].name}.{ENDS[e]}" for k, e in lost])
    what = "no member has a release" if whole else "some releases were lost on the way"
    yield Finding(
        "releases_lost",
        "warning",
        f"{len(lost)} ends of beams carry no moment in any result, and nothing is released there ({names}): {what}; "
        "they are framed as fixed",
        member=building.members[lost[0][0]].name,
        value=len(lost),
    )


def _agreement(building: Building) -> Iterator[Finding]:
    """Where both cases and combinations are given, they agree to 0.5 % of the member's largest."""
    column = {name: k for k, name in enumerate(building.results)}
    linear = {c.name for c in building.cases if c.kind == "linear"}
    for combination in building.combinations:
        if combination.name not in column or not all(c in column and c in linear for c, _ in combination.terms):
            continue
        formed = sum(f * building.forces[:, column[c]] for c, f in combination.terms)
        given = building.forces[:, column[combination.name]]
        scale = np.stack([np.abs(given[..., :3]).max(axis=(1, 2)), np.abs(given[..., 3:]).max(axis=(1, 2))], axis=-1)
        scale = np.repeat(np.maximum(scale, 1e-3 * scale.max(axis=0)), 3, axis=1)
        off = np.nan_to_num(np.abs(formed - given) / np.maximum(scale, 1e-9)[:, None, :]).max(axis=(1, 2))
        others = np.nonzero(off > AGREES)[0]
        if len(others) > max(0.5 * len(off), FEW):
            yield _of_another_run(building, combination, column, len(others))
            continue
        for index in others:
            name = building.members[index].name
            yield Finding(
                "combination_differs",
                "warning",
                f"member {name}: combination {combination.name} as given differs from its cases by {off[index]:.1%}",
                member=name,
                value=float(off[index]),
            )


def _of_another_run(building: Building, combination: Combination, column: dict[str, int], count: int) -> Finding:
    """A combination as given that differs throughout: by other factors of its cases where these fit, else from another
    run."""
    cases = [c for c, _ in combination.terms]
    own = np.stack([np.nan_to_num(building.forces[:, column[c]]).reshape(-1) for c in cases], axis=1)
    given = np.nan_to_num(building.forces[:, column[combination.name]]).reshape(-1)
    factors, *_ = np.linalg.lstsq(own, given, rcond=None)
    fits = float(np.linalg.norm(own @ factors - given)) < AGREES * float(np.linalg.norm(given))
    told = " + ".join(f"{f:.3g} {c}" for f, c in zip(factors, cases, strict=True))
    why = f"it was run with other factors ({told})" if fits else "it is of another run"
    return Finding(
        "combination_differs",
        "error",
        f"combination {combination.name} as given differs from its cases in {count} of {len(building.members)} "
        f"members: {why}",
        combination=combination.name,
        value=count,
    )


def _in_themselves(building: Building) -> Iterator[Finding]:
    """Each member that nothing loads between its ends (its end shears are equal and opposite) has moments that close
    with shear times length. Wrong units throughout keep every node at zero and show only here. What second-order
    analysis may add, N times DRIFT of the length, is let through."""
    long = building.lengths - [m.end_offset_i + m.end_offset_j for m in building.members] * np.array(
        building.forces_at == "offset"
    )
    known = np.nan_to_num(building.forces) * signed(building)[None, :, None, None]
    precise = precision(building)
    ratios, off = [], []
    for shear, moment, sense in ((1, 5, 1.0), (2, 4, -1.0)):
        Vi, Vj, M = known[:, :, 0, shear], known[:, :, 1, shear], known[:, :, 0, moment] + known[:, :, 1, moment]
        size = np.maximum(np.abs(Vi), np.abs(Vj))
        idle = (np.abs(Vi + Vj) < np.maximum(1e-3 * size, precise.force)) & (
            size > max(1e-3 * float(size.max(initial=0.0)), 20 * precise.force, 1e-9)
        )
        wanted = -sense * Vj * long[:, None]
        thrust = np.abs(known[:, :, :, 0]).max(axis=-1)
        slack = DRIFT * thrust * long[:, None] + precise.moment + precise.force * long[:, None]
        left = np.where(idle, np.maximum(np.abs(M - wanted) - slack, 0.0), 0.0)
        scale = np.maximum(np.abs(M), np.abs(wanted))
        for k, r in np.argwhere(left > CLOSES * np.maximum(scale, 1e-9)):
            off.append((int(k), int(r), float(left[k, r] / scale[k, r])))
        with np.errstate(divide="ignore", invalid="ignore"):
            ratios += (M / wanted)[idle & (np.abs(wanted) > 0.05 * np.abs(wanted).max(initial=0.0))].tolist()
    yield from _told(building, off, np.array(ratios))


def _told(building: Building, off: list[tuple[int, int, float]], ratios: np.ndarray) -> Iterator[Finding]:
    if (
        len(ratios) > 4
        and (middle := float(np.median(ratios)))
        and abs(middle - 1) > CLOSES
        and float(np.mean(np.abs(ratios / middle - 1) < CLOSES)) > 0.6
    ):
        slip = next((words for factor, words in SLIPS if abs(middle / factor - 1) < 0.02), "")
        if abs(middle + 1) < CLOSES:
            slip = "one of them has the other sign throughout, or y and z are another way round"
        yield Finding(
            "units_do_not_close",
            "error",
            f"members' end moments are {middle:.4g} times their end shears times their lengths, throughout: "
            "a unit is wrong" + (f" ({slip})" if slip else "") + "; everything stays unchecked",
            value=middle,
        )
        return
    worst: dict[int, tuple[int, float]] = {}
    for k, r, share in off:
        if share > worst.get(k, (0, 0.0))[1]:
            worst[k] = (r, share)
    for k, (r, share) in sorted(worst.items(), key=lambda item: -item[1][1])[:FEW]:
        name = building.members[k].name
        yield Finding(
            "member_does_not_close",
            "warning",
            f"member {name}: its end moments and end shears do not close over its length in "
            f"{building.results[r]}, by {share:.0%}, though nothing loads it between",
            member=name,
            value=share,
        )
    if len(worst) > FEW:
        yield Finding(
            "member_does_not_close", "warning", f"and {len(worst) - FEW} more members do not close", value=len(worst)
        )


def _beyond(building: Building) -> Iterator[Finding]:
    """Forces that the section could never carry, whatever it is fastened with."""
    largest, formed = np.abs(np.nan_to_num(building.forces)).max(axis=(1, 2), initial=0.0), _formed(building)
    places = []
    for k, member in enumerate(building.members):
        steel = building.grade(member.grade)
        if (most := yields(building, member)) is None or steel is None:
            continue
        use = np.maximum(
            largest[k] / most, formed[k] / (most * steel.Fu / steel.Fy)
        )  # factored: not even at its tensile strength
        if use.max() > 1.0:
            places.append((float(use.max()), k, COMPONENTS[int(use.argmax())]))
    for most_used, k, what in sorted(places, reverse=True)[:FEW]:
        member = building.members[k]
        yield Finding(
            "beyond_section",
            "warning",
            f"member {member.name} ({member.section}): {what} is {most_used:.1f} times what the section could ever "
            "carry",
            member=member.name,
            value=most_used,
        )
    if len(places) > FEW:
        yield Finding(
            "beyond_section",
            "warning",
            f"and {len(places) - FEW} more members carry more than their sections ever could",
            value=len(places),
        )


def _formed(building: Building) -> np.ndarray:
    """(members, 6) the largest of each component in the strength combinations that are formed of cases."""
    most = np.zeros((len(building.members), 6))
    forces = np.nan_to_num(building.forces).reshape(len(building.members), len(building.results), 2, 6)
    for method in ("LRFD", "ASD"):
        factors = strength_set(building, method).factors  # (c, results, 6)
        step = max(int(MOST_AT_ONCE / max(len(factors) * 12, 1)), 1)
        for start in range(0, len(forces), step) if len(factors) else ():
            part = forces[start : start + step]
            for k in range(6):
                formed = np.abs(np.tensordot(part[..., k], factors[..., k], axes=(1, 1)))  # (m, 2, c)
                most[start : start + step, k] = np.maximum(
                    most[start : start + step, k], formed.max(axis=(1, 2), initial=0.0)
                )
    return most


def _reactions(building: Building) -> Iterator[Finding]:
    """Supports whose reactions are not given cannot be balanced."""
    if not len(building.reactions.node):
        if building.supports:
            yield Finding(
                "no_reactions",
                "note",
                "no reactions are given: the nodes on supports are not balanced in the directions that are held",
            )
        return
    given = set(building.reactions.node.tolist())
    for node in sorted(building.supports.keys() - given):
        if any(building.supports[node]):
            yield Finding(
                "support_without_reaction",
                "warning",
                f"support {building.nodes[node]} has no reaction in any result",
                node=building.nodes[node],
            )
