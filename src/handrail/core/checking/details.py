"""A connection as a detail for a sheet: its views and what it is made of."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial
from itertools import zip_longest

from manifold3d import Manifold

from handrail.core.checking.aside import in_order
from handrail.core.drawing.clouds import clouded
from handrail.core.drawing.sheets import Detail, Fitted, Format, fitted
from handrail.core.joint.situation import Situation
from handrail.core.quantities.units import show, worked
from handrail.core.solids import words
from handrail.core.solids.pieces import Fastener, Piece, Rod, Solids
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import Sizes


@dataclass(frozen=True)
class Subject:
    """A connection that is to be drawn, called `name`: what it is as plain data; `said` stands under its name."""

    name: str
    standard: str
    situation: Situation
    sizes: Sizes
    said: tuple[str, ...] = ()
    mirrored: bool = False
    beside: tuple[Manifold, ...] = ()  # bodies of others of its joint, in its own axes
    before: tuple[str, Sizes] | None = None  # by which standard and sizes it was last issued
    warning: str = ""

    def detail(self, system: str) -> Detail:
        """The views that a shop needs, and what it is made of."""
        standard = STANDARDS[self.standard]
        solids = replace(standard.solids(self.situation, self.sizes), beside=self.beside)
        views = [v for v in standard.views(self.situation, self.sizes, system, solids) if v.shop]
        if self.before and self.before[0] == self.standard:
            was = [v for v in standard.views(self.situation, self.before[1], system) if v.shop]
            views = [clouded(now, old) for now, old in zip_longest(views, was[: len(views)])]
        views = [v.mirrored() for v in views] if self.mirrored else views
        said = (*self.said, *self._changed(system))
        return Detail(self.name, standard.title, tuple(views), said, tuple(parts(solids, system)), self.warning)

    def _changed(self, system: str) -> Iterator[str]:
        """What was otherwise when it was last issued, in words."""
        if self.before is None:
            return
        own = STANDARDS[self.standard]
        if self.before[0] != self.standard:
            yield f"was a {STANDARDS[self.before[0]].title.lower()}"
            return
        changes = [
            f"{p.label.lower()} {p.show(was.value, system) or 'none'} to {p.show(self.sizes[p.name].value, system)}"
            for p in own.parameters
            if (was := self.before[1].get(p.name)) and p.name in self.sizes and was.value != self.sizes[p.name].value
        ]
        if changes:
            yield f"changed: {'; '.join(changes)}"


def on_paper(subjects: Sequence[Subject], format_: Format, system: str, cores: int = 1) -> Iterator[Fitted]:
    """Each at its scale on sheets of a format, in their order."""
    return in_order(partial(_fitted, format_=format_, system=system), subjects, cores)


def _fitted(subject: Subject, format_: Format, system: str) -> Fitted:
    return fitted(subject.detail(system), format_, system)


def parts(solids: Solids, system: str) -> Iterator[str]:
    """A line for each kind of piece, bolt, rod and weld: how many, and what they are."""
    for count, what in counted(solids, system):
        yield f"({count}) {what}" if count else what


def counted(solids: Solids, system: str) -> Iterator[tuple[int, str]]:
    """(how many, what) of each kind of piece, bolt and rod; welds by their length, uncounted."""
    for some in (solids.pieces, solids.bolts, solids.rods):
        counts: dict[str, int] = defaultdict(int)
        own: Sequence[Piece | Fastener | Rod] = some
        for solid in own:
            counts[words.ordered(solid, system) if isinstance(solid, Fastener) else words.said(solid, system)] += 1
        yield from ((count, what) for what, count in counts.items())
    if solids.erection:
        yield solids.erection, "erection bolts"
    lengths: dict[tuple[str, float, bool, str], float] = defaultdict(float)
    for weld in solids.welds:
        lengths[weld.kind, round(weld.size, 6), weld.field, weld.electrode] += weld.length
    for (kind, size, field, electrode), length in lengths.items():
        what = (
            f"fillet {show(size, 'length', system)}"
            if kind == "fillet"
            else f"{kind} weld, throat {show(size, 'length', system)}"
        )
        where = "at the site" if field else "in the shop"
        yield 0, f"{what}, total length {show(worked(length, system), 'length', system)}, {where}, {electrode}"
