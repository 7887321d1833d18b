"""A picture of a sweep: utilisation over its values, as SVG."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any
from xml.sax.saxutils import escape

WIDE, HIGH, LEFT, RIGHT, TOP, FOOT = 1060, 560, 70, 260, 50, 110
PASSED, FAILED, NONE, INK, RULE, WON = "#2a6b4f", "#a33b2c", "#8b8578", "#2b2a27", "#d9d4c7", "#b7791f"
MOST = 1.6  # of the axis: what is used more is drawn at its upper edge


def svg(sweep: Mapping[str, Any]) -> str:
    """The answer of a sweep drawn: a point a candidate, in its order; passing ones filled, failing ones crossed, the
    winner ringed; one line for each combination of the slower values."""
    rows = sweep["rows"]
    highest = min(max([1.1, *(row["utilisation"] * 1.05 for row in rows if row["status"] != "unchecked")]), MOST)
    across = (WIDE - LEFT - RIGHT) / max(len(rows) - 1, 1)

    def x(k: int) -> float:
        return LEFT + k * across

    def y(use: float) -> float:
        return TOP + (HIGH - TOP - FOOT) * (1 - min(use, highest) / highest)

    parts = [*_frame(sweep, highest, y), *_ticks(sweep, x)]
    for k, row in enumerate(rows):
        parts.append(_point(row, x(k), y(row["utilisation"]), k == sweep["winner"], 5 if len(rows) < 120 else 2.5))
    style = "font-family: sans-serif; font-size: 13px"
    body = "\n".join([f'<rect width="{WIDE}" height="{HIGH}" fill="#fff"/>', *parts])
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE} {HIGH}" style="{style}">\n{body}\n</svg>\n'


def _frame(sweep: Mapping[str, Any], highest: float, y: Any) -> list[str]:
    passing = sum(row["status"] == "pass" for row in sweep["rows"])
    won = sweep["rows"][sweep["winner"]] if sweep["winner"] is not None else None
    title = f"{sweep['standard'].replace('_', ' ')}: utilisation of {len(sweep['rows'])} candidates, {passing} pass"
    over = sum(row["utilisation"] > highest for row in sweep["rows"])
    parts = [_text(LEFT, 26, title + (f"; {over} over {highest:.2f} at the upper edge" if over else ""), size=16)]
    step = 0.25 if highest <= 1.3 else 0.5
    for n in range(int(highest / step + 1e-9) + 1):
        use = n * step
        parts.append(_line(LEFT, y(use), WIDE - RIGHT, y(use), INK if use == 1 else RULE))
        parts.append(_text(LEFT - 10, y(use) + 4, f"{use:.2f}", "end"))
    side = WIDE - RIGHT + 24
    for n, (status, words) in enumerate(
        (("pass", "passes"), ("fail", "fails (over 1.00, or a rule)"), ("unchecked", "not checked"))
    ):
        parts += [
            _point({"status": status}, side, TOP + 20 + 26 * n, False, 5),
            _text(side + 14, TOP + 24 + 26 * n, words),
        ]
    if won is not None:
        parts += [
            _point({"status": "pass"}, side, TOP + 110, True, 5),
            _text(side + 14, TOP + 114, "first that passes"),
        ]
        parts += [
            _text(side, TOP + 136 + 20 * n, f"{name.replace('_', ' ')} {value}")
            for n, (name, value) in enumerate(won["values"].items())
        ]
    return parts


def _ticks(sweep: Mapping[str, Any], x: Any) -> list[str]:
    """Below the points, what they are: each value of the fastest parameter as far as there is room, and the span of
    each of the others."""
    rows, names = sweep["rows"], sweep["vary"]
    parts = []
    for level, name in enumerate(names[:4]):
        top = HIGH - FOOT + 20 + 20 * level
        parts.append(_text(WIDE - RIGHT + 10, top, name.replace("_", " ")))
        begin = 0
        for k in range(1, len(rows) + 1):
            if k == len(rows) or rows[k]["values"][name] != rows[begin]["values"][name]:
                wide = max(x(k - 1) - x(begin), x(1) - x(0) if len(rows) > 1 else 40)
                words = rows[begin]["values"][name]
                if wide >= 7 * len(words) + 4:
                    parts.append(_text((x(begin) + x(k - 1)) / 2, top, words, "middle"))
                if level and k < len(rows):
                    parts.append(_line((x(k - 1) + x(k)) / 2, TOP, (x(k - 1) + x(k)) / 2, HIGH - FOOT + 4, RULE))
                begin = k
    return parts


def _point(row: Mapping[str, Any], x: float, y: float, won: bool, size: float) -> str:
    ring = (
        f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{size + 5}" fill="none" stroke="{WON}" stroke-width="3"/>' if won else ""
    )
    if row["status"] == "pass":
        return f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{size}" fill="{PASSED}"/>{ring}'
    if row["status"] == "fail":
        return (
            f'<path d="M{x - size:.1f} {y - size:.1f} l{2 * size} {2 * size} m0 {-2 * size} l{-2 * size} {2 * size}"'
            f' stroke="{FAILED}" stroke-width="2"/>'
        )
    return (
        f'<rect x="{x - size:.1f}" y="{y - size:.1f}" width="{2 * size}" height="{2 * size}" fill="none"'
        f' stroke="{NONE}" stroke-width="1.5"/>'
    )


def _line(x1: float, y1: float, x2: float, y2: float, colour: str) -> str:
    return f'<line x1="{x1:.1f}" y1="{y1:.1f}" x2="{x2:.1f}" y2="{y2:.1f}" stroke="{colour}"/>'


def _text(x: float, y: float, words: str, anchor: str = "start", size: int = 13) -> str:
    return (
        f'<text x="{x:.1f}" y="{y:.1f}" text-anchor="{anchor}" font-size="{size}" fill="{INK}">{escape(words)}</text>'
    )
