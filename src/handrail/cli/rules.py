"""rulebook."""

from __future__ import annotations

import sys
from argparse import Namespace
from collections.abc import Mapping
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.cli import output, session
from handrail.core.errors import InputError
from handrail.core.quantities.units import WEIGHT

if TYPE_CHECKING:
    from handrail.client import answers as a

MADE_OF = (
    ("field_bolts", "field bolts"),
    ("shop_bolts", "shop bolts"),
    ("rods", "anchor rods"),
    ("steel", "steel"),
    ("weld", "weld"),
)


def rulebook(args: Namespace) -> int:
    return int(_ACTIONS[args.action](args) or 0)


def read(file: str) -> tuple[str, dict[str, str]]:
    """A rulebook's text, and the CSV files beside it that its tables name. Raises InputError."""
    try:
        text = sys.stdin.read() if file == "-" else Path(file).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as exc:
        raise InputError(f"{file}: {exc}") from exc
    folder = Path() if file == "-" else Path(file).parent
    return text, {name: _beside(folder, name) for name in _named(text)}


def _named(text: str) -> list[str]:
    """The files that tables of a rulebook are in; none where it cannot be read, which the service then says."""
    from handrail.core.rulebook.yaml import NotYaml, load

    try:
        data = load(text)
    except NotYaml:
        return []
    tables = data.get("tables") if isinstance(data, dict) else None
    nodes = tables.values() if isinstance(tables, dict) else ()
    return sorted({str(node["file"]) for node in nodes if isinstance(node, dict) and node.get("file")})


def _beside(folder: Path, name: str) -> str:
    path = (folder / name).resolve()
    if folder.resolve() not in path.parents:
        raise InputError(f"{name}: a table's file stands in the folder of its rulebook, or below it")
    try:
        return path.read_text(encoding="utf-8-sig")
    except (OSError, UnicodeDecodeError) as exc:
        raise InputError(f"{name}, which a table of the rulebook is in: {exc}") from exc


def _get(args: Namespace) -> None:
    with session.client(args) as client:
        answer = client.rulebook_revision(args.job, args.revision) if args.revision else client.rulebook(args.job)
    if args.to:
        write(args.to, answer)
    elif args.json:
        output.as_json(answer)
    else:
        print(answer["text"], end="")
        newest = answer.get("version", answer.get("number"))
        more = (
            f"; its tables are in {', '.join(answer['files'])}: --to FOLDER writes them too" if answer["files"] else ""
        )
        print(f"revision {newest}: put it back with --if-version {newest}{more}", file=sys.stderr)


def write(to: str, answer: Mapping[str, Any]) -> None:
    """A rulebook and the files that its tables are in, into a folder. Raises InputError."""
    folder = Path(to)
    try:
        folder.mkdir(parents=True, exist_ok=True)
        for name, text in {"rulebook.yaml": answer["text"], **answer["files"]}.items():
            path = (folder / name).resolve()
            if folder.resolve() not in path.parents:
                raise InputError(f"{name} is no name of a file here")
            path.parent.mkdir(parents=True, exist_ok=True)
            path.write_text(text, encoding="utf-8")
    except OSError as exc:
        raise InputError(f"{folder}: {exc}") from exc
    output.say(f"wrote rulebook.yaml{''.join(f', {name}' for name in answer['files'])} to {folder}")


def _put(args: Namespace) -> None:
    text, files = read(args.rest[0])
    with session.client(args) as client:
        seen = client.rulebook(args.job)["version"] if args.seen is None else args.seen
        answer = client.put_rulebook(args.job, text, seen, files, args.name)
        nameless = client.try_rulebook(args.job, text, files, False)["nameless"]
    if args.json:
        output.as_json(answer)
        return
    _nameless(nameless)
    output.table(
        ("rule", "takes"), [(_called(r["name"], r["origin"]), r["takes"]) for r in answer["rules"]], right=("takes",)
    )
    output.say(
        f"adopted as revision {answer['version']}{_in_brackets(answer['name'])}; sizes change with the next run, "
        f"'handrail rulebook back {args.job}' goes back"
    )


def _in_brackets(name: str) -> str:
    return f" ({name})" if name else ""


def _called(rule: str, origin: str) -> str:
    return f"{rule} (of {origin})" if origin else rule


def _try(args: Namespace) -> None:
    text, files = read(args.rest[0])
    with session.client(args) as client:
        on = client.try_on(args.job, args.on, text, files, args.table, args.formula, args.rule) if args.on else None
        of_all = None if on else client.try_rulebook(args.job, text, files, not args.no_compare)
    if args.json:
        output.as_json(on or of_all)
    elif on:
        _tried_on(on)
    elif of_all:
        told_of_try(of_all, args.limit)


def told_of_try(answer: a.RulebookTried, limit: int) -> None:
    """What a rulebook would take, and change."""
    shadowed = {s["name"]: ", ".join(f"{name} ({n})" for name, n in s["by"].items()) for s in answer["shadowed"]}
    rows = [
        (
            _called(r["name"], r["origin"]),
            r["takes"],
            (
                ""
                if r["takes"]
                else (
                    f"never: taken before by {shadowed[r['name']]}"
                    if r["name"] in shadowed
                    else "never: nothing is like that"
                )
            ),
        )
        for r in answer["rules"]
    ]
    output.table(("rule", "takes", ""), rows, right=("takes",))
    if answer["also"]:
        added = [(_called(a["name"], a["origin"]), a["takes"], a["adds"]) for a in answer["also"]]
        output.table(("also-rule", "adds to", "what"), added, right=("adds to",))
    _nameless(answer["nameless"])
    more = f": {', '.join(answer['uncovered'][:10])}" if answer["uncovered"] else ""
    output.say(f"taken by no rule: {answer['uncovered_total']} connections that there are standards for{more}")
    for one in answer["unresolved"][:10]:
        output.say(f"no size for {one['connection']}: {one['why']}")
    if answer["unresolved_total"] > 10:
        output.say(f"and for {answer['unresolved_total'] - 10} more")
    if answer["compared"]:
        _compared(answer["compared"], limit)
    output.say("nothing was changed; 'handrail rulebook put' adopts it")


def _nameless(names: list[a.Nameless]) -> None:
    """Names that nothing has, with the nearest."""
    for one in names[:20]:
        output.say(
            f"{one['where']}: nothing has {one['fact']} {one['name']}"
            + (f"; did you mean {one['near']}?" if one["near"] else "")
        )
    if len(names) > 20:
        output.say(f"and {len(names) - 20} more names that nothing has")


def _compared(compared: a.RuledComparison, limit: int) -> None:
    output.say(
        f"beside how the job stands: {compared['changed']} connections would be otherwise"
        f" ({compared['newly_pass']} newly pass, {compared['newly_fail']} newly fail,"
        f" {compared['newly_unchecked']} newly unchecked, {compared['resized']} judged the same with other sizes)"
    )
    for name, words in MADE_OF:
        before, after = (compared[side].get(name, 0.0) for side in ("before", "after"))
        if before or after:
            unit, scale = WEIGHT[compared["system"]] if name in ("steel", "weld") else ("", 1.0)
            unit = f" {unit}".rstrip()
            output.say(
                f"  {words}: {before * scale:,.0f}{unit} now, {after * scale:,.0f}{unit} then"
                f" ({(after - before) * scale:+,.0f})"
            )
    rows = [
        (c["connection"], *_side(c["before"]), *_side(c["after"]), c["after"]["rule"], c["after"]["reason"])
        for c in compared["connections"]
    ]
    shown = rows if limit == 0 else rows[:limit]
    if shown:
        output.table(
            ("connection", "is", "used", "sizes now", "would be", "used", "sizes then", "by rule", "reason"),
            shown,
            right=("used",),
        )
    if compared["changed"] > len(shown):
        output.say(
            f"{compared['changed'] - len(shown)} more: --limit 0 shows up to 500, --json tells them all up to there"
        )


def _side(side: a.RuledSide) -> tuple[Any, ...]:
    return side["status"], output.used(side), side["summary"]


def _why(args: Namespace) -> None:
    key = args.rest[0]
    with session.client(args) as client:
        answer = client.why(args.job, key)
    if args.json:
        output.as_json(answer)
        return
    _told(answer, args.all)
    if args.facts:
        output.table(("fact", "it is"), list(answer["facts"].items()))


def _told(answer: a.WhyRule, every: bool = False) -> None:
    for met in answer["met"]:
        output.say(
            f"{'taken by' if met['took'] else 'passed by'} {_called(met['rule'], met['origin'])}"
            f" (line {met['line']})" + (f": {met['note']}" if met["note"] and met["took"] else "")
        )
        for failing in met["failing"]:
            output.say(f"    it asks {failing['asked']}; {answer['connection']} has {failing['has']}")
    for met in answer["also"]:
        if met["took"]:
            note = f" ({met['note']})" if met["note"] else ""
            output.say(f"also {_called(met['rule'], met['origin'])} (line {met['line']}): {met['adds']}{note}")
        elif every:
            output.say(f"not also {_called(met['rule'], met['origin'])} (line {met['line']})")
            for failing in met["failing"]:
                output.say(f"    it asks {failing['asked']}; {answer['connection']} has {failing['has']}")
    if answer["target"] < 1.0:
        output.say(f"target utilisation {answer['target']:g}")
    if answer["chosen"]:
        output.say(f"standard {answer['standard']}: {answer['chosen']}")
    if answer["reason"]:
        output.say(answer["reason"])
    rows = [
        (s["parameter"], s["text"], s["source"], s["formula"], ", ".join(f"{n} {v}" for n, v in s["values"].items()))
        for s in answer["sizes"]
        if every or s["source"] not in ("default", "geometry")
    ]
    if rows:
        output.table(("parameter", "value", "source", "formula", "with"), rows)


def _tried_on(answer: a.TriedOnConnection) -> None:
    _told(answer["why"])
    if answer["row"]:
        output.say(f"row {answer['row']['key']}: {', '.join(f'{n} {v}' for n, v in answer['row']['cells'].items())}")
    if answer["rule"]:
        met = answer["rule"]
        output.say(f"rule {met['rule']} {'takes it' if met['took'] else 'passes it by'}")
        for failing in met["failing"]:
            output.say(f"    it asks {failing['asked']}; it has {failing['has']}")
    if answer["value"] is not None:
        values = ", ".join(f"{n} {v}" for n, v in answer["values"].items())
        output.say("; ".join([f"value {answer['value']}" + (f" with {values}" if values else ""), *answer["rows"]]))
    if answer["none"]:
        output.say(f"none: {answer['none']}")


def _like(args: Namespace) -> None:
    """A rule made from a connection, put before the others of the job's rulebook, or of a FILE; the whole text is
    printed."""
    key = args.rest[0]
    with session.client(args) as client:
        kept = client.rulebook(args.job)
        text, files = read(args.rest[1]) if len(args.rest) > 1 else (kept["text"], kept["files"])
        free = [name.strip() for name in args.free.split(",") if name.strip()]
        answer = client.edit_rulebook(
            args.job, text, files, like={"connection": key, "free": free, "sections": not args.kinds}
        )
    if args.to:
        write(args.to, answer)
    elif args.json:
        output.as_json(answer)
    else:
        print(answer["text"], end="")


def _practice(args: Namespace) -> None:
    with session.client(args) as client:
        practice = client.practice(args.job)
    if args.json:
        output.as_json(practice)
        return
    rows = [
        (p["standard"] or "(all)", p["parameter"], p["text"], p["source"], p["default"], p["help"])
        for p in practice
        if args.all or p["source"] != "default"
    ]
    output.table(("standard", "parameter", "value", "source", "default", "what it is"), rows)
    if not args.all:
        output.say("--all shows what stands at its default too; a line taken out of practice goes back to it")


def _revisions(args: Namespace) -> None:
    with session.client(args) as client:
        revisions = client.rulebook_revisions(args.job)
    if args.json:
        output.as_json(revisions)
        return
    output.table(
        ("revision", "name", "stands on", "by", "adopted"),
        [(r["number"], r["name"], r["inherits"], r["author"], r["made"]) for r in revisions],
    )


def _compare(args: Namespace) -> None:
    numbers = [number(text) for text in args.rest[:2]]
    with session.client(args) as client:
        compared = client.compare_rulebooks(args.job, *numbers)
    told_differences(args, compared)


def told_differences(args: Namespace, differing: a.DifferingRulebooks) -> None:
    """What two rulebooks say differently."""
    if args.json:
        output.as_json(differing)
        return
    output.table(
        ("what", "which", differing["old"], differing["new"]),
        [(d["what"], d["name"], d["was"], d["now"]) for d in differing["differences"]],
    )
    if not differing["differences"]:
        output.say("both say the same" + (", in other words" if differing["lines"] else ""))
    if args.lines:
        print(output.visible(differing["lines"]))


def number(text: str) -> int:
    """Of a revision, written 3 or R3. Raises InputError."""
    if not text.lstrip("Rr").isdigit():
        raise InputError(f"'{text}' is no revision's number; they are listed by 'handrail rulebook revisions'")
    return int(text.lstrip("Rr"))


def _back(args: Namespace) -> None:
    with session.client(args) as client:
        answer = client.rulebook_back(args.job, number(args.rest[0]) if args.rest else 0, args.name)
    if args.json:
        output.as_json(answer)
        return
    output.say(f"adopted as revision {answer['version']} ({answer['name']}); sizes change with the next run")


def _words(args: Namespace) -> None:
    with session.client(args) as client:
        language = client.rulebook_language()
    if args.json:
        output.as_json(language)
        return
    output.table(
        ("fact", "kind", "example", "what it is"),
        [
            (
                f["name"],
                f["kind"],
                f["example"],
                f["help"] + (f": {', '.join(f['choices'])}" if f["choices"] and len(f["choices"]) < 8 else ""),
            )
            for f in language["facts"]
        ],
    )
    output.table(
        ("function", "example", "what it gives"), [(f["name"], f["example"], f["help"]) for f in language["functions"]]
    )
    output.table(("practice by use", "what it is"), [(u["name"], u["help"]) for u in language["uses"]])


_ACTIONS = {
    "get": _get,
    "put": _put,
    "try": _try,
    "why": _why,
    "like": _like,
    "practice": _practice,
    "revisions": _revisions,
    "compare": _compare,
    "back": _back,
    "words": _words,
}
