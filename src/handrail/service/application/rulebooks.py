"""Rulebooks on their way in: read, tried against how a job stands, adopted as its next revision."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from functools import partial
from typing import Any

from handrail.core.checking.coverage import Changed, Comparison, Coverage, Stands, compare, coverage
from handrail.core.checking.digests import Grounds
from handrail.core.checking.nameless import Nameless, nameless
from handrail.core.checking.result import CEILING
from handrail.core.rulebook import Rulebook, Text, read_rulebook
from handrail.core.rulebook.differing import also_in_words
from handrail.core.standards import STANDARDS
from handrail.service.application import effort, standing
from handrail.service.application.attempting import attempt
from handrail.service.application.plans import Seen, look_at, plan_of
from handrail.service.application.refused import Refused
from handrail.store import connections, designs, house, jobs, rulebooks
from handrail.store.models import Job

SHOWN = 500
CHANGED = "the rulebook was changed"
ORDER = {"fail": 0, "unchecked": 1, "unassigned": 2, "pass": 3, "elsewhere": 4}


def read(given: Text) -> Rulebook:
    """A rulebook that may inherit from those of the house. Raises RulebookError."""
    return read_rulebook(given.text, given.files, designs.library)


def adopt(job: Job, given: Text, name: str, author: str, expected: str = "") -> None:
    """Keep a rulebook as the job's next revision; what it gives other sizes or another standard is stale. Raises
    RulebookError, InputError, Refused."""
    book = read(given)
    house.refuse_unapproved(book.inherits, job)
    designs.refuse([rule.design for rule in book.rules if rule.design and not rule.origin], job)
    work = partial(_adopting, job, book, given, name, author, expected)
    attempt(job, work, _Adopting.write, "the job", decided=False)


@dataclass(frozen=True)
class _Adopting:
    """A rulebook on its way in: what it makes stale of a job as it was read."""

    job: Job
    fresh: Job
    book: Rulebook
    given: Text
    name: str
    author: str
    kept: dict[str, Grounds]
    seen: Seen | None
    stale: set[str]

    @property
    def basis(self) -> _Adopting:
        return self

    def stands(self) -> bool:
        """Whether the job is as it was read. Inside the transaction that writes."""
        now = Job.get_by_id(self.job.id)
        if now.rulebook_version != self.fresh.rulebook_version or (self.seen and _moved(self.seen, self.book)):
            return False
        # a run may have written results since their grounds were read
        return bool(now.moves == self.fresh.moves) or connections.kept_grounds(self.job) == self.kept

    def write(self) -> bool:
        """Keep it, and mark what it makes otherwise."""
        rulebooks.adopt(self.job, self.given.text, self.given.files, self.book.inherits, self.name, self.author)
        connections.mark_stale(self.job, CHANGED, self.stale)
        return True


def _adopting(job: Job, book: Rulebook, given: Text, name: str, author: str, expected: str) -> _Adopting:
    fresh = Job.get_by_id(job.id)
    if expected and expected != str(fresh.rulebook_version):
        raise Refused(
            412,
            f"the rulebook is at version {fresh.rulebook_version}, not {expected}; read it again, nothing was lost",
        )
    kept = connections.kept_grounds(job)
    seen = look_at(job, rulebook=book) if jobs.has_model(job) else None
    stale = standing.no_longer(seen, book, kept) if seen else set()
    connections.mark_ahead(job, CHANGED, stale)
    left = standing.still_kept(job, kept, stale)
    return _Adopting(job, fresh, book, given, name, author, left, seen, stale)


def _moved(seen: Seen, book: Rulebook) -> bool:
    now = look_at(seen.job, rulebook=book)
    return now.stamp != seen.stamp or bool(now.moved(seen))


def tried(job: Job, given: Text, comparing: bool) -> dict[str, Any]:
    """What a rulebook would take, and what would be otherwise than now. Raises RulebookError."""
    book = read(given)
    if not jobs.has_model(job):
        nothing = Coverage({rule.name: 0 for rule in book.rules}, {}, (), {})
        return _covered(book, nothing, jobs.system_of(job)) | {"compared": None}
    seen = look_at(job, rulebook=book)
    then = plan_of(seen, rulebook=book)
    answer = _covered(book, coverage(then, effort.step), then.building.system, nameless(then))
    return answer | {
        "compared": (
            _compared(compare(plan_of(seen), then, stands(job), effort.step), stands(job), then.building.system)
            if comparing
            else None
        )
    }


def stands(job: Job) -> dict[str, Stands]:
    """How every connection of a job stands."""
    return {
        key: Stands(status, standard, rule, sizes, use, reason, last)
        for key, status, standard, rule, sizes, use, reason, last in connections.stand(job)
    }


def _covered(book: Rulebook, of: Coverage, system: str, names: Sequence[Nameless] = ()) -> dict[str, Any]:
    return {
        "nameless": [asdict(one) for one in names],
        "rules": [
            {"name": r.name, "takes": of.takes.get(r.name, 0), "line": r.line, "origin": r.origin} for r in book.rules
        ],
        "also": also_rules(book, of.adds, system),
        "never": [name for name, number in of.takes.items() if not number],
        "shadowed": [{"name": name, "by": dict(by)} for name, by in of.shadowed.items() if by],
        "uncovered": list(of.uncovered[:SHOWN]),
        "uncovered_total": len(of.uncovered),
        "unresolved": [{"connection": key, "why": why} for key, why in list(of.unresolved.items())[:SHOWN]],
        "unresolved_total": len(of.unresolved),
    }


def also_rules(book: Rulebook, adds: Mapping[str, int], system: str) -> list[dict[str, Any]]:
    """Each also-rule, what it adds in words, and to how many connections."""
    return [
        {
            "name": a.name,
            "takes": adds.get(a.name, 0),
            "line": a.line,
            "origin": a.origin,
            "when": [str(part) for part in a.when.parts],
            "adds": also_in_words(a, system),
            "note": a.note,
        }
        for a in book.also
    ]


def _compared(compared: Comparison, kept: dict[str, Stands], system: str) -> dict[str, Any]:
    before = Counter(s.status for s in kept.values())
    after = before.copy()
    for one in compared.changed:
        after[one.before.status] -= 1
        after[one.after.status] += 1
    newly = Counter(c.after.status for c in compared.changed if c.after.status != c.before.status)
    shown = sorted(
        compared.changed, key=lambda c: (c.after.status == c.before.status, ORDER[c.after.status], c.connection)
    )[:SHOWN]
    return {
        "touched": compared.touched,
        "changed": len(compared.changed),
        "newly_pass": newly["pass"],
        "newly_fail": newly["fail"],
        "newly_unchecked": newly["unchecked"],
        "resized": sum(c.after.status == c.before.status for c in compared.changed),
        "statuses_before": dict(before),
        "statuses_after": {s: n for s, n in after.items() if n},
        "before": _rounded(compared.before),
        "after": _rounded(compared.after),
        "system": system,
        "connections": [_changed(c, system) for c in shown],
    }


def _rounded(made: Any) -> dict[str, float]:
    return {name: round(value, 2) for name, value in made.items()}


def _changed(one: Changed, system: str) -> dict[str, Any]:
    return {"connection": one.connection, "before": side(one.before, system), "after": side(one.after, system)}


def side(of: Stands, system: str) -> dict[str, Any]:
    """How a connection stands, as it is shown."""
    standard = STANDARDS.get(of.standard)
    summary = standard.summary(of.sizes, system) if standard and of.sizes else ""
    return {
        "status": of.last or of.status,
        "standard": of.standard,
        "rule": of.rule,
        "summary": summary,
        "utilisation": round(min(of.utilisation, CEILING), 6),
        "reason": of.reason,
    }
