"""The words of the command line: one module a group of commands, each read without importing what does them."""

from __future__ import annotations

import argparse
import sys
from collections.abc import Sequence
from typing import Any, NoReturn

DEFAULT_SERVER = "http://127.0.0.1:8740"


class Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        print(f"handrail: {message}; see '{self.prog} --help'", file=sys.stderr)
        raise SystemExit(2)


def command(commands: Any, name: str, words: str, where: str, remote: bool = True) -> argparse.ArgumentParser:
    """A command, `call` its function; a `remote` one says which service, by which token, and whether to print JSON."""
    parser: argparse.ArgumentParser = commands.add_parser(name, help=words, description=words)
    parser.set_defaults(call=where)
    if remote:
        _remote(parser)
        parser.set_defaults(server=None, token=None, json=False)
    return parser


def _remote(parser: argparse.ArgumentParser) -> None:
    """Which service, by which token, printed how; said behind a command or behind what it does."""
    parser.add_argument(
        "--server",
        default=argparse.SUPPRESS,
        help=f"address of the service (else HANDRAIL_SERVER, the sign-in, {DEFAULT_SERVER})",
    )
    parser.add_argument("--token", default=argparse.SUPPRESS, help="a token (else HANDRAIL_TOKEN, the sign-in)")
    parser.add_argument("--json", action="store_true", default=argparse.SUPPRESS, help="print JSON")


class Actions:
    """What a command does, each with its own words and help: `handrail override accept --help`. `usual` is done where
    none is said; `more` is what it is read with where an action does not say it."""

    def __init__(self, parser: argparse.ArgumentParser, usual: str = "", **more: Any) -> None:
        self._added = parser.add_subparsers(dest="action", metavar="ACTION", required=not usual)
        parser.set_defaults(**{"rest": [], "job": "", **more})
        if usual:
            parser.set_defaults(action=usual)

    def add(
        self, name: str, words: str, *named: tuple[str, str], more: tuple[str, str] | None = None
    ) -> argparse.ArgumentParser:
        """One of them with what it needs, (word, help) in turn; `more` may be any number, or none."""
        parser: argparse.ArgumentParser = self._added.add_parser(
            name, help=words, description=words, argument_default=argparse.SUPPRESS
        )
        for word, help_ in named:
            if word == "JOB":
                parser.add_argument("job", metavar="JOB", help=help_)
            else:
                parser.add_argument("rest", nargs=1, action="extend", metavar=word, help=help_)
        if more:
            parser.add_argument("rest", nargs="*", action="extend", metavar=more[0], help=more[1])
        _remote(parser)
        return parser


__all__: Sequence[str] = ("DEFAULT_SERVER", "Actions", "Parser", "command")
