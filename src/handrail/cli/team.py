"""progress, revised, reserve, label, comment, release, table."""

from __future__ import annotations

from argparse import Namespace
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.cli import output, session
from handrail.core.errors import InputError
from handrail.core.quantities.units import WEIGHT

if TYPE_CHECKING:
    from handrail.client import answers as a

SHOWN = (
    "total",
    "done",
    "pass",
    "remarks",
    "over_target",
    "fail",
    "stale",
    "unchecked",
    "unassigned",
    "elsewhere",
    "overridden",
    "awaiting",
    "look",
    "released",
    "fell",
)


def _counts(of: Mapping[str, Any]) -> Iterator[Any]:
    return (of[name] for name in SHOWN)


def progress(args: Namespace) -> int:
    with session.client(args) as client:
        progress = client.progress(args.job)
    if args.json:
        output.as_json(progress)
        return 0
    output.table(("", *SHOWN), [("job", *_counts(progress["now"]))], right=SHOWN)
    for what, parts in (
        ("level", progress["level"]),
        ("sequence", progress["sequence"]),
        ("person", progress["person"]),
    ):
        if [part["name"] for part in parts] != [""]:
            output.table((what, *SHOWN), [(part["name"] or "(none)", *_counts(part)) for part in parts], right=SHOWN)
    if len(progress["days"]) > 1:
        output.table(("day", *SHOWN), [(day["day"], *_counts(day)) for day in progress["days"][-14:]], right=SHOWN)
    output.say("done: pass or elsewhere, and no decision on it awaits a word or asks to be looked at again")
    return 0


def revised(args: Namespace) -> int:
    with session.client(args) as client:
        items = client.revised(args.job, args.what)
    if args.json:
        output.as_json(items)
        return 0
    if items["before"] is None:
        output.say(
            f"R{items['revision']} is the first revision of '{args.job}' with results before it; there is nothing to"
            " compare"
        )
        return 0
    output.say(f"R{items['revision']} beside how it stood in R{items['before']}:")
    output.table(("connections", "number"), list(items["counts"].items()), right=("number",))
    rows = [
        (i["connection"], i["place"], i["what"], *_sides(i), i["reason"])
        for i in items["items"]
        if args.what or _moved(i)
    ]
    shown = rows if args.limit == 0 else rows[: args.limit]
    output.table(
        ("connection", "place", "what", "was", "used", "sizes then", "is", "used", "sizes now", "reason"),
        shown,
        right=("used",),
    )
    if len(rows) > len(shown):
        output.say(f"{len(rows) - len(shown)} more: --limit 0 shows all")
    return 0


def _moved(item: a.After) -> bool:
    """Whether a connection is not as it was."""
    same = item["before"] and item["now"] and item["before"]["status"] == item["now"]["status"]
    return item["what"] != "stands" and not (item["what"] in ("unassigned", "elsewhere") and same)


def _sides(item: a.After) -> tuple[Any, ...]:
    return tuple(
        v
        for side in (item["before"], item["now"])
        for v in ((side["status"], output.used(side), side["summary"]) if side else ("", None, ""))
    )


def reserve(args: Namespace) -> int:
    with session.client(args) as client:
        reserve = client.reserve(args.job, args.below, args.where)
        unit, scale = WEIGHT[client.job(args.job)["system"]]
    if args.json:
        output.as_json(reserve)
        return 0
    rows = [
        (
            len(i["connections"]),
            i["connections"][0],
            i["section"],
            i["summary"],
            i["utilisation"],
            ", ".join(f"{n} to {v}" for n, v in i["changes"].items()),
            i["then"] if i["changes"] else None,
            output.weighed(i["saves_all"].get("steel"), scale),
            *(f"{i['saves_all'][n]:.0f}" if n in i["saves_all"] else "" for n in ("field_bolts", "shop_bolts")),
            ", ".join(i["idle"]),
        )
        for i in reserve["items"]
    ]
    shown = rows if args.limit == 0 else rows[: args.limit]
    right = ("number", "used", "then", f"steel, {unit}", "field bolts", "shop bolts")
    output.table(
        ("number", "first of them", "member", "sizes", "used", "step down", "then", *right[3:], "hardly works"),
        shown,
        right=right,
    )
    output.say(
        f"{reserve['connections']} connections are used less than {args.below:g}; {len(rows)} kinds of them could do"
        " with less, or have parts that hardly work (no check of them reaches 5 %)"
    )
    return 0


def _chosen(args: Namespace) -> dict[str, Any]:
    chosen = {"connections": args.connections, "where": args.where, "pattern": args.pattern, "slot": args.slot}
    return {name: value for name, value in chosen.items() if value not in ("", None, [])}


def label(args: Namespace) -> int:
    with session.client(args) as client:
        labelled = client.label(args.job, args.tag, args.untag, args.person, args.sequence, **_chosen(args))
    if args.json:
        output.as_json(labelled)
    else:
        output.say(f"{labelled['changed']} of {labelled['connections']} connections were changed")
    return 0


def note(args: Namespace) -> int:
    with session.client(args) as client:
        noted = client.note_to_shop(args.job, args.words, **_chosen(args))
    if args.json:
        output.as_json(noted)
    else:
        output.say(f"{noted['changed']} of {noted['connections']} connections were changed")
    return 0


def comment(args: Namespace) -> int:
    with session.client(args) as client:
        comment = client.comment(args.job, args.connection, args.words)
    if args.json:
        output.as_json(comment)
    else:
        output.say(f"it stands in the history of {comment['connection']}")
    return 0


def release(args: Namespace) -> int:
    with session.client(args) as client:
        released = client.release(args.job, args.word, args.withdraw, args.skip, **_chosen(args))
    if args.json:
        output.as_json(released)
        return 0
    done = "release withdrawn" if args.withdraw else "released, they may be drawn"
    output.say(f"{released['connections']} connections: {done}")
    if released["refused"]:
        output.table(("not released", "because"), [(r["connection"], r["why"]) for r in released["refused"][:50]])
    return 0


def table(args: Namespace) -> int:
    path = Path(args.file)
    kind = path.suffix.lower().removeprefix(".")
    if kind not in ("csv", "xlsx"):
        raise InputError(f"{path}: a table is written as .csv or .xlsx")
    with session.client(args) as client:
        body = client.table(
            args.job, kind, args.where, args.sort, [c.strip() for c in args.columns.split(",") if c.strip()]
        )
    try:
        path.write_bytes(body)
    except OSError as exc:
        raise InputError(f"{path}: {exc}") from exc
    output.say(f"wrote {path} ({len(body)} bytes)")
    return 0
