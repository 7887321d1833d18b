"""schedule, drawing, report, list, marks."""

from __future__ import annotations

from argparse import Namespace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.cli import output, session
from handrail.core.errors import InputError
from handrail.core.quantities.units import WEIGHT

if TYPE_CHECKING:
    from handrail.client import answers as a


def schedule(args: Namespace) -> int:
    if args.file:
        return _write(args)
    with session.client(args) as client:
        schedule = client.schedule(args.job, args.where)
    if args.json:
        output.as_json(schedule)
        return 0
    unit, scale = WEIGHT[schedule["system"]]
    rows = [
        (
            r["mark"],
            r["count"],
            f"{r['summary']}, {r['hand']}" if r["hand"] else r["summary"],
            _short(r["members"]),
            _short(r["supports"]),
            r["statuses"].get("pass", 0),
            r["statuses"].get("fail", 0),
            r["utilisation"],
            f"{r['field_bolts']}{' *' if r['counted_there'] else ''}",
            r["shop_bolts"],
            r["rods"],
            f"{r['steel_each'] * scale:.1f}",
            f"{r['steel'] * scale:,.0f}",
        )
        for r in schedule["rows"]
    ]
    right = ("number", "pass", "fail", "worst", "field bolts", "shop bolts", "rods", f"{unit} each", unit)
    output.table(("mark", "number", "sizes", "members", "supports", *right[1:]), rows, right=right)
    for r in (r for r in schedule["rows"] if r["counted_there"]):
        output.say(
            f"* of {r['mark']} {r['counted_there']} are held by the field bolts of {', '.join(r['shared_with'])} across"
            " a web, and counted there"
        )
    t = schedule["totals"]
    output.say(
        f"{len(rows)} marks, {t['count']} connections: {t['field_bolts']:,} field bolts, {t['shop_bolts']:,} shop"
        f" bolts, {t['rods']:,} anchor rods, {t['steel'] * scale:,.0f} {unit} of plates and angles,"
        f" {t['weld'] * scale:,.0f} {unit} of fillets"
        + (f"; {schedule['unsized']} connections have no sizes and no mark" if schedule["unsized"] else "")
    )
    return 0


def _short(names: list[str]) -> str:
    return ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")


def _write(args: Namespace) -> int:
    path = Path(args.file)
    kind = path.suffix.lower().removeprefix(".")
    if kind not in ("csv", "xlsx"):
        raise InputError(f"{path}: a schedule is written as .csv or .xlsx")
    with session.client(args) as client:
        body = client.schedule_file(args.job, kind, args.where)
    return output.put(path, body)


def drawing(args: Namespace) -> int:
    """A connection is named like B12.i, a mark like SP4."""
    path = output.ending(args.to, "pdf", "dxf", "svg")
    kind = path.suffix.lower().removeprefix(".")
    which: dict[str, Any] = {"connection" if "." in args.of else "mark": args.of} if args.of else {}
    if args.neighbours and "connection" not in which:
        raise InputError("--neighbours goes with one connection, like B12.i")
    with session.client(args) as client:
        body = client.drawings(args.job, kind, neighbours=args.neighbours, where=args.where, sheet=args.sheets, **which)
    return output.put(path, body)


def report(args: Namespace) -> int:
    """A connection is named like B12.i, a mark like SP4."""
    path = output.ending(args.to, "pdf", "docx")
    which: dict[str, Any] = {"connection" if "." in args.of else "mark": args.of} if args.of else {}
    sections = [name.strip() for name in args.sections.split(",") if name.strip()]
    with session.client(args) as client:
        kind = path.suffix.lower().removeprefix(".")
        body = client.calculations(
            args.job,
            where=args.where,
            each=args.each,
            sections=sections,
            lines=args.lines,
            profile=args.profile,
            kind=kind,
            **which,
        )
    return output.put(path, body)


def model(args: Namespace) -> int:
    path = output.ending(args.to, "ifc", *(["dxf"] if args.connection else []))
    with session.client(args) as client:
        body = client.steel_model(args.job, path.suffix.lower().removeprefix("."), args.connection, args.where)
    return output.put(path, body)


def results(args: Namespace) -> int:
    path = output.ending(args.to, "csv", "xlsx", "png", "svg")
    with session.client(args) as client:
        body = client.results(args.job, path.suffix.lower().removeprefix("."))
    return output.put(path, body)


def page(args: Namespace) -> int:
    path = output.ending(args.to, "pdf")
    with session.client(args) as client:
        body = client.connection_page(args.job, args.connection, args.address)
    return output.put(path, body)


def parts_list(args: Namespace) -> int:
    path = output.ending(args.to, "csv", "xlsx", *(["zip"] if args.of == "plates" else []))
    with session.client(args) as client:
        body = client.parts_list(args.job, args.of, path.suffix.lower().removeprefix("."), args.where)
    return output.put(path, body)


def marks(args: Namespace) -> int:
    with session.client(args) as client:
        fewer = client.fewer_marks(args.job)
        kept = _accept(client, args, fewer) if args.accept else None
    if args.json:
        output.as_json(fewer if kept is None else kept)
        return 0
    if kept is not None:
        output.say(
            f"kept as {len(kept['overrides'])} overrides on {kept['changed']} connections, awaiting an engineer's word;"
            f" 'handrail schedule {args.job}' shows the marks that are left"
        )
        return 0
    unit, scale = WEIGHT[fewer["system"]]
    bolts, steel, rows = 0, 0.0, []
    for m in fewer["merges"]:
        bolts, steel = bolts + m["bolts"], steel + m["steel"]
        rows.append(
            (
                m["number"],
                m["marks"],
                m["given"],
                m["given_summary"],
                m["taken"],
                m["taken_summary"],
                len(m["connections"]),
                m["worst"],
                f"{m['bolts']:+d}",
                f"{m['steel'] * scale:+,.0f}",
                f"{bolts:+d}",
                f"{steel * scale:+,.0f}",
            )
        )
    right = ("marks left", "connections", "worst", "bolts", unit, "bolts in all", f"{unit} in all")
    output.table(("merge", "marks left", "mark", "its sizes", "becomes", "sizes", *right[1:]), rows, right=right)
    output.say(
        f"{fewer['marks']} marks of {fewer['connections']} connections; each merge keeps every check passing, on top of"
        f" those before; {fewer['shared']} connections share bolts with the one opposite and stay"
    )
    if rows:
        output.say(f"'handrail marks {args.job} --accept 1 --reason WHY' makes the first of them, as overrides")
    return 0


def as_one(args: Namespace) -> int:
    """`run --as-one`: one set of sizes for what is named."""
    if not (args.where or args.pattern) or args.verify or args.combination_set or args.only or args.again:
        raise InputError(
            "--as-one takes --pattern P1, or --where 'group=NAME', and --keep to keep it as overrides; nothing else"
            " goes with it"
        )
    which = {"where": args.where, "pattern": args.pattern}
    with session.client(args) as client:
        sized = client.as_one(args.job, **which)
        kept = [
            client.decide(args.job, i["changes"], args.reason, cause=args.cause, connections=i["connections"])
            for i in sized["items"]
            if args.keep and i["passes"] and i["changes"]
        ]
    if args.json:
        output.as_json(sized | {"kept": kept})
        return 0
    unit, scale = WEIGHT[sized["system"]]
    rows = [
        (
            i["standard"],
            len(i["connections"]),
            "pass" if i["passes"] else "fail",
            i["worst"],
            i["worst_at"],
            i["check"] if i["sound"] else "a detailing rule",
            f"{i['bolts']:+d}",
            f"{i['steel'] * scale:+,.0f}",
            ", ".join(f"{n} {v}" for n, v in i["sizes"].items()),
        )
        for i in sized["items"]
    ]
    output.table(
        ("standard", "connections", "", "worst", "at", "by", "bolts", unit, "as one"),
        rows,
        right=("connections", "worst", "bolts", unit),
    )
    if sized["unsized"]:
        output.say(f"{len(sized['unsized'])} have no sizes to begin with: run them first")
    if args.keep:
        output.say(f"kept as {sum(len(k['overrides']) for k in kept)} overrides, awaiting an engineer's word")
    else:
        output.say("nothing was kept; --keep --reason WHY keeps what passes, as overrides")
    return 0 if sized["items"] and all(i["passes"] for i in sized["items"]) else 1


def _accept(client: Any, args: Namespace, fewer: a.Consolidation) -> dict[str, Any]:
    """The merges up to a number, kept as overrides: one act for each mark that others become."""
    if not 1 <= args.accept <= len(fewer["merges"]):
        raise InputError(f"--accept: there are {len(fewer['merges'])} merges")
    last: dict[str, a.MarkMerge] = {}
    for merge in fewer["merges"][: args.accept]:  # a mark that was given up takes with it what it had taken
        for key in merge["connections"]:
            last[key] = merge
    done: dict[str, Any] = {"overrides": [], "changed": 0}
    for taken in dict.fromkeys(m["taken"] for m in last.values()):
        keys = [key for key, m in last.items() if m["taken"] == taken]
        merge = next(m for m in last.values() if m["taken"] == taken)
        made = client.decide(
            args.job, merge["changes"], args.reason or f"made as mark {taken}", cause=args.cause, connections=keys
        )
        done["overrides"] += made["overrides"]
        done["changed"] += len(keys)
    return done
