"""Blocks that a group of bolts can tear out of a ply (J4.3): every path, with the share of the force that it holds."""

from __future__ import annotations

import math
from dataclasses import dataclass

from handrail.core.catalogue import Grade, HoleSize
from handrail.core.codes.family import Code
from handrail.core.parts.bolt_group import Grid
from handrail.core.quantities.lines import NULL, Trace


@dataclass(frozen=True)
class Block:
    """One path: shear and tension areas, mm^2, Ubs, and the share of the force that its bolts bring."""

    Agv: float
    Anv: float
    Ant: float
    Ubs: float
    share: float = 1.0


def along_V(code: Code, t: float, grid: Grid, hole: HoleSize, to_end: float, to_edge: float) -> list[Block]:
    """Blocks torn along V towards an end `to_end` beyond the first row, with a free edge `to_edge` beyond the last
    line, mm.

    Shear runs down one line of bolts, tension from it to the edge: all lines hold all of V, with Ubs = 0.5 where they
    are several; the lines nearest the edge hold their own share. Or shear runs down the two outer lines.
    """
    v, h = code.plates.net_hole(hole.along), code.plates.net_hole(hole.across)
    run = grid.depth + to_end
    gross, net = t * run, t * (run - (grid.rows - 0.5) * v)
    blocks = []
    for lines in range(grid.columns, 0, -1):
        width = (lines - 1) * grid.gauge + to_edge
        blocks.append(
            Block(gross, net, t * (width - (lines - 0.5) * h), 1.0 if lines == 1 else 0.5, lines / grid.columns)
        )
    if grid.columns > 1:
        blocks.append(Block(2 * gross, 2 * net, t * (grid.width - (grid.columns - 1) * h), 1.0))
    return blocks


def along_N(code: Code, t: float, grid: Grid, hole: HoleSize, to_edge: float, ends: tuple[float, ...]) -> list[Block]:
    """Blocks torn along N towards an edge `to_edge` beyond the last line: between the outer rows, or one row and an
    end, each of `ends` beyond the last row, mm."""
    v, h = code.plates.net_hole(hole.along), code.plates.net_hole(hole.across)
    run = grid.width + to_edge
    gross, net = t * run, t * (run - (grid.columns - 0.5) * h)
    blocks = [Block(2 * gross, 2 * net, t * (grid.depth - (grid.rows - 1) * v), 1.0)]
    return blocks + [Block(gross, net, t * (grid.depth + to_end - (grid.rows - 0.5) * v), 1.0) for to_end in ends]


def least(code: Code, grade: Grade, blocks: list[Block], trace: Trace = NULL) -> float:
    """The force at which the first block tears, N; nothing where a block has no area left, without end where there is
    none to tear."""

    def force(block: Block, t: Trace = NULL) -> float:
        if min(block.Anv, block.Ant) <= 0:
            return 0.0
        Rn = code.plates.block_shear(grade.Fy, grade.Fu, block.Agv, block.Anv, block.Ant, block.Ubs, t)
        if block.share == 1.0:
            return Rn
        return t(
            "Rn / share",
            "of the force that its bolts bring",
            Rn / block.share,
            code.clause("block_shear"),
            kind="force",
            share=block.share,
        )

    return force(min(blocks, key=force), trace) if blocks else math.inf
