"""`docs/signs.svg`: the axes and senses of members, connections, splices and bases, as signs.md says them."""

from __future__ import annotations

from pathlib import Path

WIDE, HIGH = 1290, 540
STEEL, FORCE, AXIS, INK = "#c9d3da", "#9c3f1f", "#23658f", "#22303a"


def text(
    x: float, y: float, words: str, colour: str = INK, size: int = 15, anchor: str = "start", bold: bool = False
) -> str:
    weight = ' font-weight="600"' if bold else ""
    return f'<text x="{x}" y="{y}" fill="{colour}" font-size="{size}" text-anchor="{anchor}"{weight}>{words}</text>'


def arrow(
    x: float, y: float, dx: float, dy: float, name: str, colour: str = FORCE, at: tuple[float, float] = (8, 0)
) -> str:
    head = "force" if colour == FORCE else "axis"
    line = f'<path d="M{x},{y} l{dx},{dy}" stroke="{colour}" stroke-width="2.4" marker-end="url(#{head})" fill="none"/>'
    return line + text(x + dx + at[0], y + dy + at[1], name, colour, bold=True)


def turn(x: float, y: float, r: float, name: str, left: bool = True, at: tuple[float, float] = (0, 0)) -> str:
    """A moment counter-clockwise about the eye (`left`), or clockwise."""
    ends = (x + r, y - 4, x - r * 0.4, y - r) if left else (x - r, y - 4, x + r * 0.4, y - r)
    sweep = 0 if left else 1
    arc = f"M{ends[0]},{ends[1]} A{r},{r} 0 0 {sweep} {ends[2]},{ends[3]}"
    line = f'<path d="{arc}" stroke="{FORCE}" stroke-width="2.4" marker-end="url(#force)" fill="none"/>'
    return line + text(x + at[0], y - r - 10 + at[1], name, FORCE, anchor="middle", bold=True)


def eye(x: float, y: float, name: str) -> str:
    """An arrow that comes towards who looks."""
    ring = f'<circle cx="{x}" cy="{y}" r="8" fill="#fff" stroke="{FORCE}" stroke-width="2.4"/>'
    return ring + f'<circle cx="{x}" cy="{y}" r="2.6" fill="{FORCE}"/>' + text(x + 14, y + 5, name, FORCE, bold=True)


def steel(x: float, y: float, w: float, h: float) -> str:
    return f'<rect x="{x}" y="{y}" width="{w}" height="{h}" fill="{STEEL}" stroke="{INK}" stroke-width="1.2"/>'


def flanges(x: float, y: float, w: float, h: float, t: float = 7) -> str:
    return steel(x, y, w, h) + "".join(
        f'<rect x="{x}" y="{at}" width="{w}" height="{t}" fill="#93a5b1" stroke="{INK}" stroke-width="1"/>'
        for at in (y, y + h - t)
    )


def model(x: float, y: float) -> str:
    """A member of the model with its local axes."""
    parts = [text(x, y, "A member in the model", size=17, bold=True), flanges(x + 40, y + 70, 250, 46)]
    parts += [f'<circle cx="{x + at}" cy="{y + 93}" r="5" fill="{INK}"/>' for at in (40, 290)]
    parts += [text(x + 22, y + 98, "i"), text(x + 300, y + 98, "j")]
    parts += [
        arrow(x + 165, y + 93, 70, 0, "x", AXIS, (-6, 22)),
        arrow(x + 165, y + 93, 0, -66, "y, along the web", AXIS),
    ]
    parts += [f'<circle cx="{x + 165}" cy="{y + 93}" r="8" fill="#fff" stroke="{AXIS}" stroke-width="2.4"/>']
    parts += [
        f'<circle cx="{x + 165}" cy="{y + 93}" r="2.6" fill="{AXIS}"/>',
        text(x + 140, y + 112, "z", AXIS, bold=True),
    ]
    lines = (
        "x from i to j; z = x cross y, here towards you.",
        "Fx to Mz along and right-handed about these;",
        "strong-axis bending is Mz, with shear Fy.",
    )
    return "".join(parts) + "".join(text(x, y + 150 + 21 * k, line) for k, line in enumerate(lines))


def shear_end(x: float, y: float) -> str:
    """A beam's end at a column, seen from the side."""
    parts = [text(x, y, "A beam's end: what the support does to it", size=17, bold=True)]
    parts += [steel(x + 30, y + 26, 44, 180), flanges(x + 130, y + 84, 240, 64)]
    parts += [f'<path d="M{x + 74},{y + 116} h56" stroke="{INK}" stroke-width="1.2" stroke-dasharray="4 4"/>']
    parts += [arrow(x + 300, y + 116, 62, 0, "out", AXIS, (-22, -8)), arrow(x + 300, y + 116, 0, -60, "up", AXIS)]
    parts += [arrow(x + 128, y + 116, -44, 0, "N", at=(-4, -10)), arrow(x + 150, y + 200, 0, -46, "V", at=(8, 30))]
    parts += [eye(x + 186, y + 116, "Vw"), turn(x + 130, y + 74, 28, "M", at=(0, 0))]
    lines = (
        "N &gt; 0 pulls the end away from its support: tension.",
        "V &gt; 0 pushes it up along its web.",
        "Vw &gt; 0 pushes it to the right of who stands at the",
        "support and looks out along it: here towards you.",
        "M &gt; 0: top flange in tension. Mw &gt; 0: the side of Vw.",
        "T &gt; 0 turns it left, seen from the support.",
    )
    return "".join(parts) + "".join(text(x, y + 240 + 21 * k, line) for k, line in enumerate(lines))


def base(x: float, y: float) -> str:
    """A column's foot on its plate, in elevation along its depth."""
    parts = [text(x, y, "A base: along the column's depth", size=17, bold=True)]
    parts += [steel(x + 30, y + 150, 240, 46), steel(x + 70, y + 138, 160, 12), steel(x + 118, y + 30, 64, 108)]
    parts += [f'<path d="M{x + at},{y + 132} v52" stroke="{INK}" stroke-width="3"/>' for at in (84, 216)]
    parts += [arrow(x + 150, y + 136, 0, 34, "N", at=(8, -2)), arrow(x + 190, y + 128, 62, 0, "V", at=(4, 5))]
    parts += [turn(x + 150, y + 78, 30, "M", left=False, at=(44, 24))]
    parts += [text(x + 36, y + 214, "minus side"), text(x + 198, y + 214, "plus side")]
    lines = (
        "N &gt; 0 holds the column down: it lifts.",
        "M &gt; 0 presses the minus, lifts the plus side;",
        "Mw &gt; 0 the same across the depth.",
        "V &gt; 0 holds the column to the plus side, and",
        "pushes the concrete to the minus side.",
        "Vw &gt; 0 the same across.",
    )
    return "".join(parts) + "".join(text(x, y + 240 + 21 * k, line) for k, line in enumerate(lines))


def splice(x: float, y: float) -> str:
    """Two members in one line."""
    parts = [text(x, y, "A splice: on its upper, or j-side, piece", size=17, bold=True)]
    parts += [flanges(x + 20, y + 70, 130, 46), flanges(x + 200, y + 70, 150, 46)]
    parts += [text(x + 40, y + 62, "support"), text(x + 262, y + 62, "supported")]
    parts += [arrow(x + 198, y + 93, -38, 0, "N", at=(6, -10)), arrow(x + 216, y + 150, 0, -28, "V", at=(8, 10))]
    lines = ("The same as at a beam's end, with the lower", "(or i-side) piece as its support.")
    return "".join(parts) + "".join(text(x, y + 180 + 21 * k, line) for k, line in enumerate(lines))


def figure() -> str:
    heads = "".join(
        f'<marker id="{name}" viewBox="0 0 10 10" refX="9" refY="5" markerWidth="6" markerHeight="6" orient="auto">'
        f'<path d="M0,0 L10,5 L0,10 z" fill="{colour}"/></marker>'
        for name, colour in (("force", FORCE), ("axis", AXIS))
    )
    body = model(40, 40) + splice(40, 300) + shear_end(460, 40) + base(890, 40)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE} {HIGH}" width="{WIDE}" height="{HIGH}"'
        f' font-family="system-ui, sans-serif"><defs>{heads}</defs><rect width="100%" height="100%" fill="#fff"/>'
        f"{body}</svg>\n"
    )


if __name__ == "__main__":
    (Path(__file__).parent / "signs.svg").write_text(figure(), encoding="utf-8")
