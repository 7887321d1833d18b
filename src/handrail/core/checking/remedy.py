"""The smallest change that makes a failing connection pass, found by trying it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import combinations

from handrail.core.checking.result import Result
from handrail.core.errors import InputError
from handrail.core.standards import Standard
from handrail.core.standards.situation import Situation
from handrail.core.standards.sizes import Sized, Sizes, Value


@dataclass(frozen=True)
class Remedy:
    """The parameters to change, with their new values, and what the connection is then."""

    changes: tuple[tuple[str, Value], ...]
    utilisation: float
    target: float = 1.0

    def words(self, standard: Standard, system: str = "us") -> str:
        """In words, in the units of `system`."""
        parts = [f"{name} to {standard.parameter(name).show(value, system)}" for name, value in self.changes]
        over = f", over the target {self.target:g}" if self.utilisation > self.target else ""
        return f"passes with {' and '.join(parts)}, at {self.utilisation:.2f}{over}"


def find_remedy(
    standard: Standard,
    situation: Situation,
    given: Sizes,
    held: frozenset[str],
    look: Callable[[Sizes], Result | None],
    target: float = 1.0,
) -> Remedy | None:
    """One change tried before two, fewer steps before more; None where nothing tried passes.

    One that stays under `target` is preferred; else the first that passes at all.

    `given` are the sizes that do not follow from others; `look` checks a completed set of sizes; parameters
    in `held` (overrides) stay.
    """
    full = standard.complete(situation, given)
    single = [move for move in _moves(standard, full) if move[1] not in held]
    tries: list[tuple[int, tuple[tuple[str, Value], ...]]] = [(steps, ((name, value),)) for steps, name, value in single]
    tries += [(a[0] + b[0], ((a[1], a[2]), (b[1], b[2]))) for a, b in combinations(single, 2) if a[1] != b[1]]
    tries.sort(key=lambda found: (len(found[1]), found[0]))
    second: Remedy | None = None
    for _, changes in tries:
        sizes = given | {name: Sized(value, "remedy") for name, value in changes}
        try:
            result = look(standard.complete(situation, sizes))
        except InputError:  # a formula that has no value with it
            continue
        if result is not None and result.status == "pass":
            found = Remedy(changes, result.utilisation, target)
            if found.utilisation <= target:
                return found
            second = second or found
    return second


def without_remedy(result: Result | None, standard: Standard) -> str:
    """In words what to do where no change of sizes helps."""
    carried = (
        [c.check.removeprefix("uncarried_") for c in result.checks if c.check.startswith("uncarried_") and c.counts > 1] if result else []
    )
    if carried:
        return f"no size carries {' and '.join(carried)}: release this end in the model, or put a standard on it that carries it"
    advice = standard.advice.get(result.governing.check, "") if result and result.governing else ""
    more = f"; against {result.governing.check}: {advice}" if advice and result and result.governing else ""
    return f"no change of one or two sizes that was tried passes{more}"


def _moves(standard: Standard, sizes: Sizes) -> Iterator[tuple[int, str, Value]]:
    """(cost, parameter, value) of each single change that the standard thinks worth trying."""
    for move in standard.moves:
        for cost, value in move.values(sizes):
            yield cost, move.parameter, value
