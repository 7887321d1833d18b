"""What is bolted to the face of a support, whichever way it holds the beam: the bolts with the support as their ply,
and the face's own rules."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from handrail.core.catalogue import HoleSize, hole
from handrail.core.codes.asked import Pried
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, at_least, never
from handrail.core.parts.bolt_group import Grid
from handrail.core.parts.bolted_plies import FAR, Ply
from handrail.core.parts.face_bolts import FaceBolts, tributary
from handrail.core.parts.wrench import NUT, wrench_room
from handrail.core.quantities.words import held
from handrail.core.standards.shear_end.layout import ShearEnd
from handrail.core.standards.shear_end.parameters import KINDS
from handrail.core.standards.shear_end.wrenching import sides


@dataclass(frozen=True, kw_only=True)
class OnFace:
    """`grid` of bolts through what is `depth` along V from `top` below the beam's top of steel and `width` across it;
    `off` from the beam's web to the middle of the bolts' lines, `thick` of what is bolted, mm."""

    end: ShearEnd
    grid: Grid
    top: float
    depth: float
    width: float
    off: float = 0.0
    prefix: str = ""
    thick: float = 0.0

    @property
    def kind(self) -> str:
        """Of the support: flange, web, girder."""
        return KINDS[self.end.situation.framing]

    @cached_property
    def hole(self) -> HoleSize:
        """In the support."""
        return hole(self.end.choice("support_hole"), self.end.bolt.d)

    @property
    def shared(self) -> bool:
        """Whether a beam opposite is held by the same bolts."""
        return self.end.situation.opposed and self.kind in ("web", "girder")

    @property
    def rows_opposite(self) -> int:
        """Of the beam opposite, among these rows or around them."""
        return max(int(self.end.of("rows_opposite")), 1)

    @property
    def passing(self) -> tuple[float, float] | None:
        """Of either side's axial force what is in bolts that hold both, where these are to take it."""
        if not self.shared or self.end.choice("transfer") != "bolts":
            return None
        common = min(self.grid.rows, self.rows_opposite)
        return common / self.grid.rows, common / self.rows_opposite

    @property
    def outer(self) -> float:
        """From the middle of the support to the outermost line of bolts."""
        return abs(self.off) + self.grid.width / 2

    @property
    def inner(self) -> float:
        """From the middle of the support to the innermost line of bolts."""
        return abs(self.grid.width / 2 - abs(self.off)) if self.grid.columns > 1 else abs(self.off)

    @property
    def flange_edge(self) -> float:
        """From the outer bolts to the edge of a column's flange; FAR where there is none."""
        return self.end.situation.carrier.section.bf / 2 - self.outer if self.kind == "flange" else FAR

    def bolts(self, ply: Ply, pried: Pried, arm: float, e: float = 0.0) -> FaceBolts:
        """The bolts through `ply` and the support, V at `e` in the face and `arm` off it."""
        end, support = self.end, self.end.situation.carrier
        s = support.section
        edge = FAR if self.flange_edge >= FAR else self.grid.width / 2 + self.flange_edge
        on = Ply(
            name="support",
            t=end.support_thickness,
            Fu=support.grade.Fu,
            hole=self.hole,
            toward_support=edge,
            away=edge,
            up=FAR,
            down=FAR,
            sense=1.0,
        )
        bent = [pried]
        if self.kind == "flange":
            b = self.inner - s.tw / 2
            p = tributary(b, self.grid.pitch, FAR, self.grid.rows)
            bent.append(
                Pried(
                    t=s.tf,
                    Fu=support.grade.Fu,
                    b=max(b, 0.0),
                    a=max(self.flange_edge, 0.0),
                    p=p,
                    hole=self.hole.along,
                    d=end.bolt.d,
                )
            )
        taken = end.choice("offset_moment") == "bolt_tension"
        return FaceBolts(
            plies=end.between(self.grid, (ply, on), e),
            pried=tuple(bent),
            shared=self.shared,
            more=self.grid.rows / self.rows_opposite,
            tension=end.choice("support_bolts") == "shear_and_tension",
            arm=arm if taken else 0.0,
            prefix=self.prefix,
        )

    @property
    def to_flanges(self) -> tuple[float, float]:
        """From the outer bolts up and down to a girder's flanges; without end at a column."""
        if self.kind != "girder":
            return math.inf, math.inf
        end, s = self.end, self.end.situation.carrier.section
        first = end.of("first_bolt") + end.situation.top_offset
        return first - s.tf, s.d - s.tf - first - self.grid.depth

    def wrench(self, past: float) -> float:
        """Room for a wrench on the better side of the support, `past` clear beside the beam, mm."""
        offset = self.inner if self.kind == "flange" else self.outer
        near, far = sides(self.end.situation, offset, past, past, *self.to_flanges)
        grip = self.end.support_thickness + self.thick * (2 if self.shared else 1)
        return wrench_room(near, far, self.end.bolt, grip)[0]

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Edges of a flange, fillets clear of nuts, and what keeps the first beam up while the second is set."""
        end, s = self.end, self.end.situation.carrier.section
        if self.kind == "flange":
            least = code.bolts.min_edge(end.bolt, self.hole, self.hole.across > self.hole.along)
            yield at_least("flange_edge", "support", self.flange_edge, least, code.clause("flange_edge"))
            yield at_least("bolt_clears_fillet", "support", self.inner, s.k1 + NUT * end.bolt.d)
        if self.shared and self.kind == "web":
            yield never(
                "double_connection",
                "bolts",
                end.choice("erection") == "none",
                "bolts shared with the beam opposite leave the first beam loose: give it a seat or a bolt of its own"
                " (erection)",
                code.clause("double_connection"),
            )

    def notes(self, arm: float) -> Iterator[str]:
        """What was taken of small moments, and of the beam opposite."""
        if self.end.choice("offset_moment") == "neglected":
            yield f"V's moment over {held(arm, 'length')} on the support's bolts is neglected (offset_moment)"
        else:
            yield f"V's moment over {held(arm, 'length')} pulls on the support's bolts (offset_moment)"
        if self.shared:
            yield (
                "a beam opposite is held by the same bolts: each side shears them in its own plane, both bear on"
                " the web"
            )
            if self.rows_opposite != self.grid.rows:
                yield (
                    f"the beam opposite has {self.rows_opposite} rows: what it brings to each of its bolts is"
                    f" {self.grid.rows}/{self.rows_opposite} of what {self.grid.rows} rows would have of it"
                )
            if self.kind == "girder" and self.end.choice("erection") == "none":
                yield (
                    "where the girder stands on a column here, the first beam needs a seat or a bolt of its own"
                    f" ({self.end.situation.code.clause('double_connection')})"
                )
            kept = {"seat": "an erection seat, which is not designed here", "own_bolt": "a bolt of its own"}.get(
                self.end.choice("erection")
            )
            if kept:
                yield f"the first beam is kept up by {kept}"
