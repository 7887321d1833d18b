"""Upright bars beside rods that pull: which of them act, what they hold, whether they fit in the concrete (ACI 318-19
17.5.2.1a)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from handrail.core.actions import Actions
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most
from handrail.core.parts.anchors.group import AnchorGroup
from handrail.core.parts.anchors.reinforcement import SLOPE, BarSteel, handed, nearest_alone
from handrail.core.parts.anchors.tension import Tensions
from handrail.core.quantities.lines import Trace
from handrail.core.quantities.units import INCH
from handrail.core.remark import Remark

REACH = 0.5  # of hef, from a rod to a bar (R17.5.2.1a)
BELOW = 3 * INCH  # cover against the ground (20.5.1.3.1)


@dataclass(frozen=True)
class PullBars:
    """Bars of `steel` at `places` (x, y) mm from the plate's centre, from `top` to `bottom` mm below the face of the
    concrete, beside the rods of `group`. Where a bar stands r from a rod, the surface that would break out crosses it
    r/1.5 above the rod's head."""

    steel: BarSteel
    places: tuple[tuple[float, float], ...]
    top: float
    bottom: float
    group: AnchorGroup

    @cached_property
    def apart(self) -> np.ndarray:
        """(rods, bars) between their axes, mm."""
        return np.linalg.norm(self.group.xy[:, None] - np.array(self.places)[None], axis=-1)

    @cached_property
    def near(self) -> np.ndarray:
        """(rods, bars): within half of the embedment."""
        return self.apart <= REACH * self.group.hef + 1e-6

    @cached_property
    def _crossed(self) -> np.ndarray:
        """(rods, bars) how deep the surface of each rod crosses each bar, mm."""
        return self.group.hef - self.apart / SLOPE

    @cached_property
    def within(self) -> np.ndarray:
        """(rods, bars) of each bar in what each rod would break out, mm."""
        return self._crossed - self.top

    @cached_property
    def beyond(self) -> np.ndarray:
        """(bars,) of each behind the deepest surface that it serves, mm."""
        return self.bottom - np.where(self.near, self._crossed, -np.inf).max(axis=0)

    @cached_property
    def served(self) -> np.ndarray:
        """(rods, bars): near, and developed on both sides."""
        developed = (self.within >= self.steel.within - 1e-6) & (self.beyond >= self.steel.beyond - 1e-6)
        return nearest_alone(self.apart, self.near & developed)

    def state(self, under: Under, tensions: Tensions) -> LimitState:
        """What the rods that pull ask of the bars beside them."""

        def pulled(actions: Actions, t: Trace) -> tuple[np.ndarray, np.ndarray]:
            each = tensions(actions, t)
            asked, held = handed(each.reshape(-1, self.group.n), self.served, self.steel.each)
            shape = each.shape[:-1]
            t(
                "0.75 Ab fy",
                f"of one of {self.steel.bars.name}",
                self.steel.each,
                self.group.code.clause("anchor_bars_tension"),
                kind="force",
                Fy=self.steel.fy,
            )
            return (
                t("Nua", "rods that use the bars within 0.5 hef of them most", asked.reshape(shape), kind="force"),
                t(
                    "phi Nn",
                    "of those bars, developed on both sides",
                    held.reshape(shape),
                    self.group.code.clause("anchor_bars_tension"),
                    kind="force",
                ),
            )

        return under.state("anchor_bars_tension", "force", pulled)

    def rules(self) -> Iterator[DetailingRule]:
        """They are developed on both sides, are covered, and have concrete between them and about the rods' heads."""
        near = self.near.any(axis=0)
        if near.any():
            best = np.where(self.near, self.within, -np.inf).max(axis=0)[
                near
            ]  # of each bar, by the rod that it serves best
            inside, outside = float(best.min()), float(self.beyond[near].min())
            short = inside - self.steel.within <= outside - self.steel.beyond
            given, need = (inside, self.steel.within) if short else (outside, self.steel.beyond)
            yield at_least(
                "anchor_bars_tension_length",
                "anchors",
                given,
                need,
                self.group.code.clause("anchor_bars_tension_length"),
            )
        yield at_most(
            "anchor_bars_tension_near",
            "anchors",
            float(self.apart.min()),
            REACH * self.group.hef,
            self.group.code.clause("anchor_bars_tension_near"),
        )
        d = self.steel.bars.d
        yield at_least(
            "anchor_bars_tension_cover",
            "anchors",
            min(self.steel.beside, self.top),
            self.group.code.bars.cover(d),
            self.group.code.clause("anchor_bars_tension_cover"),
        )
        yield at_most(
            "anchor_bars_tension_in_concrete",
            "anchors",
            self.bottom + BELOW,
            self.group.concrete.thickness,
            self.group.code.clause("anchor_bars_tension_in_concrete"),
        )
        yield at_least(
            "anchor_bars_tension_clear",
            "anchors",
            min(self.steel.clear, self._off_heads),
            self.group.code.bars.clear(d),
            self.group.code.clause("anchor_bars_tension_clear"),
        )

    @property
    def _off_heads(self) -> float:
        """From the nearest head to a bar, clear, mm."""
        return float(self.apart.min()) - self.group.rod.flats / 3**0.5 - self.steel.bars.d / 2

    def notes(self) -> Iterator[str]:
        """Bars that do not act, and what is not looked at."""
        if idle := [str(k + 1) for k in np.nonzero(~self.served.any(axis=0))[0]]:
            yield Remark(
                f"bars for tension {', '.join(idle)} do not act: farther than half the embedment from every rod, or not"
                " developed there"
            )
        if self.steel.bars.d > 0.625 * INCH + 1e-6:
            yield Remark(
                "bars for tension are larger than No. 5, up to which this was tried"
                f" ({self.group.code.clause('anchor_bars_tension_near')})"
            )
