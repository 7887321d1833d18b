"""Plates outside a beam's flanges, or outside and inside: what its moment and axial force put on each flange, and on
what joins it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Bolt, Grade, HoleSize, Steel, faying
from handrail.core.codes.asked import NO_FILLER, Filler
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, never
from handrail.core.parts.bolted_plies import threads
from handrail.core.quantities.lines import NULL, Trace
from handrail.core.quantities.units import INCH
from handrail.core.quantities.words import held

LINES = 2  # of bolts in a flange's width
FIXED = 0.65  # K of a plate held at both ends by bolts
SPREAD = math.tan(math.radians(30))  # of a plate's force from its first bolt to its last
NET = 0.85  # of the gross area: the most that counts of a splice plate (J4.1)
OUTSIDE, INSIDE = "outside", "inside"


@dataclass(frozen=True)
class FlangePlates:
    """Outside one plate `width` by `t`; `inside` (width, t) of each of two, or nothing, mm; all of `grade`."""

    width: float
    t: float
    grade: Grade
    inside: tuple[float, float] | None = None

    @property
    def planes(self) -> int:
        """In which each bolt is sheared."""
        return 2 if self.inside else 1

    @property
    def outer_area(self) -> float:
        return self.width * self.t

    @property
    def inner_area(self) -> float:
        return 2 * self.inside[0] * self.inside[1] if self.inside else 0.0

    @property
    def outer_share(self) -> float:
        """Of the flange's force, by area."""
        return self.outer_area / (self.outer_area + self.inner_area)


@dataclass(frozen=True, kw_only=True)
class FlangeSide:
    """One piece of `steel`; `rows` bolts in each of two lines `gage` apart at `pitch` along the beam; `beam_edge` from
    the piece's end to the first, `end` from the last to the plate's end, `half_gap` from the splice's middle to the
    piece's end, mm. `depth` is the lesser of both pieces, `filler` what the bolts go through besides."""

    steel: Steel
    plates: FlangePlates
    bolt: Bolt
    hole: HoleSize
    rows: int
    pitch: float
    gage: float
    beam_edge: float
    end: float
    half_gap: float
    depth: float
    deformation: bool
    tightening: str
    filler: Filler = NO_FILLER

    @property
    def n(self) -> int:
        """Bolts of one flange on this piece."""
        return LINES * self.rows

    @property
    def length(self) -> float:
        """First bolt to last, mm."""
        return (self.rows - 1) * self.pitch

    @property
    def bolt_lever(self) -> float:
        """Of M on the bolts, mm: between the faying surfaces, or between the flanges' middles where plates stand on
        both faces."""
        return self.depth - self.steel.section.tf if self.plates.inside else self.depth

    @property
    def plate_lever(self) -> float:
        """Of M on the plates, mm: between the middles of the outer plates, or as the bolts' where there are inner
        ones."""
        return self.bolt_lever if self.plates.inside else self.depth + self.plates.t

    @cached_property
    def share(self) -> float:
        """Of N in one flange, by area."""
        s = self.steel.section
        return s.bf * s.tf / s.A

    def forces(self, actions: Actions, lever: float, t: Trace = NULL) -> tuple[np.ndarray, np.ndarray]:
        """(the most that pulls, the most that presses) a flange, N, each at least 0."""
        bent = t("M/h", "|M| / lever", np.abs(actions.M) / lever, kind="force", M=actions.M, h=lever)
        own = t("Nf", "N Af/A", actions.N * self.share, kind="force", N=actions.N)
        return np.maximum(bent + own, 0.0), np.maximum(bent - own, 0.0)

    def _most(self, lever: float) -> Any:
        def demand(actions: Actions, t: Trace) -> np.ndarray:
            return t("Pf", "the larger flange force", np.maximum(*self.forces(actions, lever, t)), kind="force")

        return demand

    def _pull(self, lever: float, share: float) -> Any:
        def demand(actions: Actions, t: Trace) -> np.ndarray:
            return t("Pf", f"{share:.3f} of the flange's pull", share * self.forces(actions, lever, t)[0], kind="force")

        return demand

    def _push(self, lever: float, share: float) -> Any:
        def demand(actions: Actions, t: Trace) -> np.ndarray:
            return t(
                "Pf", f"{share:.3f} of the flange's thrust", share * self.forces(actions, lever, t)[1], kind="force"
            )

        return demand

    def states(self, code: Code, tracing: bool, with_plates: bool = True) -> Iterator[LimitState]:
        """Bolts, flange, and the plates (the same for both pieces)."""
        bolts, h = Under(code, "flange_bolts", tracing), self.bolt_lever
        yield bolts.fixed("flange_bolt_shear", "force", lambda t: self.n * self._shear(code, t), self._most(h))
        yield bolts.fixed("flange_bolt_bearing", "force", lambda t: self._bearing(code, t), self._most(h))
        if faying.is_slip_critical(self.tightening):
            yield bolts.fixed("flange_slip", "force", lambda t: self._slip(code, t), self._most(h))
        flange = Under(code, "flange", tracing)
        yield self._net_section(flange, code)
        yield flange.fixed("flange_block_shear", "force", lambda t: self._flange_block(code, t), self._pull(h, 1.0))
        if with_plates:
            yield from self._of_plates(code, tracing)

    def _shear(self, code: Code, t: Trace = NULL) -> float:
        rn = code.bolts.shear(self.bolt, self.plates.planes, t)
        factor = code.splices.filler_factor(self.filler) * code.bolts.end_loaded(self.length)
        return (
            rn
            if factor == 1
            else t(
                "phi r_n",
                f"{factor:.3f} of it: fillers ({code.clause('fillers')}), length over {held(38 * INCH, 'length')}",
                factor * rn,
                code.clause("fillers"),
            )
        )

    def _bearing(self, code: Code, t: Trace) -> float:
        """The sum over the bolts of the least of shear, and bearing and tearout on the flange and on the plates (J3.6
        user note)."""
        each = self._shear(code)
        s, grade = self.steel.section, self.plates.grade
        flange = self._on(code, s.tf, self.steel.grade.Fu, self.beam_edge, t)
        outer = self._on(code, self.plates.t, grade.Fu, self.end, t)
        inner = (
            self._on(code, self.plates.inside[1], grade.Fu, self.end, t) if self.plates.inside else np.zeros(self.rows)
        )
        total = LINES * float(np.minimum(np.minimum(flange, (outer + inner)[::-1]), each).sum())
        return t("phi Rn", "sum of the least of each bolt", total, code.clause("least_of_each_bolt"), kind="force")

    def _on(self, code: Code, thick: float, Fu: float, edge: float, t: Trace) -> np.ndarray:
        """(rows,) N of the bolts of one line on a ply whose edge is `edge` before the first of them."""
        bear, tear = code.bolts.bearing_factors(self.hole, self.deformation)
        along = self.hole.across  # V of a beam runs down; along the beam is across it
        clear = np.full(self.rows, self.pitch - along)
        clear[0] = edge - along / 2
        tearing = code.bolts.tearout(np.maximum(clear, 0.0), thick, Fu, tear, t)
        return np.minimum(tearing, code.bolts.bearing(self.bolt.d, thick, Fu, bear, t))

    def _slip(self, code: Code, t: Trace) -> float:
        each = code.bolts.slip(
            self.bolt, self.hole, faying.surface(self.tightening), self.hole.across > self.hole.along, t
        )
        return t(
            "phi Rn",
            "n planes r_n",
            self.n * self.plates.planes * each,
            code.clause("slip"),
            kind="force",
            n_bolts=self.n,
        )

    def _hole(self, code: Code) -> float:
        """What a hole takes from a width, mm."""
        return code.plates.net_hole(self.hole.along)

    def _net_section(self, under: Under, code: Code) -> LimitState:
        """The beam beside its holes: F13.1, with a pull on its net section besides."""
        lines = under.trace()
        Mc = code.splices.flange_with_holes(self.steel, self._hole(code), lines)
        s = self.steel.section
        net = s.A - 2 * LINES * self._hole(code) * s.tf
        Nc = code.plates.tension_rupture(self.steel.grade.Fu, net, lines)

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            used = np.abs(actions.M) / Mc + actions.pull / Nc
            return t(
                "u",
                "|M|/Mc + max(N, 0)/Nc",
                used,
                code.clause("flange_net_section"),
                kind="number",
                M=actions.M,
                N=actions.N,
            ), 1.0

        return under.state("flange_net_section", "number", evaluate, lines)

    def _flange_block(self, code: Code, t: Trace) -> float:
        """Both halves of the flange torn from its end: shear along each line of bolts, tension out to the tips."""
        s, grade = self.steel.section, self.steel.grade
        return self._tear(code, s.tf, grade, self.beam_edge, (s.bf - self.gage) / 2, t)

    def _tear(self, code: Code, thick: float, grade: Grade, edge: float, aside: float, t: Trace) -> float:
        run, hole = edge + self.length, self._hole(code)
        Agv, Anv = 2 * thick * run, 2 * thick * (run - (self.rows - 0.5) * hole)
        Ant = 2 * thick * (aside - hole / 2)
        if min(Anv, Ant) <= 0:
            return 0.0
        return code.plates.block_shear(grade.Fy, grade.Fu, Agv, Anv, Ant, 1.0, t)

    def _of_plates(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        p = self.plates
        yield from self._of_plate(code, tracing, OUTSIDE, (p.width, p.t), p.outer_share)
        if p.inside:
            yield from self._of_plate(code, tracing, INSIDE, p.inside, 1 - p.outer_share)

    def _of_plate(
        self, code: Code, tracing: bool, name: str, size: tuple[float, float], share: float
    ) -> Iterator[LimitState]:
        """The outer plate, or both inner ones, of one flange under their `share` of its force."""
        (width, thick), count, grade = size, 1 if name == OUTSIDE else 2, self.plates.grade
        under, check = (
            Under(code, f"flange_plate_{name}", tracing),
            "flange_plate" if name == OUTSIDE else "inner_plate",
        )
        holes = LINES if name == OUTSIDE else 1
        wide = self.spread(width, name)
        gross, net = count * wide * thick, count * thick * max(min(wide - holes * self._hole(code), NET * width), 0.0)
        pull, push = self._pull(self.plate_lever, share), self._push(self.plate_lever, share)
        free, r = 2 * (self.half_gap + self.beam_edge), thick / math.sqrt(12)
        yield under.fixed(f"{check}_yield", "force", lambda t: code.plates.tension_yield(grade.Fy, gross, t), pull)
        yield under.fixed(f"{check}_rupture", "force", lambda t: code.plates.tension_rupture(grade.Fu, net, t), pull)
        yield under.fixed(
            f"{check}_block_shear", "force", lambda t: self._plate_block(code, width, thick, count, t), pull
        )
        yield under.fixed(
            f"{check}_buckling",
            "force",
            lambda t: code.plates.compression(grade.Fy, gross, FIXED * free, r, t),
            push,
        )

    def spread(self, width: float, name: str) -> float:
        """What counts of a plate's width, mm (J4.1, user note): 30 degrees to each side from a line's first bolt to its
        last."""
        aside = self.length * SPREAD
        if name == OUTSIDE:
            return min(width, self.gage + 2 * aside)
        near = self._inner_edge(width)
        return min(near, aside) + min(width - near, aside)

    def _plate_block(self, code: Code, width: float, thick: float, count: int, t: Trace) -> float:
        """The outer plate: out to its edges, or between its lines of bolts; each inner plate: out to either edge."""
        grade, run, hole = self.plates.grade, self.end + self.length, self._hole(code)
        Agv, Anv = 2 * thick * run, 2 * thick * (run - (self.rows - 0.5) * hole)
        if count == 1:
            tensions = [2 * thick * ((width - self.gage) / 2 - hole / 2), thick * (self.gage - hole)]
        else:
            tensions = [2 * thick * (self._inner_edge(width) - hole / 2)]
        if min(Anv, *tensions) <= 0:
            return 0.0
        return min(code.plates.block_shear(grade.Fy, grade.Fu, Agv, Anv, Ant, 1.0, t) for Ant in tensions)

    def _inner_edge(self, width: float) -> float:
        """From a line of bolts to the nearer edge of an inner plate, which ends at the flange's tip, mm."""
        tip = (self.steel.section.bf - self.gage) / 2
        return min(tip, width - tip)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Spacing, edges, the gage clear of the web's fillet, and plates on the flange."""
        s, d, near, edges = self.steel.section, self.bolt.d, code.clause("spacing"), code.clause("edge_distance")
        least = code.bolts.min_edge(self.bolt, self.hole, False)
        if self.rows > 1:
            yield at_least("flange_pitch", "flange_bolts", self.pitch, code.bolts.min_spacing(d), near)
            yield at_most(
                "flange_max_pitch",
                "flange_bolts",
                self.pitch,
                code.bolts.max_spacing(min(self.plates.t, s.tf)),
                code.clause("flange_max_pitch"),
            )
        yield never(
            "flange_oversized_in_bearing",
            "flange_bolts",
            self.hole.type == "OVS" and not faying.is_slip_critical(self.tightening),
            "oversized holes need slip-critical bolts",
            code.clause("flange_oversized_in_bearing"),
        )
        outer = [self.plates.t, self.plates.inside[1] if self.plates.inside else s.tf]
        yield from threads(
            code,
            "flange_threads",
            self.bolt,
            self.plates.t + s.tf + (self.plates.inside[1] if self.plates.inside else 0.0),
            outer,
            bool(self.plates.inside),
            self.tightening != "snug" or self.hole.type != "STD",
        )
        yield at_least("flange_gage_spacing", "flange_bolts", self.gage, code.bolts.min_spacing(d), near)
        yield at_least("flange_beam_edge", "flange", self.beam_edge, least, edges)
        yield at_least("flange_side_edge", "flange", (s.bf - self.gage) / 2, least, edges)
        yield at_least("flange_plate_end", "flange_plate", self.end, least, edges)
        yield at_least("flange_plate_side", "flange_plate", (self.plates.width - self.gage) / 2, least, edges)
        aside = max((self.plates.width - self.gage) / 2, self.end)
        yield at_most(
            "flange_plate_max_edge",
            "flange_plate",
            aside,
            code.bolts.max_edge(self.plates.t),
            code.clause("flange_plate_max_edge"),
        )
        yield at_least(
            "flange_bolt_tightening",
            "flange_bolts",
            self.gage / 2 - s.tw / 2,
            self.bolt.tightening,
            code.clause("flange_bolt_tightening"),
        )
        if self.plates.grade.max_thickness:
            yield at_most(
                "flange_plate_grade_thickness",
                "flange_plate",
                self.plates.t,
                self.plates.grade.max_thickness,
                self.plates.grade.standard,
            )
        if self.plates.inside:
            width = self.plates.inside[0]
            yield at_least("inner_plate_edge", "inner_plate", self._inner_edge(width), least, edges)
            yield at_most(
                "inner_plate_beside_fillet",
                "inner_plate",
                width,
                s.bf / 2 - max(s.k1, s.tw / 2 + INCH / 4),
                code.clause("inner_plate_beside_fillet"),
            )
