"""rulebook."""

from __future__ import annotations

import sys
from argparse import Namespace
from pathlib import Path

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
