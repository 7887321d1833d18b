"""Level bars across what would break out towards an edge: which legs act for which rods, what they hold, whether they
fit (ACI 318-19 17.5.2.1b)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from handrail.core.actions import Actions
from handrail.core.limit_state import DetailingRule, LimitState, Under, at_least, at_most, ratio
from handrail.core.parts.anchors.group import NEAR, SIDES, AnchorGroup
from handrail.core.parts.anchors.reinforcement import SLOPE, BarSteel, handed, nearest_alone
from handrail.core.parts.anchors.shear import OUT, Shears, Wedge, wedges
from handrail.core.quantities.lines import Trace
from handrail.core.quantities.units import INCH
from handrail.core.remark import Remark

FORMS = ("ties", "hairpins")
OF_EDGE, OF_CORNER = 0.5, 0.3  # of ca1 and of ca2, from a rod to a leg (R17.5.2.1b)
TOUCHES = INCH / 8  # how well a hairpin lies on its rod


@dataclass(frozen=True, kw_only=True)
class ShearBars:
    """Legs that run along x and y, `legs` [axis] of (place across, depth below the face) mm each: ties, which begin
    `cover` mm behind the edge and are `length` mm long, or hairpins about the rods that are nearest to an edge, as long
    from these inwards. A side towards which no legs run breaks out as without them."""

    steel: tuple[BarSteel, BarSteel]
    legs: tuple[tuple[tuple[float, float], ...], tuple[tuple[float, float], ...]]
    form: str
    length: float
    cover: float
    group: AnchorGroup

    @property
    def sides(self) -> tuple[int, ...]:
        """Of group.SIDES that legs run to."""
        return tuple(side for side in range(4) if self.legs[side // 2])

    @property
    def towards(self) -> tuple[str, ...]:
        """The same by name."""
        return tuple(SIDES[side] for side in self.sides)

    def state(self, under: Under, shears: Shears) -> LimitState:
        """What the shear towards each edge asks of the legs across it; of shear along an edge half, as concrete has
        twice there (17.7.2.1c)."""
        held_by = [(w, self._served(w)) for w in wedges(self.group) if w.side in self.sides]

        def sheared(actions: Actions, t: Trace) -> tuple[np.ndarray, np.ndarray]:
            forces = shears(actions, t)
            shape = forces.shape[:-2]
            asked, held, use = np.zeros(shape), np.ones(shape), np.full(shape, -1.0)
            for w, served in held_by:
                own, most = handed(
                    self._asked(w, forces).reshape(-1, len(w.rods)), served, self.steel[w.side // 2].each
                )
                mine = np.nan_to_num(ratio(own, most), nan=np.inf).reshape(shape)
                more = mine > use
                use = np.where(more, mine, use)
                asked, held = np.where(more, own.reshape(shape), asked), np.where(more, most.reshape(shape), held)
            t(
                "0.75 Ab fy",
                f"of one leg of {self.steel[0].bars.name}",
                self.steel[0].each,
                self.group.code.clause("anchor_bars_shear"),
                kind="force",
                Fy=self.steel[0].fy,
            )
            return (
                t("Vua", "towards an edge, with half of what goes along it", asked, kind="force"),
                t(
                    "phi Vn",
                    "legs that act there, developed",
                    held,
                    self.group.code.clause("anchor_bars_shear"),
                    kind="force",
                ),
            )

        return under.state("anchor_bars_shear", "force", sheared)

    @staticmethod
    def _asked(w: Wedge, forces: np.ndarray) -> np.ndarray:
        """(..., rods of the wedge) N."""
        out = OUT[w.side]
        own = forces[..., list(w.rods), :]
        if w.whole:
            rest = forces.sum(axis=-2) * (w.share - len(w.rods) / forces.shape[-2]) / len(w.rods)
            own = own + rest[..., None, :]
        return np.hypot(np.maximum(own @ out, 0.0), (own @ out[::-1]) / 2)

    def _served(self, w: Wedge) -> np.ndarray:
        """(rods of the wedge, legs) that act: near a rod, and developed on both sides of the surface."""
        aside, near = self._near(w)
        edge, inner = self._developed(w, aside)
        steel = self.steel[w.side // 2]
        return nearest_alone(
            aside, near & (inner >= self._needs(steel)[1] - 1e-6) & (edge >= self._needs(steel)[0] - 1e-6)
        )

    def _needs(self, steel: BarSteel) -> tuple[float, float]:
        """On the edge's side and behind, mm."""
        return 0.0 if self.form == "hairpins" else steel.within, steel.beyond

    def _near(self, w: Wedge) -> tuple[np.ndarray, np.ndarray]:
        """(rods, legs): how far aside each leg lies, mm; whether it counts for that rod."""
        axis = w.side // 2
        at = np.array([p for p, _ in self.legs[axis]])
        aside = np.abs(self.group.xy[list(w.rods), 1 - axis][:, None] - at)
        if self.form == "hairpins" and self._first(w):
            return aside, np.abs(aside - (self.group.rod.d + self.steel[axis].bars.d) / 2) <= TOUCHES
        beside = self.group.edges[np.ix_(w.rods, [s for s in range(4) if s // 2 != axis])].min(axis=1)
        return aside, aside <= np.minimum(OF_EDGE * w.edge, OF_CORNER * beside)[:, None] + 1e-6

    def _developed(self, w: Wedge, aside: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """(rods, legs) mm on the edge's side and behind: the surface goes from the row to the edge, 1.5 aside or down
        for one out."""
        edge = float(self.group.edges[list(w.rods), w.side].min())
        depth = np.array([z for _, z in self.legs[w.side // 2]])
        crossed = edge - np.maximum(aside, depth) / SLOPE
        if self.form == "hairpins" and self._first(w):
            crossed = np.full_like(aside, edge)  # where it lies on the rod
        begins = self.begins(w.side)
        return crossed - begins, begins + self.length - crossed

    def begins(self, side: int) -> float:
        """How far behind an edge legs begin, mm."""
        return float(self.group.edges[:, side].min()) if self.form == "hairpins" else self.cover

    def _first(self, w: Wedge) -> bool:
        """Whether its row is the one that hairpins lie on."""
        return float(self.group.edges[list(w.rods), w.side].min()) <= float(self.group.edges[:, w.side].min()) + NEAR

    def rules(self) -> Iterator[DetailingRule]:
        """They are developed on both sides wherever they would act, near enough, covered, apart, and no longer than the
        concrete."""
        short: list[tuple[float, float]] = []
        far: list[tuple[float, float]] = []
        for w in wedges(self.group):
            if w.side not in self.sides:
                continue
            aside, near = self._near(w)
            if not near.any():
                far.append((float(aside.min()), OF_EDGE * w.edge))
                continue
            both = zip(self._developed(w, aside), self._needs(self.steel[w.side // 2]), strict=True)
            short += [(float(given[near].min()), need) for given, need in both]
        if short:
            yield at_least(
                "anchor_bars_shear_length",
                "anchors",
                *min(short, key=lambda pair: pair[0] - pair[1]),
                self.group.code.clause("anchor_bars_shear_length"),
            )
        if far:
            yield at_most(
                "anchor_bars_shear_near", "anchors", *max(far), self.group.code.clause("anchor_bars_shear_near")
            )
        yield from self._fit()

    def _fit(self) -> Iterator[DetailingRule]:
        d = self.steel[0].bars.d
        steel = [own for own, legs in zip(self.steel, self.legs, strict=True) if legs]
        beside, clear = min(own.beside for own in steel), min(own.clear for own in steel)
        yield at_least(
            "anchor_bars_shear_cover",
            "anchors",
            min(beside, self.cover),
            self.group.code.bars.cover(d),
            self.group.code.clause("anchor_bars_shear_cover"),
        )
        yield at_least(
            "anchor_bars_shear_clear",
            "anchors",
            clear,
            self.group.code.bars.clear(d),
            self.group.code.clause("anchor_bars_shear_clear"),
        )
        past = min(
            float(np.abs(self.group.xy[:, 1 - axis][:, None] - np.array([p for p, _ in legs])).min())
            for axis, legs in enumerate(self.legs)
            if legs
        )
        yield at_least(
            "anchor_bars_shear_past_rods",
            "anchors",
            past + TOUCHES,
            (self.group.rod.d + d) / 2,
            "a leg runs beside the rods, not through them",
        )
        wide = (sum(self.group.concrete.along), sum(self.group.concrete.across))
        near = [side for side in self.sides if np.isfinite(self.group.edges[:, side]).all()]
        room = min((wide[side // 2] - self.begins(side) - self.cover for side in near), default=np.inf)
        yield at_most(
            "anchor_bars_shear_in_concrete",
            "anchors",
            self.length,
            float(room),
            self.group.code.clause("anchor_bars_shear_in_concrete"),
        )

    def notes(self) -> Iterator[str]:
        """Legs that act nowhere, and what is not looked at."""
        for axis in (0, 1):
            towards = [w for w in wedges(self.group) if w.side // 2 == axis]
            if not towards or not self.legs[axis]:
                continue
            act = np.any([self._served(w).any(axis=0) for w in towards], axis=0)
            if idle := [str(k + 1) for k in np.nonzero(~act)[0]]:
                yield Remark(
                    f"legs {', '.join(idle)} {('along', 'across')[axis]} do not act: too far from every rod, or not"
                    " developed on both sides"
                )
        if sides := [SIDES[s] for s in sorted({w.side for w in wedges(self.group)} - set(self.sides))]:
            yield Remark(f"no legs run towards {', '.join(sides)}: the concrete breaks out there")
        yield (
            "legs for shear need bars in their bends, along the edge; what the legs' depth below the shear adds to"
            f" their pull is not looked at ({self.group.code.clause('depth_of_legs')})"
        )
        if self.steel[0].bars.d > 0.75 * INCH + 1e-6:
            yield Remark(
                "legs for shear are larger than No. 6, up to which this was tried"
                f" ({self.group.code.clause('anchor_bars_shear_near')})"
            )
