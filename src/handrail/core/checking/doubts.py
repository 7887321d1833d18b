"""What holds a design back: errors of the model, combinations that cannot be formed or contradict their name, until
somebody lets them stand."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from handrail.core.building.audit.combinations import GATED, MISNAMED, UNFORMED, misnamed
from handrail.core.building.combining import CombinationSet
from handrail.core.checking.acting import Acting

LetStand = Collection[tuple[str, str]]  # (code of a finding, combination or member)
Errors = tuple[
    tuple[str, str, str, str], ...
]  # (code, member, piece, words) of what the audit found wrong of the model itself; no piece: of all of it


def errors_of(findings: Iterable[Mapping[str, Any]]) -> Errors:
    """The errors of an audit that hold designs back."""
    return tuple(
        (f["code"], f.get("member", ""), f.get("piece", ""), f["message"]) for f in findings if f["code"] in GATED
    )


@dataclass(frozen=True)
class Doubts:
    """Of the model and the combinations that connections are judged by, in words; none of those that are
    `let_stand`."""

    acting: Acting
    let_stand: LetStand = ()
    errors: Errors = ()

    def of(self, k: int) -> str:
        """Why connection `k` is not judged; empty where nothing is in doubt."""
        if self._open and (words := self._of_model(k)):
            return words
        if not self.acting.names:
            return ""  # there is nothing to judge it by: that is said elsewhere
        more = self._overstrength if self.acting.collector[k] else ""
        base = self._anchored if self.acting.connections[k].framing == "column_base" else ""
        return self._strength or more or base

    @cached_property
    def _open(self) -> Errors:
        return tuple(e for e in self.errors if (e[0], e[1]) not in self.let_stand and (e[0], "") not in self.let_stand)

    def _of_model(self, k: int) -> str:
        """The first error of the model that concerns connection `k`."""
        connection, members = self.acting.connections[k], self.acting.building.members
        pieces = {members[m].physical for m in (connection.member, connection.support) if m is not None}
        doubt = next(
            ((code, member, words) for code, member, piece, words in self._open if not piece or piece in pieces), None
        )
        if doubt is None:
            return ""
        code, member, words = doubt
        of = f" of {member}" if member else ""
        return f"{words.split(';')[0]}: mend it, or let the finding {code}{of} stand, with a reason"

    @cached_property
    def _strength(self) -> str:
        return self._in(self.acting.strength)

    @cached_property
    def _overstrength(self) -> str:
        return self._in(self.acting.overstrength)

    @cached_property
    def _anchored(self) -> str:
        return self._in(self.acting.anchored[0])

    @cached_property
    def _misnamed(self) -> dict[str, str]:
        return dict(misnamed(self.acting.building))

    def _in(self, of: CombinationSet) -> str:
        """The first doubt about a set of combinations, and how many more there are."""
        doubts = [(UNFORMED, name, f"combination {name} cannot be formed ({why})") for name, why in of.missing]
        doubts += [
            (MISNAMED, name, f"combination {name} has no {missing} in it, which its name says")
            for name, missing in self._misnamed.items()
            if any(n == name or n.startswith(f"{name} ") for n in of.names)
        ]
        open_ = [
            (code, name, words)
            for code, name, words in doubts
            if (code, name) not in self.let_stand and (code, "") not in self.let_stand
        ]
        if not open_:
            return ""
        code, name, words = open_[0]
        more = f" (and {len(open_) - 1} more)" if len(open_) > 1 else ""
        return f"{words}{more}: mend it, or let the finding {code} of {name} stand, with a reason"
