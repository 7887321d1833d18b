"""What a part can carry: one package a code, knowing nothing of any standard; `family` says what each answers."""

from __future__ import annotations

from functools import lru_cache

from handrail.core.codes import aisc360
from handrail.core.codes.family import Code
from handrail.core.errors import InputError

USUAL = "AISC 360-22"


@lru_cache(maxsize=64)
def code(name: str = USUAL, method: str = "LRFD") -> Code:
    """The code called `name` by `method` LRFD or ASD. Raises InputError."""
    known = aisc360.read(name, method)
    if known is None:
        raise InputError(f"code '{name}' is not held; use AISC 360-22 or AISC 360-16")
    return known
