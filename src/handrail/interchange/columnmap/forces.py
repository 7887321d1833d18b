"""Tables of forces recognised, whichever way they stand: a row an end, both ends in a row, rows along the members, a
column group a case, a row a component; with the case in a column, between the rows, across, or in the name of the
file."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field

from handrail.interchange.columnmap.drafts import Draft, Spec
from handrail.interchange.columnmap.finding import Source
from handrail.interchange.columnmap.known import Known
from handrail.interchange.columnmap.language import common_start
from handrail.interchange.columnmap.unit_words import read_unit
from handrail.interchange.columnmap.words import (
    AT_NODES,
    COMPONENTS,
    ENVELOPES,
    FIRST_END,
    LAST_END,
    SIX,
    WORDS,
    bare,
    component,
    is_called,
)

LOADS = r"(load|last|charge|carico|carichi|carga)"
NO_CASE = ("@file", "@sheet", "@case")
SENSES = {
    "plus": "+",
    "minus": "-",
    "pos": "+",
    "neg": "-",
    "positive": "+",
    "negative": "-",
    "+": "+",
    "-": "-",
    "": "",
    "p": "+",
    "n": "-",
    "m": "-",
}
FEW = 40  # different values that a column of components, ends or senses has at most


@dataclass
class Shape:
    """How forces stand in a source: layout, the columns of the six components, those of the two ends where both are in
    a row, parts across."""

    layout: Spec = field(default_factory=dict)
    columns: dict[str, Spec] = field(default_factory=dict)
    ends: dict[str, dict[str, Spec]] = field(default_factory=dict)
    result: str = ""  # the column of the result, where the shape says it
    end: str = ""
    used: tuple[str, ...] = ()
    why: str = ""
    less_sure: tuple[str, ...] = ()  # components that are so by their place only

    @property
    def score(self) -> int:
        return len(self.columns) or min((len(own) for own in self.ends.values()), default=0)


@dataclass
class Forces:
    """Looks for the tables of forces among what is not taken yet."""

    known: Known

    @property
    def results(self) -> list[str]:
        return [*self.known.cases, *self.known.combinations]

    def all(self) -> list[Draft]:
        drafts = []
        if draft := self._end_forces():
            drafts.append(draft)
        else:
            self.known.missing("end_forces", "member, end, result, Fx, Fy, Fz, Mx, My, Mz")
        while (draft := self._at_nodes({d.table for d in drafts})) is not None:
            drafts.append(draft)
        return drafts

    def _end_forces(self) -> Draft | None:
        drafts = [
            (score, source, draft, used)
            for source in self.known.sources
            if not source.used and (made := self._of_members(source))
            for score, draft, used in [made]
        ]
        if not drafts:
            return None
        _, source, draft, used = max(drafts, key=lambda f: f[0])
        source.used = used
        return draft

    def _of_members(self, source: Source) -> tuple[float, Draft, dict[str, str]] | None:
        """How good a table of end forces a source is, and as such."""
        member = next(
            (n for n in source.names if is_called(WORDS["member"], n) and source.held_in(n, self.known.members) > 0.9),
            "",
        )
        member = member or next(
            (
                n
                for n in source.names
                if source.held_in(n, self.known.members) > 0.95
                and not source.unique(n)
                and not any(is_called(WORDS[other], n) for other in ("node", "result", "distance", "end"))
            ),
            "",
        )
        if not member or not self.known.members:
            return None
        shape = self._shape(source, {member}, COMPONENTS)
        if shape is None:
            return None
        draft = Draft(
            "end_forces",
            source.map,
            dict(shape.layout),
            {"member": {"column": member}},
            why={"member": "all are members"},
        )
        used = {"member": member, **{f"of {n}": n for n in shape.used}}
        taken = {member, *shape.used}
        score = float(shape.score) + self._result(source, draft, shape, taken, used)
        if not shape.ends:
            place = self._place(source, draft, shape, taken, used, member)
            score += place or -4.0  # rows that are of no end are none of these
        draft.columns |= shape.columns
        draft.ends = shape.ends
        _filled(draft, shape)
        draft.why.setdefault("Fx", shape.why)
        self._without_envelopes(source, draft)
        return score, draft, used

    def _shape(self, source: Source, taken: set[str], words: dict[str, str]) -> Shape | None:
        """The way that most components are found in."""
        ways = [way(source, taken, words) for way in (self._plain, self._across, self._long, self._cases_across)]
        shapes = [s for s in ways if s is not None and s.score >= 3]
        return max(shapes, key=lambda s: s.score) if shapes else None

    def _plain(self, source: Source, taken: set[str], words: dict[str, str]) -> Shape:
        shape = Shape(why="called so")
        for ours, pattern in words.items():
            theirs = next(
                (
                    n
                    for n in source.names
                    if n not in taken and n not in shape.used and source.numeric(n) and is_called(pattern, n)
                ),
                "",
            )
            if theirs:
                shape.columns[ours] = _sized(source, ours, theirs)
                shape.used += (theirs,)
        _by_place(source, taken, shape, tuple(words))
        return shape

    def _across(self, source: Source, taken: set[str], words: dict[str, str]) -> Shape | None:
        """Columns called by a component and something more: an end, a case, both."""
        columns: dict[str, dict[str, str]] = {}
        for name in source.names:
            if name in taken or not (source.numeric(name) or not any(source.column(name))):
                continue
            for ours, rest in _parted(name, words):
                columns.setdefault(rest, {}).setdefault(ours, name)
                break
        groups = {rest: own for rest, own in columns.items() if len(own) >= 3}
        if len(groups) < 2:
            return None
        ends = {rest: end for rest in groups if (end := _end_of(rest))}
        if len(ends) == len(groups) == 2 and set(ends.values()) == {"i", "j"}:
            both = {
                end: {ours: _sized(source, ours, theirs) for ours, theirs in groups[rest].items()}
                for rest, end in ends.items()
            }
            used = tuple(n for own in groups.values() for n in own.values())
            return Shape(
                {"layout": "ends"}, ends={"i": both["i"], "j": both["j"]}, used=used, why="called so, with their end"
            )
        return self._of_cases(source, groups)

    def _of_cases(self, source: Source, groups: dict[str, dict[str, str]]) -> Shape | None:
        """A column group a case: names with {case} (and {end}) in them."""
        rests = list(groups)
        across = ["case"]
        parts = {rest: {"case": rest} for rest in rests}
        if self.results and sum(r in self.results for r in rests) < 0.5 * len(rests):
            split = {rest: two for rest in rests if (two := _case_and_end(rest))}
            if len(split) == len(rests) and len({two["case"] for two in split.values()}) > 1:
                across, parts = ["case", "end"], split
        first = groups[rests[0]]
        shape = Shape(
            {"across": across},
            result="@case",
            end="@end" if "end" in across else "",
            used=tuple(n for own in groups.values() for n in own.values()),
            why="a column group a case",
        )
        for ours, name in first.items():
            pattern = name
            for part, text in parts[rests[0]].items():
                pattern = re.sub(rf"(?<![A-Za-z0-9]){re.escape(text)}(?![A-Za-z0-9])", f"{{{part}}}", pattern, count=1)
            if all(f"{{{part}}}" in pattern for part in across):
                shape.columns[ours] = _sized(source, ours, name) | {"column": pattern}
        return shape

    def _long(self, source: Source, taken: set[str], words: dict[str, str]) -> Shape | None:
        """A row a component: which it is in one column, its value in another."""
        for name in source.names:
            values = source.distinct(name)
            if name in taken or source.numeric(name) or not 3 <= len(values) <= FEW:
                continue
            known = {ours: v for v in reversed(values) if (ours := component(v, words))}
            numbers = [n for n in source.names if n not in taken and n != name and source.numeric(n)]
            sized = [
                n
                for n in numbers
                if re.search(r"[.,]\d", " ".join(source.column(n)[:50]))
                or is_called(r"^(value|wert|valeur|valore|valor|size)", n)
            ]
            if len(known) >= 3 and sized:
                value = next(
                    (n for n in sized if is_called(r"^(value|wert|valeur|valore|valor|size|amount)", n)), sized[-1]
                )
                columns = {ours: {"column": value, "where": {name: v}} for ours, v in known.items()}
                return Shape({}, columns, used=(name, value), why="a row a component")
        return None

    def _cases_across(self, source: Source, taken: set[str], words: dict[str, str]) -> Shape | None:
        """A row a component and a column a case."""
        cases = [n for n in source.names if n in self.results]
        if len(cases) < 2:
            return None
        for name in source.names:
            values = source.distinct(name)
            known = (
                {ours: v for v in reversed(values) if (ours := component(v, words))}
                if name not in taken and len(values) <= FEW
                else {}
            )
            if len(known) >= 3:
                columns = {ours: {"column": "{case}", "where": {name: v}} for ours, v in known.items()}
                return Shape(
                    {"across": ["case"]},
                    columns,
                    result="@case",
                    used=(name, *cases),
                    why="a row a component, a column a case",
                )
        return None

    def _result(self, source: Source, draft: Draft, shape: Shape, taken: set[str], used: dict[str, str]) -> float:
        """Which column says of which case or combination a row is."""
        if shape.result:
            draft.columns["result"] = {"column": shape.result}
            draft.why["result"] = "in the columns' names"
            return 1.0
        known = set(self.results)
        free = [n for n in source.names if n not in taken]
        best = max(free, key=lambda n: (source.held_in(n, known), is_called(WORDS["result"], n)), default="")
        if (
            best
            and known
            and source.held_in(best, known) > 0.5
            and (best not in NO_CASE or source.held_in(best, known) > 0.99)
        ):
            if (two := self._with_sense(source, best, free)) is not None:
                draft.columns["result"] = two
                used |= {f"result {n}": n for n in two["columns"]}
            else:
                draft.columns["result"] = {"column": best}
                used["result"] = best
            draft.why["result"] = "cases and combinations"
            return 1.0
        for name in [n for n in free if n in NO_CASE] + [n for n in free if not source.numeric(n)]:
            if spec := _picked(source, name, self.results):
                draft.columns["result"] = spec
                draft.why["result"] = (
                    "in the name of the file"
                    if name == "@file"
                    else "in the name of the sheet"
                    if name == "@sheet"
                    else "part of the text"
                )
                used["result"] = name
                return 1.0
        called = next((n for n in free if is_called(WORDS["result"], n)), "@case" if "@case" in source.names else "")
        if called:
            draft.columns["result"], used["result"] = {"column": called}, called
            return 0.5
        return 0.0

    def _with_sense(self, source: Source, name: str, free: list[str]) -> Spec | None:
        """A case in one column and its sense (plus, minus) in another."""
        known = set(self.results)
        for other in free:
            if other == name or source.numeric(other) or not 2 <= len(set(source.column(other))) <= 4:
                continue
            pairs = dict.fromkeys(zip(source.column(name), source.column(other), strict=True))
            meant = {a + b: a + SENSES.get(bare(b) or b, b) for a, b in pairs}
            if all(v in known or re.search(ENVELOPES, bare(v)) for v in meant.values()) and any(
                k != v for k, v in meant.items()
            ):
                return {"columns": [name, other], "join": "", "values": {k: v for k, v in meant.items() if k != v}}
        return None

    def _place(
        self, source: Source, draft: Draft, shape: Shape, taken: set[str], used: dict[str, str], member: str
    ) -> float:
        """Which end a row is of, or how far along the member it is."""
        if shape.end:
            words = dict.fromkeys(w for name in shape.used for w in re.findall(r"\w+", name) if _end_of(w))
            draft.columns["end"] = {"column": shape.end, "values": {w: _end_of(w) for w in words}}
            return 1.0
        free = [n for n in source.names if n not in taken and n not in used.values()]
        for name in free:
            values = source.distinct(name)
            ends: dict[str, str] = {v: _end_of(v) for v in values}
            called = is_called(WORDS["end"], name) or not source.numeric(name) or bare(name) in ("end", "node", "at")
            if len(values) == 2 and set(ends.values()) == {"i", "j"} and called:
                draft.columns["end"] = (
                    {"column": name} if ends == {"i": "i", "j": "j"} else {"column": name, "values": ends}
                )
                used["end"] = name
                draft.why["end"] = "two to a member"
                return 1.0
        for name in free:
            if source.held_in(name, self.known.nodes) > 0.98 and is_called(WORDS["node"], name):
                draft.columns["end"], used["end"] = {"column": name}, name
                draft.why["end"] = "the node at that end"
                return 1.0
        place = next((n for n in free if is_called(WORDS["distance"], n) and source.numeric(n)), "")
        place = place or next((n for n in free if _is_place(source, n)), "")
        if place:
            draft.layout["layout"] = "stations"
            unit = read_unit(source.units.get(place, ""), "length", True) or read_unit(place, "length")
            places = {float(v.replace(",", ".")) for v in source.distinct(place) if re.fullmatch(r"\d+[.,]?\d*", v)}
            share = max(places, default=2.0) == 1.0 or "l" in bare(place).split()
            draft.columns["distance"] = (
                {"column": place, "unit": unit or "share"} if unit or share else {"column": place}
            )
            draft.why["distance"] = (
                "as a share of the length"
                if share and not unit
                else "rows along each member: the first and last are its ends"
            )
            used["distance"] = place
            return 1.0
        for name in ("@file", "@sheet"):
            values = source.distinct(name) if name in source.names else []
            ends = {v: _end_in(v) for v in values}
            if values and set(ends.values()) == {"i", "j"}:
                draft.columns["end"] = {"column": name, "values": ends}
                draft.why["end"] = "in the name of the file"
                return 1.0
        return 0.0

    def _without_envelopes(self, source: Source, draft: Draft) -> None:
        """Rows that are envelopes of others are left out, wherever a column says so."""
        out: dict[str, list[str]] = {}
        for name in source.names:
            values = source.distinct(name)
            odd = [v for v in values if re.search(ENVELOPES, bare(v)) and v not in self.results]
            if odd and len(odd) < len(values) <= 400 and not source.numeric(name):
                out[name] = odd
        if out:
            draft.layout["not"] = {name: sorted(odd) for name, odd in out.items()}
            draft.notes.append("envelopes are left out: shown by a program, never in balance")

    def _at_nodes(self, there: set[str]) -> Draft | None:
        """Reactions, or loads on nodes."""
        for source in self.known.sources:
            node = self._node(source) if not source.used else ""
            shape = self._shape(source, {node}, AT_NODES) if node else None
            if shape is None or shape.ends:
                continue
            used = {"node": node, **{f"of {n}": n for n in shape.used}}
            said = f"{source.called} {source.above if not source.map.after else ''}"
            table = (
                "node_loads"
                if re.search(LOADS, bare(re.sub(r"(?i)load ?cases?|lastf[aä]lle?|cas de charge", "", said)))
                else "reactions"
            )
            draft = Draft(
                table, source.map, dict(shape.layout), {"node": {"column": node}}, why={"node": "all are nodes"}
            )
            if table in there or not self._result(source, draft, shape, {node, *shape.used}, used):
                continue
            draft.columns |= shape.columns
            _filled(draft, shape)
            self._without_envelopes(source, draft)
            source.used = used
            return draft
        return None

    def _node(self, source: Source) -> str:
        """The column of a source that names nodes."""
        nodes = self.known.nodes
        called = next((n for n in source.names if is_called(WORDS["node"], n) and source.held_in(n, nodes) > 0.9), "")
        return called or next(
            (n for n in source.names if source.held_in(n, nodes) > 0.98 and not source.numeric(n)), ""
        )


def _filled(draft: Draft, shape: Shape) -> None:
    """Components in their order; those that no column is called as are nothing, and said to be."""
    for own in shape.ends.values() or [draft.columns]:
        for ours in SIX:
            if ours in shape.less_sure:
                draft.why[ours] = "less sure: by its place among the others, not by name"
            if ours not in own:
                draft.why[ours] = "no column of it: taken as nothing"
            own[ours] = own.pop(ours, {"value": 0})


def _by_place(source: Source, taken: set[str], shape: Shape, words: tuple[str, ...]) -> None:
    """Columns that are called by no component: as many in a unit of force, or of moment, as are missing of them, in
    their order; where nothing says a unit, six numbers with fractions."""
    others = ("node", "member", "result", "distance", "end")
    free = [
        n
        for n in source.names
        if n not in taken
        and n not in shape.used
        and source.numeric(n)
        and not any(is_called(WORDS[o], n) for o in others)
    ]
    for letter in "FM":
        missing = [ours for ours in words if ours[0] == letter and ours not in shape.columns]
        sized = [n for n in free if "unit" in _sized(source, letter, n)]
        if shape.columns and len(sized) == len(missing):
            _placed(source, shape, missing, sized)
    fractions = [n for n in free if n not in shape.used and re.search(r"[.,]\d", " ".join(source.column(n)[:50]))]
    missing = [ours for ours in words if ours not in shape.columns]
    if (
        len(missing) in (len(words), len(words) - 1)
        and len(fractions) == len(missing)
        and not any(source.units.get(n) for n in fractions)
    ):
        _placed(source, shape, missing, fractions)


def _placed(source: Source, shape: Shape, missing: list[str], names: list[str]) -> None:
    shape.columns |= {ours: _sized(source, ours, theirs) for ours, theirs in zip(missing, names, strict=True)}
    shape.used += tuple(names)
    shape.less_sure += tuple(missing)


def _sized(source: Source, ours: str, theirs: str) -> Spec:
    kind = "force" if ours[0] == "F" else "moment"
    unit = read_unit(source.units.get(theirs, ""), kind, True) or read_unit(theirs, kind)
    return {"column": theirs, "unit": unit} if unit else {"column": theirs}


def _parted(name: str, words: dict[str, str]) -> Iterator[tuple[str, str]]:
    """(component, the rest of the name) for each way that a name begins or ends with a component."""
    text = re.sub(r"[\[(].*?[\])]", " ", name).strip()
    tokens = [m.group() for m in re.finditer(r"[^\s/:|,;]+", text)]
    for count in range(1, len(tokens)):
        for own, rest in ((tokens[:count], tokens[count:]), (tokens[-count:], tokens[:-count])):
            if ours := component(" ".join(own), words):
                yield ours, " ".join(rest).strip(" -_.")
    parts = re.split(r"[_.\-]", text)
    for k in (0, len(parts) - 1) if len(parts) > 1 else ():
        if ours := component(parts[k], words):
            yield ours, text[len(parts[0]) + 1 :] if k == 0 else text[: -len(parts[-1]) - 1]
    if (match := re.match(r"^([A-Za-z]{1,3}?)([ijIJ12])$", text)) and (ours := component(match[1], words)):
        yield ours, match[2]


def _end_of(word: str) -> str:
    low = bare(word)
    return "i" if low in FIRST_END else "j" if low in LAST_END else ""


def _end_in(text: str) -> str:
    """The end that a text has a word of, not counting single letters and figures."""
    words = set(bare(text).split())
    return (
        "i"
        if words & {w for w in FIRST_END if len(w) > 1 or w == "i"}
        else "j"
        if words & {w for w in LAST_END if len(w) > 1 or w == "j"}
        else ""
    )


def _case_and_end(rest: str) -> dict[str, str] | None:
    tokens = rest.split()
    for end, case in ((tokens[-1:], tokens[:-1]), (tokens[:1], tokens[1:])):
        if end and case and _end_of(end[0]):
            return {"case": " ".join(case), "end": end[0]}
    return None


def _picked(source: Source, name: str, results: list[str]) -> Spec | None:
    """A case that is a part of each text of a column, between the same words."""
    texts = source.distinct(name)
    picks = {
        t: max((r for r in results if re.search(rf"(^|[^\w]){re.escape(r)}($|[^\w])", t)), key=len, default="")
        for t in texts[:400]
    }
    if not texts or not all(picks.values()) or len(set(picks.values())) < len(picks):
        return None
    begin = common_start([t[: t.rindex(r)] for t, r in picks.items()])
    end = common_start([t[t.rindex(r) + len(r) :][::-1] for t, r in picks.items()])[::-1]
    if all(t == begin + r + end for t, r in picks.items()):
        return {"column": name, "pick": f"{begin}*{end}"} if begin or end else {"column": name}
    return {"column": name, "values": picks}


def _is_place(source: Source, name: str) -> bool:
    """Whether numbers grow along each member from 0."""
    if not source.numeric(name):
        return False
    values = [v.replace(",", ".") for v in source.column(name)]
    return (
        values.count("0") + values.count("0.0") + values.count("0.00") + values.count("0.000") >= 0.1 * len(values)
        and len(set(values)) > 2
    )
