"""The sized single plate laid out: every distance that a check or the drawing needs, mm."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from handrail.core.catalogue import Bolt, Electrode, Grade, HoleSize, bolt, electrode, grade, hole
from handrail.core.parts.bolt_group import BoltGroup
from handrail.core.standards.base import Sizes
from handrail.core.standards.single_plate.parameters import CONVENTIONAL_A, outstand, support_thickness
from handrail.core.standards.situation import Situation
from handrail.core.units import INCH

SIXTEENTH = INCH / 16


@dataclass(frozen=True)
class Cope:
    length: float
    depth: float

    def __bool__(self) -> bool:
        return self.length > 0 and self.depth > 0


@dataclass(frozen=True)
class Layout:
    """A single plate in its situation. `a` is weld to first bolt line, `e` the bolts' lever."""

    situation: Situation
    sizes: Sizes

    def _length(self, name: str) -> float:
        return float(self.sizes[name].value)

    def choice(self, name: str) -> str:
        return str(self.sizes[name].value)

    @cached_property
    def bolt(self) -> Bolt:
        return bolt(self.choice("bolt"))

    @cached_property
    def plate_hole(self) -> HoleSize:
        return hole(self.choice("hole"), self.bolt.d)

    @cached_property
    def web_hole(self) -> HoleSize:
        return hole(self.choice("web_hole"), self.bolt.d)

    @cached_property
    def plate(self) -> Grade:
        return grade(self.choice("plate_grade"))

    @cached_property
    def electrode(self) -> Electrode:
        return electrode(self.choice("electrode"))

    @cached_property
    def group(self) -> BoltGroup:
        return BoltGroup(int(self.sizes["rows"].value), int(self.sizes["columns"].value), self._length("pitch"),
                         self._length("gauge"))  # fmt: skip

    @cached_property
    def tp(self) -> float:
        return self._length("plate_thickness")

    @property
    def tw(self) -> float:
        return self.situation.supported.tw

    @cached_property
    def end(self) -> float:
        return self._length("end_distance")

    @cached_property
    def edge(self) -> float:
        return self._length("edge_distance")

    @cached_property
    def beam_edge(self) -> float:
        return self._length("beam_edge_distance")

    @cached_property
    def gap(self) -> float:
        return self._length("gap")

    @cached_property
    def depth(self) -> float:
        return self._length("plate_depth")

    @cached_property
    def weld(self) -> float:
        return self._length("weld_size")

    @cached_property
    def first_bolt(self) -> float:
        return self._length("first_bolt")

    @cached_property
    def top_cope(self) -> Cope:
        return Cope(self._length("cope_length"), self._length("cope_depth"))

    @cached_property
    def bottom_cope(self) -> Cope:
        return Cope(self._length("bottom_cope_length"), self._length("bottom_cope_depth"))

    @property
    def slip_critical(self) -> bool:
        return self.choice("tightening").startswith("slip")

    @property
    def a(self) -> float:
        return self.gap + self.beam_edge

    @property
    def width(self) -> float:
        """The plate's size from its weld to its free edge."""
        return self.a + (self.group.columns - 1) * self.group.gauge + self.edge

    @property
    def group_depth(self) -> float:
        return (self.group.rows - 1) * self.group.pitch

    @property
    def plate_top(self) -> float:
        """Top of the beam's steel to the plate's top edge; what plate depth has over its rows is shared."""
        return self.first_bolt + self.group_depth / 2 - self.depth / 2

    @property
    def plate_end(self) -> float:
        """Last bolt to the plate's end, as the plate's depth leaves it."""
        return (self.depth - self.group_depth) / 2

    @property
    def remaining_depth(self) -> float:
        """The beam's depth between its copes."""
        return self.situation.supported.d - self.top_cope.depth - self.bottom_cope.depth

    @property
    def within_flanges(self) -> bool:
        """Whether the beam's end lies between the support's flanges, closer to its web than their tips."""
        inside = self.situation.framing in ("beam_to_girder", "beam_to_column_web") and self.situation.support.open
        return inside and self.gap < outstand(self.situation)

    @property
    def support_t(self) -> float:
        return support_thickness(self.situation)

    @property
    def slotted(self) -> bool:
        return "SSLT" in (self.plate_hole.type, self.web_hole.type)

    @cached_property
    def conventional_problem(self) -> str:
        """Why this is no conventional plate (Manual Part 10); empty where every limit holds."""
        rows, d = self.group.rows, self.bolt.d
        tests = (
            (self.group.columns > 1, "more than one line of bolts"),
            (not 2 <= rows <= 12, "rows outside 2 to 12"),
            (self.a > CONVENTIONAL_A + 1e-6, "weld to bolt line over 3-1/2 in"),
            (min(self.edge, self.beam_edge) < 2 * d - 1e-6, "horizontal edge distance under 2 d"),
            (not {self.plate_hole.type, self.web_hole.type} <= {"STD", "SSLT"}, "holes neither standard nor short slots"),
            (min(self.tp, self.tw) > self.thickness_limit + 1e-6, "plate and web both thicker than the bolts can rotate"),
        )  # fmt: skip
        return "; ".join(text for failed, text in tests if failed)

    @property
    def thickness_limit(self) -> float:
        """Largest of plate or web thickness in the conventional configuration (Table 10-9)."""
        if self.group.rows <= 5:
            return float("inf") if self.slotted else self.bolt.d / 2 + SIXTEENTH
        return self.bolt.d / 2 + (SIXTEENTH if self.slotted else -SIXTEENTH)

    @property
    def conventional(self) -> bool:
        asked = self.choice("configuration")
        return asked == "conventional" or (asked == "auto" and not self.conventional_problem)

    @property
    def e(self) -> float:
        """The lever of V on the bolts: a/2 or a (Table 10-9), or support face to centroid when extended."""
        if self.conventional:
            return self.a if self.group.rows > 5 and not self.slotted else self.a / 2
        return self.a + (self.group.columns - 1) * self.group.gauge / 2
