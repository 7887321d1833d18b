"""The sized base as its parts: the plate on its concrete, the anchors, the column's weld, and the one path that the
shear takes."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from handrail.core.actions import Actions
from handrail.core.catalogue import Bars, Rod, bars, electrode, grade, rod
from handrail.core.catalogue.steel import E
from handrail.core.codes.concrete import ConcreteCode
from handrail.core.codes.family import Code
from handrail.core.errors import InputError
from handrail.core.joint.situation import Foundation
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most
from handrail.core.parts.anchors import AnchorGroup, Concrete
from handrail.core.parts.anchors.anchorage import Anchorage
from handrail.core.parts.anchors.bar_places import around, beside, closest
from handrail.core.parts.anchors.installed import Installed
from handrail.core.parts.anchors.placing import Placed, at_places, at_points
from handrail.core.parts.anchors.pull_bars import PullBars
from handrail.core.parts.anchors.reinforcement import BarSteel
from handrail.core.parts.anchors.shear_bars import ShearBars
from handrail.core.parts.anchors.steel import RodSteel
from handrail.core.parts.anchors.washers import Washers
from handrail.core.parts.bearing import BasePlate, Footprint, Seat
from handrail.core.parts.bearing.base_plate import NOT_BOTH
from handrail.core.parts.bearing.rod_lines import clear, from_column
from handrail.core.parts.column_weld import ColumnWeld
from handrail.core.parts.friction import Friction
from handrail.core.parts.shear_lug import ShearLug
from handrail.core.quantities.units import INCH
from handrail.core.standards.base_plate.ground import foundation, lacks
from handrail.core.standards.base_plate.parameters import rods
from handrail.core.standards.erection import BASE, erection
from handrail.core.standards.laid_out import LaidOut

WRENCH = INCH / 4
WAYS = {"along": (0,), "across": (1,), "both": (0, 1)}


@dataclass(frozen=True)
class Layout(LaidOut):
    """A base plate in its situation; lengths mm."""

    @cached_property
    def foundation(self) -> Foundation:
        """What it stands on. Raises InputError where that is not known."""
        ground = foundation(self.situation, self.sizes)
        if ground is None:
            raise InputError(lacks(self.situation, self.sizes))
        return ground

    @cached_property
    def rod(self) -> Rod:
        """The anchor rod, with its washer as chosen."""
        return rod(self.choice("rod"))

    @cached_property
    def placed(self) -> Placed:
        """Where the rods stand, with their names."""
        return rods(self.sizes)

    @cached_property
    def footprint(self) -> Footprint:
        """The plate as the concrete feels it."""
        along, across = self.edges
        return Footprint(
            length=self.of("plate_length"),
            width=self.of("plate_width"),
            points=self.placed.points,
            area=self.rod.area,
            along=along,
            across=across,
            thick=self.foundation.thickness,
            grout=(self.of("grout_strength") or math.inf) if self.of("grout") else math.inf,
        )

    @property
    def column(self) -> tuple[float, float]:
        """Where the column's middle stands, from the plate's."""
        return -self.of("offset_along"), -self.of("offset_across")

    @property
    def edges(self) -> tuple[tuple[float, float], tuple[float, float]]:
        """Of the concrete, along and across, from the plate's middle to the minus and the plus side."""
        f, (x, y) = self.foundation, self.column
        return (f.along[0] - x, f.along[1] + x), (f.across[0] - y, f.across[1] + y)

    @cached_property
    def group(self) -> AnchorGroup:
        """The rods in the concrete."""
        f = self.foundation
        fc = min(f.fc, self.concrete.installed.strongest) if self.installed else f.fc
        along, across = self.edges
        concrete = Concrete(
            fc=fc,
            thickness=f.thickness,
            along=along,
            across=across,
            cracked=f.cracked,
            confined=self.choice("supplementary") == "provided",
            light=f.light,
        )
        return AnchorGroup(
            points=self.placed.points,
            rod=self.rod,
            hef=self.of("embedment"),
            concrete=concrete,
            grout=bool(self.of("grout")),
            welded=self.choice("washers") == "welded",
            seismic=self.situation.seismic or self.situation.quaking,
            installed=self.installed,
            code=self.concrete,
        )

    @cached_property
    def installed(self) -> Installed | None:
        """The anchors' report where they are drilled into hardened concrete."""
        if (kind := self.choice("anchor_kind")) == "cast_in":
            return None
        bond = self.of("bond_cracked" if self.foundation.cracked else "bond_uncracked")
        return Installed(
            kind=kind,
            category=int(self.of("anchor_category")),
            kc=self.of("anchor_kc"),
            bond=bond,
            bond_uncracked=self.of("bond_uncracked"),
            pullout=self.of("pullout"),
            steel_tension=self.of("steel_tension"),
            steel_shear=self.of("steel_shear"),
            critical_edge=self.of("critical_edge"),
            sustained=self.of("sustained"),
            earthquake=self.choice("anchor_earthquake") == "qualified",
        )

    @property
    def concrete(self) -> ConcreteCode:
        """What judges the concrete."""
        return self.situation.code.concrete

    def seat(self, code: Code) -> Seat:
        """How it rests, on concrete at its limit by `code`."""
        fc = self.foundation.fc
        limit = code.bases.bearing_limit(fc, self.footprint.confinement(), grout=self.footprint.grout)
        return Seat(
            plate=self.footprint,
            limit=limit,
            method=self.choice("bearing_method"),
            Ec=self.concrete.modulus(fc, self.foundation.light),
            Es=E,
            column=self.column,
            lug=self.lug.lever if self.path == "lug" else 0.0,
        )

    @property
    def path(self) -> str:
        """Of the shear."""
        return self.choice("shear_path")

    @cached_property
    def lug(self) -> ShearLug:
        """The lug under the plate, where that is the path."""
        return ShearLug(
            width=self.of("lug_width"),
            depth=self.of("lug_depth"),
            t=self.of("lug_thickness"),
            grade=grade(self.choice("plate_grade")).at(self.of("lug_thickness")),
            grout=self.of("grout"),
            weld=self.of("lug_weld"),
            electrode=electrode(self.choice("electrode")),
            ways=WAYS[self.choice("lug_way")],
            plate=self.footprint,
            group=self.group,
            at=self.column,
            plate_t=self.of("plate_thickness"),
        )

    def plate(self, code: Code) -> BasePlate:
        """The plate under `code`."""
        return BasePlate(
            self.situation.supported.section,
            self.seat(code),
            self.of("plate_thickness"),
            grade(self.choice("plate_grade")).at(self.of("plate_thickness")),
        )

    def anchorage(self, code: Code) -> Anchorage:
        """The anchors at work, by strength combinations."""
        sheared = self.path == "anchors"
        lever = self.of("plate_thickness") + self.rod.washer_thickness / 2
        return Anchorage(
            group=self.group,
            seat=self.seat(code.anchored()),
            shears=sheared,
            lever=lever if sheared else 0.0,
            pull_bars=self.pull_bars,
            shear_bars=self.shear_bars,
        )

    @property
    def washers(self) -> Washers:
        """The plate washers that hand the shear to the rods."""
        return Washers(
            rod=self.rod,
            largest=self.anchorage(self.situation.code).largest_shear,
            side=self.of("washer"),
            t=self.rod.washer_thickness,
            weld=self.of("washer_weld"),
            grade=grade("A36"),
            electrode=electrode(self.choice("electrode")),
        )

    @cached_property
    def pull_bars(self) -> PullBars | None:
        """Anchor reinforcement for tension, where there is some, each bar in its place."""
        if not (name := self.choice("tension_bars")):
            return None
        own, cover = bars(name), self.of("bar_cover")
        given = self.choice("tension_bar_points")
        places = at_points(given).points if given else around(self.placed.points, own.count, self.of("tension_bar_off"))
        at, (along, across) = np.array(places), self.edges
        beside = float(
            min(
                (at[:, 0] + along[0]).min(),
                (along[1] - at[:, 0]).min(),
                (at[:, 1] + across[0]).min(),
                (across[1] - at[:, 1]).min(),
            )
        )
        return PullBars(
            self._steel(own, closest(places), beside), places, cover, cover + self.of("tension_bar_length"), self.group
        )

    @cached_property
    def shear_bars(self) -> ShearBars | None:
        """Anchor reinforcement for shear, where there is some, each leg in its place; those across lie under those
        along."""
        if not (name := self.choice("shear_bars")) or self.path != "anchors":
            return None
        own, cover, ways = bars(name), self.of("bar_cover"), WAYS[self.choice("shear_bar_way")]
        legs: list[tuple[tuple[float, float], ...]] = [(), ()]
        steel = []
        for axis in (0, 1):
            depth = cover + own.d * (0.5 + axis)
            if axis in ways:
                lines = sorted({round(float(p[1 - axis]), 3) for p in self.placed.points})
                given = self.choice(("shear_bars_along", "shear_bars_across")[axis])
                legs[axis] = (
                    tuple((x, depth) for x in at_places(given))
                    if given
                    else beside(lines, own.count, self.of("shear_bar_off"), depth, own.d)
                )
            apart = closest(legs[axis]) if legs[axis] else math.inf
            at, sides = np.array([p for p, _ in legs[axis]] or [0.0]), self.edges[1 - axis]
            steel.append(
                self._steel(
                    own,
                    apart,
                    float(min((at + sides[0]).min(), (sides[1] - at).min())),
                    self.foundation.thickness - depth > self.concrete.bars.top_bar,
                )
            )
        return ShearBars(
            steel=(steel[0], steel[1]),
            legs=(legs[0], legs[1]),
            form=self.choice("shear_bar_form"),
            length=self.of("shear_bar_length"),
            cover=cover,
            group=self.group,
        )

    def _steel(self, own: Bars, apart: float, beside: float, top: bool = False) -> BarSteel:
        return BarSteel(
            bars=own,
            fy=self.of("bar_fy"),
            fc=self.foundation.fc,
            ends=self.choice("bar_ends"),
            clear=apart - own.d,
            beside=beside - own.d / 2,
            light=self.foundation.light,
            top=top,
            code=self.concrete,
        )

    @cached_property
    def weld(self) -> ColumnWeld:
        """Between column and plate."""
        return ColumnWeld(
            self.situation.supported,
            self.of("weld_size"),
            self.choice("weld_pattern"),
            electrode(self.choice("electrode")),
            self.choice("foot") == "milled",
        )

    def states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        """Every limit state, part by part; then those that matter while it stands alone, under 300 lb."""
        states = list(self._states(code, tracing))
        yield from states
        yield erection(states, self.situation.supported.section, code, "anchors", BASE)

    def _states(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        if self.choice("bearing_method") == "block":  # what rests on it has no answer where the block has none
            yield from (replace(state, unknown=NOT_BOTH) for state in self._by_part(code, tracing))
        else:
            yield from self._by_part(code, tracing)

    def _by_part(self, code: Code, tracing: bool) -> Iterator[LimitState]:
        fc, concrete = self.foundation.fc, Under(self.concrete, "anchors", tracing)
        yield from self.plate(code).states(Under(code, "plate", tracing), code, fc)
        if not code.lrfd:  # the concrete is judged by strength combinations besides
            strength = code.anchored()
            for state in self.plate(strength).bearing(Under(self.concrete, "plate", tracing), strength, fc):
                yield replace(state, check=f"concrete_{state.check}", clause="22.8.3")
        anchorage, seat = self.anchorage(code), self.seat(code)
        yield from anchorage.states(concrete, code)

        def pulls(actions: Actions) -> np.ndarray:
            return seat.rest(actions).tensions

        if not (self.installed and self.installed.steel_tension):
            yield from RodSteel(self.rod, pulls, anchorage.largest_shear if self.path == "anchors" else None).states(
                Under(code, "anchors", tracing), code
            )
        yield from self.weld.states(Under(code, "weld", tracing), code)
        yield self.weld.at_rods(Under(code, "weld", tracing), code, pulls, self.plate(code).lines)
        if self.path == "anchors":
            yield from self.washers.states(Under(code, "washers", tracing), code)
        if self.path == "friction":
            strong = self.seat(code.anchored())
            yield from Friction(self.of("friction"), strong, fc, self.concrete).states(
                Under(self.concrete, "plate", tracing)
            )
        if self.path == "lug":
            strong = self.seat(code.anchored())
            lug = replace(self.lug, pulls=lambda actions: strong.rest(actions).tensions)
            yield from lug.concrete(Under(self.concrete, "lug", tracing))
            yield from self.lug.steel(Under(code, "lug", tracing), code)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Every detailing rule, in the order a shop would look."""
        yield from self.plate(code).rules(code)
        yield at_most("grout_thickness", "plate", self.of("grout"), self.of("grout_most"), "practice")
        post = self.choice("post") == "yes"
        yield from (
            rule
            for rule in self.anchorage(code).rules(code, self.of("washer"))
            if not (post and rule.rule == "anchors_at_least")
        )
        yield from self._around_the_column(code)
        yield from self.weld.rules(code, self.of("plate_thickness"))
        if self.path == "anchors":
            yield from self.washers.rules(code)
        if self.path == "friction":
            most = self.concrete.lugs.friction(bool(self.of("grout")), self.foundation.light)
            yield at_most(
                "friction_most", "plate", self.of("friction"), most, self.concrete.clause("friction_most"), "number"
            )
        if self.path == "lug":
            yield from self.lug.rules(code)

    def _around_the_column(self, code: Code) -> Iterator[DetailingRule]:
        """Washers and a wrench clear the column and its weld; a washer covers its hole."""
        section = self.situation.supported.section
        room = min((clear(section, from_column(p, self.column)) for p in self.placed.points), default=math.inf)
        yield at_least(
            "anchor_clear_of_column",
            "anchors",
            room,
            self.of("weld_size") + self.of("washer") / 2,
            code.clause("anchor_clear_of_column"),
        )
        yield at_least(
            "anchor_wrench", "anchors", room, self.rod.flats / math.sqrt(3) + WRENCH, code.clause("anchor_wrench")
        )
        if self.choice("nuts") == "levelling":
            yield at_least(
                "levelling_nut_in_grout", "anchors", self.of("grout"), self.rod.d + INCH / 4, "the nut and its washer"
            )
        yield at_least(
            "washer_over_hole", "anchors", self.of("washer"), self.rod.hole + INCH / 2, code.clause("washer_over_hole")
        )
