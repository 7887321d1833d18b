"""Units of the other system in what somebody is told."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from handrail.core.quantities.words import OPEN

_NUMBER = r"(?<!at )(?<!at \d\.)(?<!No\. )(?<!No\. 1)(?<![\d./-])\d[\d.]*(?:-?\d+/\d+|/\d+)? ?"
US = re.compile(_NUMBER + r"(in|ft|kip|ksi|psi|lb(?!/)|kip\*in|kip\*ft|in\^\d)\b(?! the)")
SI = re.compile(_NUMBER + r"(mm|kN|MPa|kN\*m|N/mm|mm\^\d)\b")


def foreign(answer: Any, system: str, where: str = "") -> Iterator[str]:
    """Texts of an answer with units of the other system in them, or with a quantity that nobody said."""
    if isinstance(answer, dict):
        for name, value in answer.items():
            yield from foreign(value, system, f"{where}.{name}")
    elif isinstance(answer, list | tuple):
        for value in answer:
            yield from foreign(value, system, where)
    elif isinstance(answer, str) and (OPEN in answer or (US if system == "si" else SI).search(answer)):
        yield f"{where}: {answer}"
