"""override, alternatives, causes."""

from __future__ import annotations

import csv
import io
import json
import sys
from argparse import Namespace
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import Any

from handrail.cli import output, session
from handrail.core import ledger as chain
from handrail.core.errors import InputError
from handrail.core.quantities.units import SHOWN, WEIGHT
from handrail.interchange.sheet import given_back


def override(args: Namespace) -> int:
    if args.action == "verify":
        return _verify(args)
    with session.client(args) as client:
        return int(ACTIONS[args.action](args, client))


def _set(args: Namespace, client: Any) -> int:
    which = _which(args)
    if args.remedy and len(args.rest) == 1 and not which:
        args.rest += _remedy(client.connection(args.job, args.rest[0]), args.remedy)
    pairs = args.rest if which else args.rest[1:]
    if not pairs or any("=" not in pair for pair in pairs) or (not which and "=" in args.rest[0]):
        raise InputError(
            "say a connection and what is to be, like B12.i rows=5; or in its place --where FILTER or --pattern P1; see"
            " 'handrail override set --help'"
        )
    changes = {name.strip(): value.strip() for name, value in (pair.split("=", 1) for pair in pairs)}
    said = {"reason": args.reason, "cause": args.cause, "preview": args.preview, "both": args.both}
    if which:
        return _many(args, client.decide(args.job, changes, skip=args.skip, **said, **which))
    seen = client.connection(args.job, args.rest[0])["version"]
    if len(changes) > 1 or args.hold:
        return _several(args, client.change(args.job, args.rest[0], changes, version=seen, hold=args.hold, **said))
    ((parameter, value),) = changes.items()
    return _one(args, client.set_override(args.job, args.rest[0], parameter, value, version=seen, **said))


def _remedy(answer: dict[str, Any], number: int) -> list[str]:
    """What the connection's remedy of that number changes."""
    remedies = answer["remedies"]
    if not 1 <= number <= len(remedies):
        has = f"it has {len(remedies)}" if remedies else answer["remedy"] or "it does not fail"
        raise InputError(f"{answer['connection']} has no remedy {number}: {has}")
    return [f"{name}={value}" for name, value in remedies[number - 1]["changes"].items()]


def _which(args: Namespace) -> dict[str, Any]:
    wanted = {"where": args.where, "pattern": args.pattern, "slot": args.slot}
    return {name: value for name, value in wanted.items() if value not in ("", None)}


def _many(args: Namespace, answer: dict[str, Any]) -> int:
    """One decision for many connections, with the worst of them."""
    if args.json:
        output.as_json(answer)
        return 0
    kept = f"kept as {len(answer['overrides'])} overrides" if answer["kept"] else "preview, nothing kept"
    output.say(f"{answer['connections']} connections, {kept}")
    names = sorted({name for side in answer["counts"].values() for name in side})
    output.table(
        ("", *names),
        [(when, *(answer["counts"][when].get(n, 0) for n in names)) for when in ("before", "after")],
        right=names,
    )
    for name, values in answer["stood"].items():
        output.say(
            f"{name} {'was' if answer['kept'] else 'is'} "
            + ", ".join(f"{value or '-'} ({n})" for value, n in values.items())
        )
    rows = [
        (
            r["connection"],
            r["before"]["value"],
            r["after"]["value"],
            r["before"]["status"],
            output.used(r["before"]),
            r["after"]["status"],
            output.used(r["after"]),
            r["after"]["check"],
            r["after"]["reason"],
        )
        for r in answer["worst"][:15]
    ]
    output.table(
        ("connection", "was", "set to", "before", "used", "after", "used", "governs", "reason"),
        rows,
        "the worst after it",
        right=("used",),
    )
    if answer["refused"]:
        output.say(f"of {len(answer['refused'])} it cannot be made:")
        output.table(("connection", "why"), [(r["connection"], r["why"]) for r in answer["refused"][:20]])
    return 0


def _review(args: Namespace, client: Any) -> int:
    """accept, return, confirm, clear."""
    numbers = [int(text) for text in args.rest if text.isdigit()]
    if len(numbers) < len(args.rest) or not (numbers or _asked(args)):
        raise InputError(
            f"say the numbers of decisions, or a filter like --state look; see 'handrail override {args.action} --help'"
        )
    if args.action == "clear" and len(numbers) == 1:
        return _clear(args, client, numbers[0])
    if not numbers:
        numbers = [o["id"] for o in client.overrides(args.job, **({"state": "holding"} | _asked(args)))]
        if not numbers:
            raise InputError("no decision is like that; nothing was changed")
    answer = client.review(args.job, args.action, numbers, args.word or args.reason)
    if args.json:
        output.as_json(answer)
        return 0
    output.say(f"{len(answer)} decisions: {DONE[args.action]}")
    names = ("id", "connection", "parameter", "value", "state", "author")
    output.table(
        ("number", *names[1:-1], "by"), [tuple(o[n] for n in names) for o in answer[:50]], plain=("parameter",)
    )
    return 0


DONE = {
    "accept": "accepted",
    "return": "returned; their connections are by their rules again",
    "confirm": "confirmed on what they rest on now",
    "clear": "cleared; their connections are by their rules again",
}


def _asked(args: Namespace) -> dict[str, Any]:
    asked = {
        "state": args.state,
        "author": args.by,
        "cause": args.cause,
        "level": args.level,
        "where": args.where,
        "mark": args.mark,
        "pattern": args.pattern,
    }
    return {name: value for name, value in asked.items() if value}


def _list(args: Namespace, client: Any) -> int:
    listed = client.decisions(args.job, **_asked(args))
    if args.json:
        output.as_json(listed["items"])
        return 0
    rows = [
        (
            o["id"],
            o["connection"],
            o["level"],
            o["parameter"],
            o["before"]["value"],
            o["value"],
            o["state"],
            o["author"],
            o["made"],
            ": ".join(w for w in (o["cause"], o["reason"]) if w),
            "; ".join([*o["look"], *(MARKS[m] for m in o["marks"])]),
        )
        for o in listed["items"]
    ]
    output.table(
        ("number", "connection", "level", "parameter", "was", "set to", "state", "by", "at", "reason", "to know"),
        rows,
        plain=("parameter",),
    )
    counts = listed["counts"]
    output.say(
        f"in the job: {counts['awaiting']} awaiting, {counts['accepted']} accepted, {counts['returned']} returned,"
        f" {counts['look']} to look at again"
    )
    return 0


MARKS = {"agrees": "the rule gives the same now", "worse": "used more than without it", "carries": "passes by it only"}


def _step(args: Namespace, client: Any) -> int:
    return _stepped(args, client.step(args.job, args.action))


def _attach(args: Namespace, client: Any) -> int:
    number, path = _number(args.rest[0]), Path(args.rest[1])
    if not path.is_file():
        raise InputError(f"{path}: no such file")
    made = client.attach(args.job, number, path)
    if args.json:
        output.as_json(made)
    else:
        output.say(
            f"{made['name']} ({made['size']} bytes) belongs to override {number}; its SHA-256 {made['digest']}"
            " stands in the ledger"
        )
    return 0


def _number(text: str) -> int:
    if not text.isdecimal():
        raise InputError(f"'{text}' is no number; 'handrail override list JOB' has them")
    return int(text)


def _files(args: Namespace, client: Any) -> int:
    numbers = [_number(text) for text in args.rest[:2]]
    if len(numbers) == 2:
        sys.stdout.buffer.write(client.attachment(args.job, *numbers))
        return 0
    files = client.attachments(args.job, numbers[0])
    if args.json:
        output.as_json(files)
        return 0
    output.table(
        ("file", "name", "bytes", "SHA-256", "by", "at"),
        [(f["id"], f["name"], f["size"], f["digest"], f["author"], f["made"]) for f in files],
    )
    return 0


def _export(args: Namespace, client: Any) -> int:
    if args.csv:
        sys.stdout.buffer.write(client.ledger_csv(args.job))
    else:
        print(json.dumps(client.ledger(args.job)["items"], indent=1, ensure_ascii=False))
    return 0


def _verify(args: Namespace) -> int:
    """Proves the ledger: of a job by its service, or of an export by itself."""
    if bool(args.file) == bool(args.job):
        raise InputError("say a job, or --file EXPORT (which needs no service): one of the two")
    if args.file:
        entries: Sequence[Mapping[str, Any]] = read_ledger(Path(args.file))
        verdict: Mapping[str, Any] = {
            "entries": len(entries),
            "head": chain.head(entries),
            "faults": chain.faults(entries),
        }
    else:
        with session.client(args) as client:
            verdict = client.verify_ledger(args.job)
            entries = client.ledger(args.job)["items"] if args.head else []
    faults = list(verdict["faults"])
    if args.head and args.head not in {e.get("digest") for e in entries}:
        faults.append(f"no entry has the digest {args.head}: what stood at the head then is not there, or was changed")
    if args.json:
        output.as_json({"entries": verdict["entries"], "head": verdict["head"], "sound": not faults, "faults": faults})
        return 1 if faults else 0
    for words in [*faults[:50], *verdict.get("notes", [])]:
        output.say(words)
    output.say(
        f"{verdict['entries']} entries, head {verdict['head']}: "
        + (f"{len(faults)} faults" if faults else "each follows from the one before; sound")
    )
    return 1 if faults else 0


def read_ledger(path: Path) -> list[dict[str, Any]]:
    """The entries of an export, JSON or CSV. Raises InputError."""
    try:
        text = path.read_text(encoding="utf-8-sig")
        if path.suffix.lower() == ".csv":
            return [_typed(row) for row in csv.DictReader(io.StringIO(text, newline=""))]
        entries = json.loads(text)
        return list(entries["items"] if isinstance(entries, dict) else entries)
    except (OSError, UnicodeDecodeError, ValueError, KeyError, TypeError) as exc:
        raise InputError(
            f"{path}: is no export of a ledger ({exc}); make one with handrail override export JOB [--csv]"
        ) from exc


def _typed(row: dict[str, str]) -> dict[str, Any]:
    """A line of CSV as the entry that it was."""
    override = int(row["override"]) if row["override"] else None
    row = {name: given_back(cell) for name, cell in row.items()}
    return row | {"number": int(row["number"]), "override": override, "data": json.loads(row["data"])}


def causes(args: Namespace) -> int:
    """The shop's list of reasons."""
    with session.client(args) as client:
        causes = client.put_causes(args.put) if args.put else client.causes()
    if args.json:
        output.as_json(causes)
    else:
        output.table(("reasons",), [(cause,) for cause in causes])
    return 0


def _take(args: Namespace, client: Any) -> int:
    seen = client.connection(args.job, args.rest[0])["version"]
    said = {"reason": args.reason, "cause": args.cause, "preview": args.preview, "both": args.both}
    return _several(args, client.change(args.job, args.rest[0], take=args.rest[1], version=seen, **said))


def _several(args: Namespace, answer: dict[str, Any]) -> int:
    """Several changes of one connection, with what became of it."""
    if args.json:
        output.as_json(answer)
        return 0
    kept = "kept" if answer["overrides"][0]["id"] else "preview, nothing kept"
    output.say(f"{answer['connection']}: {len(answer['overrides'])} changes, {kept}")
    output.table(
        ("parameter", "was", "set to"),
        [(o["parameter"], o["before"]["value"], o["value"]) for o in answer["overrides"]],
        plain=("parameter",),
    )
    rows = [
        (when, side["status"], output.used(side), side["check"], side["action"], side["reason"])
        for when, side in (("before", answer["before"]), ("after", answer["after"]))
    ]
    output.table(("", "status", "utilisation", "governs", "combination", "reason"), rows, right=("utilisation",))
    return 0


def _stepped(args: Namespace, answer: dict[str, Any]) -> int:
    if args.json:
        output.as_json(answer)
        return 0
    output.say(
        f"gone {args.action} over {answer['words']}; {answer['connection']}: {answer['status']} at"
        f" {answer['utilisation']:.2f}"
    )
    return 0


def alternatives(args: Namespace) -> int:
    """Alternatives of one connection side by side."""
    with session.client(args) as client:
        tried = client.alternatives(args.job, args.connection, [_alternative(text) for text in args.alternative])
        system = client.job(args.job)["system"]
    if args.json:
        output.as_json(tried)
        return 0
    unit, scale = WEIGHT[system]
    rows = [
        (
            o["name"],
            o["summary"],
            o["status"],
            o["utilisation"],
            o["check"],
            "yes" if o["fits"] else ", ".join(o["broken"]),
            o["field_bolts"],
            o["shop_bolts"],
            output.weighed(o["steel"], scale),
            output.weighed(o["weld"], scale, 2),
            None if o["field_weld"] is None else f"{o['field_weld'] * SHOWN[system]['length'][1]:.0f}",
        )
        for o in tried
    ]
    head = (
        "alternative",
        "sizes",
        "status",
        "utilisation",
        "governs",
        "fits",
        "field bolts",
        "shop bolts",
        f"steel, {unit}",
        f"weld, {unit}",
        f"field weld, {'in' if system == 'us' else 'mm'}",
    )
    output.table(head, rows, right=("utilisation", *head[6:]))
    return 0


def _alternative(text: str) -> dict[str, Any]:
    """A standard, parameters, or both: `double_angle`, `rows=5`, `double_angle rows=4 angle=L4X4X3/8`. Raises
    InputError."""
    standard, parameters = "", {}
    for part in text.replace(",", " ").split():
        if "=" in part:
            name, value = part.split("=", 1)
            parameters[name] = value.replace("_", " ")
        elif not standard and not parameters:
            standard = part
        else:
            raise InputError(
                f"'{text}': write a standard, then PARAMETER=VALUE with _ for spaces, like 'double_angle rows=4"
                " bolt=7/8_A325-N'"
            )
    return {"name": text, "standard": standard, "parameters": parameters}


def _clear(args: Namespace, client: Any, number: int) -> int:
    """End an override and say what stands now."""
    seen = next((o for o in client.overrides(args.job) if o["id"] == number), None)
    cleared = client.clear_override(args.job, number, args.word or args.reason, seen["state"] if seen else None)
    now = next(iter(client.connections(args.job, f'connection="{cleared["connection"]}"')), None)
    if args.json:
        output.as_json(cleared | {"now": now})
        return 0
    output.say(
        f"override {number} cleared: {cleared['connection']} {cleared['parameter']} is no longer {cleared['value']}"
    )
    if now is None:
        output.say(f"{cleared['connection']} is not in this revision")
        return 0
    rows = [
        (
            now["connection"],
            now["status"],
            now["utilisation"] or None,
            now["summary"],
            now["check"],
            now["action"],
            now["reason"],
        )
    ]
    output.table(
        ("connection", "status", "utilisation", "sizes", "governs", "combination", "reason"),
        rows,
        right=("utilisation",),
    )
    return 0


def _one(args: Namespace, answer: dict[str, Any]) -> int:
    if args.json:
        output.as_json(answer)
        return 0
    number = f"override {answer['id']}" if answer["id"] else "preview, nothing kept"
    output.say(f"{number} {answer['state']}: {answer['connection']} {answer['parameter']} = {answer['value']}")
    rows = [
        (when, s["value"], s["status"], output.used(s), s["check"], s["action"], s["reason"])
        for when, s in (("before", answer["before"]), ("after", answer["after"]))
    ]
    output.table(
        ("", answer["parameter"], "status", "utilisation", "governs", "combination", "reason"),
        rows,
        right=("utilisation",),
    )
    return 0


ACTIONS: dict[str, Callable[[Namespace, Any], int]] = {
    "set": _set,
    "take": _take,
    "list": _list,
    "back": _step,
    "forward": _step,
    "attach": _attach,
    "files": _files,
    "export": _export,
    "accept": _review,
    "return": _review,
    "confirm": _review,
    "clear": _review,
}


def earlier(args: Namespace) -> int:
    with session.client(args) as client:
        earlier = client.earlier(args.job, args.connection, args.exact)
    if args.json:
        output.as_json(earlier)
        return 0
    rows = [
        (
            f"{i['job']} {i['connection']}",
            i["count"],
            i["section"],
            i["support_section"],
            i["there"],
            i["standard"],
            i["summary"],
            i["status"],
            output.used(i),
            i["check"] if i["status"] != "unchecked" else i["reason"],
        )
        for i in earlier["items"]
    ]
    output.table(
        ("as at", "number", "member", "support", "used there", "standard", "sizes", "here", "used here", "by"),
        rows,
        right=("number", "used there"),
    )
    output.say(
        f"{earlier['looked']} designs between like members; the nearest are tried on {args.connection} under its own"
        " forces, and nothing is kept"
    )
    if rows:
        output.say(
            f"'handrail override set {args.job} {args.connection} ...' takes one over, 'override take' one of this job"
        )
    return 0
