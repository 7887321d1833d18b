"""Clouds around what a drawing says otherwise than it did."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterable
from dataclasses import replace

from handrail.core.drawing.scene import Box, Laid, Point, View

AROUND = (0.6, 0.15)  # heights of a letter between what is lettered and its cloud, beside and above it
SCALLOP = 1.3  # heights of a letter, from cusp to cusp
BULGE = 0.35  # of such a length that an arc stands out


def clouded(now: Laid, before: Laid | None) -> Laid:
    """A view with clouds around the lettering that it had not `before`; None where there was no such view: then all of
    it is new, and nothing is marked."""
    if before is None:
        return now

    def draw(letters: float) -> View:
        view, was = now.draw(letters), Counter(_said(before.draw(letters)))
        boxes = []
        for box, said in zip(view.lettered(), _said(view), strict=True):
            if was[said]:
                was[said] -= 1
            else:
                x, y = (off * letters for off in AROUND)
                boxes.append((box[0] - x, box[1] - y, box[2] + x, box[3] + y))
        return replace(view, clouds=_together(boxes))

    return replace(now, draw=draw)


def _said(view: View) -> list[tuple[str, ...]]:
    """What each of its dimensions and notes says, in the order in which they are lettered."""
    return [
        *(("dimension", d.parameter, d.text) for d in view.dimensions),
        *(("note", n.part, n.text, n.weld) for n in view.notes),
    ]


def _together(boxes: Iterable[Box]) -> list[Box]:
    """Boxes that overlap as one around them."""
    left, made = list(boxes), []
    while left:
        box = left.pop()
        if over := [other for other in left if _overlap(box, other)]:
            left = [other for other in left if other not in over]
            xs0, ys0, xs1, ys1 = zip(box, *over, strict=True)
            left.append((min(xs0), min(ys0), max(xs1), max(ys1)))
        else:
            made.append(box)
    return sorted(made)


def _overlap(one: Box, other: Box) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def cusps(box: Box, letters: float) -> list[Point]:
    """Where the arcs of a cloud meet, counter-clockwise."""
    x0, y0, x1, y1 = box
    corners = [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]
    found = []
    for (ax, ay), (bx, by) in zip(corners, [*corners[1:], corners[0]], strict=True):
        parts = max(1, round(math.hypot(bx - ax, by - ay) / (SCALLOP * letters)))
        found += [(ax + (bx - ax) * k / parts, ay + (by - ay) * k / parts) for k in range(parts)]
    return found


def outline(points: list[Point], steps: int = 6) -> list[Point]:
    """A cloud through its cusps: an arc from each to the next, outwards."""
    found: list[Point] = []
    for (ax, ay), (bx, by) in zip(points, [*points[1:], points[0]], strict=True):
        for k in range(steps):
            t = k / steps
            out = 4 * BULGE * t * (1 - t)  # of its length, to the right: outside of what goes round to the left
            found.append((ax + (bx - ax) * t + (by - ay) * out, ay + (by - ay) * t - (bx - ax) * out))
    return found
