"""query: what is asked of the engineer of record."""

from __future__ import annotations

from argparse import Namespace
from pathlib import Path
from typing import TYPE_CHECKING

from handrail.cli import output, session
from handrail.core.errors import InputError

if TYPE_CHECKING:
    from handrail.client import answers as a

KINDS = ("connection", "joint", "member", "finding")


def listed(args: Namespace) -> int:
    with session.client(args) as client:
        found = client.queries(args.job, args.state)
    if args.json:
        output.as_json(found)
        return 0
    rows = [
        (
            q["name"],
            q["title"],
            ", ".join(f"{one['kind']} {one['name']}" for one in q["of"][:3]) + (" ..." if len(q["of"]) > 3 else ""),
            q["to"],
            q["due"] + (" LATE" if q["late"] else ""),
            q["state"] + (", holds" if q["holds"] and q["state"] == "open" else ""),
            q["author"],
        )
        for q in found["items"]
    ]
    output.table(("query", "asked", "of", "to", "due", "state", "by"), rows)
    return 0


def ask(args: Namespace) -> int:
    of = [(kind, name) for kind in KINDS for name in getattr(args, kind) or ()]
    if not of:
        raise InputError("say what it is about: --connection, --joint, --member or --finding")
    with session.client(args) as client:
        made = client.ask(args.job, args.rest[0], of, args.words, args.to, args.due, args.holds)
    return _told(args, made, "asked")


def show(args: Namespace) -> int:
    with session.client(args) as client:
        found = client.query(args.job, _number(args.rest[0]))
        if args.picture:
            return output.put(output.ending(args.picture, "png"), client.query_picture(args.job, found["number"]))
    if args.json:
        output.as_json(found)
        return 0
    output.say(f"{found['name']}: {found['title']} ({found['state']}{', late' if found['late'] else ''})")
    for name, text in (
        ("of", ", ".join(f"{one['kind']} {one['name']}" for one in found["of"])),
        ("not in the model", ", ".join(found["missing"])),
        ("concerns", ", ".join(found["connections"][:12]) + (" ..." if len(found["connections"]) > 12 else "")),
        ("asked", f"by {found['author']} {found['made'][:10]}" + (f", to {found['to']}" if found["to"] else "")),
        ("due", found["due"]),
        ("", found["words"]),
    ):
        if text:
            output.say(f"  {name}: {text}" if name else f"  {text}")
    for said in found["said"]:
        output.say(f"  {said['what']} by {said['author']} {said['made'][:10]}: {said['words']}")
    return 0


def answer(args: Namespace) -> int:
    with session.client(args) as client:
        return _told(args, client.answer_query(args.job, _number(args.rest[0]), args.words), "answered")


def close(args: Namespace) -> int:
    with session.client(args) as client:
        return _told(args, client.close_query(args.job, _number(args.rest[0]), args.words), "closed")


def again(args: Namespace) -> int:
    with session.client(args) as client:
        return _told(args, client.ask_again(args.job, _number(args.rest[0]), args.words), "asked again")


def put(args: Namespace) -> int:
    """As a file: a list to print, or BCF."""
    path = output.ending(args.to, "pdf", "bcf")
    with session.client(args) as client:
        body = client.queries_file(args.job, path.suffix.lower().removeprefix("."), args.state, args.version)
    return output.put(path, body)


def take_in(args: Namespace) -> int:
    try:
        data = Path(args.rest[0]).read_bytes()
    except OSError as exc:
        raise InputError(f"{args.rest[0]} cannot be read ({exc.strerror})") from exc
    with session.client(args) as client:
        taken = client.take_in_queries(args.job, data)
    if args.json:
        output.as_json(taken)
    else:
        parts = [f"{len(taken[name])} {name}" for name in ("new", "changed", "same")]
        output.say(f"taken in: {', '.join(parts)}")
    return 0


def _told(args: Namespace, query: a.EngineerQuery, what: str) -> int:
    if args.json:
        output.as_json(query)
    else:
        concerns = f"; it concerns {len(query['connections'])} connections"
        holds = " and holds their release" if query["holds"] and query["state"] == "open" else ""
        output.say(f"{query['name']} is {what}{concerns}{holds}")
    return 0


def _number(text: str) -> int:
    """Of `Q7` or `7`."""
    bare = text.upper().removeprefix("Q")
    if not bare.isdigit():
        raise InputError(f"'{text}' is no query, like Q7; 'handrail query list JOB' has them")
    return int(bare)
