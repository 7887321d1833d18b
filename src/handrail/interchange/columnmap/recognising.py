"""Which of the tables that were found is which of ours, by the names of its columns and by what stands in them; in the
order in which they rest on each other: nodes, members between these, forces of these."""

from __future__ import annotations

import re
from collections.abc import Iterator

from handrail.interchange.columnmap.beside import Beside
from handrail.interchange.columnmap.combinations import Combinations
from handrail.interchange.columnmap.drafting import UNIT_OF, named, plain, valued
from handrail.interchange.columnmap.drafts import Draft, Spec, Whole
from handrail.interchange.columnmap.finding import Source
from handrail.interchange.columnmap.forces import Forces
from handrail.interchange.columnmap.known import Known
from handrail.interchange.columnmap.language import ASK
from handrail.interchange.columnmap.taking import is_known
from handrail.interchange.columnmap.unit_words import as_written, read_unit
from handrail.interchange.columnmap.words import (
    COMPONENTS,
    NATURES,
    NO,
    RELEASED,
    RELEASES,
    ROLES,
    WORDS,
    YES,
    bare,
    component,
    is_called,
    meaning,
)

HELD = ("ux", "uy", "uz", "rx", "ry", "rz")
MOST_VALUES = 60
NOT_RELEASED = (
    "",
    "-",
    "none",
    "fixed",
    "rigid",
    "0",
    "no",
    "non",
    "nein",
    "fest",
    "starr",
    "keine",
    "kein",
    "aucun",
    "aucune",
    "nessuno",
    "ninguno",
    "geen",
    "rigido",
    "rigide",
    "empotrado",
    "encastre",
    "incastrato",
    "incastro",
    "eingespannt",
    "continuous",
    "continuo",
    "continu",
    "vast",
    "stijf",
)
PINNED = ("pin", "hing", "gelenk", "rotul", "cernier", "articul", "simpl", "scharnier")
FILLERS = ("", "and", "und", "et", "e", "y", "en", "end", "joint", "connection", "ended")
ORDER = (
    "nodes",
    "members",
    "supports",
    "foundations",
    "cases",
    "combinations",
    "end_forces",
    "reactions",
    "node_loads",
    "member_loads",
    "grids",
    "levels",
    "pieces",
    "splices",
)


class Recognised(Known):
    """What each source was taken for, table by table."""

    def all(self) -> Whole:
        """Every table that is recognised."""
        for look in (self._nodes, self._members, self._supports, self._cases, Combinations(self).all):
            if draft := look():
                self.whole.tables.append(draft)
        self.whole.tables += [*Beside(self).all(), *Forces(self).all()]
        self.whole.tables.sort(key=lambda t: ORDER.index(t.table))
        self._units()
        read = {id(s) for s in self.sources if s.used}
        self.whole.unread = sorted({s.called for s in self.sources if id(s) not in read})
        return self.whole

    def _nodes(self) -> Draft | None:
        def fits(source: Source, used: dict[str, str]) -> float:
            return 1.0 if source.unique(used["node"]) and all(source.numeric(used[n]) for n in "xyz") else 0.0

        best = self.best(("node", "x", "y", "z"), fits) or self._nodes_by_content()
        if best is None:
            self.missing("nodes", "node, x, y, z")
            return None
        source, used = best
        self.nodes = set(source.column(used["node"]))
        draft = plain("nodes", source, used)
        draft.notes += _by_content(used, ("node", "x", "y", "z"))
        draft.why["node"] = f"{len(self.nodes)} of them, no two alike"
        return draft

    def _nodes_by_content(self) -> tuple[Source, dict[str, str]] | None:
        """A table of an id and three numbers with fractions, and that others refer to."""
        for source in self.sources:
            numbers = [n for n in source.names if source.numeric(n) and not n.startswith("@")]
            ids = [n for n in source.names if source.unique(n)]
            coordinates = [n for n in numbers if n != (ids or [""])[0]]
            if (
                ids
                and len(coordinates) == 3
                and not source.used
                and len(source.names) <= 6
                and self._referred(source, ids[0])
            ):
                source.used = {"node": ids[0], **dict(zip("xyz", coordinates, strict=True))}
                return source, dict(source.used)
        return None

    def _referred(self, source: Source, name: str) -> bool:
        ids = set(source.column(name))
        return any(sum(s.held_in(n, ids) > 0.95 for n in s.names) >= 2 for s in self.sources if s is not source)

    def _members(self) -> Draft | None:
        def fits(source: Source, used: dict[str, str]) -> float:
            return (
                min(source.held_in(used[end], self.nodes) for end in "ij")
                if source.unique(used["member"]) and self.nodes
                else 0.0
            )

        more = ("section", "grade", "roll", "role", "physical", "release_i", "release_j")
        best = self.best(
            ("member", "i", "j"), lambda s, u: f if (f := fits(s, u)) > 0.9 else 0.0, more
        ) or self._members_by_content(more)
        if best is None:
            self.missing("members", "member, i, j, section, grade")
            return None
        source, used = best
        self.members = set(source.column(used["member"]))
        draft = plain("members", source, {n: c for n, c in used.items() if n in ("member", "i", "j", "roll")})
        draft.notes += _by_content(used, ("member", "i", "j"))
        draft.why |= {
            "member": f"{len(self.members)} of them, no two alike",
            "i": "all are nodes",
            "j": "all are nodes",
        }
        for ours in ("section", "grade"):
            draft.columns[ours] = self._catalogued(source, used, ours, draft)
        if "role" in used and any(meaning(ROLES, v) for v in source.distinct(used["role"])):
            values = source.distinct(used["role"])[:MOST_VALUES]
            draft.columns["role"] = valued(used["role"], values, lambda v: meaning(ROLES, v) or ASK)
        if "physical" in used and not source.unique(used["physical"]):
            draft.columns["physical"] = {"column": used["physical"]}
        draft.columns |= self._released(source, used, draft)
        return draft

    def _members_by_content(self, more: tuple[str, ...]) -> tuple[Source, dict[str, str]] | None:
        """A table of an id and two nodes."""
        for source in self.sources:
            ids = (
                [n for n in source.names if source.unique(n) and source.held_in(n, self.nodes) < 0.95]
                if not source.used and self.nodes
                else []
            )
            ends = [n for n in source.names if source.held_in(n, self.nodes) > 0.98 and n not in ids[:1]]
            if ids and len(ends) == 2:
                used = {"member": ids[0], "i": ends[0], "j": ends[1]}
                for ours in more:
                    if theirs := named(source, ours, set(used.values())):
                        used[ours] = theirs
                source.used = dict(used)
                return source, used
        return None

    def _catalogued(self, source: Source, used: dict[str, str], ours: str, draft: Draft) -> Spec:
        """A member's section or grade: what the catalogue holds as it is, codes looked up in another table, words about
        it told."""
        theirs = used.get(ours) or next(
            (n for n in source.names if n not in used.values() and _share_known(source, n, ours) > 0.5), ""
        )
        if not theirs:
            draft.why[ours] = 'no column is called so: write what all are of, like {value = "A992"}'
            return {"value": ASK}
        source.used[ours] = theirs
        values = source.distinct(theirs)
        if all(is_known(ours, v) for v in values):
            draft.why[ours] = f"all {len(values)} are in the catalogue"
            return {"column": theirs}
        if (looked := self._look_up(ours, theirs, values)) is not None:
            draft.why[ours] = f"its codes stand in {looked['from']}"
            return looked
        odd = [v for v in values if not is_known(ours, v)]
        meant = {v: _within(ours, v) for v in odd[:MOST_VALUES]}
        draft.why[ours] = f"{len(odd)} of {len(values)} are not in the catalogue as they are written"
        return {"column": theirs, "values": meant}

    def _look_up(self, ours: str, theirs: str, codes: list[str]) -> Spec | None:
        """A table that has every code once, and beside it what the catalogue holds."""
        for source in self.sources:
            for key in source.names:
                if not source.unique(key) or not set(codes) <= set(source.column(key)):
                    continue
                for name in source.names:
                    own = dict(zip(source.column(key), source.column(name), strict=True))
                    meant = list(dict.fromkeys(own[c] for c in codes if own.get(c)))
                    known = [v for v in meant if is_known(ours, v) or _within(ours, v) != ASK]
                    if (
                        name != key
                        and meant
                        and len(known) > 0.7 * len(meant)
                        and any(not v.isdecimal() for v in meant)
                    ):
                        spec: Spec = {"from": self.lookup_named(source, key), "by": theirs, "column": name}
                        if odd := [v for v in meant if not is_known(ours, v)]:
                            spec["values"] = {v: _within(ours, v) for v in odd[:MOST_VALUES]}
                        return spec
        return None

    def _released(self, source: Source, used: dict[str, str], draft: Draft) -> dict[str, Spec]:
        """Releases: by words, by a code that another table tells, or by columns of yes and no."""
        specs: dict[str, Spec] = {}
        for end in "ij":
            ours = f"release_{end}"
            if theirs := used.get(ours):
                values = source.distinct(theirs)
                looked = self._hinges(theirs, values)
                draft.texts[ours] = values
                specs[ours] = looked or valued(theirs, values[:MOST_VALUES], releases_meant)
                draft.why[ours] = (
                    "its codes stand in another table" if looked else "which of N Vy Vz T My Mz are released"
                )
        if not specs:
            specs = self._released_by_content(source, draft)
        if specs:
            return specs
        for end, flags in releases_by_flags(source).items():
            if flags:
                specs[f"release_{end}"] = {"yes": _yes(source, flags), "flags": flags}
                source.used |= {f"release_{end} {ours}": theirs for ours, theirs in flags.items()}
                draft.why[f"release_{end}"] = "columns of yes and no, by component and end"
        if not specs:
            draft.notes.append("release_i, release_j: which of N Vy Vz T My Mz are released; no column was recognised")
        return specs

    def _released_by_content(self, source: Source, draft: Draft) -> dict[str, Spec]:
        """Two columns of words of releases, whatever they are called: i before j."""
        taken = set(source.used.values())
        both = []
        for name in source.names:
            values = [] if name in taken or source.numeric(name) else source.distinct(name)
            meant = {releases_meant(v) for v in values[:MOST_VALUES]}
            if meant - {""} and ASK not in meant:
                both.append(name)
        if len(both) != 2:
            return {}
        for end, name in zip("ij", both, strict=True):
            draft.why[f"release_{end}"] = "less sure: by what stands in it, not by name"
            source.used[f"release_{end}"] = name
        return {
            f"release_{end}": valued(name, source.distinct(name)[:MOST_VALUES], releases_meant)
            for end, name in zip("ij", both, strict=True)
        }

    def _hinges(self, theirs: str, codes: list[str]) -> Spec | None:
        """Codes of hinges whose table has a column a component."""
        for source in self.sources:
            for key in source.names:
                if not codes or not source.unique(key) or not set(codes) - {"0", "-"} <= set(source.column(key)):
                    continue
                flags = {
                    RELEASED[c]: n for n in source.names if n != key and (c := component(n)) and _is_flag(source, n)
                }
                flags = flags or {
                    RELEASED[c]: n for n in source.names if n != key and (c := _direction(n)) and _is_flag(source, n)
                }
                if len(flags) >= 2:
                    return {
                        "from": self.lookup_named(source, key),
                        "by": theirs,
                        "yes": _yes(source, flags),
                        "flags": flags,
                    }
        return None

    def _supports(self) -> Draft | None:
        def fits(source: Source, used: dict[str, str]) -> float:
            marks = [source.distinct(used[n]) for n in HELD if n in used]
            words = all(
                len(own) <= 3 and all(len(v) <= 12 and not re.search(r"[.,]\d", v) for v in own) for own in marks
            )
            return source.held_in(used["node"], self.nodes) if source.unique(used["node"]) and words else 0.0

        def whole(source: Source, used: dict[str, str]) -> float:
            return share if (share := fits(source, used)) > 0.9 else 0.0

        best = self.best(("node", "ux", "uy", "uz"), whole, HELD[3:])
        best = best or self.best(
            ("node", "ux", "uy", "uz"),
            whole,
            HELD[3:],
            {f"u{c}": rf"^{c}$" for c in "xyz"} | {f"r{c}": rf"^{c}{c}$" for c in "xyz"},
        )
        if best is None:
            return self._supports_by_word()
        source, used = best
        draft = plain("supports", source, {"node": used["node"]})
        marks = _held_marks(source, [used[n] for n in HELD[:3]])
        for name in HELD:
            if name in used:
                draft.columns[name] = valued(
                    used[name],
                    source.distinct(used[name])[:12],
                    lambda v: held(v) if held(v) != ASK else marks.get(v, ASK),
                )
                if marks:
                    draft.why[name] = "what all supports hold in every direction is held"
            else:
                draft.columns[name] = {"value": 0}
                draft.why[name] = "no column of it: taken as free"
        return draft

    def _supports_by_word(self) -> Draft | None:
        """Supports by a word each: pinned, fixed."""
        word = {"support": r"(support|restraint|fixity|type|auflager|lager|appui|vincolo|apoyo|condition)"}

        def fits(source: Source, used: dict[str, str]) -> float:
            known = [held_by_word(v, "ux") for v in source.distinct(used["support"])]
            return source.held_in(used["node"], self.nodes) if known and ASK not in known and len(known) < 12 else 0.0

        best = self.best(("node", "support"), lambda s, u: f if (f := fits(s, u)) > 0.9 else 0.0, (), word)
        best = best or self._supports_by_content()
        if best is None:
            self.missing("supports", "node, ux, uy, uz, rx, ry, rz: 1 held, 0 free")
            return None
        source, used = best
        draft = plain("supports", source, {"node": used["node"]})
        for name in HELD:
            draft.columns[name] = {
                "column": used["support"],
                "values": {v: held_by_word(v, name) for v in source.distinct(used["support"])},
            }
        return draft

    def _supports_by_content(self) -> tuple[Source, dict[str, str]] | None:
        """A column of words that all say how a support holds, beside one of nodes, whatever they are called."""
        for source in self.sources:
            node = next(
                (
                    n
                    for n in source.names
                    if not source.used and source.unique(n) and source.held_in(n, self.nodes) > 0.98
                ),
                "",
            )
            for name in source.names if node else ():
                words = [] if name == node or source.numeric(name) else source.distinct(name)
                if words and all(held_by_word(w, "ux") != ASK for w in words):
                    source.used = {"node": node, "support": name}
                    return source, dict(source.used)
        return None

    def _cases(self) -> Draft | None:
        def fits(source: Source, used: dict[str, str]) -> float:
            values = source.distinct(used["nature"])
            return (
                1.0 + sum(bool(meaning(NATURES, v)) for v in values) / max(len(values), 1)
                if source.unique(used["case"]) and any(meaning(NATURES, v) for v in values)
                else 0.0
            )

        best = self.best(("case", "nature"), fits, ("title",)) or self.best(
            ("case", "nature"), fits, (), {"nature": WORDS["title"]}
        )
        best = best or self.best(
            ("case", "nature"), fits, (), {"case": r"^(id|no|nr|number|name|key)$", "nature": WORDS["nature"]}
        )
        if best is None:
            self.missing("cases", "case, nature")
            return None
        source, used = best
        self.cases = source.distinct(used["case"])
        draft = plain("cases", source, {n: c for n, c in used.items() if n != "nature"})
        draft.columns["nature"] = valued(
            used["nature"], source.distinct(used["nature"])[:MOST_VALUES], lambda v: meaning(NATURES, v) or "other"
        )
        draft.why["case"] = ", ".join(self.cases[:8]) + (" ..." if len(self.cases) > 8 else "")
        return draft

    def _units(self) -> None:
        """The units of the job: those that the columns say, else those that stand over the tables or in one of their
        own."""
        said: dict[str, list[str]] = {"length": [], "force": [], "moment": []}
        for table in self.whole.tables:
            for specs in (table.columns, *table.ends.values()):
                for ours, spec in specs.items():
                    kind = UNIT_OF.get(ours) or {"F": "force", "M": "moment"}.get(
                        ours[0] if ours in COMPONENTS else "", ""
                    )
                    if kind in said and spec.get("unit"):
                        said[kind].append(spec["unit"])
        for kind, own in said.items():
            where = "the columns say so"
            if not own:
                own, where = self._told(kind), "it stands over the tables"
            self.whole.units[kind] = max(own, key=own.count) if own else ASK
            self.whole.why[f"units.{kind}"] = where if own else "nothing says so"
        small = {"m": "mm", "mm": "mm", "cm": "mm", "ft": "in", "in": "in"}
        self.whole.units["section"] = small.get(self.whole.units["length"], ASK)
        self.whole.why["units.section"] = "of a table of sections, where there is one"

    def _told(self, kind: str) -> list[str]:
        texts = [s.above for s in self.sources] + [
            " ".join(row) for s in self.sources if len(s.rows) < 12 and not s.used for row in s.rows
        ]
        return [u for text in texts for u in units_in(text, kind)]


def units_in(words: str, kind: str) -> list[str]:
    """Units of a kind in what stands over a table: `units kN, m`; a moment's from both where it has none of its own."""
    if not re.search(r"unit|einheit|unite|unita|unidad|eenhe|[\[(]", words, re.IGNORECASE):
        return []
    tokens = [as_written(t) for t in re.findall(r"[A-Za-z]+(?:[*·.\-][A-Za-z]+)?", words)]
    known = {"length": ("mm", "cm", "m", "in", "ft"), "force": ("kN", "N", "kip", "lbf", "MN")}
    if kind == "moment":
        own = [u for t in tokens if (u := read_unit(t, "moment", True))]
        return own or [f"{force}*{long}" for force, long in zip(units_in(words, "force"), units_in(words, "length"))]
    return [t for t in tokens if t in known.get(kind, ())]


def _by_content(used: dict[str, str], names: tuple[str, ...]) -> list[str]:
    """How sure a table is: of columns that are called otherwise, only by what stands in them."""
    odd = [used[n] for n in names if n in used and not is_called(WORDS[n], used[n])]
    return (
        [f"less sure: {', '.join(odd)} by what stands in {'it' if len(odd) == 1 else 'them'}, not by name"]
        if odd
        else []
    )


def _held_marks(source: Source, translations: list[str]) -> dict[str, str]:
    """Two marks that nobody knows: the one that supports have in all their directions is held, for a support that holds
    nothing is none."""
    marks = {v for n in translations for v in source.column(n)}
    if not 1 <= len(marks) <= 2 or any(held(v) != ASK for v in marks - {"f", "F", "r", "R"}):
        return {}
    whole = {row[0] for row in zip(*(source.column(n) for n in translations), strict=True) if len(set(row)) == 1}
    if len(whole) != 1:
        return {}
    others = {v for n in source.names for v in source.distinct(n) if len(v) == 1} - whole
    return {next(iter(whole)): "1", **dict.fromkeys(others, "0")}


def held(word: str) -> str:
    low = bare(word)
    return "1" if low in YES or low in ("1.0",) else "0" if low in NO else ASK


def held_by_word(word: str, direction: str) -> str:
    low = bare(word)
    if any(
        w in low
        for w in ("fix", "clamp", "encast", "rigid", "built", "einspann", "eingespannt", "incastr", "empotr", "inklem")
    ):
        return "1"
    if any(w in low for w in ("pin", "hing", "simple", "gelenk", "articul", "rotule", "cerniera", "scharnier")):
        return "1" if direction[0] == "u" else "0"
    return ASK


def releases_meant(word: str) -> str:
    """Which components a word or a list of them releases."""
    low = bare(word)
    if low in NOT_RELEASED:
        return ""
    parts = [part for part in re.split(r"[\s,;+/&]+", word) if part]
    named = [RELEASED[c] for part in parts if (c := component(part))]
    rest = [p for p in (bare(part) for part in parts if not component(part)) if p not in FILLERS]
    pins = [p for p in rest if any(p.startswith(w) for w in PINNED)]
    if pins and len(pins) == len(rest):  # a hinge is of both moments, unless it says of which
        return " ".join(
            n for n in RELEASED.values() if n in named or (n in ("My", "Mz") and not {"My", "Mz"} & set(named))
        )
    if named and not rest:
        return " ".join(named)
    if re.fullmatch(r"[01xXfFrR\-]{6}", word.strip()):  # six marks, free or held, in the order of N Vy Vz T My Mz
        free = {"r", "x"} if set(word.lower()) & {"r", "x"} else {"1"}
        return " ".join(n for n, mark in zip(RELEASED.values(), word.strip().lower(), strict=True) if mark in free)
    return ASK


def _direction(name: str) -> str:
    """The component of a release that is named by what moves: ux, phi y."""
    low = bare(name).replace(" ", "")
    match = re.match(r"^(u|r|phi|fi)([xyz])$", low)
    return f"{'F' if match[1] == 'u' else 'M'}{match[2]}" if match else ""


def releases_by_flags(source: Source) -> dict[str, dict[str, str]]:
    """Columns of yes and no that are called by an end and a component: end -> component -> column."""
    releases: dict[str, dict[str, str]] = {"i": {}, "j": {}}
    for name in source.names:
        if name in source.used.values() or not _is_flag(source, name):
            continue
        for rest, end in _ends_of(name):
            if (
                ours := component(re.sub(r"\b(release|rel|hinge)s?\b|,", " ", rest).strip()) or _direction(rest)
            ) and RELEASED[ours] not in releases[end]:
                releases[end][RELEASED[ours]] = name
                break
    return releases


def _ends_of(name: str) -> Iterator[tuple[str, str]]:
    """(the rest, the end) of a name that begins or ends with one."""
    low = bare(name)
    for pattern in (
        r"^(?P<rest>.*?)[ ]*(?:at )?(?P<end>start|end|i|j|1|2|begin)$",
        r"^(?P<end>start|end|i|j|1|2)[ ]*(?P<rest>.*)$",
    ):
        if match := re.match(pattern, low):
            yield match["rest"].strip(), "i" if match["end"] in ("start", "i", "1", "begin") else "j"


def _is_flag(source: Source, name: str) -> bool:
    return {bare(v) for v in source.column(name)} <= {*YES, *NO, "1.0"}


def _yes(source: Source, flags: dict[str, str]) -> list[str]:
    words = {v for n in flags.values() for v in source.column(n) if bare(v) in RELEASES}
    return sorted(words) or ["yes"]


def _share_known(source: Source, name: str, ours: str) -> float:
    values = source.distinct(name)
    return (
        sum(is_known(ours, v) for v in values if not v.isdecimal()) / len(values)
        if values and len(values) < 2000
        else 0.0
    )


def _within(ours: str, words: str) -> str:
    """The word of some that the catalogue holds; else a question."""
    parts = [*words.split(), *re.split(r"[\s:,;()\-]+", words)]
    return next((w for w in parts if len(w) > 1 and not w.isdecimal() and is_known(ours, w)), ASK)
