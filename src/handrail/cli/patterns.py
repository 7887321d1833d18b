"""patterns and groups: joints that are alike, connections that people put together."""

from __future__ import annotations

from argparse import Namespace
from pathlib import Path
from typing import Any

from handrail.cli import output, session
from handrail.cli.survey import NOTHING, amount
from handrail.core.errors import InputError


def patterns(args: Namespace) -> int:
    """patterns JOB, one of them, or a change to one."""
    if args.put or args.take_out or args.leave:
        return _edit(args)
    if args.workbook:
        return _workbook(args)
    most = args.limit if args.limit > 0 else None
    with session.client(args) as client:
        answer: Any = client.pattern(args.job, args.pattern) if args.pattern else client.patterns(args.job)
        system = client.job(args.job)["system"]
    if args.json:
        output.as_json(answer)
        return 0
    if not args.pattern:
        rows = [(p["name"], p["joints"], p["mirrored"] or "", p["connections"], "; ".join(p["slots"])) for p in answer]
        output.table(
            ("pattern", "joints", "mirrored", "connections", "what meets"),
            rows[:most],
            right=("joints", "mirrored", "connections"),
        )
        output.say(f"{len(rows[:most])} of {len(rows)} patterns")
        return 0
    joints = [
        m["joint"] + (f" ({m['place']})" if m["place"] else "") + ("*" if m["mirrored"] else "")
        for m in answer["members"]
    ]
    output.say(
        f"{answer['name']}: {answer['joints']} joints"
        f" ({', '.join(joints[:most])}{' ...' if most and len(joints) > most else ''}); * mirrored"
    )
    for m in (m for m in answer["members"] if m["said"]):
        output.say(f"{m['joint']} was {m['said']}")
    for place in answer["places"]:
        if not place["framing"]:
            continue
        output.say(f"\n{place['words']}, as the first joint's axes see it")
        rows = []
        some = {p["action"] for p in place["peaks"] if abs(p["values"][answer["actions"].index(p["action"])]) > NOTHING}
        for p in (p for p in place["peaks"] if p["action"] in some):
            values = [_value(v, k, system) for k, v in enumerate(p["values"])]
            rows.append(
                (
                    f"{p['action']} {'largest' if p['largest'] else 'smallest'}",
                    *values,
                    p["connection"],
                    p["combination"],
                )
            )
        if left := [name for name in answer["actions"] if name not in some]:
            output.say(f"nothing of {', '.join(left)}")
        output.table(("peak", *answer["actions"], "connection", "combination"), rows, right=tuple(answer["actions"]))
    return 0


def _edit(args: Namespace) -> int:
    joint = args.put or args.take_out or args.leave
    with session.client(args) as client:
        if args.leave:
            edited = client.leave_in_pattern(args.job, joint)
        else:
            beside = ""
            if args.put:
                if not args.pattern:
                    raise InputError("patterns JOB PATTERN --put JOINT: name the pattern")
                beside = next((j for j in client.pattern(args.job, args.pattern)["at"] if j != joint), "")
            edited = client.put_in_pattern(args.job, joint, beside, args.reason)
    if args.json:
        output.as_json(edited)
    else:
        output.say(f"{joint} is in {edited['name']} now, of {edited['joints']} joint(s)")
    return 0


def _workbook(args: Namespace) -> int:
    if not args.pattern:
        raise InputError("patterns JOB PATTERN --workbook FILE: name the pattern")
    with session.client(args) as client:
        content = client.pattern_workbook(args.job, args.pattern)
    try:
        Path(args.workbook).write_bytes(content)
    except OSError as exc:
        raise InputError(f"{args.workbook}: {exc}") from exc
    output.say(
        f"wrote {args.workbook}: the reference joint, the critical actions of all joints turned onto it, and the joints"
    )
    return 0


def groups(args: Namespace) -> int:
    """groups JOB, one of them, or a change to one."""
    changes = args.where or args.add or args.take or args.drop
    if changes and not args.group:
        raise InputError("groups JOB NAME: name the group to make or change")
    with session.client(args) as client:
        if args.drop:
            client.drop_group(args.job, args.group)
            output.say(f"{args.group} is no group any more; its connections stay")
            return 0
        if args.take:
            client.put_group(args.job, args.group, args.take, "", "take")
        if args.add or args.where:
            client.put_group(args.job, args.group, args.add, args.where, "add")
        answer: Any = client.group(args.job, args.group) if args.group else client.groups(args.job)
    if args.json:
        output.as_json(answer)
    elif args.group:
        output.say(
            f"{answer['name']}: {answer['connections']} connections ({_counted(answer['statuses'])}),"
            f" by {answer['author']}"
        )
        output.table(("alike in", "all"), list(answer["common"].items()))
        output.table(("differ in", "values"), [(name, _counted(said)) for name, said in answer["differ"].items()])
    else:
        output.table(
            ("group", "connections", "statuses", "by"),
            [(g["name"], g["connections"], _counted(g["statuses"]), g["author"]) for g in answer],
            right=("connections",),
        )
    return 0


def _counted(values: dict[str, int], most: int = 5) -> str:
    words = [f"{count} {name or 'none'}" for name, count in list(values.items())[:most]]
    return ", ".join(words) + (f", {len(values) - most} more" if len(values) > most else "")


def _value(value: float, component: int, system: str) -> str:
    return amount(value if abs(value) > NOTHING else 0.0, "kN" if component < 3 else "kN*m", system)
