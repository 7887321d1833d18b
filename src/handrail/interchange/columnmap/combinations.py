"""Combinations recognised: a row a term, a column a case or a combination, sums of cases; their set and method said,
told in another table, or by factors."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import partial

from handrail.interchange.columnmap.drafting import named, plain, valued
from handrail.interchange.columnmap.drafts import Draft, Spec
from handrail.interchange.columnmap.finding import Source
from handrail.interchange.columnmap.known import Known
from handrail.interchange.columnmap.language import ASK
from handrail.interchange.columnmap.words import METHODS, SETS, meaning

Kinds = tuple[tuple[str, tuple[str, ...]], ...]
MOST_VALUES = 60
NEARLY, SOME = 0.7, 0.4  # of the words in a column: service has no method


@dataclass
class Combinations:
    """Looks for the combinations among what is not taken yet."""

    known: Known

    def all(self) -> Draft | None:
        """The table of combinations, whichever way it stands."""
        known = set(self.known.cases)
        more = ("set", "method")
        best = self.known.best(
            ("combination", "case", "factor"),
            lambda s, u: s.held_in(u["case"], known) if s.numeric(u["factor"]) else 0.0,
            more,
        )
        if best:
            draft = plain(
                "combinations", best[0], {n: c for n, c in best[1].items() if n in ("combination", "case", "factor")}
            )
        elif best := (
            self.known.best(("combination", "terms"), self._are_sums, more)
            or self.known.best(
                ("combination", "terms"), self._are_sums, more, {"combination": r"^(name|id|no|nr|number|key)$"}
            )
        ):
            draft = plain("combinations", best[0], {"combination": best[1]["combination"]})
            draft.layout = {"layout": "terms"}
            draft.columns["factor"] = {"column": best[1]["terms"]}
            draft.why["factor"] = "cases with their factors, as a sum"
        elif best := self.known.best(
            ("combination",), lambda s, u: float(s.unique(u["combination"]) and len(self._wide(s)) > 1), more
        ):
            draft = plain("combinations", best[0], {"combination": best[1]["combination"]})
            draft.layout, draft.cases = {"layout": "cases"}, self._wide(best[0])
            best[0].used |= {f"x {c}": n for n, c in draft.cases.items()}
        elif best := self.known.best(("case",), self._are_across):
            draft = plain("combinations", best[0], {"case": best[1]["case"]})
            draft.layout = {"across": ["combination"]}
            names = self._factors(best[0], best[1])
            draft.columns |= {"combination": {"column": "@combination"}, "factor": {"column": "{combination}"}}
            best[0].used |= {f"factor {n}": n for n in names}
            self.known.combinations = names
            return self._judged(draft, best[0], {}, names)
        else:
            self.known.missing("combinations", "combination, set, method, case, factor")
            return None
        source, used = best
        self.known.combinations = source.distinct(used["combination"])
        return self._judged(draft, source, used, self.known.combinations)

    def _are_sums(self, source: Source, used: dict[str, str]) -> float:
        """Whether texts are sums of cases with their factors."""
        names = "|".join(map(re.escape, sorted(self.known.cases, key=len, reverse=True)))
        texts = [v for v in source.column(used["terms"]) if v]
        if not texts or not names or not source.unique(used["combination"]):
            return 0.0
        return float(
            sum(bool(re.search(rf"\d\s*[*x×·]?\s*(?:{names})(?![A-Za-z0-9])", v)) for v in texts) > 0.8 * len(texts)
        )

    def _are_across(self, source: Source, used: dict[str, str]) -> float:
        """Whether a row is a case and a column a combination."""
        return float(
            source.held_in(used["case"], set(self.known.cases)) > 0.9
            and source.unique(used["case"])
            and len(self._factors(source, used)) > 1
        )

    def _factors(self, source: Source, used: dict[str, str]) -> list[str]:
        """The columns that are a combination each: numbers, or nothing, that factors may be."""
        others = [n for n in source.names if n not in used.values() and not n.startswith("@")]
        return (
            others
            if others
            and all(source.numeric(n) and all(abs(_float(v)) <= 5 for v in source.distinct(n)) for n in others)
            else []
        )

    def _judged(self, draft: Draft, source: Source, used: dict[str, str], names: list[str]) -> Draft:
        """Set and method: by a column that says so, else by what the combinations are called, else by their factors."""
        for ours, kinds in (("set", SETS), ("method", METHODS)):
            theirs = used.get(ours) or self._by_content(draft, source, used, kinds)
            values = source.distinct(theirs)[:MOST_VALUES] if theirs else []
            if theirs and sum(bool(meaning(kinds, v)) for v in values) > SOME * len(values):
                draft.columns[ours] = valued(theirs, values, partial(_judged_by, kinds, ours))
                continue
            by_name = {n: meaning(kinds, n) for n in names}
            if (
                "combination" in draft.columns
                and "column" in draft.columns["combination"]
                and sum(map(bool, by_name.values())) > 0.7 * len(names) > 0
            ):
                column = draft.columns["combination"]["column"]
                draft.columns[ours] = {
                    "column": column,
                    "values": {n: by_name[n] or ("none" if ours == "method" else "service") for n in names[:200]},
                }
                draft.why[ours] = "by what the combinations are called"
                continue
            if (told := self._told_of(draft, names, ours, kinds)) is not None:
                draft.columns[ours] = told
                draft.why[ours] = f"it stands in {told['from']}"
                continue
            if method := self._by_factors(source, used):
                draft.columns[ours] = {"value": method if ours == "method" else "strength"}
                draft.why[ours] = "by their factors, which make loads larger"
                continue
            draft.columns[ours] = {"value": ASK}
            draft.why[ours] = (
                "nothing says so: strength, service, overstrength"
                if ours == "set"
                else "nothing says so: LRFD, ASD or none"
            )
        return draft

    def _by_content(self, draft: Draft, source: Source, used: dict[str, str], kinds: Kinds) -> str:
        """The column whose words nearly all speak of a set, or a method, whatever it is called."""
        known = {used.get(n) for n in ("combination", "case", "factor", "terms")} | {
            s.get("column") for n, s in draft.columns.items() if n != "set"
        }
        for name in source.names:
            values = [] if name in known or source.numeric(name) else source.distinct(name)
            if (
                values
                and sum(bool(meaning(kinds, v)) for v in values) > (NEARLY if kinds is SETS else SOME) * len(values)
                and not source.unique(name)
            ):
                return name
        return ""

    def _told_of(self, draft: Draft, names: list[str], ours: str, kinds: Kinds) -> Spec | None:
        """A combination's set or method in a table of its own."""
        by = draft.columns["combination"].get("column")
        for source in self.known.sources:
            key = (
                next((n for n in source.names if source.unique(n) and set(names) <= set(source.column(n))), "")
                if by
                else ""
            )
            theirs = named(source, ours, {key}) if key else ""
            values = source.distinct(theirs) if theirs else []
            if values and sum(bool(meaning(kinds, v)) for v in values) > SOME * len(values):
                spec = valued(theirs, values, partial(_judged_by, kinds, ours))
                return {"from": self.known.lookup_named(source, key), "by": by, **spec}
        return None

    def _wide(self, source: Source) -> dict[str, str]:
        """The columns of a source that are a case each: its name, perhaps behind a word."""
        columns = {n: [c for c in self.known.cases if re.search(rf"(^|[^\w]){re.escape(c)}$", n)] for n in source.names}
        return {
            n: max(own, key=len)
            for n, own in columns.items()
            if own and (source.numeric(n) or not any(source.column(n)))
        }

    def _by_factors(self, source: Source, used: dict[str, str]) -> str:
        """The method that factors speak of: loads made larger are LRFD."""
        if "factor" not in used or "case" not in used:
            return ""
        larger = [f for f in map(_float, source.column(used["factor"])) if 1.15 <= f <= 1.75]
        return "LRFD" if len(larger) > 0.2 * len(source.rows) else ""


def _judged_by(kinds: Kinds, ours: str, word: str) -> str:
    """The set or method that a word speaks of; what has no method has none."""
    return meaning(kinds, word) or ("none" if ours == "method" else ASK)


def _float(text: str) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        return float("inf")
