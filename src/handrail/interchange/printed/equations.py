"""Worked lines as equations of a word processor (Office MathML): indices, powers, roots."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from docx.oxml import OxmlElement

from handrail.core.quantities.lines import Line
from handrail.core.quantities.units import show
from handrail.core.quantities.words import said
from handrail.interchange.printed.mathematics import WORD, symbol

_POWER = re.compile(r"\^(?:\(([^()]*)\)|(-?[0-9.]+))")
_ROOT = "sqrt("


def equation(line: Line, system: str) -> Any:
    """`symbol = formula = result` as one equation."""
    maths = OxmlElement("m:oMath")
    text = f"{line.symbol} = {said(line.formula, system)} = "
    maths.extend([*_set(text.replace(" x ", " × ")), _run(show(line.result, line.kind, system), bold=True)])
    return maths


def given(line: Line, system: str) -> Any:
    """What went into it, as an equation: `Fy = 50 ksi, t = 1/4 in`; None where nothing did."""
    if not line.values:
        return None
    maths = OxmlElement("m:oMath")
    for number, (name, value, kind) in enumerate(line.values):
        maths.extend([*_set(f"{', ' if number else ''}{name} = "), _run(show(value, kind, system))])
    return maths


def _set(text: str) -> Iterator[Any]:
    """The elements of a formula: roots around what stands in their brackets."""
    at = text.find(_ROOT)
    if at < 0:
        yield from _flat(text)
        return
    depth, end = 1, at + len(_ROOT)
    while end < len(text) and depth:
        depth += {"(": 1, ")": -1}.get(text[end], 0)
        end += 1
    yield from _flat(text[:at])
    root = OxmlElement("m:rad")
    about, degree, inside = (OxmlElement(name) for name in ("m:radPr", "m:deg", "m:e"))
    hidden = OxmlElement("m:degHide")
    hidden.set(hidden.nsmap["m"] and f"{{{hidden.nsmap['m']}}}val", "1")
    about.append(hidden)
    inside.extend(_set(text[at + len(_ROOT) : end - (0 if depth else 1)]))
    root.extend([about, degree, inside])
    yield root
    yield from _set(text[end:])


def _flat(text: str) -> Iterator[Any]:
    """Words that are symbols with what stands below them, and powers."""
    last: Any = None  # what a power would be of
    plain, at = "", 0
    while at < len(text):
        power, word = _POWER.match(text, at), WORD.match(text, at)
        if power and (last is not None or plain):
            if last is None:
                yield from _plain(plain[:-1])
                last, plain = _run(plain[-1]), ""
            last, at = _scripted("m:sSup", last, "m:sup", power[1] or power[2]), power.end()
            continue
        yield from () if last is None else (last,)
        last = None
        if word:
            base, index = symbol(word.group())
            yield from _plain(plain)
            last = _scripted("m:sSub", _run(base), "m:sub", index) if index else _run(base)
            plain, at = "", word.end()
        else:
            plain, at = plain + text[at].replace("*", "·"), at + 1
    yield from () if last is None else (last,)
    yield from _plain(plain)


def _plain(text: str) -> Iterator[Any]:
    if text:
        yield _run(text)


def _scripted(kind: str, base: Any, where: str, words: str) -> Any:
    made, inside, beside = OxmlElement(kind), OxmlElement("m:e"), OxmlElement(where)
    inside.append(base)
    beside.append(_run(words))
    made.extend([inside, beside])
    return made


def _run(words: str, bold: bool = False) -> Any:
    run, text = OxmlElement("m:r"), OxmlElement("m:t")
    if bold:
        about, style = OxmlElement("m:rPr"), OxmlElement("m:sty")
        style.set(f"{{{style.nsmap['m']}}}val", "b")
        about.append(style)
        run.append(about)
    text.set("{http://www.w3.org/XML/1998/namespace}space", "preserve")
    text.text = words
    run.append(text)
    return run
