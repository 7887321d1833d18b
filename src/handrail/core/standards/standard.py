"""What a standard declares: its parameters, the parts that it is made of, what it carries, how it is changed and
shown."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from difflib import get_close_matches
from functools import cached_property, lru_cache
from typing import Any

from handrail.core.actions import Actions
from handrail.core.catalogue import Shop
from handrail.core.codes.family import Code
from handrail.core.drawing.scene import Laid, Scene
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import DetailingRule, LimitState
from handrail.core.solids.pieces import Solids
from handrail.core.solids.washers import washered
from handrail.core.standards.figures import Bearing, Flow
from handrail.core.standards.formulas import fits, formula, is_formula
from handrail.core.standards.quantities import Quantities, counted
from handrail.core.standards.sizes import ASKED, Parameter, Sized, Sizes, Value, length, text


@dataclass
class Examined:
    """A sized connection's geometry: its detailing rules, why it cannot be checked, and remarks."""

    detailing: list[DetailingRule]
    unchecked: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)

    @property
    def sound(self) -> bool:
        """Whether it can be checked and every detailing rule holds."""
        return not self.unchecked and all(rule.ok for rule in self.detailing)


@dataclass(frozen=True)
class Negligible:
    """How much of an action that the standard does not carry is let through, in the core's unit of `kind`."""

    kind: str
    amount: float


def _nothing(sizes: Sizes, shop: Shop) -> list[Value]:
    return []


@dataclass(frozen=True)
class Move:
    """One change worth trying on a failing connection: `values(sizes, shop)` gives (cost, value), the cheapest first;
    `odd` where it leaves what the shop does everywhere else: edges, places of holes, another bolt. `less` gives the
    next step down, for one that has much in reserve."""

    parameter: str
    values: Callable[[Sizes, Shop], list[tuple[int, Value]]]
    odd: bool = False
    less: Callable[[Sizes, Shop], list[Value]] = _nothing


def more_of(name: str, step: Callable[[Shop], float], steps: int = 3, odd: bool = False) -> Move:
    """One of the shop's steps more of a length, two, and so on; one step less."""

    def less(sizes: Sizes, shop: Shop) -> list[Value]:
        now, by = length(sizes, name), step(shop)
        return [now - by] if now > 1.5 * by and not odd else []

    return Move(
        name, lambda sizes, shop: [(k, length(sizes, name) + k * step(shop)) for k in range(1, steps + 1)], odd, less
    )


def one_more(name: str, cost: int = 1, steps: int = 3) -> Move:
    """One more of a count, two, and so on; one less."""

    def less(sizes: Sizes, shop: Shop) -> list[Value]:
        return [int(length(sizes, name)) - 1] if length(sizes, name) > 1 else []

    return Move(
        name, lambda sizes, shop: [(cost + k, int(length(sizes, name)) + k + 1) for k in range(steps)], less=less
    )


def larger(
    name: str,
    following: Callable[[str], str | None],
    steps: int = 1,
    before: Callable[[str], str | None] = lambda size: None,
) -> Move:
    """The next size of a bolt or a rod, and so on, as `following` names it; the one `before` it."""

    def values(sizes: Sizes, shop: Shop) -> list[tuple[int, Value]]:
        values: list[tuple[int, Value]] = []
        size = following(text(sizes, name))
        while size and len(values) < steps:
            values.append((len(values) + 2, size))
            size = following(size)
        return values

    def less(sizes: Sizes, shop: Shop) -> list[Value]:
        smaller = before(text(sizes, name))
        return [smaller] if smaller else []

    return Move(name, values, True, less)


Rungs = list[dict[str, Value]]  # what each of them sets, the least first


def _no_rungs(situation: Situation, sizes: Sizes, held: frozenset[str]) -> Rungs:
    return [{}]


@dataclass(frozen=True)
class Changing:
    """How the sizes of a standard are changed: in sizing, to make a failing connection pass, to take less where there
    is much in reserve.

    Sizing climbs `ladder(situation, sizes, held)`, its rungs in order; a standard of many sizes has `axes` instead,
    each climbed by itself, and `steps` name, by check or detailing rule, the axes that help against it. `moves` are
    what a remedy or a step down tries, one size at a time; `advice` says, by check, what to enlarge where none of them
    helps."""

    moves: tuple[Move, ...]
    ladder: Callable[[Situation, Sizes, frozenset[str]], Rungs] = _no_rungs
    axes: Callable[[Situation, Sizes, frozenset[str]], dict[str, Rungs]] | None = None
    steps: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    advice: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, eq=False)
class Standard:
    """One parametric connection. The functions are the standard's own; see its package.

    `carries` are the actions it is made for, `negligible` how much is let through of the others; `changing` how its
    sizes are found and changed; `brief` the sizes that a list shows and `summary` their text; `through` says whether
    its bolts go through the support, and so hold a connection across too; then `shared` are the sizes that both have
    alike, `opposite` gives what (situation, sizes) of one ask of the other in its situation, as many rows too, and
    `aligned` what they ask where the other has rows of its own. `acted` gives the actions with what the sizes ask of
    it besides, `dropped` says what of them that takes the place of. `placed` are its pieces in place, in the joint's
    axes, which `solids` completes; `drawn` its views, in a system of units. `figures` shows how it works under each
    combination."""

    name: str
    title: str
    help: str
    framings: tuple[str, ...]
    carries: tuple[str, ...]
    parameters: tuple[Parameter, ...]
    complete: Callable[[Situation, Sizes], Sizes]
    examine: Callable[[Situation, Sizes, Code], Examined]
    strengths: Callable[[Situation, Sizes, Code, bool], list[LimitState]]
    drawn: Callable[[Situation, Sizes, Solids, str], list[Laid]]
    negligible: Callable[[Situation, Sizes], dict[str, Negligible]]
    changing: Changing
    brief: tuple[str, ...]
    summary: Callable[[Sizes, str], str]
    placed: Callable[[Situation, Sizes], Solids] = lambda situation, sizes: Solids((), ())
    shared: tuple[str, ...] = ()
    through: Callable[[Sizes], bool] = lambda sizes: False
    opposite: Callable[[Situation, Sizes, Situation], dict[str, Value]] = lambda one, sizes, other: {}
    aligned: Callable[[Situation, Sizes, Situation, Sizes], dict[str, Value]] = lambda one, sizes, other, theirs: {}
    acted: Callable[[Situation, Sizes, Code, Actions], Actions] = lambda situation, sizes, code, actions: actions
    dropped: Callable[[Situation, Sizes, Code, Actions], list[tuple[str, ...]]] = (
        lambda situation, sizes, code, actions: [()] * len(actions.V)
    )
    figures: Callable[[Situation, Sizes, Code, Actions], Bearing | Flow] | None = None

    def solids(self, situation: Situation, sizes: Sizes) -> Solids:
        """Its pieces in place, in the joint's axes, its bolts with their washers."""
        made = self.placed(situation, sizes)
        if not made.bolts:
            return made
        usual = text(sizes, "tightening")
        on_beam = text(sizes, "beam_tightening") if "beam_tightening" in sizes else usual
        return washered(made, {bolt.part: usual for bolt in made.bolts} | {"bolts": on_beam})

    def views(
        self, situation: Situation, sizes: Sizes, system: str = "us", solids: Solids | None = None
    ) -> tuple[Laid, ...]:
        """Its views, cut from its own solids, or from `solids`, lettered in inches with welds by AWS A2.4, or where
        `system` is si in mm with welds by ISO 2553: to be drawn at any scale. Its own are kept for those that are
        alike."""
        if solids is None:
            return _views(self, situation, tuple(sorted(sizes.items())), system)
        made = self.drawn(situation, sizes, solids, system)
        return tuple(made if system == "us" else [laid.by_iso() for laid in made])

    def draw(self, situation: Situation, sizes: Sizes, system: str = "us") -> Scene:
        """Its views, each with letters as high as its room allows; kept, as many connections are alike."""
        return _scene(self, situation, tuple(sorted(sizes.items())), system)

    def quantities(self, situation: Situation, sizes: Sizes) -> Quantities:
        """What it is made of, counted from its solids; kept, as many connections of a building are alike."""
        return _counted(self, situation, tuple(sorted(sizes.items())))

    @cached_property
    def asked(self) -> frozenset[str]:
        """The parameters that say what is asked of it: no ladder finds them."""
        return frozenset(p.name for p in self.parameters if p.of == ASKED)

    def parameter(self, name: str) -> Parameter:
        """The parameter called `name`. Raises InputError with what there is."""
        for p in self.parameters:
            if p.name == name:
                return p
        names = [p.name for p in self.parameters]
        near = get_close_matches(name[:60], names, 1, 0.6)
        meant = f"did you mean {near[0]}? " if near else ""
        raise InputError(f"{self.name} has no parameter '{name[:60]}'; {meant}it has {', '.join(names)}")

    def read(self, given: dict[str, Any], source: str, bare: float | None = None) -> Sizes:
        """Parameters from text or numbers, each marked with `source`; a formula, like `= 2 * ceil(rows / 2)`, stays one
        until sizes are completed."""
        return {name: Sized(self.read_one(name, value, bare), source) for name, value in given.items()}

    @cached_property
    def names(self) -> frozenset[str]:
        """The names of its parameters."""
        return frozenset(p.name for p in self.parameters)

    def read_one(self, name: str, value: Any, bare: float | None = None) -> Value:
        """A parameter's value, or the text of a formula that fits it. Raises InputError that names the parameter."""
        parameter = self.parameter(name)
        if not is_formula(value):
            return parameter.read(value, bare)
        try:
            fits(value, parameter.kind, {p.name: p.kind for p in self.parameters})
        except InputError as exc:
            raise InputError(f"{name}: {exc.words}") from exc
        return f"= {formula(value).text}"

    def renewed(self, situation: Situation, sizes: Sizes) -> Sizes:
        """Sizes that were kept, perhaps by an earlier version: parameters that have come since are filled in, those
        gone left out."""
        names = {p.name for p in self.parameters}
        return self.complete(situation, {name: size for name, size in sizes.items() if name in names})


@lru_cache(maxsize=24)  # what it is seen from is heavy
def _views(
    standard: Standard, situation: Situation, sizes: tuple[tuple[str, Sized], ...], system: str
) -> tuple[Laid, ...]:
    own = dict(sizes)
    return standard.views(situation, own, system, standard.solids(situation, own))


@lru_cache(maxsize=256)
def _scene(standard: Standard, situation: Situation, sizes: tuple[tuple[str, Sized], ...], system: str) -> Scene:
    return Scene([laid.fitted() for laid in standard.views(situation, dict(sizes), system)])


@lru_cache(maxsize=4096)
def _counted(standard: Standard, situation: Situation, sizes: tuple[tuple[str, Sized], ...]) -> Quantities:
    return counted(standard.solids(situation, dict(sizes)))
