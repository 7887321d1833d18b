"""house: rulebooks above the jobs."""

from __future__ import annotations

import re
from argparse import Namespace
from typing import TYPE_CHECKING

from handrail.cli import output, rules, session
from handrail.core.errors import InputError

if TYPE_CHECKING:
    from handrail.client import answers as a


def house(args: Namespace) -> int:
    _ACTIONS[args.action](args)
    return 0


def _revision(args: Namespace) -> tuple[str, int]:
    """What `NAME R2` means, in one word or two."""
    match = re.fullmatch(r"(\S+) [Rr](\d+)", " ".join(args.rest).strip())
    if match is None:
        raise InputError(f"'{' '.join(args.rest)}' is no revision, like 'NAME R2'; 'handrail house' lists them")
    return match[1], int(match[2])


def _list(args: Namespace) -> None:
    with session.client(args) as client:
        listed = client.house()
    if args.json:
        output.as_json(listed)
        return
    rows = [
        (
            k["called"],
            k["state"],
            k["note"],
            k["inherits"],
            k["author"],
            k["made"][:10],
            k["reviewer"],
            ", ".join(k["jobs"]),
        )
        for k in listed
    ]
    output.table(("rulebook", "state", "note", "stands on", "by", "made", "reviewed by", "jobs on it"), rows)


def _get(args: Namespace) -> None:
    with session.client(args) as client:
        answer = client.house_rulebook(*_revision(args))
    if args.to:
        rules.write(args.to, answer)
    elif args.json:
        output.as_json(answer)
    else:
        print(answer["text"], end="")


def _put(args: Namespace) -> None:
    text, files = rules.read(args.rest[1])
    with session.client(args) as client:
        answer = client.put_house(args.rest[0], text, files, args.note)
    _told(
        args,
        answer,
        f"kept as {answer['called']}, a draft: 'handrail house approve {answer['called']}' lets jobs stand on it",
    )


def _review(args: Namespace) -> None:
    state = {"approve": "approved", "retire": "retired"}[args.action]
    with session.client(args) as client:
        answer = client.review_house(*_revision(args), state)
    more = f"jobs on it: {', '.join(answer['jobs']) or 'none yet'}"
    _told(
        args,
        answer,
        f"{answer['called']} is {answer['state']}; {more}; a rulebook stands on it by 'inherits: {answer['called']}'",
    )


def _told(args: Namespace, answer: a.WrittenRulebook, words: str) -> None:
    if args.json:
        output.as_json(answer)
    else:
        output.say(words)


def _compare(args: Namespace) -> None:
    with session.client(args) as client:
        compared = client.compare_house(args.rest[0], *(rules.number(text) for text in args.rest[1:3]))
    rules.told_differences(args, compared)


_ACTIONS = {"list": _list, "get": _get, "put": _put, "approve": _review, "retire": _review, "compare": _compare}
