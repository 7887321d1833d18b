"""What holds a design back: combinations that cannot be formed, or contradict their name, until somebody lets them stand."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from functools import cached_property

from handrail.core.building.audit.combinations import MISNAMED, UNFORMED, misnamed
from handrail.core.building.combining import CombinationSet
from handrail.core.checking.acting import Acting

LetStand = Collection[tuple[str, str]]  # (code of a finding, combination)


@dataclass(frozen=True)
class Doubts:
    """Of the combinations that connections are judged by, in words; none of those that are `let_stand`."""

    acting: Acting
    let_stand: LetStand = ()

    def of(self, k: int) -> str:
        """Why connection `k` is not judged; empty where nothing is in doubt."""
        if not self.acting.names:
            return ""  # there is nothing to judge it by: that is said elsewhere
        more = self._overstrength if self.acting.collector[k] else ""
        base = self._anchored if self.acting.connections[k].framing == "column_base" else ""
        return self._strength or more or base

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
        found = [(UNFORMED, name, f"combination {name} cannot be formed ({why})") for name, why in of.missing]
        found += [(MISNAMED, name, f"combination {name} has no {missing} in it, which its name says")
                  for name, missing in self._misnamed.items() if any(n == name or n.startswith(f"{name} ") for n in of.names)]  # fmt: skip
        open_ = [(code, name, words) for code, name, words in found if (code, name) not in self.let_stand and (code, "") not in self.let_stand]
        if not open_:
            return ""
        code, name, words = open_[0]
        more = f" (and {len(open_) - 1} more)" if len(open_) > 1 else ""
        return f"{words}{more}: mend it, or let the finding {code} of {name} stand, with a reason"
