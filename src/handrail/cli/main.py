"""Reads the command line and hands over to the command's own module, imported only then."""

from __future__ import annotations

import argparse
import importlib
import os
import sys
from typing import Any

from handrail.cli.parsers import (
    Parser,
    accounts,
    decisions,
    designs,
    jobs,
    local,
    marks,
    queries,
    rules,
    service,
    survey,
    team,
    transmittal,
)

GROUPS = (service, accounts, jobs, survey, rules, designs, decisions, team, marks, local, transmittal, queries)


def parser() -> argparse.ArgumentParser:
    """The whole command line."""
    top = Parser(
        prog="handrail",
        description="Standard steel connections for a whole building: framed, ruled, checked, traceable.",
    )
    top.add_argument("--version", action="store_true", help="print the version")
    commands = top.add_subparsers(dest="command", metavar="COMMAND")
    for group in GROUPS:
        group.add(commands)
    return top


def _parsed(top: argparse.ArgumentParser, argv: list[str] | None) -> argparse.Namespace:
    """The arguments; words that stand behind options go with those before them."""
    args, left = top.parse_known_args(argv)
    for name in ("rest", "connections"):
        if left and hasattr(args, name) and not any(word.startswith("-") for word in left):
            setattr(args, name, [*getattr(args, name), *left])
            return args
    if left:
        top.error(f"unrecognized arguments: {' '.join(left)}")
    return args


def main(argv: list[str] | None = None) -> int:
    """Run one command; the exit code is 0 done, 1 something fails its checks, 2 wrong use or refused."""
    top = parser()
    args = _parsed(top, argv)
    if args.version:
        from handrail import __version__

        print(f"handrail {__version__}")
        return 0
    if not args.command:
        top.print_help()
        return 2
    module, function = args.call.split(":")
    return _call(module, function, args)


def _call(module: str, function: str, args: argparse.Namespace) -> int:
    from handrail.core.errors import InputError

    try:
        return int(getattr(importlib.import_module(f"handrail.{module}"), function)(args) or 0)
    except InputError as exc:
        in_si = getattr(args, "si", False) or getattr(args, "json", False)
        return _refused(exc.said("si" if in_si else "us"))
    except KeyboardInterrupt:
        return _refused("stopped")
    except (
        BrokenPipeError
    ):  # who reads has read enough: `| head`; what was asked is answered by the exit code all the same
        sys.stdout = open(os.devnull, "w")  # noqa: SIM115
        return 0
    except RuntimeError as exc:  # ServiceError and the like
        from handrail.cli.output import visible

        problems = getattr(exc, "problems", [])
        for problem in problems[:20]:
            print("  " + visible(_place(problem)), file=sys.stderr)
        return _refused(str(exc))


def _place(problem: dict[str, Any]) -> str:
    place = " ".join(
        str(v)
        for v in (
            problem.get("file"),
            f"row {problem['row']}" if problem.get("row") else "",
            f"line {problem['line']} column {problem['column']}" if problem.get("line") else problem.get("column"),
            problem.get("where"),
        )
        if v
    )
    return f"{place}: {problem.get('message', '')}"


def _refused(text: str) -> int:
    from handrail.cli.output import visible

    print(visible(f"handrail: {text}"), file=sys.stderr)
    return 2


if __name__ == "__main__":
    raise SystemExit(main())
