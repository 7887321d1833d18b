"""Worked lines set as mathematics: symbols with their indices, powers, Greek letters, roots."""

from __future__ import annotations

import re
from collections.abc import Iterator
from functools import lru_cache
from xml.sax.saxutils import escape

from handrail.core.quantities.lines import Line
from handrail.core.quantities.symbols import SYMBOLS
from handrail.core.quantities.units import show
from handrail.core.quantities.words import said

GREEK = {
    "phi": "φ", "Omega": "Ω", "mu": "μ", "tau": "τ", "lambda": "λ", "theta": "θ", "psi": "ψ", "sigma": "σ",
    "kappa": "κ", "beta": "β", "alpha": "α", "eta": "η", "rho": "ρ", "omega": "ω", "pi": "π", "delta": "δ",
    "Delta": "Δ", "gamma": "γ",
}  # fmt: skip
WORDS = frozenset({"acute", "obtuse", "arm", "gap", "grout", "off", "share", "the", "throat"})  # letters as they are
_LETTERS = frozenset(word for letters, _ in SYMBOLS.values() for word in letters.split()) - WORDS
WORD = re.compile(r"[A-Za-z][A-Za-z0-9_']*")
_POWER = re.compile(r"\^(\([^()]*\)|-?[0-9.]+)")


def line_markup(line: Line, system: str) -> str:
    """`symbol = formula = result`, what went in, its clause, as markup of a paragraph."""
    given = ", ".join(f"{_set(s)} = {escape(show(v, k, system))}" for s, v, k in line.values)
    result = escape(show(line.result, line.kind, system))
    markup = f"{_set(line.symbol)} = {_set(said(line.formula, system))} = <b>{result}</b>"
    if given:
        markup += f' <font color="#5f6b66">({given})</font>'
    return markup + (f' <font color="#835a0c">[{escape(line.clause)}]</font>' if line.clause else "")


@lru_cache(maxsize=4096)
def _set(text: str) -> str:
    """A formula: words that are symbols have their first letter, or a Greek one, and the rest below it."""
    parts, at = [], 0
    text = text.replace(" x ", " × ")
    for found in WORD.finditer(text):
        parts += [_plain(text[at : found.start()]), _symbol(found.group())]
        at = found.end()
    return "".join([*parts, _plain(text[at:])])


def _plain(text: str) -> str:
    """What stands between words: powers raised."""
    parts: Iterator[str] = (escape(part) for part in _POWER.split(text))
    made = "".join(f"<super>{part.strip('()')}</super>" if k % 2 else part for k, part in enumerate(parts))
    return made.replace("*", "·")


def _symbol(word: str) -> str:
    base, index = symbol(word)
    return escape(base) + (f"<sub>{escape(index)}</sub>" if index else "")


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
