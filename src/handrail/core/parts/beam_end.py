"""The end of a beam's web, coped or not: shear, tearing of its end, axial force, bending and buckling beside the
cope."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Steel
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, axial, shear, tension, thrust
from handrail.core.parts import blocks
from handrail.core.parts.bolted_plies import FAR, BoltedPlies
from handrail.core.parts.cope import Cope, CopedSection, coped_section, net_elastic_modulus
from handrail.core.parts.plate import COLUMN_K, block_interaction
from handrail.core.parts.web_fastening import BoltedWeb, WeldedWeb
from handrail.core.quantities.lines import NULL, Trace


@dataclass(frozen=True, kw_only=True)
class BeamEnd:
    """The beam and its copes; `fastened` how its web is held, `gap` from its end to the face of the support, `strip`
    how deep the part of the web is that takes N, mm."""

    steel: Steel
    fastened: BoltedWeb | WeldedWeb
    gap: float
    strip: float
    top: Cope
    bottom: Cope

    @property
    def coped(self) -> bool:
        """Whether a flange is cut."""
        return bool(self.top or self.bottom)

    @property
    def remaining(self) -> float:
        """The beam's depth between its copes, mm."""
        return self.steel.section.d - self.top.depth - self.bottom.depth

    @property
    def cope_length(self) -> float:
        """The longer cope, mm."""
        return max(self.top.length, self.bottom.length)

    @property
    def middle(self) -> float:
        """Top of steel to the middle of what the web is fastened by, mm."""
        return (self.fastened.first + self.fastened.last) / 2

    @property
    def above(self) -> float:
        """First row (or the weld's top) to the cut edge above it, mm; FAR where the flange is there."""
        return self.fastened.first - self.top.depth if self.top else FAR

    @property
    def below(self) -> float:
        """Last row (or the weld's foot) to the cut edge below it, mm; FAR where the flange is there."""
        return self.steel.section.d - self.bottom.depth - self.fastened.last if self.bottom else FAR

    def problem(self, code: Code) -> str:
        """Why the code's procedure for copes does not hold here; empty where it does."""
        d = self.steel.section.d
        if self.coped and self.remaining <= 0:
            return "the copes leave no web"
        if self.coped and not self.steel.section.open:
            return f"coped {self.steel.section.family} sections are not implemented"
        if self.top and self.bottom:
            return code.copes.double_cope_problem(self.cope_length, self.top.depth, self.bottom.depth, d)
        one = self.top or self.bottom
        return code.copes.single_cope_problem(one.length, one.depth, d) if one else ""

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Every limit state of the beam's end."""
        Fy, Fu, tw = self.steel.grade.Fy, self.steel.grade.Fu, self.steel.section.tw
        Anv = tw * (self.remaining - self.fastened.holes(code))
        if self.coped:
            yield under.fixed(
                "web_shear_yield",
                "force",
                lambda t: code.plates.shear_yield(Fy, tw * self.remaining, t),
                shear,
                of="coped_web_shear_yield",
            )
        else:
            yield under.fixed(
                "web_shear_yield", "force", lambda t: code.members.web_shear(self.steel.section, Fy, t), shear
            )
        yield under.fixed("web_shear_rupture", "force", lambda t: code.plates.shear_rupture(Fu, Anv, t), shear)
        yield from self._tearing(under, code)
        yield under.fixed("web_axial", "force", lambda t: self._axial(code, t), axial)
        if self.coped:
            yield from self._cope(under, code)

    def _axial(self, code: Code, trace: Trace) -> float:
        """The strip of web as deep as what is bolted to it, in yielding and on its net section; the least."""
        tw, grade = self.steel.section.tw, self.steel.grade
        strip = min(self.strip, self.remaining)
        net = strip - self.fastened.holes(code)
        yielding = code.plates.tension_yield(grade.Fy, tw * strip, trace)
        return min(yielding, code.plates.tension_rupture(grade.Fu, tw * net, trace))

    def _block(self, code: Code, to_edge: float, trace: Trace = NULL) -> float:
        """Shear down from a coped edge, tension to the beam's end, N."""
        return blocks.least(code, self.steel.grade, self.fastened.along_V(code, self.steel.section.tw, to_edge), trace)

    def _axial_block(self, code: Code, trace: Trace = NULL) -> float:
        """The web tearing out to the beam's end, N."""
        ends = tuple(edge for edge in (self.above, self.below) if edge < FAR)
        return blocks.least(code, self.steel.grade, self.fastened.along_N(code, self.steel.section.tw, ends), trace)

    def _tearing(self, under: Under, code: Code) -> Iterator[LimitState]:
        if not self.fastened.along_N(code, self.steel.section.tw, ()):
            return  # a plate across the end tears nothing out
        lines = under.trace()
        up = self._block(code, self.above, lines) if self.top else np.inf
        down = self._block(code, self.below, lines) if self.bottom else np.inf

        def strength(actions: Actions) -> np.ndarray:
            return np.where(actions.V >= 0, up, down)

        if self.coped:
            yield under.state(
                "web_block_shear", "force", lambda actions, t: (shear(actions, t), strength(actions)), lines
            )
        yield under.fixed("web_axial_block_shear", "force", lambda t: self._axial_block(code, t), tension)
        if self.coped:
            yield block_interaction(under, "web_block_shear_interaction", strength, self._axial_block(code))

    @cached_property
    def section(self) -> CopedSection:
        """What is left beside the cope; one coped below only is turned over, its cut edge at the top."""
        beam = self.steel.section
        if self.top and self.bottom:
            return coped_section(beam.d, beam.tw, beam.bf, beam.tf, self.top.depth, self.bottom.depth)
        return coped_section(beam.d, beam.tw, beam.bf, beam.tf, self.top.depth or self.bottom.depth, 0.0)

    def _cope(self, under: Under, code: Code) -> Iterator[LimitState]:
        """Bending beside the cope by V (gap + c), with N beside it (Manual Part 9, J4.4, H1.1)."""
        Fy, clause = self.steel.grade.Fy, code.clause("cope")
        lever = self.gap + self.cope_length

        def bending(actions: Actions, t: Trace) -> np.ndarray:
            return t(
                "Mr", "|V| (gap + c)", actions.shear * lever, clause, V=actions.V, gap=self.gap, c=self.cope_length
            )

        yield under.fixed("cope_flexure", "moment", lambda t: code.plates.flexure_yield(Fy, self.section.Z, t), bending)
        yield self._rupture(under, code, clause)
        yield under.fixed("cope_buckling", "moment", lambda t: self._buckling(code, t), bending)
        yield under.fixed("cope_axial_buckling", "force", lambda t: self._thrust(code, t), thrust)
        yield self._interaction(under, code, lever)

    def _buckling(self, code: Code, trace: Trace = NULL) -> float:
        beam, Fy, c = self.steel.section, self.steel.grade.Fy, self.cope_length
        if self.top and self.bottom:
            return code.copes.double_cope_buckling(Fy, beam.d, beam.tw, self.section.ho, c, self.top.depth, trace)
        return code.copes.single_cope_buckling(
            Fy, beam.d, beam.tw, self.section.ho, self.section.S, self.section.Z, c, trace
        )

    def _thrust(self, code: Code, trace: Trace = NULL) -> float:
        """The web between the copes as a strip as long as the cope; a flange that is left is not counted on (J4.4, E3),
        N."""
        tw = self.steel.section.tw
        web = self.section.parts[0][2] - self.section.parts[0][1]
        return code.plates.compression(
            self.steel.grade.Fy, tw * web, COLUMN_K * self.cope_length, tw / math.sqrt(12), trace
        )

    def _sections_for_rupture(self, code: Code) -> list[tuple[float, float]]:
        """(lever of V, elastic modulus at the cut edge) of every section that may tear: the cope's end, and each line
        of bolts within the cope; a line within half a hole of the end takes its holes out there."""
        down = [(y0 - self.top.depth, y1 - self.top.depth) for y0, y1 in self.fastened.spans(code)]
        from_cut = down if self.top else [(self.section.ho - y1, self.section.ho - y0) for y0, y1 in down]
        net, lines = net_elastic_modulus(self.section, from_cut), self.fastened.lines()
        end = isinstance(self.fastened, BoltedWeb) and any(
            abs(x - self.cope_length) <= self.fastened.hole.across / 2 for x in lines
        )
        sections = [(self.gap + self.cope_length, net if end else self.section.S)]
        return sections + [(self.gap + x, net) for x in lines if x < self.cope_length]

    def _rupture(self, under: Under, code: Code, clause: str) -> LimitState:
        """Fu Snet (Manual Part 9) where it is most used; a section with no net modulus left carries nothing."""
        lever, S = max(self._sections_for_rupture(code), key=lambda at: at[0] / at[1] if at[1] > 0 else np.inf)

        def bending(actions: Actions, t: Trace) -> np.ndarray:
            return t("Mr", "|V| x", actions.shear * lever, clause, V=actions.V, x=lever)

        strength = lambda t: code.plates.flexure_rupture(self.steel.grade.Fu, S, t, symbol="Snet")  # noqa: E731
        return under.fixed("cope_flexural_rupture", "moment", strength, bending)

    def _interaction(self, under: Under, code: Code, lever: float) -> LimitState:
        """Axial force on the coped section with the bending beside the cope, added (H1.1, the sum taken)."""
        Nt = code.plates.tension_yield(self.steel.grade.Fy, self.section.area)
        Nb, Mc = self._thrust(code), self._buckling(code)
        off = abs(self.middle - (self.top.depth + self.section.ho / 2))

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            M = t("Mr", "|V| (gap + c) + |N| eN", actions.shear * lever + actions.axial * off, eN=off)
            n = t("u_N", "N/Nc", np.maximum(actions.N / Nt, -actions.N / Nb), kind="number", Nt=Nt, Nb=Nb)
            return t(
                "u",
                "N/Nc + M/Mc",
                n + np.where(actions.N == 0, 0.0, M) / Mc,
                code.clause("axial_with_bending"),
                N=actions.N,
                Mc=Mc,
            ), 1.0

        return under.state("cope_interaction", "number", evaluate)

    def rules(self, code: Code, bolts: BoltedPlies) -> Iterator[DetailingRule]:
        """Bolts keep their edge distance from the copes' cut edges (J3.5)."""
        if not isinstance(self.fastened, BoltedWeb):
            return
        hole = self.fastened.hole
        least = code.bolts.min_edge(bolts.bolt, hole, hole.along > hole.across)
        if self.top:
            yield at_least("bolt_to_cope", "web", self.above, least, code.clause("bolt_to_cope"))
        if self.bottom:
            yield at_least("bolt_to_bottom_cope", "web", self.below, least, code.clause("bolt_to_bottom_cope"))
