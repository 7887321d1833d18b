"""ACI 318-19 chapter 17: anchors in concrete, by strength design."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from handrail.core.codes.aci318.bars import Bars
from handrail.core.codes.aci318.code import Edition
from handrail.core.codes.aci318.installed import Installed
from handrail.core.codes.aci318.lugs import Lugs
from handrail.core.codes.aci318.shear import Shear
from handrail.core.codes.aci318.tension import Tension


@dataclass(frozen=True)
class Aci318(Edition):
    """The edition with all that it answers."""

    @cached_property
    def tension(self) -> Tension:
        return Tension(self)

    @cached_property
    def shear(self) -> Shear:
        return Shear(self)

    @cached_property
    def installed(self) -> Installed:
        return Installed(self)

    @cached_property
    def lugs(self) -> Lugs:
        return Lugs(self)

    @cached_property
    def bars(self) -> Bars:
        return Bars(self)
