"""What is fastened to a beam's web at its end: bolts through it, or fillets on it; what they leave of the web and what
they can tear out."""

from __future__ import annotations

from dataclasses import dataclass

from handrail.core.catalogue import HoleSize
from handrail.core.codes.family import Code
from handrail.core.parts import blocks
from handrail.core.parts.blocks import Block
from handrail.core.parts.bolt_group import Grid
from handrail.core.quantities.units import INCH

UNDERRUN = INCH / 4  # what the mill may have cut short, off the web's edge distance (Manual Part 10)


@dataclass(frozen=True)
class BoltedWeb:
    """Bolts through the web: `first` from the top of steel to the first row, `edge` from the first line to the web's
    end, mm."""

    grid: Grid
    hole: HoleSize
    first: float
    edge: float

    @property
    def last(self) -> float:
        """Top of steel to the last row, mm."""
        return self.first + self.grid.depth

    @property
    def short_edge(self) -> float:
        """The edge distance that strengths count on, mm: a beam may be cut short."""
        return self.edge - UNDERRUN

    def holes(self, code: Code) -> float:
        """What the holes of a line take from a section down the web, mm."""
        return self.grid.rows * code.plates.net_hole(self.hole.along)

    def along_V(self, code: Code, tw: float, to_edge: float) -> list[Block]:
        """Blocks that V tears down a line of bolts from a coped edge, `to_edge` from the nearest row, and out to the
        beam's end."""
        return blocks.along_V(code, tw, self.grid, self.hole, to_edge, self.short_edge)

    def along_N(self, code: Code, tw: float, ends: tuple[float, ...]) -> list[Block]:
        """Blocks that a pull tears out to the beam's end: two shear planes, or one and a coped edge, each of `ends`
        from the outer row."""
        return blocks.along_N(code, tw, self.grid, self.hole, self.short_edge, ends)

    def lines(self) -> list[float]:
        """From the web's end to each line of bolts, mm."""
        return [self.edge + k * self.grid.gauge for k in range(self.grid.columns)]

    def spans(self, code: Code) -> list[tuple[float, float]]:
        """(top, bottom) below the top of steel of what each hole of a line takes, mm."""
        half = code.plates.net_hole(self.hole.along) / 2
        return [(y - half, y + half) for y in (self.first + k * self.grid.pitch for k in range(self.grid.rows))]


@dataclass(frozen=True)
class WeldedWeb:
    """Fillets over `depth` from `first` below the top of steel, and `width` along the beam from its end; a width of
    nothing is a plate across the beam's end, mm."""

    first: float
    depth: float
    width: float

    def holes(self, code: Code) -> float:
        """None."""
        return 0.0

    @property
    def last(self) -> float:
        """Top of steel to the end of the weld, mm."""
        return self.first + self.depth

    def along_V(self, code: Code, tw: float, to_edge: float) -> list[Block]:
        """The web inside the fillets torn down from a coped edge and out to the beam's end; none where they are at its
        end."""
        shear = tw * (self.depth + to_edge)
        return [Block(shear, shear, tw * self.width, 1.0)] if self.width else []

    def along_N(self, code: Code, tw: float, ends: tuple[float, ...]) -> list[Block]:
        """The web inside the fillets torn out to the beam's end, or with it all to a coped edge."""
        run = tw * self.width
        if not self.width:
            return []
        return [
            Block(2 * run, 2 * run, tw * self.depth, 1.0),
            *(Block(run, run, tw * (self.depth + end), 1.0) for end in ends),
        ]

    def lines(self) -> list[float]:
        """None."""
        return []

    def spans(self, code: Code) -> list[tuple[float, float]]:
        """None."""
        return []
