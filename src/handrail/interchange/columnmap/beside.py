"""What stands beside the frame, recognised: grid lines, levels, splices, pieces where they are, loads along members,
concrete under supports."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from handrail.interchange.columnmap.drafting import column, plain, valued
from handrail.interchange.columnmap.drafts import Draft
from handrail.interchange.columnmap.finding import Source
from handrail.interchange.columnmap.known import Known
from handrail.interchange.columnmap.language import ASK
from handrail.interchange.columnmap.words import (
    CONCRETE,
    EDGES,
    FOUNDATIONS,
    KINDS_OF_LOAD,
    LOADED,
    WORDS,
    bare,
    meaning,
)

MOST_VALUES, MOST_LEVELS = 60, 400
NEVER = 0.9  # of a column that refers to members or nodes, so much is found there, or it does not


@dataclass
class Beside:
    """Looks for these tables among what is not taken yet; none of them is needed."""

    known: Known

    def all(self) -> Iterator[Draft]:
        """Each that is there."""
        for look in (self._loads, self._foundations, self._grids, self._levels, self._pieces, self._splices):
            if draft := look():
                yield draft

    def _grids(self) -> Draft | None:
        four = ("x1", "y1", "x2", "y2")
        best = self.known.best(("grid", *four), lambda s, u: float(all(s.numeric(u[n]) for n in four)))
        return plain("grids", *best) if best else None

    def _levels(self) -> Draft | None:
        best = self.known.best(
            ("level", "z"), lambda s, u: float(s.unique(u["level"]) and s.numeric(u["z"]) and len(s.rows) < MOST_LEVELS)
        )
        return plain("levels", *best) if best else None

    def _splices(self) -> Draft | None:
        """Splices along members, in a table of little else."""

        def fits(source: Source, used: dict[str, str]) -> float:
            others = [n for n in source.names if n not in used.values() and source.numeric(n)]
            small = len(source.rows) <= max(len(self.known.members), 1) and len(source.names) <= 4 and not others
            return (
                _referring(source, used["member"], self.known.members)
                if small and source.numeric(used["distance"])
                else 0.0
            )

        words = {
            "distance": WORDS["distance"].replace("^(?:", "^(?:from start|from i|from|place|"),
            "kind": r"^(?:kind|what|type|art|genre|tipo)$",
        }
        best = self.known.best(("member", "distance"), fits, ("kind",), words)
        return plain("splices", *best) if best else None

    def _pieces(self) -> Draft | None:
        """Where a building model's pieces are, where it is beside the analysis."""
        six = ("x1", "y1", "z1", "x2", "y2", "z2")
        best = self.known.best(
            ("piece", *six), lambda s, u: float(all(s.numeric(u[n]) for n in six)), ("section", "top")
        )
        return plain("pieces", *best) if best else None

    def _loads(self) -> Draft | None:
        """Loads along members: a row each, its direction by a word."""

        def fits(source: Source, used: dict[str, str]) -> float:
            towards = source.distinct(used["direction"])
            if not (
                towards and all(direction(v) != ASK or _is_down(v) for v in towards) and source.numeric(used["value"])
            ):
                return 0.0
            return min(
                _referring(source, used["member"], self.known.members),
                _referring(source, used["case"], set(self.known.cases)),
            )

        best = self.known.best(
            ("member", "case", "direction", "value"), fits, ("kind", "value_to", "from", "to"), LOADED
        )
        if best is None:
            return None
        source, used = best
        draft = plain("member_loads", source, {n: used[n] for n in ("member", "case", "from", "to") if n in used})
        for ours in ("value", "value_to"):
            if ours in used:
                spec = column(source, ours, used[ours], "per_length")
                draft.columns[ours] = spec if "unit" in spec else column(source, ours, used[ours], "force")
        spread = "/" in str(draft.columns["value"].get("unit", ""))
        draft.columns["kind"] = {"value": "distributed" if spread else ASK}
        draft.why["kind"] = (
            "its unit is a force on a length" if spread else "no column says whether they are point or distributed"
        )
        if "kind" in used:
            draft.columns["kind"] = valued(
                used["kind"], source.distinct(used["kind"])[:MOST_VALUES], lambda v: meaning(KINDS_OF_LOAD, v) or ASK
            )
            del draft.why["kind"]
        self._towards(draft, source, used)
        return draft

    def _towards(self, draft: Draft, source: Source, used: dict[str, str]) -> None:
        """The direction of loads; where all go down, their size is turned."""
        values = source.distinct(used["direction"])
        if all(map(_is_down, values)):
            draft.columns["direction"] = {"value": "Z"}
            draft.why["direction"] = "all go down: up is Z, and their size is turned"
            for ours in ("value", "value_to"):
                if ours in draft.columns:
                    draft.columns[ours]["factor"] = -1
            return
        draft.columns["direction"] = valued(used["direction"], values[:MOST_VALUES], direction)

    def _foundations(self) -> Draft | None:
        """Concrete under supports."""

        def fits(source: Source, used: dict[str, str]) -> float:
            sized = source.numeric(used["fc"]) and source.numeric(used["thickness"]) and source.unique(used["node"])
            return _referring(source, used["node"], self.known.nodes) if sized else 0.0

        best = self.known.best(("node", "fc", "thickness"), fits, ("kind", *EDGES, "turn", "cracked"), CONCRETE)
        if best is None:
            return None
        source, used = best
        draft = plain("foundations", source, {"node": used["node"]})
        for ours in ("fc", "thickness", *EDGES, "turn"):
            if ours in used:
                draft.columns[ours] = column(
                    source, ours, used[ours], {"fc": "stress", "turn": "angle"}.get(ours, "length")
                )
                if marks := [v for v in source.distinct(used[ours]) if not any(c.isdigit() for c in v)]:
                    draft.columns[ours]["values"] = dict.fromkeys(marks, "")
                    draft.why[ours] = "no number: too far to count"
        draft.columns["kind"] = {"value": ASK}
        if "kind" in used:
            draft.columns["kind"] = valued(
                used["kind"], source.distinct(used["kind"])[:MOST_VALUES], lambda v: meaning(FOUNDATIONS, v) or ASK
            )
        if "cracked" in used:
            draft.columns["cracked"] = {"column": used["cracked"]}
        unit = str(draft.columns["fc"].get("unit", ""))
        self.known.whole.units["stress"] = unit or ASK
        self.known.whole.why["units.stress"] = "the columns say so" if unit else "nothing says so"
        return draft


def _referring(source: Source, name: str, ids: set[str]) -> float:
    share = source.held_in(name, ids)
    return share if share > NEVER else 0.0


def direction(word: str) -> str:
    """Of a load: X, Y, Z of the model, or x, y, z of the member; a question where a word says neither. A letter by
    itself is as it is written."""
    low = bare(word)
    for axis, others in (
        ("x", ("east", "ost", "est")),
        ("y", ("north", "nord", "norte")),
        ("z", ("height", "up", "vertical", "vertikal", "hoch", "haut")),
    ):
        if low in others or (
            re.fullmatch(rf"(?:g(?:lob\w*)? ?)?{axis}(?: ?(?:glob\w*|g|proj\w*))?", low) and low != axis
        ):
            return axis.upper()
        if re.fullmatch(rf"(?:l(?:ocal|okal|ocale)?|member|bar) ?{axis}|{axis} ?(?:local|lokal|locale|l)", low):
            return axis
        if low == axis:
            return word.strip()[:1]
    return ASK


def _is_down(word: str) -> bool:
    return bare(word) in (
        "gravity",
        "down",
        "downward",
        "downwards",
        "unten",
        "nach unten",
        "bas",
        "basso",
        "abajo",
        "gravite",
        "gravita",
        "gravedad",
    )
