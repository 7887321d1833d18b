"""Many connections at once: strengths once for each distinct size, demands for all combinations in bulk."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS, Actions
from handrail.core.checking.climbing import BROKEN, FAILED, OPEN, PASSED, UNKNOWN, Axes, Climb, Rung, Tried
from handrail.core.checking.colliding import COLLISION, Colliding
from handrail.core.checking.connection import NO_OPPOSED, limit_states, not_shipped, why_unknown
from handrail.core.checking.remedy import Judged
from handrail.core.checking.result import CEILING, broken_rule, one_cause, over_strength, share
from handrail.core.codes.family import Code
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.limit_state import LimitState, Peaks
from handrail.core.quantities.words import all_said, said
from handrail.core.remark import Remark
from handrail.core.standards import STANDARDS
from handrail.core.standards.formulas import formula
from handrail.core.standards.sizes import Sized, Sizes
from handrail.core.standards.standard import Examined

TOLD = 2  # collisions that a reason has in words, the deepest
PART = 4000  # connections of a family that are worked at together: what they take is bounded, however many there are
Rungs = tuple[tuple[tuple[str, Sized], ...], ...]


@dataclass(frozen=True)
class Family:
    """Connections alike in all but their forces: one standard, situation, base sizes and ladder.

    `given` are the sizes that stay, `rungs` what each candidate sets on top of them; or `axes`, where it climbs step by
    step."""

    standard: str
    situation: Situation
    given: tuple[tuple[str, Sized], ...]
    rungs: Rungs
    axes: Axes = ()
    target: float = 1.0  # what sizing aims at

    @property
    def steps(self) -> dict[str, tuple[str, ...]]:
        """Which axes help against a check: for a size that a formula ties to others, those of the others."""
        sets = {name: {n for rung in rungs for n, _ in rung} for name, rungs in self.axes}
        asks = {name: formula(sized.asked).asks for name, sized in self.given if sized.asked}
        tied = {name: tuple(axis for axis, moved in sets.items() if moved & asked) for name, asked in asks.items()}
        return {
            what: tuple(axis for name in axes for axis in tied.get(name, (name,)))
            for what, axes in STANDARDS[self.standard].changing.steps.items()
        }


@dataclass(frozen=True)
class Outcome:
    """What a batch says of one connection. `over_target`: it passes, and is used more than sizing aims at. `collides`:
    what of it stands in others of its joint, which fails it where nobody lets it stand."""

    status: str
    utilisation: float
    check: str
    clause: str
    action: str
    reason: str
    sizes: Sizes
    notes: tuple[str, ...] = ()
    over_target: bool = False
    broken: tuple[str, ...] = ()  # detailing rules, by name
    collides: tuple[Colliding, ...] = ()

    def failing(self, rule: str, words: str) -> Outcome:
        """The same, failed by a rule of detailing: why, in words after those that it has."""
        reason = f"{self.reason}; {words}" if self.reason else words
        return replace(self, status="fail", over_target=False, reason=reason, broken=(*self.broken, rule))

    def judged(self, collides: tuple[Colliding, ...], framing: str, system: str) -> Outcome:
        """The same with what of it stands in others; words in the units of `system`."""
        own = replace(self, collides=collides)
        if self.status == "unchecked":
            return own
        standing = tuple(said(c.note(framing), system) for c in collides if not c.breaks)
        broken = [broken_rule(c.rule(framing), system) for c in collides if c.breaks]
        own = replace(own, notes=(*own.notes, *standing)) if standing else own
        more = [f"and {len(broken) - TOLD} more collisions"] if len(broken) > TOLD else []
        return own.failing(COLLISION, "; ".join([*broken[:TOLD], *more])) if broken else own


@dataclass
class _Candidate:
    """One sized design of a family: its examination, its limit states and its words, each worked out once."""

    sizes: Sizes
    examined: Examined
    states: list[LimitState] = field(default_factory=list)
    notes: tuple[str, ...] = ()
    broken: list[str] = field(default_factory=list)


_Won = tuple[
    _Candidate, int, float, int, int
]  # what a connection comes to: its rank, use, and the numbers of what governs and of the combination


@dataclass
class _Best:
    """The best candidate so far for each connection of a family."""

    rank: np.ndarray
    use: np.ndarray
    rung: np.ndarray
    state: np.ndarray
    action: np.ndarray

    @classmethod
    def of(cls, k: int) -> _Best:
        return cls(np.full(k, 9), np.full(k, np.inf), np.full(k, -1), np.zeros(k, int), np.zeros(k, int))


@dataclass
class Batch:
    """A batch by one code. `actions(indices)` gives the (k, combinations) actions of connections, NaN where forces are
    missing. Sizing looks for what stays under the family's target; the verdict is by 1, whoever chose the sizes, with a
    remark over the target."""

    code: Code
    actions: Callable[[np.ndarray], Actions]
    progress: Callable[[int], None] = field(default=lambda done: None)
    system: str = "us"  # of the words: us or si

    def run(self, families: dict[Family, list[int]]) -> Iterator[tuple[int, Outcome]]:
        """(index, outcome) for every connection of every family. What `progress` raises ends it."""
        done = 0
        for family, members in families.items():
            for start in range(0, len(members), PART):
                some = members[start : start + PART]
                yield from zip(some, self._family(family, np.array(some)), strict=True)
                done += len(some)
                self.progress(done)

    def acted(self, family: Family, indices: np.ndarray) -> Actions:
        """(k, combinations) actions of connections, with what the family's sizes ask of them besides."""
        return self._acted(family, self.actions(indices))

    def judge(self, family: Family, sizes: Sizes, actions: Actions) -> Judged:
        """Completed sizes under the actions of k connections."""
        standard, k = STANDARDS[family.standard], actions.V.shape[0]
        examined = standard.examine(family.situation, sizes, self.code)
        broken = tuple(r.rule for r in examined.detailing if not r.ok)
        if examined.unchecked:
            return Judged(np.full(k, np.inf), ("",) * k, broken)
        states = limit_states(standard, family.situation, sizes, self.code)
        use, which, _ = evaluate(states, actions)
        return Judged(np.where(np.isnan(use), np.inf, use), tuple(states[n].check for n in which.tolist()), broken)

    def _family(self, family: Family, indices: np.ndarray) -> list[Outcome]:
        actions = self.actions(indices)
        if not actions.V.shape[1]:
            return [_unchecked("no combinations of this method", {})] * len(indices)
        own, other = _missing(family, actions)
        judged = [
            _unchecked("no forces for this member end" if mine else NO_OPPOSED, {}) if mine or opposite else None
            for mine, opposite in zip(own.tolist(), other.tolist(), strict=True)
        ]
        known = np.nonzero(~(own | other))[0]
        if len(known):
            plain = _taken(actions, known)
            outcomes, said = self._climb(family, self._acted(family, plain)), self._dropped(family, plain)
            for k, outcome, words in zip(known.tolist(), outcomes, said, strict=True):
                judged[k] = replace(outcome, notes=(*outcome.notes, *words)) if words else outcome
        return [self._told(outcome) for outcome in judged if outcome is not None]

    def _told(self, outcome: Outcome) -> Outcome:
        """Its words in the units of the batch."""
        notes, reason = all_said(outcome.notes, self.system), said(outcome.reason, self.system)
        return (
            outcome
            if (notes, reason) == (outcome.notes, outcome.reason)
            else replace(outcome, notes=notes, reason=reason)
        )

    def _acted(self, family: Family, actions: Actions) -> Actions:
        """With what the sizes that stay ask of it besides."""
        sizes = self._staying(family)
        return (
            actions if sizes is None else STANDARDS[family.standard].acted(family.situation, sizes, self.code, actions)
        )

    def _dropped(self, family: Family, actions: Actions) -> list[tuple[str, ...]]:
        """What of them that takes the place of, in words."""
        sizes = self._staying(family)
        return (
            [()] * len(actions.V)
            if sizes is None
            else STANDARDS[family.standard].dropped(family.situation, sizes, self.code, actions)
        )

    def _staying(self, family: Family) -> Sizes | None:
        """The sizes that stay, completed; None where a formula has no value: the candidates say so."""
        try:
            return STANDARDS[family.standard].complete(family.situation, dict(family.given))
        except InputError:
            return None

    def _climb(self, family: Family, actions: Actions) -> list[Outcome]:
        """Each rung in turn for those that have not passed yet."""
        if family.axes:
            return self._step_by_step(family, actions)
        k = actions.V.shape[0]
        best, candidates = _Best.of(k), []
        left = np.arange(k)
        for number, rung in enumerate(family.rungs):
            candidate = self._candidate(family, rung)
            candidates.append(candidate)
            if candidate.examined.unchecked:
                _keep(
                    best,
                    left,
                    number,
                    UNKNOWN,
                    np.full(len(left), np.inf),
                    np.zeros(len(left), int),
                    np.zeros(len(left), int),
                )
                continue
            sound = candidate.examined.sound
            if not sound and len(family.rungs) > 1 and number < len(family.rungs) - 1 and (best.rank[left] < 9).all():
                continue  # it can never win over what is kept already
            candidate.states = limit_states(STANDARDS[family.standard], family.situation, candidate.sizes, self.code)
            use, state, action = evaluate(candidate.states, _taken(actions, left))
            passed = use <= family.target
            rank = np.where(np.isnan(use), UNKNOWN, np.where(passed & sound, 0, np.where(sound, 1, 2)))
            _keep(best, left, number, rank, np.where(np.isnan(use), np.inf, use), state, action)
            left = left[best.rank[left] > 0]
            if not len(left):
                break
        won = zip(*(a.tolist() for a in (best.rung, best.rank, best.use, best.state, best.action)), strict=True)
        climbed = [(candidates[r], rank, use, state, action) for r, rank, use, state, action in won]
        return self._told_of(
            family,
            candidates,
            self._least_failing(family, candidates, climbed, lambda number, k: True, actions),
            actions,
        )

    def _least_failing(
        self,
        family: Family,
        candidates: list[_Candidate],
        won: list[_Won],
        tried: Callable[[int, int], bool],
        actions: Actions,
    ) -> list[_Won]:
        """What `won`; for connections that fail whatever was `tried` (number of a candidate, of a connection) in
        place of it the first candidate on which nothing fails but what fails on all of them, else the first of those on
        which the fewest checks and rules do: larger pieces are no answer where they do not help."""
        which = [
            k
            for k, (_, rank, use, _, _) in enumerate(won)
            if rank in (FAILED, BROKEN) and (rank == BROKEN or use > 1.0)
        ]
        if not which or len(candidates) < 2:
            return won
        rows = actions.rows(np.array(which))
        failing = [self._failing(family, candidate, rows) for candidate in candidates]
        for n, k in enumerate(which):
            known = {
                number: what for number, of in enumerate(failing) if (what := of[n]) is not None and tried(number, k)
            }
            if not known:
                continue
            always = frozenset.intersection(*known.values())
            _, number = min((len(what - always), number) for number, what in known.items())
            candidate = candidates[number]
            use, state, action = evaluate(candidate.states, rows.rows(np.array([n])))
            won[k] = (
                candidate,
                FAILED if candidate.examined.sound else BROKEN,
                float(use[0]),
                int(state[0]),
                int(action[0]),
            )
        return won

    def _failing(self, family: Family, candidate: _Candidate, actions: Actions) -> list[frozenset[str] | None]:
        """What fails of a candidate for each of (k, combinations) actions: checks, and rules of detailing; None where
        it cannot be judged."""
        k = actions.V.shape[0]
        if candidate.examined.unchecked:
            return [None] * k
        candidate.states = candidate.states or limit_states(
            STANDARDS[family.standard], family.situation, candidate.sizes, self.code
        )
        broken = frozenset(r.rule for r in candidate.examined.detailing if not r.ok)
        peaks, over = Peaks(), [set(broken) for _ in range(k)]
        unknown = np.zeros(k, bool)
        for state in candidate.states:
            worst, _ = state.worst(actions, peaks)
            unknown |= np.isnan(worst)
            for n in np.nonzero(worst > 1.0)[0].tolist():
                over[n].add(state.check)
        return [None if unknown[n] else frozenset(over[n]) for n in range(k)]

    def _step_by_step(self, family: Family, actions: Actions) -> list[Outcome]:
        """Up the family's axes, for each connection as far as it needs."""
        candidates: dict[Any, _Candidate] = {}

        def attempt(rung: Rung, which: np.ndarray, tried: Tried) -> None:
            candidate = candidates.get(rung) or candidates.setdefault(rung, self._candidate(family, rung))
            if candidate.examined.unchecked:
                tried.rank[which] = UNKNOWN
                return
            candidate.states = candidate.states or limit_states(
                STANDARDS[family.standard], family.situation, candidate.sizes, self.code
            )
            use, state, action = evaluate(candidate.states, _taken(actions, which))
            broken = tuple(r.rule for r in candidate.examined.detailing if not r.ok)
            passed = use <= family.target
            tried.rank[which] = np.where(
                np.isnan(use), UNKNOWN, np.where(bool(broken), BROKEN, np.where(passed, PASSED, FAILED))
            )
            tried.use[which], tried.state[which], tried.action[which] = (
                np.where(np.isnan(use), np.inf, use),
                state,
                action,
            )
            for n, number, well in zip(which.tolist(), state.tolist(), passed.tolist(), strict=True):
                tried.wants[n] = broken + (() if well else (candidate.states[number].check,))

        climb = Climb(family.axes, family.steps, attempt, actions.V.shape[0])
        won: list[_Won] = []
        for n, place in enumerate(climb.run()):
            tried = climb.tried[place]
            won.append(
                (
                    candidates[climb.sizes(place)],
                    int(tried.rank[n]),
                    float(tried.use[n]),
                    int(tried.state[n]),
                    int(tried.action[n]),
                )
            )
        places, own = list(climb.tried), [candidates[climb.sizes(place)] for place in climb.tried]
        won = self._least_failing(
            family, own, won, lambda number, n: climb.tried[places[number]].rank[n] != OPEN, actions
        )
        return self._told_of(family, list(candidates.values()), won, actions)

    def _told_of(
        self, family: Family, candidates: list[_Candidate], won: list[_Won], actions: Actions
    ) -> list[Outcome]:
        """What won for each connection, with its words."""
        for candidate in candidates:
            made_of = not_shipped(STANDARDS[family.standard], family.situation, candidate.sizes)
            candidate.notes = (*candidate.examined.notes, *made_of)
            candidate.broken = [broken_rule(r, self.system) for r in candidate.examined.detailing if not r.ok]
        return [self._outcome(*one, actions, family.target) for one in won]

    def _candidate(self, family: Family, rung: tuple[tuple[str, Sized], ...]) -> _Candidate:
        standard = STANDARDS[family.standard]
        try:
            sizes = standard.complete(family.situation, dict(rung) | dict(family.given))
        except InputError as exc:  # a formula that has no value here
            return _Candidate({}, Examined([], unchecked=[exc.words]))
        return _Candidate(sizes, standard.examine(family.situation, sizes, self.code))

    def _outcome(
        self,
        candidate: _Candidate,
        rank: int,
        use: float,
        number: int,
        combination: int,
        actions: Actions,
        target: float,
    ) -> Outcome:
        if candidate.examined.unchecked:
            return _unchecked(one_cause(candidate.examined.unchecked), candidate.sizes)
        state, action = candidate.states[number], actions.names[combination]
        if rank == UNKNOWN:
            return _unchecked(why_unknown(state, actions), candidate.sizes)
        use = min(use, CEILING)
        over = over_strength(state.check, state.clause, use, action, state.says, self.system)
        if use <= 1.0 and not candidate.broken:
            close = f" ({use:.4f})" if use > target and share(use) == share(target) else ""
            notes = (
                (*candidate.notes, Remark(f"{over}{close}, over the target {target:g}"))
                if use > target
                else candidate.notes
            )
            return Outcome("pass", use, state.check, state.clause, action, "", candidate.sizes, notes, use > target)
        words = [over] if use > 1.0 else []
        reason = "; ".join([*words, *candidate.broken])
        rules = tuple(dict.fromkeys(r.rule for r in candidate.examined.detailing if not r.ok))
        return Outcome(
            "fail", use, state.check, state.clause, action, reason, candidate.sizes, candidate.notes, broken=rules
        )


def _keep(
    best: _Best,
    at: np.ndarray,
    rung: int,
    rank: np.ndarray | int,
    use: np.ndarray,
    state: np.ndarray,
    action: np.ndarray,
) -> None:
    """Take the candidate where it ranks better, or as well with a lower utilisation."""
    rank = np.broadcast_to(rank, use.shape)
    better = (rank < best.rank[at]) | ((rank == best.rank[at]) & (use < best.use[at]) & (rank > 0))
    where = at[better]
    best.rank[where], best.use[where], best.rung[where] = rank[better], use[better], rung
    best.state[where], best.action[where] = state[better], action[better]


def _missing(family: Family, actions: Actions) -> tuple[np.ndarray, np.ndarray]:
    """(k,) whether a connection's own forces are missing, and those of the beam opposite where there is one."""
    own = np.logical_or.reduce([np.isnan(getattr(actions, name)).any(axis=1) for name in COMPONENTS])
    if not family.situation.faced:
        return own, np.zeros_like(own)
    across = actions.opposite()
    return own, np.isnan(across.along + across.normal).any(axis=1)


def _taken(actions: Actions, left: np.ndarray) -> Actions:
    return actions if len(left) == actions.V.shape[0] else actions.rows(left)


def _unchecked(reason: str, sizes: Sizes) -> Outcome:
    return Outcome("unchecked", 0.0, "", "", "", reason, sizes)


def evaluate(states: list[LimitState], actions: Actions) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """(utilisation, limit state, combination) that govern each of (k, combinations) actions, each (k,).

    A utilisation of NaN, with the limit state that gave it first, where any of them is not a number.
    """
    peaks, uses, places = Peaks(), [], []
    for state in states:
        worst, where = state.worst(actions, peaks)
        uses.append(np.where(worst <= 1, 0.0, worst) if state.limit else worst)
        places.append(where)
    every = np.arange(actions.V.shape[0])
    use = np.array(uses)
    which = use.argmax(axis=0)  # NaN counts as the largest, of those alike the first
    return use[which, every], which, np.array(places)[which, every]
