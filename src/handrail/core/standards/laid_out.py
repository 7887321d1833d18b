"""A sized connection in its situation: what every standard's layout begins with."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.catalogue import Steel
from handrail.core.joint.situation import Situation
from handrail.core.standards.sizes import Sizes, length, text


@dataclass(frozen=True)
class LaidOut:
    """The sizes with where they are; lengths mm."""

    situation: Situation
    sizes: Sizes

    def of(self, name: str) -> float:
        """A size, mm."""
        return length(self.sizes, name)

    def choice(self, name: str) -> str:
        """A choice or a name."""
        return text(self.sizes, name)

    @property
    def pieces(self) -> tuple[Steel, Steel]:
        """Of a splice: (the piece that the forces are of, the one that holds it)."""
        return self.situation.supported, self.situation.carrier
