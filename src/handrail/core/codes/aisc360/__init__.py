"""AISC 360 (22 and 16), LRFD and ASD, with the Manual's procedures for connections."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from functools import cached_property

from handrail.core.codes.aci318 import Aci318
from handrail.core.codes.aisc341 import Aisc341
from handrail.core.codes.aisc360.bases import Bases
from handrail.core.codes.aisc360.bolts import Bolts
from handrail.core.codes.aisc360.code import Edition
from handrail.core.codes.aisc360.copes import Copes
from handrail.core.codes.aisc360.members import Members
from handrail.core.codes.aisc360.plates import Plates
from handrail.core.codes.aisc360.prying import Prying
from handrail.core.codes.aisc360.splices import Splices
from handrail.core.codes.aisc360.supports import Supports
from handrail.core.codes.aisc360.welds import Welds
from handrail.core.codes.asce7 import Asce7
from handrail.core.errors import InputError


@dataclass(frozen=True)
class Aisc360(Edition):
    """One edition by one method, with all that it answers."""

    @cached_property
    def bolts(self) -> Bolts:
        return Bolts(self)

    @cached_property
    def prying(self) -> Prying:
        return Prying(self)

    @cached_property
    def plates(self) -> Plates:
        return Plates(self)

    @cached_property
    def welds(self) -> Welds:
        return Welds(self)

    @cached_property
    def members(self) -> Members:
        return Members(self)

    @cached_property
    def copes(self) -> Copes:
        return Copes(self)

    @cached_property
    def supports(self) -> Supports:
        return Supports(self)

    @cached_property
    def splices(self) -> Splices:
        return Splices(self)

    @cached_property
    def bases(self) -> Bases:
        return Bases(self)

    @cached_property
    def lateral(self) -> Aisc341:
        return Aisc341(self)

    @cached_property
    def concrete(self) -> Aci318:
        return Aci318()

    @cached_property
    def situations(self) -> Asce7:
        return Asce7()

    def anchored(self) -> Aisc360:
        """The same by LRFD, for what is in concrete (ACI 318)."""
        return self.by(self.situations.concrete)

    def by(self, method: str) -> Aisc360:
        """The same edition by LRFD or ASD."""
        return replace(self, method=method)

    def nominally(self) -> Aisc360:
        """The same with nominal strengths (B3.9)."""
        return replace(self, nominal=True)


def read(name: str, method: str) -> Aisc360 | None:
    """The code called `name`; None where it is none of these. Raises InputError for a method that it has not."""
    match = re.fullmatch(r"\s*AISC\s*360[-\s]?(22|16|2022|2016)\s*", name, re.IGNORECASE)
    if not match:
        return None
    if method not in ("LRFD", "ASD"):
        raise InputError(f"method '{method}' is none of LRFD, ASD")
    return Aisc360(match[1][-2:], method)
