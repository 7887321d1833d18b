"""Proposes a first map from the files themselves: columns by their names and by what stands in them. To be corrected, not trusted: what is not
stated anywhere, like units, is asked for with a question mark."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from handrail.core import units
from handrail.core.catalogue import grade, section
from handrail.core.errors import InputError
from handrail.interchange.columnmap.finding import Source, sources_in

ASK = "?"


# names by which a column is known, the trade's own words; the first that fits wins
WORDS: dict[str, str] = {
    "node": r"^(node|joint|point|knot)( ?(id|no|number|name|label))?\.?$", "x": r"^(x|east(ing)?|x.?coord\w*|coord\w* ?x)$",
    "y": r"^(y|north(ing)?|y.?coord\w*|coord\w* ?y)$", "z": r"^(z|height|elev(ation)?|level|z.?coord\w*|coord\w* ?z)$",
    "member": r"^(member|element|bar|beam|rod|line)( ?(id|no|number|name|label))?\.?$",
    "i": r"^(i|start|from|first|node ?1|start ?(node|joint|point)|(node|joint|point|end) ?i|i.?(end|node|joint))$",
    "j": r"^(j|end|to|second|last|node ?2|end ?(node|joint|point)|(node|joint|point|end) ?j|j.?(end|node|joint))$",
    "section": r"(section|profile|shape|size|designation)", "grade": r"(grade|material|steel)", "roll": r"^(roll|rotation|beta|angle|turn)$",
    "release_i": r"^releases? (at )?(i|start)$", "release_j": r"^releases? (at )?(j|end)$",
    "role": r"^(role|type|kind|usage|design ?type)$", "result": r"^(result|(load ?)?(case|combo|combination)|output ?case|load)( ?(id|no|name))?$",
    "end": r"^(end|node ?end|which ?end)$", "distance": r"^(at|station|distance|position|location|where|x ?/ ?l|pos)$",
    "Fx": r"^(f ?x|n|p|axial|normal|thrust)( ?force)?$", "Fy": r"^(f ?y|v ?y|q ?y|shear ?y|web ?shear|major ?shear|v)$",
    "Fz": r"^(f ?z|v ?z|q ?z|shear ?z|side ?shear|minor ?shear)$", "Mx": r"^(m ?x|t|mt|torsion|torque|twist)$",
    "My": r"^(m ?y|moment ?y|side ?bending|minor ?(moment|bending))$", "Mz": r"^(m ?z|moment ?z|web ?bending|major ?(moment|bending)|m)$",
    "case": r"^(load ?)?case( ?(id|no|name))?$", "title": r"(title|words|description|comment)", "nature": r"^(nature|category|action|type|kind)$",
    "combination": r"^(load ?)?(combo|combination)( ?(id|no|name))?$", "set": r"^(set|state|limit ?state|kind|type)$", "method": r"^(method|design|code)$",
    "factor": r"^(factor|coefficient|scale( ?factor)?|multiplier)$",
    "grid": r"^(grid|axis|line)( ?(line|id|no|name|label))?$", "level": r"^(level|floor|stor(e?y|ies))( ?(id|no|name|label))?$",
    **{c: rf"^({c[0]} ?{c[1]}|{c[0]} ?{at}|{at} ?{c[0]}|{at} {'east|easting' if c[0] == 'x' else 'north|northing'})$"
       for c, at in (("x1", "(?:start|from)"), ("y1", "(?:start|from)"), ("x2", "(?:end|to)"), ("y2", "(?:end|to)"))},
    **{u: rf"^({u}|{'restraint|fix(ed)?|held|t' if u[0] == 'u' else 'rotation|r'} ?{u[1]})$" for u in ("ux", "uy", "uz", "rx", "ry", "rz")},
}
SIX = ("Fx", "Fy", "Fz", "Mx", "My", "Mz")
# at nodes, about the global axes
AT_NODES = {"Fx": r"^(f ?x|r ?x|x|force x)$", "Fy": r"^(f ?y|r ?y|y|force y)$", "Fz": r"^(f ?z|r ?z|z|force z)$",
            "Mx": r"^(m ?x|about x|moment x)$", "My": r"^(m ?y|about y|moment y)$", "Mz": r"^(m ?z|about z|moment z)$"}  # fmt: skip
RELEASED = {"Fx": "N", "Fy": "Vy", "Fz": "Vz", "Mx": "T", "My": "My", "Mz": "Mz"}
HELD = ("ux", "uy", "uz", "rx", "ry", "rz")
UNIT_OF = {**dict.fromkeys(("x", "y", "z", "distance", "x1", "y1", "x2", "y2"), "length"), **{n: "force" for n in SIX[:3]}, **{n: "moment" for n in SIX[3:]}}


def proposed(folder: Path) -> str:
    """A map in TOML for the tables in `folder`."""
    sources = list(sources_in(folder))
    found = _Found(sources)
    tables = [text for make in (found.nodes, found.members, found.supports, found.cases, found.combinations, found.forces, found.reactions,
                                 found.grids, found.levels) if (text := make())]
    unread = sorted({s.file + (f" sheet {s.sheet}" if s.sheet else "") for s in sources if not s.used})
    head = ["# Proposed from the files; every line is to be looked at. Where there is a ?, the files do not say: write it.", "map = 1", 'title = ""',
            'up = "Z"             # or "Y"', f'forces = "{ASK}"         # internal (the section\'s resultant) or on_member (what the node does to the end)',
            'vertical_y = "X"     # the global axis that the web of a column without roll lies along', "",
            "[units]              # of the job; a column in another unit says so",
            *(f'{n} = "{found.unit(n)}"' for n in ("length", "force", "moment")),
            f'section = "{found.unit("section")}"       # of a table of sections, where there is one']  # fmt: skip
    if unread:
        head += ["", "# Not recognised: " + ", ".join(unread)]
    return "\n".join(head) + "\n\n" + "\n\n".join(tables) + "\n"


@dataclass
class _Found:
    """What each source was taken for, in the order in which tables rest on each other."""

    sources: list[Source]
    node_ids: set[str] = field(default_factory=set)
    member_ids: set[str] = field(default_factory=set)
    cases_known: list[str] = field(default_factory=list)

    def unit(self, name: str) -> str:
        """The unit that the files' own words give, else a question."""
        if name == "section":
            return {"m": "mm", "mm": "mm", "cm": "mm", "ft": "in", "in": "in"}.get(self.unit("length"), ASK)
        said = [u for s in self.sources for ours, theirs in s.used.items() if UNIT_OF.get(ours) == name and (u := _said(theirs, name))]
        said = said or [u for s in self.sources for u in _above(s.above, name)]
        return max(said, key=said.count) if said else ASK

    def _named(self, source: Source, ours: str, taken: set[str], words: dict[str, str]) -> str:
        """The column of a source that is called what ours is."""
        pattern = re.compile((WORDS | words)[ours], re.IGNORECASE)
        return next((n for n in source.names if n not in taken and pattern.search(_bare(n))), "")

    def _best(self, needs: tuple[str, ...], fits: Callable[[Source, dict[str, str]], bool], more: tuple[str, ...] = (),
              words: dict[str, str] | None = None) -> Source | None:  # fmt: skip
        for source in self.sources:
            if source.used:
                continue
            used: dict[str, str] = {}
            for ours in (*needs, *more):
                if theirs := self._named(source, ours, set(used.values()), words or {}):
                    used[ours] = theirs
            if all(n in used for n in needs) and fits(source, used):
                source.used = used
                return source
        return None

    def nodes(self) -> str:
        found = self._best(("node", "x", "y", "z"), lambda s, used: s.unique(used["node"]) and all(s.numeric(used[n]) for n in "xyz"))
        if found is None:
            return _missing("nodes", "node, x, y, z")
        self.node_ids = set(found.column(found.used["node"]))
        return self._written("nodes", found)

    def members(self) -> str:
        def fits(source: Source, used: dict[str, str]) -> bool:
            return source.unique(used["member"]) and all(source.held_in(used[end], self.node_ids) > 0.5 for end in "ij")

        found = self._best(("member", "i", "j", "section"), fits, ("grade", "roll", "role", "release_i", "release_j"))
        if found is None:
            return _missing("members", "member, i, j, section, grade")
        self.member_ids = set(found.column(found.used["member"]))
        names = sorted(set(found.column(found.used["section"])))
        lines = [f'section = {_quoted(found.used["section"])}']
        if unknown := [n for n in names if n and not _known(section, n)]:
            asked = ", ".join(f"{_quoted(n)} = {_quoted(ASK)}" for n in unknown[:40])
            lines = [f'section = {{column = {_quoted(found.used["section"])}, values = {{{asked}}}}}']
        extra = [] if "grade" in found.used else [f'grade = {{value = "{ASK}"}}']
        if "grade" in found.used and (odd := sorted({v for v in found.column(found.used["grade"]) if v and not _known(grade, v)})[:20]):
            meant = ", ".join(f"{_quoted(v)} = {_quoted(_within(grade, v))}" for v in odd)
            lines.append(f'grade = {{column = {_quoted(found.used["grade"])}, values = {{{meant}}}}}')
        if "role" in found.used:
            extra.append(_asked(found, "role", _role))
        if "release_i" not in found.used:
            extra += _releases(found) or ['# release_i, release_j: which of N Vy Vz T My Mz are released, like release_i = "..."']
        given = {"section": lines[0]} | ({"grade": lines[1]} if len(lines) > 1 else {})
        return self._written("members", found, given, extra, ("role",))

    def supports(self) -> str:
        def fits(source: Source, used: dict[str, str]) -> bool:
            return source.held_in(used["node"], self.node_ids) > 0.5

        found = self._best(("node", "ux", "uy", "uz"), fits, HELD[3:])
        if found is None and (worded := self._best(("node", "support"), fits, (), {"support": r"(support|restraint|fixity|type)"})):
            word = worded.used.pop("support")
            kinds = sorted({v for v in worded.column(word) if v})[:12]
            lines = [f'{n} = {{column = {_quoted(word)}, values = {{{", ".join(f"{_quoted(v)} = {_quoted(_held(v, n))}" for v in kinds)}}}}}' for n in HELD]
            return self._written("supports", worded, {}, lines)
        if found is None:
            return _missing("supports", "node, ux, uy, uz, rx, ry, rz: 1 held, 0 free")
        given = {}
        for name in HELD:
            if theirs := found.used.get(name):
                odd = sorted({v for v in found.column(theirs) if v not in ("0", "1", "")})[:6]
                held = ", ".join(f'{_quoted(v)} = "{"1" if v.lower() in ("yes", "true", "fixed", "x", "held") else "0"}"' for v in odd)
                given[name] = f"{name} = {{column = {_quoted(theirs)}, values = {{{held}}}}}" if odd else f"{name} = {_quoted(theirs)}"
        return self._written("supports", found, given, [f"{n} = {{value = 0}}" for n in HELD if n not in found.used])

    def cases(self) -> str:
        found = self._best(("case", "nature"), lambda s, used: not s.numeric(used["nature"]) and s.unique(used["case"]), ("title",))
        if found is None:
            return _missing("cases", "case, nature")
        self.cases_known = [v for v in found.column(found.used["case"]) if v]
        return self._written("cases", found, {"nature": _asked(found, "nature", _nature)})

    def combinations(self) -> str:
        found = self._best(("combination", "case", "factor"), lambda s, used: s.numeric(used["factor"]), ("set", "method"))
        wide = None if found else self._best(("combination",), lambda s, used: s.unique(used["combination"]) and len(self._wide(s)) > 1, ("set", "method"))
        if wide:
            head = ['layout = "cases"', "cases = {" + ", ".join(f"{_quoted(n)} = {_quoted(c)}" for n, c in self._wide(wide).items()) + "}"]
            given = {n: _asked(wide, n, meaning) for n, meaning in (("set", _set), ("method", _method)) if n in wide.used}
            return self._written("combinations", wide, given, [f'{n} = {{value = "{ASK}"}}' for n in ("set", "method") if n not in wide.used], head=head)
        if found is None:
            return _missing("combinations", "combination, set, method, case, factor")
        extra = [f'{n} = {{value = "{ASK}"}}' for n in ("set", "method") if n not in found.used]
        return self._written("combinations", found, {}, extra)

    def _wide(self, source: Source) -> dict[str, str]:
        """The columns of a source that are a case each: its name, perhaps behind a word."""
        found = {n: c for c in self.cases_known for n in source.names if re.search(rf"(^|[^\w]){re.escape(c)}$", n) and source.numeric(n)}
        return {n: max((c for c in self.cases_known if n.endswith(c)), key=len) for n in found}

    def forces(self) -> str:
        def fits(source: Source, used: dict[str, str]) -> bool:
            return sum(n in used for n in SIX) >= 3 and source.held_in(used["member"], self.member_ids) > 0.5

        found = self._best(("member", "result"), fits, ("end", "distance", *SIX))
        if found is None:
            return _missing("end_forces", "member, end, result, Fx, Fy, Fz, Mx, My, Mz")
        layout = [] if "end" in found.used else ['layout = "stations"']
        if "end" in found.used:
            found.used.pop("distance", None)
        missing = [f"# {n} = ...  # not recognised" for n in SIX if n not in found.used]
        return self._written("end_forces", found, {}, missing, head=layout)

    def reactions(self) -> str:
        def fits(source: Source, used: dict[str, str]) -> bool:
            return sum(n in used for n in SIX) >= 3 and source.held_in(used["node"], self.node_ids) > 0.5

        texts: list[str] = []
        while found := self._best(("node", "result"), fits, SIX, AT_NODES):
            loads = "load" in f"{found.file} {found.sheet}".lower()
            note = [] if loads else ["# the force of the support on the frame; where it is the frame's on the support, each with factor = -1"]
            if any(t.startswith(f"[tables.{'node_loads' if loads else 'reactions'}]") for t in texts):
                continue
            texts.append(self._written("node_loads" if loads else "reactions", found, {}, note))
        return "\n\n".join(texts)

    def grids(self) -> str:
        """Grid lines, where there are any."""
        found = self._best(("grid", "x1", "y1", "x2", "y2"), lambda s, used: all(s.numeric(used[n]) for n in ("x1", "y1", "x2", "y2")))
        return self._written("grids", found) if found else ""

    def levels(self) -> str:
        """Floors, where there are any."""
        found = self._best(("level", "z"), lambda s, used: s.unique(used["level"]) and s.numeric(used["z"]))
        return self._written("levels", found) if found else ""

    def _written(self, table: str, source: Source, given: dict[str, str] | None = None, extra: list[str] | None = None, left: tuple[str, ...] = (),
                 head: list[str] | None = None) -> str:  # fmt: skip
        lines = [f"[tables.{table}]", f"file = {_quoted(source.file)}"]
        lines += [f"sheet = {_quoted(source.sheet)}"] if source.sheet else []
        lines += [f"skip = {source.skip}"] if source.skip else []
        lines += [f"delimiter = {_quoted(source.delimiter)}"] if source.delimiter not in ("", ",") else []
        lines += [f"decimal = {_quoted(source.decimal)}"] if source.decimal == "," else []
        lines += [*(head or []), f"[tables.{table}.columns]"]
        for ours, theirs in source.used.items():
            if ours in left:
                continue
            unit = _said(theirs, UNIT_OF.get(ours, ""))
            plain = f'{ours} = {{column = {_quoted(theirs)}, unit = "{unit}"}}' if unit else f"{ours} = {_quoted(theirs)}"
            lines.append((given or {}).get(ours, plain))
        return "\n".join(lines + (extra or []))


def _missing(table: str, columns: str) -> str:
    return f'# [tables.{table}] was not recognised. It needs {columns}:\n# [tables.{table}]\n# file = "..."\n# [tables.{table}.columns]'


def _bare(name: str) -> str:
    """A column's name without its unit and marks."""
    return re.sub(r"[\[(].*?[\])]", "", name).replace("_", " ").strip(" .:-")


def _said(name: str, kind: str) -> str:
    """The unit in brackets behind a column's name, where it is one of the kind."""
    match = re.search(r"[\[(]\s*([^\])]+?)\s*[\])]", name)
    if not match or not kind:
        return ""
    text = match[1].replace("-", "*").replace("kips", "kip")
    try:
        units.factor(text, kind)
    except InputError:
        return ""
    return text


def _releases(source: Source) -> list[str]:
    """Columns of yes and no that are called by an end and a component."""
    found: dict[str, dict[str, str]] = {"i": {}, "j": {}}
    yes: set[str] = set()
    for name in source.names:
        values = {v.lower() for v in source.column(name)}
        match = re.match(r"^(.*?)[ _]*(?:at )?(start|end|i|j)$", _bare(name), re.IGNORECASE)
        if not match or not values <= {"yes", "no", "true", "false", "0", "1", "x", "", "y", "n"} or name in source.used.values():
            continue
        for ours, theirs in RELEASED.items():
            if re.match(WORDS[ours], match[1].strip(), re.IGNORECASE):
                found["i" if match[2].lower() in ("start", "i") else "j"][theirs] = name
                yes |= {v for v in source.column(name) if v.lower() in ("yes", "true", "1", "x", "y")}
    return [f'release_{end} = {{yes = [{", ".join(map(_quoted, sorted(yes)))}], flags = {{{", ".join(f"{n} = {_quoted(c)}" for n, c in flags.items())}}}}}'
            for end, flags in found.items() if flags]  # fmt: skip


def _held(word: str, direction: str) -> str:
    low = word.lower()
    if any(w in low for w in ("fix", "clamp", "encast", "rigid", "built")):
        return "1"
    if any(w in low for w in ("pin", "hing", "simple")):
        return "1" if direction[0] == "u" else "0"
    return ASK


def _asked(source: Source, ours: str, meaning: Callable[[str], str]) -> str:
    values = sorted({v for v in source.column(source.used[ours]) if v})[:20]
    if all(meaning(v) == v for v in values):
        return f"{ours} = {_quoted(source.used[ours])}"
    meant = ", ".join(f"{_quoted(v)} = {_quoted(meaning(v))}" for v in values)
    return f"{ours} = {{column = {_quoted(source.used[ours])}, values = {{{meant}}}}}"


def _set(word: str) -> str:
    low = word.lower()
    if "overstrength" in low:
        return "overstrength"
    return "service" if "serv" in low else "strength" if any(w in low for w in ("strength", "ultim", "lrfd", "asd")) else ASK


def _method(word: str) -> str:
    low = word.lower()
    if low in ("", "-", "none"):
        return "none"
    return "ASD" if any(w in low for w in ("asd", "allow")) else "LRFD" if any(w in low for w in ("lrfd", "factored", "strength", "ultim")) else ASK


def _above(words: str, kind: str) -> list[str]:
    """Units of a kind in what stands over a table: `units kN, m`; a moment's from both."""
    if kind == "moment":
        return [f"{force}*{long}" for force, long in zip(_above(words, "force"), _above(words, "length"))]
    known = {"length": ("mm", "cm", "m", "in", "ft"), "force": ("kN", "N", "kip", "lbf")}.get(kind, ())
    return [word for word in re.findall(r"[A-Za-z]+", words) if word in known and re.search(r"unit|[\[(]", words, re.IGNORECASE)]


def _known(find: Callable[[str], object], name: str) -> bool:
    try:
        find(name)
    except InputError:
        return False
    return True


def _within(find: Callable[[str], object], words: str) -> str:
    """The word of some that the catalogue holds; else a question."""
    return next((w for w in words.split() if _known(find, w)), ASK)


def _role(word: str) -> str:
    low = word.lower()
    for role, words in (("column", ("col", "post", "pillar")), ("brace", ("brac", "diag")), ("beam", ("beam", "girder", "joist", "rafter", "purlin"))):
        if any(w in low for w in words):
            return role
    return ASK


def _nature(word: str) -> str:
    low = word.lower()
    for nature, words in (("roof_live", ("roof",)), ("dead", ("dead", "self", "permanent")), ("live", ("live", "imposed")), ("snow", ("snow",)),
                          ("wind", ("wind",)), ("seismic", ("seis", "quake", "earthq")), ("temperature", ("temp", "therm"))):
        if any(w in low for w in words):
            return nature
    return "other"


def _quoted(text: str) -> str:
    return '"' + text.replace("\\", "\\\\").replace('"', '\\"').replace("\t", "\\t") + '"'
