"""Design situations by ASCE 7: basic combinations, 2.3 (LRFD) and 2.4 (ASD), for unfactored cases named D, L, Lr, S, R,
W, E, Ev; and what each method judges."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import product

from handrail.core.errors import InputError

EDITIONS = ("7-22", "7-16")
CASES = ("D", "L", "Lr", "S", "R", "W", "E", "Ev")
Terms = dict[str, float]

# terms of each combination; a tuple of terms is a choice (one of them), +- both signs
_LRFD = (
    "1.4D",
    "1.2D + 1.6L + (0.5Lr | 0.3S | 0.5R)",
    "1.2D + (1.6Lr | 1.0S | 1.6R) + (1.0L | +-0.5W)",
    "1.2D +-1.0W + 1.0L + (0.5Lr | 0.3S | 0.5R)",
    "0.9D +-1.0W",
    "1.2D + 1.0Ev +-1.0E + 1.0L + 0.15S",
    "0.9D + -1.0Ev +-1.0E",
)
_ASD = (
    "1.0D",
    "1.0D + 1.0L",
    "1.0D + (1.0Lr | 0.7S | 1.0R)",
    "1.0D + 0.75L + (0.75Lr | 0.525S | 0.75R)",
    "1.0D +-0.6W",
    "1.0D + 0.75L +-0.45W + (0.75Lr | 0.525S | 0.75R)",
    "0.6D +-0.6W",
    "1.0D + 0.7Ev +-0.7E",
    "1.0D + 0.525Ev +-0.525E + 0.75L + 0.1S",
    "0.6D + -0.7Ev +-0.7E",
)

_LRFD_16 = (
    "1.4D",
    "1.2D + 1.6L + (0.5Lr | 0.5S | 0.5R)",
    "1.2D + (1.6Lr | 1.6S | 1.6R) + (1.0L | +-0.5W)",
    "1.2D +-1.0W + 1.0L + (0.5Lr | 0.5S | 0.5R)",
    "0.9D +-1.0W",
    "1.2D + 1.0Ev +-1.0E + 1.0L + 0.2S",
    "0.9D + -1.0Ev +-1.0E",
)
_ASD_16 = (
    "1.0D",
    "1.0D + 1.0L",
    "1.0D + (1.0Lr | 1.0S | 1.0R)",
    "1.0D + 0.75L + (0.75Lr | 0.75S | 0.75R)",
    "1.0D +-0.6W",
    "1.0D + 0.75L +-0.45W + (0.75Lr | 0.75S | 0.75R)",
    "0.6D +-0.6W",
    "1.0D + 0.7Ev +-0.7E",
    "1.0D + 0.525Ev +-0.525E + 0.75L + 0.75S",
    "0.6D + -0.7Ev +-0.7E",
)
SERVICE = (
    "1.0D + 1.0L",
    "1.0D + (1.0Lr | 1.0S)",
    "1.0D + 0.5L +-0.6W",
)  # of deflection and drift (appendix C), checked nowhere here
_HELD = {("7-22", "LRFD"): _LRFD, ("7-22", "ASD"): _ASD, ("7-16", "LRFD"): _LRFD_16, ("7-16", "ASD"): _ASD_16}


def patterns(method: str, edition: str = "7-22") -> list[list[tuple[str, float]]]:
    """Every combination of an edition as (load, factor) of all its loads, a sign and a choice at a time."""
    return [
        terms for pattern in (SERVICE if method == "none" else _HELD[edition, method]) for terms in _expand(pattern)
    ]


def combinations(method: str, cases: set[str]) -> dict[str, Terms]:
    """{name: {case: factor}} of every combination that the given cases make by ASCE 7-22, each once. Raises
    InputError."""
    if unknown := sorted(cases - set(CASES)):
        raise InputError(f"case '{unknown[0]}' is none of {', '.join(CASES)}")
    made: dict[str, Terms] = {}
    for terms in patterns(method):
        kept = {case: factor for case, factor in terms if case in cases}
        name = "".join(f"{factor:+g}{case}" for case, factor in kept.items()).lstrip("+")
        if kept and name not in made:
            made[name] = kept
    return made


@dataclass(frozen=True)
class Asce7:
    """The situations that steel and what is in concrete are judged in."""

    name: str = "ASCE 7-22"
    methods: tuple[str, ...] = ("LRFD", "ASD")
    concrete: str = "LRFD"  # ACI 318 has no allowable stress
    editions: tuple[str, ...] = EDITIONS

    def live(self, method: str) -> float:
        """The factor of a live load by itself."""
        return {"LRFD": 1.6, "ASD": 1.0}[method]

    def patterns(self, method: str, edition: str) -> list[list[tuple[str, float]]]:
        return patterns(method, edition)

    def combinations(self, method: str, cases: set[str]) -> dict[str, Terms]:
        return combinations(method, cases)


def _expand(pattern: str) -> list[list[tuple[str, float]]]:
    choices = [_choices(part.strip()) for part in _split(pattern)]
    return [list(taken) for taken in product(*choices)]


def _split(pattern: str) -> list[str]:
    """Terms between plus signs that stand outside brackets."""
    parts, depth, word = [], 0, ""
    for sign in pattern.replace("+-", "+ ±"):
        depth += (sign == "(") - (sign == ")")
        if sign == "+" and depth == 0:
            parts.append(word)
            word = ""
        else:
            word += sign
    return [*parts, word]


def _choices(part: str) -> list[tuple[str, float]]:
    choices: list[tuple[str, float]] = []
    for one in part.strip("()").split("|"):
        text = one.replace("+", "").strip()
        both, text = text.startswith("±"), text.lstrip("±").strip()
        case = text.lstrip("-0123456789.")
        factor = float(text.removesuffix(case))
        choices += [(case, factor), (case, -factor)] if both else [(case, factor)]
    return choices
