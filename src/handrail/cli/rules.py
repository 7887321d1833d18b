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
        if len(args.rest) != 2 or "=" not in args.rest[1]:
            raise InputError("usage: handrail override set JOB CONNECTION PARAMETER=VALUE --reason WORDS")
        parameter, value = args.rest[1].split("=", 1)
        seen = client.connection(args.job, args.rest[0])["version"]
        return _one(args, client.set_override(args.job, args.rest[0], parameter.strip(), value.strip(), args.reason, args.preview, seen, args.both))


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
