"""transmittal: what leaves the house, made, listed, fetched and proved."""

from __future__ import annotations

from argparse import Namespace
from pathlib import Path
from typing import TYPE_CHECKING

from handrail.cli import output, session
from handrail.core.errors import InputError

if TYPE_CHECKING:
    from handrail.client import answers as a

SHOWN = 40  # connections that are printed


def make(args: Namespace) -> int:
    with session.client(args) as client:
        made = client.transmit(args.job, args.to, args.why, args.where, args.anyway, args.preview)
        if args.json:
            output.as_json(made)
            return 0
        _print(made)
        if args.preview or not args.file:
            return 0
        return output.put(output.ending(args.file, "zip"), client.transmittal_file(args.job, made["number"]))


def listed(args: Namespace) -> int:
    with session.client(args) as client:
        items = client.transmittals(args.job)
    if args.json:
        output.as_json(items)
        return 0
    rows = [
        (t["name"], t["made"][:16].replace("T", " "), t["author"], t["to"], t["why"], t["marks"],
         t["new"] + t["changed"] + t["same"], t["new"], t["changed"], t["withdrawn"], t["superseded"])
        for t in items
    ]  # fmt: skip
    names = (
        "name",
        "made, UTC",
        "by",
        "to",
        "why",
        "marks",
        "connections",
        "new",
        "changed",
        "withdrawn",
        "superseded",
    )
    output.table(names, rows)
    return 0


def show(args: Namespace) -> int:
    with session.client(args) as client:
        found = client.transmittal(args.job, _number(args.rest[0]))
        if args.to:
            return output.put(output.ending(args.to, "zip"), client.transmittal_file(args.job, found["number"]))
    if args.json:
        output.as_json(found)
        return 0
    _print(found)
    return 0


def verify(args: Namespace) -> int:
    """Whether a file is what was sent: by itself, and by the service's records."""
    from handrail.interchange.transmittal.zipped import inspected

    found = inspected(Path(args.rest[0]))
    name = f"T{found.number:03d} of {found.job}"
    for words in found.wrong:
        output.say(f"✗ {words}")
    with session.client(args) as client:
        kept = client.transmittal(found.job, found.number)
    same = kept["digest"] == found.digest
    if same and not found.wrong:
        output.say(f"✓ {name}, made {kept['made']} by {kept['author']}, is as it was sent (SHA-256 {found.digest})")
        return 0
    if not same:
        output.say(f"✗ {name} is not as it was sent: SHA-256 is {found.digest}, and was {kept['digest']}")
    return 1


def _number(text: str) -> int:
    digits = text.strip().upper().removeprefix("T")
    if not digits.isdecimal():
        raise InputError(f"'{text}' is no transmittal; they are called like T003")
    return int(digits)


def _print(it: a.TransmittalInFull) -> None:
    made = f"made {it['made']} by {it['author']}" if it["number"] else "not made: this is what would be in it"
    output.say(f"{it['name']} to {it['to']}: {it['why']}, {made}")
    output.say(
        f"{it['new'] + it['changed'] + it['same']} connections in {it['marks']} marks: {it['new']} new,"
        f" {it['changed']} changed, {it['same']} as they were sent; {it['withdrawn']} withdrawn"
    )
    if it["unreleased"]:
        output.say(f"✗ {it['unreleased']} are not released and go anyway: {it['anyway']}")
    for left in it["left_out"]:
        output.say(f"{left['connections']} {left['why']} are left out")
    changed = [row for row in it["items"] if row["change"] != "new"]
    if changed:
        rows = [(r["connection"], r["mark"], r["change"], r["words"], f"T{r['before']:03d}") for r in changed[:SHOWN]]
        output.table(("connection", "mark", "change", "in what", "last in"), rows)
        if len(changed) > SHOWN:
            output.say(f"and {len(changed) - SHOWN} more")
    if it["digest"]:
        output.say(f"SHA-256 {it['digest']}")
