"""Fillets of angles: around a leg on the beam's web, along the toes of two legs on a support's face, along the toe and
foot of one."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any

import numpy as np

from handrail.core.actions import Actions, DirectionTable
from handrail.core.catalogue import Electrode, Grade
from handrail.core.codes.family import Code
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, together
from handrail.core.parts.bolt_group import eccentric_loads
from handrail.core.parts.weld_group import WeldGroup, solve
from handrail.core.quantities.lines import NULL, Trace


@lru_cache(maxsize=1024)
def strengths(group: WeldGroup, e: float, method: str) -> DirectionTable:
    """One over the mm of fillet, loaded along it, that the group is worth under V in a line `e` from its centroid and N
    through it, by direction. The group is alike top and bottom: a quadrant says it all."""
    factor = solve(group, eccentric_loads(np.radians(np.arange(0, 91, dtype=float)), e), method).factor
    half = np.concatenate([factor[:-1], factor[::-1]])  # 0 to 180
    return DirectionTable(1 / np.concatenate([half[:-1], half]))


@dataclass(frozen=True, kw_only=True)
class WebWeld:
    """Fillets of `size` on each of `sides` of a web `tw` thick: down the leg's or plate's far edge, `reach` from the
    support's face, `length` along V, and back along both ends to the beam's end, `gap` from the face, mm. `t` of what
    is welded on."""

    size: float
    length: float
    reach: float
    gap: float
    sides: int
    t: float
    tw: float
    web: Grade
    electrode: Electrode
    method: str

    @cached_property
    def group(self) -> WeldGroup:
        """One side's lines; x from the support's face."""
        x0, x1, L = self.gap, self.reach, self.length
        return WeldGroup(((x1, 0.0, x1, L), (x0, 0.0, x1, 0.0), (x0, L, x1, L)))

    @property
    def e(self) -> float:
        """From the support's face to the welds' centroid, mm."""
        return float(self.group.centroid[0])

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """The fillets, then the web between or behind them (the Manual's least web thickness), by the same centre of
        rotation."""
        table = strengths(self.group, self.e, self.method)
        for check, each in (("beam_weld", self._fillet), ("beam_weld_base_metal", self._metal)):
            lines = under.trace()
            rn = each(code, lines)

            def evaluate(actions: Actions, t: Trace, rn: float = rn, check: str = check) -> tuple[Any, Any]:
                worth = t(
                    "L",
                    "length of fillet that this group is worth",
                    1 / table.at(actions),
                    code.clause("eccentric_welds"),
                    e=self.e,
                )
                return together(actions, t), t(
                    "phi Rn", "L rn, available", worth * rn, code.clause(check), kind="force"
                )

            yield under.state(check, "force", evaluate, lines)

    def _fillet(self, code: Code, t: Trace) -> float:
        return self.sides * code.welds.fillet(self.electrode, self.size, t)

    def _metal(self, code: Code, t: Trace) -> float:
        """Of each mm of the web, whichever side the fillets are on."""
        return t(
            "phi rn",
            "0.60 Fu tw, available",
            code.plates.shear_rupture(self.web.Fu, self.tw),
            code.clause("shear_rupture"),
            kind="per_length",
            Fu=self.web.Fu,
            tw=self.tw,
        )

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Least and largest size, least length."""
        yield from size_rules(code, "beam_weld", self.size, self.t, self.tw, min(self.length, self.reach - self.gap))


def size_rules(code: Code, name: str, size: float, t: float, other: float, length: float) -> Iterator[DetailingRule]:
    """Of a fillet along the edge of what is `t` thick on what is `other` thick: its sizes and its shortest line
    (J2.2b)."""
    yield at_least(f"{name}_size", "weld", size, code.welds.min_size(min(t, other)), code.clause(f"{name}_size"))
    yield at_most(f"{name}_most", "weld", size, code.welds.max_size(t), code.clause(f"{name}_most"))
    yield at_least(f"{name}_length", "weld", length, 4 * size, code.clause(f"{name}_length"))


@dataclass(frozen=True, kw_only=True)
class ToeWelds:
    """Two angles' fillets along their toes, `leg` from the heel and `length` along V, with returns at the top; legs `t`
    thick of `grade`, mm."""

    size: float
    length: float
    leg: float
    t: float
    grade: Grade
    electrode: Electrode
    support_t: float

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """V with the moment that turns each leg (Manual Part 10: its upper sixth bears), a pull besides; the legs bent
        by the pull."""
        lines = under.trace()
        along = 2 * self.length * code.welds.fillet(self.electrode, self.size, lines)
        more = lines(
            "ke",
            "sqrt(1 + 12.96 e^2/L^2)",
            math.sqrt(1 + 12.96 * self.leg**2 / self.length**2),
            code.clause("angle_weld"),
            kind="number",
            e=self.leg,
            L=self.length,
        )

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            return (
                t("Pr", "sqrt((ke V)^2 + N^2)", np.hypot(more * actions.V, actions.pull), V=actions.V, N=actions.N),
                along,
            )

        yield under.state("support_weld", "force", evaluate, lines)
        yield under.fixed(
            "support_leg_bending",
            "force",
            lambda t: self._bent(code, t),
            lambda actions, t: t("Nr", "max(N, 0)", actions.pull),
        )

    def _bent(self, code: Code, trace: Trace = NULL) -> float:
        """Both legs as cantilevers from their heels to the toes' welds, N."""
        b = self.leg - self.t / 2
        M = code.plates.flexure_yield(self.grade.Fy, self.length * self.t**2 / 4, trace)
        return trace("phi Nn", "2 phi Mn/b", 2 * M / b, code.clause("flexure_yield"), kind="force", b=b)

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Sizes, length, and that the legs turn before the welds tear."""
        yield from size_rules(code, "support_weld", self.size, self.t, self.support_t, self.length)
        least = code.welds.ductile_size(self.t, self.grade.Fy, self.leg - self.t, self.length)
        yield at_least("support_weld_rotation", "weld", self.size, least, code.clause("support_weld_rotation"))


@dataclass(frozen=True, kw_only=True)
class EllWeld:
    """One angle's fillets along its toe, `leg` from the heel, and along its foot; V comes at the beam's web, `off`
    before the heel, mm."""

    size: float
    length: float
    leg: float
    off: float
    t: float
    grade: Grade
    electrode: Electrode
    support_t: float
    negligible: float
    method: str

    @cached_property
    def group(self) -> WeldGroup:
        """Its lines; x from the heel, y up from the foot."""
        return WeldGroup(((self.leg, 0.0, self.leg, self.length), (0.0, 0.0, self.leg, 0.0)))

    @cached_property
    def worth(self) -> tuple[float, float]:
        """mm of fillet, loaded along it, that the group is worth under V up and under V down."""
        e = float(self.group.centroid[0]) + self.off
        up, down = solve(self.group, np.array([[0.0, 1.0, -e], [0.0, -1.0, e]]), self.method).factor
        return float(up), float(down)

    def states(self, under: Under, code: Code) -> Iterator[LimitState]:
        """V by the instantaneous centre; no pull."""
        lines = under.trace()
        rn = code.welds.fillet(self.electrode, self.size, lines)
        up, down = self.worth

        def evaluate(actions: Actions, t: Trace) -> tuple[Any, Any]:
            L = t(
                "L",
                "length of fillet that this group is worth",
                np.where(actions.V >= 0, up, down),
                code.clause("eccentric_welds"),
                off=self.off,
            )
            return t("Vr", "|V|", actions.shear), t(
                "phi Rn", "L rn, available", L * rn, code.clause("weld"), kind="force"
            )

        yield under.state("support_weld", "force", evaluate, lines)
        yield under.state(
            "support_weld_pull",
            "force",
            lambda actions, t: (t("Nr", "pull on one welded angle", actions.pull), self.negligible),
            limit=True,
            of="not_carried",
        )

    def rules(self, code: Code) -> Iterator[DetailingRule]:
        """Sizes, length, and that the leg turns before the weld tears."""
        yield from size_rules(code, "support_weld", self.size, self.t, self.support_t, min(self.length, self.leg))
        least = code.welds.ductile_size(self.t, self.grade.Fy, self.leg - self.t, self.length)
        yield at_least("support_weld_rotation", "weld", self.size, least, code.clause("support_weld_rotation"))
