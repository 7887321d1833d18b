"""profile: how the house prints."""

from __future__ import annotations

from argparse import Namespace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.cli import output, session
from handrail.core.errors import InputError

if TYPE_CHECKING:
    from handrail.client import answers as a


def profile(args: Namespace) -> int:
    _ACTIONS[args.action](args)
    return 0


def _list(args: Namespace) -> None:
    with session.client(args) as client:
        listed = client.profiles()
    if args.json:
        output.as_json(listed)
        return
    rows = [
        (
            p["name"],
            p["firm"][0] if p["firm"] else "",
            p["registration"],
            p["emblem"],
            ", ".join(p["sections"]) or "all",
            p["lines"] or "governing",
            p["author"],
        )
        for p in listed
    ]
    output.table(("profile", "firm", "registration", "emblem", "sections", "lines", "by"), rows)
    if not rows:
        output.say("none yet; 'handrail profile put usual --firm ...' keeps the one that holds where none is named")


def _put(args: Namespace) -> None:
    """What is not said stays as it is."""
    name = args.rest[0]
    with session.client(args) as client:
        there = next((p for p in client.profiles() if p["name"] == name), None)
        kept = client.put_profile(name, **_given(args, there), emblem=_emblem(args.emblem))
    if args.json:
        output.as_json(kept)
    else:
        output.say(f"kept: {name}" + ("; it holds where none is named" if name == "usual" else ""))


def _given(args: Namespace, there: a.KeptProfile | None) -> dict[str, Any]:
    """What is said, and what was there where nothing is."""
    firm = None if args.firm is None else [line.strip() for line in args.firm.split(" / ")]
    sections = None if args.sections is None else [one.strip() for one in args.sections.split(",") if one.strip()]
    said = {"firm": firm, "registration": args.registration, "sections": sections, "lines": args.lines}
    was = dict(there or {})
    return {
        name: was.get(name) if value is None else value for name, value in said.items() if value is not None or there
    }


def _emblem(path: str | None) -> bytes | None:
    """What is in a file; nothing for '', None where none is said."""
    if not path:
        return None if path is None else b""
    try:
        return Path(path).read_bytes()
    except OSError as exc:
        raise InputError(f"--emblem: {path} cannot be read ({exc.strerror})") from exc


def _remove(args: Namespace) -> None:
    with session.client(args) as client:
        client.remove_profile(args.rest[0])
    if not args.json:
        output.say(f"taken away: {args.rest[0]}")


_ACTIONS = {"list": _list, "put": _put, "remove": _remove}
