"""rulebook, override."""

from __future__ import annotations

import sys
from argparse import Namespace
from pathlib import Path
from typing import Any

from handrail.cli import output, session
from handrail.core.errors import InputError


def rulebook(args: Namespace) -> int:
    if args.action != "get" and not args.file:
        raise InputError(f"usage: handrail rulebook {args.action} JOB FILE")
    with session.client(args) as client:
        if args.action == "get":
            answer = client.rulebook(args.job)
        else:
            try:
                text = sys.stdin.read() if args.file == "-" else Path(args.file).read_text(encoding="utf-8")
            except (OSError, UnicodeDecodeError) as exc:
                raise InputError(f"{args.file}: {exc}") from exc
            if args.action == "put":
                seen = client.rulebook(args.job)["version"] if args.seen is None else args.seen
                answer = client.put_rulebook(args.job, text, seen)
            else:
                answer = client.try_rulebook(args.job, text)
    if args.json:
        output.as_json(answer)
    elif args.action == "get":
        print(answer["text"], end="")
        print(f"version {answer['version']}: put it back with --if-version {answer['version']}", file=sys.stderr)
    else:
        output.table(("rule", "takes"), [(r["name"], r["takes"]) for r in answer["rules"]], right=("takes",))
        if args.action == "put":
            output.say(f"kept as version {answer['version']}; sizes change with the next run")
        else:
            output.say(f"never fires: {', '.join(answer['never']) or 'none'}")
            output.say(f"covered by no rule: {answer['uncovered_total']} shear ends {', '.join(answer['uncovered'][:10])}")
    return 0


def override(args: Namespace) -> int:
    with session.client(args) as client:
        if args.action == "list":
            return _list(args, client.overrides(args.job))
        if args.action == "clear":
            if len(args.rest) != 1 or not args.rest[0].isdigit():
                raise InputError("usage: handrail override clear JOB NUMBER [--reason WORDS]")
            return _clear(args, client, int(args.rest[0]))
        if args.action in ("back", "forward"):
            return _stepped(args, client.step(args.job, args.action))
        if args.action == "take":
            return _take(args, client)
        if len(args.rest) < 2 or any("=" not in pair for pair in args.rest[1:]):
            raise InputError("usage: handrail override set JOB CONNECTION PARAMETER=VALUE [PARAMETER=VALUE ...] --reason WORDS")
        changes = {name.strip(): value.strip() for name, value in (pair.split("=", 1) for pair in args.rest[1:])}
        seen = client.connection(args.job, args.rest[0])["version"]
        if len(changes) > 1:
            return _several(args, client.change(args.job, args.rest[0], changes, args.reason, "", args.preview, args.both, seen))
        ((parameter, value),) = changes.items()
        return _one(args, client.set_override(args.job, args.rest[0], parameter, value, args.reason, args.preview, seen, args.both))


def _take(args: Namespace, client: Any) -> int:
    if len(args.rest) != 2:
        raise InputError("usage: handrail override take JOB CONNECTION FROM --reason WORDS")
    seen = client.connection(args.job, args.rest[0])["version"]
    return _several(args, client.change(args.job, args.rest[0], None, args.reason, args.rest[1], args.preview, args.both, seen))


def _several(args: Namespace, found: dict[str, Any]) -> int:
    """Several changes of one connection, with what became of it."""
    if args.json:
        output.as_json(found)
        return 0
    kept = "kept" if found["overrides"][0]["id"] else "preview, nothing kept"
    output.say(f"{found['connection']}: {len(found['overrides'])} changes, {kept}")
    output.table(("parameter", "was", "set to"), [(o["parameter"], o["before"]["value"], o["value"]) for o in found["overrides"]])
    rows = [(when, side["status"], side["utilisation"], side["check"], side["action"], side["reason"]) for when, side in
            (("before", found["before"]), ("after", found["after"]))]  # fmt: skip
    output.table(("", "status", "utilisation", "governs", "combination", "reason"), rows, right=("utilisation",))
    return 0


def _stepped(args: Namespace, found: dict[str, Any]) -> int:
    if args.json:
        output.as_json(found)
        return 0
    output.say(f"gone {args.action} over {found['words']}; {found['connection']}: {found['status']} at {found['utilisation']:.2f}")
    return 0


def alternatives(args: Namespace) -> int:
    """Alternatives of one connection side by side."""
    with session.client(args) as client:
        found = client.alternatives(args.job, args.connection, [_alternative(text) for text in args.alternative])
    if args.json:
        output.as_json(found)
        return 0
    rows = [
        (o["name"], o["summary"], o["status"], o["utilisation"], o["check"], "yes" if o["fits"] else ", ".join(o["broken"]), o["field_bolts"],
         o["shop_bolts"], o["steel"], o["weld"], o["field_weld"]) for o in found
    ]  # fmt: skip
    head = ("alternative", "sizes", "status", "utilisation", "governs", "fits", "field bolts", "shop bolts", "steel, kg", "weld, kg", "field weld, mm")
    output.table(head, rows, right=("utilisation", *head[6:]))
    return 0


def _alternative(text: str) -> dict[str, Any]:
    """A standard, parameters, or both: `double_angle`, `rows=5`, `double_angle rows=4 angle=L4X4X3/8`. Raises InputError."""
    standard, parameters = "", {}
    for part in text.replace(",", " ").split():
        if "=" in part:
            name, value = part.split("=", 1)
            parameters[name] = value.replace("_", " ")
        elif not standard and not parameters:
            standard = part
        else:
            raise InputError(f"'{text}': write a standard, then PARAMETER=VALUE with _ for spaces, like 'double_angle rows=4 bolt=7/8_A325-N'")
    return {"name": text, "standard": standard, "parameters": parameters}


def _clear(args: Namespace, client: Any, number: int) -> int:
    """End an override and say what stands now."""
    seen = next((o for o in client.overrides(args.job) if o["id"] == number), None)
    found = client.clear_override(args.job, number, args.reason, seen["state"] if seen else None)
    now = next(iter(client.connections(args.job, f'connection="{found["connection"]}"')), None)
    if args.json:
        output.as_json(found | {"now": now})
        return 0
    output.say(f"override {number} cleared: {found['connection']} {found['parameter']} is no longer {found['value']}")
    if now is None:
        output.say(f"{found['connection']} is not in this revision")
        return 0
    rows = [(now["connection"], now["status"], now["utilisation"] or None, now["summary"], now["check"], now["action"], now["reason"])]
    output.table(("connection", "status", "utilisation", "sizes", "governs", "combination", "reason"), rows, right=("utilisation",))
    return 0


def _one(args: Namespace, found: dict[str, Any]) -> int:
    if args.json:
        output.as_json(found)
        return 0
    number = f"override {found['id']}" if found["id"] else "preview, nothing kept"
    output.say(f"{number} {found['state']}: {found['connection']} {found['parameter']} = {found['value']}")
    rows = [(when, s["value"], s["status"], s["utilisation"], s["check"], s["action"], s["reason"]) for when, s in
            (("before", found["before"]), ("after", found["after"]))]  # fmt: skip
    output.table(("", found["parameter"], "status", "utilisation", "governs", "combination", "reason"), rows, right=("utilisation",))
    return 0


def _list(args: Namespace, found: list[dict[str, Any]]) -> int:
    if args.json:
        output.as_json(found)
        return 0
    rows = [
        (o["id"], o["connection"], o["parameter"], o["before"]["value"], o["value"], o["state"], o["author"], o["made"], o["reason"])
        for o in found
    ]
    output.table(("number", "connection", "parameter", "was", "set to", "state", "by", "at", "reason"), rows)
    return 0
