"""What rules can ask of a connection: every fact with its kind, a sentence and an example."""

from __future__ import annotations

from dataclasses import dataclass
from difflib import get_close_matches

from handrail.core.actions import COMPONENTS
from handrail.core.building.framing import CONDITIONS
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS

SIGNED = ("", ".max", ".min")
FAMILIES = ("C", "HEA", "HEB", "HP", "HSS_RECT", "HSS_ROUND", "IPE", "L", "M", "MC", "PIPE", "S", "W", "WT")
LABELS = ("group", "tag", "sequence", "pattern")  # what people put on connections, and which joints are alike


@dataclass(frozen=True)
class Fact:
    """`kind` is that of a quantity, or text, name (with * and ?, case and spaces forgiven), words (any of several, with
    * and ?), flag."""

    name: str
    kind: str
    help: str
    example: str
    choices: tuple[str, ...] = ()  # of text: all that there is

    @property
    def of_set(self) -> tuple[str, str]:
        """Of an action over a named set, `V.max@service`: (V.max, service); the set is empty otherwise."""
        action, _, named = self.name.partition("@")
        return action, named


def _member(role: str, what: str) -> tuple[Fact, ...]:
    return (
        Fact(f"{role}.name", "name", f"Name of {what}", "B12*"),
        Fact(f"{role}.length", "length", "Its length, from joint to joint", '"> 30 ft"'),
        Fact(f"{role}.section", "name", f"Section of {what}", "W16*"),
        Fact(f"{role}.family", "text", "Its kind of section", "W", FAMILIES),
        Fact(f"{role}.role", "text", f"What {what} is in the frame", "beam", ("beam", "column", "brace")),
        Fact(f"{role}.grade", "text", "Its grade", "A992"),
        Fact(f"{role}.depth", "length", "Its depth", "14 .. 18 in"),
        Fact(f"{role}.width", "length", "Its flange width, or the width of a hollow section", '"> 6 in"'),
        Fact(f"{role}.web", "length", "Its web thickness, or a hollow section's design wall", '"< 1/4 in"'),
        Fact(f"{role}.flange", "length", "Its flange thickness, or a hollow section's design wall", '">= 1/2 in"'),
    )


def _actions() -> tuple[Fact, ...]:
    words = {
        "N": "Axial force (pull +)",
        "V": "Shear in the plane of the web (up +)",
        "Vw": "Shear across the web",
        "M": "Moment in the plane of the web (top in tension +)",
        "Mw": "Moment across the web",
        "T": "Torsion",
    }
    sized = {
        "": ", its largest size over the combinations that are checked",
        ".max": ", its largest value with its sign, 0 counted in",
        ".min": ", its smallest value with its sign, 0 counted in",
    }
    facts = [
        Fact(
            f"{name}_share",
            "number",
            f"{words[name]}, its largest size as a share of what the supported member can take of it by yielding",
            '"> 0.5"',
        )
        for name in COMPONENTS
        if name != "T"
    ]
    for name in COMPONENTS:
        kind, sample = ("moment", '"> 20 kip*ft"') if name in ("M", "Mw", "T") else ("force", '"> 20 kip"')
        facts += [
            Fact(
                f"{name}{end}",
                kind,
                f"{words[name]}{sized[end]}",
                '"< -5 kip"' if (name, end) == ("N", ".min") else sample,
            )
            for end in SIGNED
        ]
    return tuple(facts)


_ALL = (
    Fact("framing", "text", "The framing condition", "[beam_to_girder, beam_to_column_web]", CONDITIONS),
    Fact("connection", "name", "The connection's own name, member and end", "B12.*"),
    Fact("joint", "name", "The joint's name", "N104"),
    Fact("level", "words", "Name of the level that the joint is at", "3"),
    Fact("grid", "name", "The grid lines that the joint is on or between", "C/*"),
    Fact("elevation", "length", "Height of the joint", "8 .. 10 m"),
    Fact("released", "flag", "Whether the end is modelled as pinned", "true"),
    Fact("opposed", "flag", "Whether a beam stands on the other side of the same web", "true"),
    Fact("cope", "text", "Which flanges have to be coped", "none", ("none", "top", "bottom", "both")),
    Fact("cope_length", "length", "As long as its longest cope would be, by practice", '"> 6 in"'),
    Fact("cope_depth", "length", "As deep as its deepest cope would be, by practice", '"> 2 in"'),
    Fact("deeper", "flag", "Whether a beam reaches below the girder that carries it", "true"),
    Fact(
        "axis",
        "text",
        "Of an open column that a beam frames to, the axis that it would bend",
        "weak",
        ("strong", "weak"),
    ),
    Fact("skew", "angle", "In plan, off square to the support", '">= 10 deg"'),
    Fact("slope", "angle", "In elevation, its size", '"< 0.5 deg"'),
    Fact("top_offset", "length", "Top of the beam below (-) or above (+) the support's", '"> -1 in"'),
    Fact("face", "text", "Of a hollow rectangle, the wall that is met", "long", ("long", "short")),
    Fact("intent", "words", "The connection that the model's author meant here, as the model says it", '"*tab*"'),
    Fact("group", "words", "Groups of the job that the connection is in", "Stair core"),
    Fact("tag", "words", "Tags that people put on it", "[check twice, painted]"),
    Fact("sequence", "words", "Its erection sequence", "2"),
    Fact("pattern", "words", "The pattern that its joint is of; named anew with each model", "P3"),
    *_member("supported", "the supported member (a splice's upper or j-side piece, a base's column)"),
    *_member("support", "what carries it (a splice's lower or i-side piece)"),
    Fact(
        "supported.seismic",
        "text",
        "What the member is in the lateral system",
        "collector",
        ("column", "brace", "collector"),
    ),
    Fact("fixity", "text", "Of a base, as it is modelled", "fixed", ("pinned", "fixed")),
    Fact("braced", "flag", "Of a base, whether braces land on it", "true"),
    Fact("seismic", "flag", "Of a base or a column's splice, whether it is of the lateral system", "true"),
    Fact("foundation.kind", "text", "What a base stands on", "pedestal", ("footing", "pedestal", "slab")),
    Fact("foundation.fc", "stress", "Concrete strength below a base", '">= 4 ksi"'),
    Fact("foundation.thickness", "length", "Concrete thickness below a base", '"> 24 in"'),
    Fact("foundation.edge", "length", "Nearest edge of the concrete to a base's centre", '"< 12 in"'),
    Fact("rule", "words", "The rule that took it; also-rules can ask for that", "Girders*"),
    Fact("standard", "text", "The standard that it has; also-rules can ask for that", "single_plate", tuple(STANDARDS)),
    *_actions(),
)
OF_RULE = ("rule", "standard")  # what only also-rules can ask for
FACTS = {fact.name: fact for fact in _ALL}
ACTIONS = frozenset(f"{name}{end}" for name in COMPONENTS for end in SIGNED)
LONGEST_SET = 60


def fact(name: str) -> Fact:
    """The fact called `name`; an action may name a set of combinations, or a result of the analysis by itself,
    `N.max@overstrength`, `V@Live`. Raises InputError with what is near."""
    if name in FACTS:
        return FACTS[name]
    action, at, named = name.partition("@")
    if at and action in ACTIONS:
        if not named or len(named) > LONGEST_SET or not named.isprintable():
            raise InputError(
                f"'{name}': after @ stands the name of a set of combinations, or of a case, like {action}@service"
            )
        of = FACTS[action]
        return Fact(
            name,
            of.kind,
            f"{of.help.partition(', its')[0]}, over the combinations of set {named}, or in the case {named}",
            of.example,
        )
    if at:
        raise InputError(
            f"'{name}': only actions ({', '.join(sorted(ACTIONS))}) are asked for over a set of combinations"
        )
    near = get_close_matches(name[:60], FACTS, 3, 0.6)
    meant = f"did you mean {' or '.join(near)}? " if near else ""
    raise InputError(f"'{name[:60]}' is not a fact; {meant}rules can ask for {', '.join(FACTS)}")
