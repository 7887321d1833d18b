"""sweep, capacity: straight to the core from a file; a sweep of a job's connection through the service."""

from __future__ import annotations

import os
from argparse import Namespace
from pathlib import Path
from typing import Any

from handrail.cli import output, session
from handrail.cli.local import read
from handrail.core.errors import InputError
from handrail.core.quantities.units import WEIGHT


def sweep(args: Namespace) -> int:
    if bool(args.job) != bool(args.connection) or (args.keep and not args.job):
        raise InputError(
            "a sweep is of a file by itself, or of a file with a job and a connection; only these can --keep the winner"
        )
    data = read(args.file)
    sweep = _of_job(args, data) if args.job else _of_file(args, data)
    if args.picture:
        _draw(args.picture, sweep)
    if args.json:
        output.as_json(sweep)
    else:
        _print(sweep, args)
    return 0 if sweep["winner"] is not None else 1


def _of_file(args: Namespace, data: Any) -> dict[str, Any]:
    from handrail.core.checking import sweep as core

    given, asked = core.read_sweep(_first(args, data))
    swept = core.run(
        given.standard, given.situation, given.sizes, given.code, given.actions, asked, os.cpu_count() or 1
    )
    return core.as_dict(swept, given.standard, "si" if args.si or args.json else "us")


def _first(args: Namespace, data: Any) -> Any:
    """The file's data, told to stop at the first where the command says so."""
    if args.first and isinstance(data, dict) and isinstance(data.get("sweep"), dict):
        return {**data, "sweep": {**data["sweep"], "stop": "first"}}
    return data


def _of_job(args: Namespace, data: Any) -> dict[str, Any]:
    data = _first(args, data)
    node = data.get("sweep") if isinstance(data, dict) else None
    if not isinstance(node, dict) or "values" not in node:
        raise InputError(f"{args.file}: give an entry sweep, like sweep: {{values: [{{rows: 3 .. 8}}]}}")
    if more := sorted(set(data) - {"sweep", "parameters"}):
        raise InputError(
            f"{args.file}: {more[0]} is the job's own; for a connection of a job the file has sweep, and perhaps"
            " parameters"
        )
    values = [{k: v} for k, v in node["values"].items()] if isinstance(node["values"], dict) else node["values"]
    with session.client(args) as client:
        swept = client.sweep_connection(
            args.job,
            args.connection,
            values,
            node.get("order", "as_written"),
            node.get("stop", "all"),
            data.get("parameters") or {},
        )
        if not args.keep or swept["winner"] is None:
            return dict(swept)
        kept = client.change(args.job, args.connection, swept["changes"], args.reason, cause=args.cause, both=args.both)
    return {**swept, "kept": kept}


def _draw(file: str, sweep: dict[str, Any]) -> None:
    from handrail.interchange.sweep_picture import svg

    try:
        Path(file).write_text(svg(sweep), encoding="utf-8")
    except OSError as exc:
        raise InputError(f"{file}: {exc}") from exc


def _broken(row: dict[str, Any]) -> str:
    """What is wrong besides the strength, which stands beside it."""
    parts = str(row["reason"]).split("; ")
    return "; ".join(parts[1:] if row["utilisation"] > 1 else parts)


def _print(sweep: dict[str, Any], args: Namespace) -> None:
    names, won = sweep["vary"], sweep["winner"]
    unit, scale = WEIGHT["si" if args.si else "us"]
    weight = f"steel, {unit}"
    rows = [
        (
            ("> " if k == won else "") + str(r["number"]),
            *(r["values"][n] for n in names),
            r["status"],
            output.used(r),
            r["check"],
            r["action"],
            "" if r["steel"] is None else f"{r['steel'] * scale:.1f}",
            "" if r["bolts"] is None else r["bolts"],
            _broken(r),
        )
        for k, r in enumerate(sweep["rows"])
    ]
    shown = rows if args.limit == 0 else rows[: args.limit]
    output.table(
        ("", *names, "status", "used", "governs", "in", weight, "bolts", "reason"),
        shown,
        right=("used", weight, "bolts"),
    )
    if len(rows) > len(shown):
        output.say(f"{len(rows) - len(shown)} more: --limit 0 shows all")
    words = (
        f"{sweep['tried']} of {sweep['total']} candidates tried, {sum(r['status'] == 'pass' for r in sweep['rows'])}"
        " pass"
    )
    if won is None:
        output.say(f"{words}; none passes")
        return
    output.say(
        f"{words}; the first that passes is {sweep['rows'][won]['number']}: "
        + ", ".join(f"{n} {v}" for n, v in sweep["rows"][won]["values"].items())
    )
    if "kept" in sweep:
        output.say(
            f"kept on {args.connection} as override {', '.join(str(o['id']) for o in sweep['kept']['overrides'])},"
            " awaiting an engineer's word"
        )


def capacity(args: Namespace) -> int:
    from handrail.core.checking import capacity as core
    from handrail.core.quantities.units import parse

    asked = core.read_asked_of(read(args.file))
    table = core.as_dict(asked, core.capacities(asked), "si" if args.si or args.json else "us")
    if args.out:
        return _write_capacity(args.out, table, core.words(asked))
    if args.json:
        output.as_json(table)
        return 0
    wanted = args.section.replace(" ", "").upper()
    rows = [r for r in table["rows"] if not wanted or r["section"].upper() == wanted]
    if args.shear:
        least = parse(args.shear, "force") * (1e-3 if args.si else 1 / 4448.2216152605)
        rows = sorted((r for r in rows if r["shear"] >= least), key=lambda r: (r["section"], r["steel"], r["bolts"]))
    output.say(core.words(asked))
    names = list(dict.fromkeys(n for r in rows for n in r["values"]))
    shown = rows if args.limit == 0 else rows[: args.limit]
    weight, scale = WEIGHT["si" if args.si else "us"]
    right = (f"V, {table['unit']}", f"steel, {weight}", "bolts")
    output.table(
        ("section", *names, right[0], "governs", *right[1:], "why not"),
        [
            (
                r["section"],
                *(r["values"].get(n, "") for n in names),
                f"{r['shear']:.1f}",
                r["check"],
                f"{r['steel'] * scale:.1f}",
                r["bolts"],
                r["why"],
            )
            for r in shown
        ],
        right=right,
    )
    if len(rows) > len(shown):
        output.say(
            f"{len(rows) - len(shown)} more: --limit 0 shows all, --section and --shear look among them, OUT.xlsx has"
            " the lightest for each shear too"
        )
    if not rows:
        output.say("none is like that")
        return 1
    return 0


def _write_capacity(to: str, table: dict[str, Any], words: str) -> int:
    from handrail.interchange.capacity_book import workbook

    path = Path(to)
    if path.suffix.lower() != ".xlsx":
        raise InputError(f"{path}: a capacity table is written as .xlsx")
    try:
        path.write_bytes(workbook(table, words))
    except OSError as exc:
        raise InputError(f"{path}: {exc}") from exc
    output.say(f"wrote {path}: {len(table['rows'])} candidates on {len(table['sections'])} sections")
    return 0
