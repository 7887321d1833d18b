"""Words with quantities in them, which stay numbers until somebody is told, in the units of who reads."""

from __future__ import annotations

import re
from collections.abc import Iterable

from handrail.core.quantities.shown import show

OPEN, CLOSE = "⟦", "⟧"
_HELD = re.compile(f"{OPEN}(\\w+) ([^{CLOSE}]*){CLOSE}")


def held(value: float, kind: str) -> str:
    """A quantity as it stands in words until they are `said`; `value` in the core's unit of `kind`."""
    return f"{OPEN}{kind} {float(value)!r}{CLOSE}"


def said(words: str, system: str) -> str:
    """Words with every quantity in the units of `system`, us or si; what a remark is stays one."""
    if OPEN not in words:
        return words
    return type(words)(_HELD.sub(lambda m: show(float(m[2]), m[1], system), words))


def all_said(words: Iterable[str], system: str) -> tuple[str, ...]:
    """Each of some words, said."""
    return tuple(said(one, system) for one in words)
