"""The survey on two pages, for people who do not sign in: what is in the model, and what it asks of its members."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, BinaryIO

import numpy as np
from reportlab.graphics.shapes import Drawing, Line, Rect, String
from reportlab.lib.colors import Color
from reportlab.platypus import Flowable, PageBreak, Spacer

from handrail.core.building.model import Building
from handrail.core.building.survey import Survey
from handrail.core.quantities.units import FOOT, HEAVY, KIP, LONG, show
from handrail.interchange.printed.page import (
    BODY,
    FAINT,
    H2,
    HEAT,
    INK,
    SMALL,
    STEPS,
    TITLE,
    Head,
    beside,
    heat,
    said,
    table,
    write,
)
from handrail.interchange.typeface import FONT

SECTIONS, ENDS, FINDINGS = 16, 24, 9  # of each as many as a page holds
PALE = 0.45  # points of a line whose share is not known


@dataclass(frozen=True)
class Surveyed:
    """All that is printed of a model: `shares` (members, 2) of its own section that each end is asked for, `findings`
    of its audit, worst first."""

    building: Building
    survey: Survey
    shares: np.ndarray
    findings: Sequence[Mapping[str, Any]]
    joints: int
    judged_by: str


def write_survey(of: Surveyed, head: Head, stream: BinaryIO) -> None:
    """The two pages."""
    write([*_what(of, head), PageBreak(), *_asked(of, head)], head, stream)


def _what(of: Surveyed, head: Head) -> Iterator[Flowable]:
    """What is in it."""
    wide, _ = head.room
    (long, per), (heavy, each) = LONG[head.system], HEAVY[head.system]
    survey = of.survey
    yield said("What is in the model", TITLE)
    mass = sum(s["mass"] for s in survey.sections)
    roles = ", ".join(f"{count} {name}{'s' if count != 1 else ''}" for name, count in survey.roles.items())
    yield said(
        f"{len(of.building.members)} members ({roles}) at {of.joints} joints, {sum(survey.framings.values())}"
        f" connections, {mass * each:,.0f} {heavy} of steel.",
        BODY,
    )
    yield picture(of.building, of.shares, wide, 330.0)
    yield scale(wide)
    shown = survey.sections[:SECTIONS]
    rest = survey.sections[SECTIONS:]
    rows = [
        [
            s["section"],
            ", ".join(s["grades"]),
            f"{s['members']}",
            f"{s['length'] * per:,.0f}",
            f"{s['mass'] * each:,.1f}",
        ]
        for s in shown
    ]
    if rest:
        members, length, mass = (sum(s[of] for s in rest) for of in ("members", "length", "mass"))
        rows.append(["others", f"{len(rest)} sections", f"{members}", f"{length * per:,.0f}", f"{mass * each:,.1f}"])
    names = ("section", "grade", "members", f"length, {long}", f"mass, {heavy}")
    left = [said("Sections", H2), table(names, rows, (72, 62, 46, 56, 54), frozenset({2, 3, 4}))]
    framings = [[name.replace("_", " "), f"{count}"] for name, count in survey.framings.items()]
    right = [said("Connections", H2), table(("framing condition", "connections"), framings, (140, 66), frozenset({1}))]
    yield beside((left, wide - 216), (right, 216))


def _asked(of: Surveyed, head: Head) -> Iterator[Flowable]:
    """What it asks."""
    wide, _ = head.room
    survey, system = of.survey, head.system
    yield said("What it asks of its members", TITLE)
    yield said(f"By the forces of the analysis in the {of.judged_by}, before any connection is designed.", BODY)
    yield said("Member ends by the share of their own section's strength", H2)
    yield _histogram(survey.histogram, wide, 92.0)
    if survey.unknown:
        yield said(f"{survey.unknown} ends are not counted: a section or a force is not known.", SMALL)
    peaks = [
        [p["component"], _force(p["value"], p["component"], system), f"{p['member']}.{p['end']}", p["combination"]]
        for p in survey.peaks
    ]
    forces = table(("component", "largest", "member end", "in"), peaks, (48, 62, 54, 92), frozenset({1}))
    left = [said("Largest forces", H2), forces]
    ends = [
        [f"{d['member']}.{d['end']}", d["section"], f"{d['share']:.2f}", f"{d['component']} in {d['combination']}"]
        for d in survey.demands[:ENDS]
    ]
    names = ("member end", "section", "share", "by")
    right = [said("Ends that are asked for most", H2), table(names, ends, (52, 56, 32, 124), frozenset({2}))]
    yield beside((left, wide - 268), (right, 268))
    yield said("What the audit found", H2)
    if not of.findings:
        yield said("Nothing: the data is in balance.", BODY)
        return
    kinds: dict[tuple[str, str], list[Mapping[str, Any]]] = {}
    for finding in of.findings:
        kinds.setdefault((finding["code"], finding.get("cause", "")), []).append(finding)
    rows = [
        [some[0]["severity"], f"{len(some)}", some[0]["message"] + (" …" if len(some) > 1 else ""), _stands(some)]
        for some in list(kinds.values())[:FINDINGS]
    ]
    yield table(
        ("severity", "times", "the first of them", "let stand"), rows, (48, 32, wide - 180, 100), frozenset({1})
    )
    if len(kinds) > FINDINGS:
        yield Spacer(0, 3)
        yield said(f"and {len(kinds) - FINDINGS} more kinds, in the job's audit", SMALL)


def _stands(findings: Sequence[Mapping[str, Any]]) -> str:
    """Who lets them stand."""
    by = {f["acknowledged"]["author"] for f in findings if f.get("acknowledged")}
    return f"by {', '.join(sorted(by))}" if by else ""


def _force(value: float, component: str, system: str) -> str:
    if component in ("N", "V", "Vw"):
        return show(value, "force", system)
    return f"{value / KIP / FOOT:,.1f} kip*ft" if system == "us" else show(value, "moment", system)


def flat(building: Building, wide: float, high: float) -> np.ndarray:
    """(nodes, 2) where the nodes are on such a picture, points."""
    xyz = np.asarray(building.xyz)
    seen = np.stack(
        [
            (xyz[:, 0] - xyz[:, 1]) * math.cos(math.pi / 6),
            (xyz[:, 0] + xyz[:, 1]) * math.sin(math.pi / 6) * 0.7 + xyz[:, 2],
        ],
        axis=1,
    )
    low, top = seen.min(axis=0), seen.max(axis=0)
    per = min((wide - 8) / max(top[0] - low[0], 1.0), (high - 8) / max(top[1] - low[1], 1.0))
    return np.asarray((seen - low) * per + [(wide - (top[0] - low[0]) * per) / 2, 4.0])


def picture(building: Building, shares: np.ndarray, wide: float, high: float) -> Drawing:
    """The building from above one of its corners; each member coloured by the end of it that is asked for most."""
    at = flat(building, wide, high)
    made = Drawing(wide, high)
    far = [float(building.xyz[[m.i, m.j]].sum()) for m in building.members]
    worst = np.nanmax(np.where(np.isnan(shares), -1.0, shares), axis=1)
    for k in sorted(range(len(far)), key=lambda k: -far[k]):
        m = building.members[k]
        (x0, y0), (x1, y1) = at[m.i], at[m.j]
        known = worst[k] >= 0
        colour = heat(float(worst[k])) if known else FAINT
        width = 0.5 + 0.7 * min(float(worst[k]), 1.2) if known else PALE
        made.add(Line(x0, y0, x1, y1, strokeColor=colour, strokeWidth=width))
    return made


SHARE = "of its own section, at the end that is asked for most"


def scale(wide: float, words: str = SHARE) -> Drawing:
    """What the colours of shares say."""
    made, x = Drawing(wide, 14), 0.0
    edges = (0.0, *STEPS)
    for k, colour in enumerate(HEAT):
        span = f"{edges[k]:g} to {STEPS[k]:g}" if k < len(STEPS) else f"over {STEPS[-1]:g}"
        made.add(Rect(x, 3, 9, 7, fillColor=colour, strokeColor=None))
        made.add(String(x + 12, 3.6, span, fontName=FONT, fontSize=7, fillColor=FAINT))
        x += 58
    made.add(String(x + 4, 3.6, words, fontName=FONT, fontSize=7, fillColor=FAINT))
    return made


def _histogram(counts: Sequence[int], wide: float, high: float) -> Drawing:
    made, most, step = Drawing(wide, high), max(*counts, 1), wide / len(counts)

    def lettered(x: float, y: float, words: str, colour: Color) -> String:
        return String(x, y, words, fontName=FONT, fontSize=7, textAnchor="middle", fillColor=colour)

    for k, count in enumerate(counts):
        tall, middle = (high - 30) * count / most, (k + 0.5) * step
        made.add(Rect(k * step + 4, 14, step - 8, tall, fillColor=heat(k / 10 + 0.05), strokeColor=None))
        words = f"over {k / 10:.1f}" if k == len(counts) - 1 else f"{k / 10:.1f} to {(k + 1) / 10:.1f}"
        made.add(lettered(middle, 4, words, FAINT))
        made.add(lettered(middle, 17 + tall, f"{count}", INK))
    made.add(Line(0, 14, wide, 14, strokeColor=INK, strokeWidth=0.5))
    return made
