"""Worked lines set as mathematics: symbols with their indices, powers, Greek letters, roots."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache
from typing import NamedTuple

from handrail.core.quantities.lines import Line
from handrail.core.quantities.symbols import SYMBOLS
from handrail.core.quantities.units import show
from handrail.core.quantities.words import said

GREEK = {
    "phi": "φ", "Omega": "Ω", "mu": "μ", "tau": "τ", "lambda": "λ", "theta": "θ", "psi": "ψ", "sigma": "σ",
    "kappa": "κ", "beta": "β", "alpha": "α", "eta": "η", "rho": "ρ", "omega": "ω", "pi": "π", "delta": "δ",
    "Delta": "Δ", "gamma": "γ",
}  # fmt: skip
WORDS = frozenset(
    {"acute", "obtuse", "arm", "gap", "grout", "of", "off", "share", "the", "throat"}
)  # letters as they are
BESIDE = frozenset({  # symbols that lines alone have
    "A2", "ANc", "ANco", "AVc", "AVco", "Af", "Aw", "Ec", "Es", "F'nt", "Fn", "Mx", "Ncbg", "Nf", "Nn", "Npn", "Nsa",
    "Nu", "Nua", "Pc", "Pf", "Pp", "Sy", "Vb", "Vcbg", "Vsa", "Vua", "Yt", "Zy", "bf", "fc'", "fe", "fp", "frv", "fta",
    "ftb", "fv", "fy", "k1", "rn", "tc", "vT",
})  # fmt: skip
_LETTERS = (frozenset(word for letters, _ in SYMBOLS.values() for word in letters.split()) | BESIDE) - WORDS
GIVEN = {"plain": "given", "below": "given below"}  # looks of what went in
WORD = re.compile(r"[A-Za-z][A-Za-z0-9_']*")
_POWER = re.compile(r"\^(\([^()]*\)|-?[0-9.]+)")


class Run(NamedTuple):
    """Letters of one look: plain, below, above, result, given or clause."""

    text: str
    look: str = "plain"


def line_runs(line: Line, system: str) -> list[Run]:
    """`symbol = formula = result`, what went in, its clause."""
    runs = [*_set(line.symbol), Run(" = "), *_set(said(line.formula, system)), Run(" = ")]
    runs.append(Run(_quantity(line.result, line.kind, system), "result"))
    for k, (name, value, kind) in enumerate(line.values):
        runs.append(Run(", " if k else " (", "given"))
        runs += [Run(run.text, GIVEN.get(run.look, run.look)) for run in _set(name)]
        runs.append(Run(f" = {_quantity(value, kind, system)}", "given"))
    if line.values:
        runs.append(Run(")", "given"))
    return [*runs, Run(f" [{line.clause}]", "clause")] if line.clause else runs


def _quantity(value: float, kind: str, system: str) -> str:
    """With its unit as it is written by hand."""
    return show(value, kind, system).replace("*", "·").replace("^2", "²").replace("^3", "³").replace("^4", "⁴")


@lru_cache(maxsize=4096)
def _set(text: str) -> tuple[Run, ...]:
    """A formula: words that are symbols have their first letter, or a Greek one, and the rest below it; powers stand
    above."""
    runs: list[Run] = []
    at = 0
    text = text.replace(" x ", " × ")
    for found in WORD.finditer(text):
        runs += _plain(text[at : found.start()])
        base, index = symbol(found.group())
        runs += [Run(base), *([Run(index, "below")] if index else [])]
        at = found.end()
    return (*runs, *_plain(text[at:]))


def _plain(text: str) -> Iterator[Run]:
    """What stands between words: powers raised."""
    for k, part in enumerate(_POWER.split(text)):
        if part:
            yield Run(part.strip("()"), "above") if k % 2 else Run(part.replace("*", "·"))


def symbol(word: str) -> tuple[str, str]:
    """(what stands, what stands below it) of a word of a formula."""
    if word == "sqrt":
        return "√", ""
    if word in GREEK:
        return GREEK[word], ""
    base, _, index = word.partition("_")
    if word not in _LETTERS and not (index and (base in GREEK or len(base) <= 2)):
        return word, ""
    if base in GREEK:
        return GREEK[base], index
    return base[0], base[1:] + (("," if base[1:] and index else "") + index)
