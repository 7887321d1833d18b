"""What is known of the tables while they are recognised one after the other, and how the next is looked for."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field

from handrail.interchange.columnmap.drafting import named
from handrail.interchange.columnmap.drafts import Whole
from handrail.interchange.columnmap.finding import Source
from handrail.interchange.columnmap.words import bare

Fits = Callable[[Source, dict[str, str]], float]


@dataclass
class Known:
    """What there is, and what is known of it so far: the tables drafted, names of nodes, members, cases and
    combinations."""

    sources: list[Source]
    whole: Whole = field(default_factory=Whole)
    nodes: set[str] = field(default_factory=set)
    members: set[str] = field(default_factory=set)
    cases: list[str] = field(default_factory=list)
    combinations: list[str] = field(default_factory=list)

    def best(
        self, needs: tuple[str, ...], fits: Fits, more: tuple[str, ...] = (), words: dict[str, str] | None = None
    ) -> tuple[Source, dict[str, str]] | None:
        """The source whose columns are called as ours are, and that fits best; columns of ours -> theirs."""
        fitting: list[tuple[float, Source, dict[str, str]]] = []
        for source in self.sources:
            if source.used:
                continue
            used: dict[str, str] = {}
            for ours in (*needs, *more):
                if theirs := named(source, ours, set(used.values()), words):
                    used[ours] = theirs
            if all(n in used for n in needs) and (score := fits(source, used)) > 0:
                fitting.append(
                    (score + 0.1 * len(used) + 0.001 * len(source.rows) / (1 + len(source.rows)), source, used)
                )
        if not fitting:
            return None
        _, source, used = max(fitting, key=lambda f: f[0])
        source.used = dict(used)
        return source, used

    def missing(self, table: str, columns: str) -> None:
        """Say that a table was not recognised."""
        words = (
            f'# [tables.{table}] was not recognised. It needs {columns}:\n# [tables.{table}]\n# file = "..."\n#'
            f" [tables.{table}.columns]"
        )
        self.whole.missing.append(words)

    def lookup_named(self, source: Source, key: str) -> str:
        """The look-up's name in the map, made where there is none yet."""
        for name, (known, _) in self.whole.lookups.items():
            if known is source.map:
                return name
        words = bare(
            re.sub(
                r"\.\w+$",
                "",
                (source.map.sheet or source.map.after or source.map.file)[0].replace("*", " ").rsplit("/", 1)[-1],
            )
        )
        name = re.sub(r"\W+", "_", words).strip("_")[:24] or f"lookup{len(self.whole.lookups) + 1}"
        name = name if name not in self.whole.lookups else f"{name}_{len(self.whole.lookups) + 1}"
        source.used.setdefault("key", key)
        self.whole.lookups[name] = (source.map, key)
        return name
