"""catalogue: what the house has beside the shipped tables, kept, approved and retired."""

from __future__ import annotations

from argparse import Namespace
from typing import Any

from handrail.cli import output, session
from handrail.core.errors import InputError


def catalogue(args: Namespace) -> int:
    """One action on the house's catalogue."""
    with session.client(args) as client:
        if args.action == "list":
            _list(client.entries(), args)
            return 0
        kind, name, *given = args.rest
        if args.action == "put":
            entry = client.put_entry(kind, name, _values(given), args.source or "", args.job or "")
        elif args.action == "remove":
            client.remove_entry(kind, name)
            output.say(f"{kind} {name}: the draft is gone")
            return 0
        else:
            entry = client.review_entry(kind, name, "approved" if args.action == "approve" else "retired")
    output.say(f"{kind} {entry['name']} is {entry['state']}: {_said(entry['values'])}; {entry['source']}")
    return 0


def _list(entries: list[Any], args: Namespace) -> None:
    if args.json:
        output.as_json(entries)
        return
    rows = [
        (e["kind"], e["name"], e["state"], _said(e["values"]), e["source"], e["job"] or "all", e["reviewer"])
        for e in entries
    ]
    output.table(("kind", "name", "state", "values", "source", "for", "approved by"), rows)


def _said(values: dict[str, Any]) -> str:
    return ", ".join(f"{name} {value}" for name, value in values.items())


def _values(given: list[str]) -> dict[str, Any]:
    """`Fy=50 ksi` and the like; steps as `steps=40 mm:355 MPa:490 MPa; 63 mm:335 MPa:470 MPa`."""
    values: dict[str, Any] = {}
    for one in given:
        name, equals, value = one.partition("=")
        if not equals:
            raise InputError(f"'{one}': write values like 'Fy=50 ksi'")
        values[name.strip()] = value.strip()
    return values
