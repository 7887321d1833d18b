"""survey, combinations, acknowledge: what is in a model and what it is judged by."""

from __future__ import annotations

import json
from argparse import Namespace
from collections import Counter
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.cli import output, session
from handrail.core.errors import InputError
from handrail.core.quantities.units import HEAVY, LONG, SHOWN

if TYPE_CHECKING:
    from handrail.client import answers as a

NOTHING = 0.02  # kN or kN*m


def survey(args: Namespace) -> int:
    with session.client(args) as client:
        if args.to:
            return output.put(output.ending(args.to, "pdf"), client.survey_pdf(args.job))
        survey = client.survey(args.job)
    if args.json:
        output.as_json(survey)
        return 0
    most = args.limit if args.limit > 0 else None
    (long, per), (heavy, each) = LONG[survey["system"]], HEAVY[survey["system"]]
    output.say(f"R{survey['number']}, strength combinations of {survey['method']}")
    rows = [
        (s["section"], ", ".join(s["grades"]), s["members"], round(s["length"] * per, 1), round(s["mass"] * each, 2))
        for s in survey["sections"]
    ]
    output.table(
        ("section", "grade", "members", f"length, {long}", f"mass, {heavy}"),
        rows[:most],
        right=("members", f"length, {long}", f"mass, {heavy}"),
    )
    for rare in survey["rare"]:
        output.say(
            f"{rare['section']} is used {rare['members']} time(s)"
            + (f"; {rare['instead']} could stand in for it" if rare["instead"] else "")
        )
    output.say("")
    output.table(("framing condition", "connections"), list(survey["framings"].items()), right=("connections",))
    output.say("")
    largest = [
        (p["component"], amount(p["value"], p["unit"], survey["system"]), f"{p['member']}.{p['end']}", p["combination"])
        for p in survey["peaks"]
    ]
    output.table(("component", "largest", "member end", "combination"), largest, right=("largest",))
    output.say("\nmember ends by the share of their own section's strength:")
    tenths = [f"{k / 10:.1f}" for k in range(len(survey["histogram"]))]
    output.table([f"{a}+" for a in tenths], [survey["histogram"]])
    asked = [
        (f"{d['member']}.{d['end']}", d["section"], d["share"], d["component"], d["combination"])
        for d in survey["demands"]
    ]
    output.table(("member end", "section", "share", "component", "combination"), asked[:most], right=("share",))
    return 0


def amount(value: float, unit: str, system: str) -> str:
    """A force in kN or a moment in kN*m, in the units of a job."""
    if system == "si":
        return f"{value:.1f} {unit}"
    kind = "force" if unit == "kN" else "moment"
    shown, scale = SHOWN["us"][kind]
    return (
        f"{value * (1e3 if kind == 'force' else 1e6) * scale / (12 if kind == 'moment' else 1):.1f}"
        f" {'kip*ft' if kind == 'moment' else shown}"
    )


def combinations(args: Namespace) -> int:
    with session.client(args) as client:
        if args.action == "put":
            if not args.file:
                raise InputError("combinations put JOB FILE: name the file")
            revision = client.keep_combinations(args.job, _read(args.file))
            return _kept(args, revision)
        if args.action == "get":
            answer = client.combinations(args.job)
        else:
            methods = args.method or [client.job(args.job)["method"]]
            answer = client.generate_combinations(
                args.job,
                edition=args.edition,
                methods=methods,
                S_DS=args.sds,
                rho=args.rho,
                omega=args.omega,
                category=args.category,
                one_way=args.one_way,
            )
            if args.keep:
                return _kept(args, client.keep_combinations(args.job, answer["combinations"]))
    if args.json:
        output.as_json(answer)
        return 0
    rows = [
        (c["name"], c["set"], c["method"], " ".join(f"{factor:+g} {case}" for case, factor in c["terms"]))
        for c in answer["combinations"]
    ]
    output.table(("combination", "set", "method", "terms"), rows)
    output.say(
        f"{len(rows)} combinations"
        + (f"; in none of them: {', '.join(answer['left_out'])}" if answer["left_out"] else "")
    )
    return 0


def _read(name: str) -> list[dict[str, Any]]:
    try:
        data = json.loads(Path(name).read_text(encoding="utf-8"))
    except (OSError, ValueError) as exc:
        raise InputError(f"{name}: not readable JSON ({exc})") from exc
    listed = data.get("combinations") if isinstance(data, dict) else data
    if not isinstance(listed, list):
        raise InputError(f"{name}: expected a list of combinations, each with name, set, method and terms")
    return listed


def _kept(args: Namespace, revision: a.Revision) -> int:
    if args.json:
        output.as_json(revision)
    else:
        output.say(f"R{revision['number']} stands with these combinations; run it again: handrail run {args.job}")
    return 0


def acknowledge(args: Namespace) -> int:
    with session.client(args) as client:
        if args.take_back:
            answer = client.take_back(args.job, args.code, args.node, args.member)
        else:
            answer = client.acknowledge(args.job, args.code, args.reason, args.node, args.member, args.all)
    if args.json:
        output.as_json(answer)
        return 0
    open_ = [f for f in answer["audit"]["findings"] if not f["acknowledged"] and f["severity"] != "note"]
    output.say(f"{len(open_)} finding(s) still to look at")
    return 0


def compare(args: Namespace) -> int:
    if len(args.revisions) not in (0, 2):
        raise InputError("compare JOB R1 R2: name two revisions, or none for the last two")
    numbers: list[int | None] = [_number(r) for r in args.revisions] or [None, None]
    with session.client(args) as client:
        compared = client.compare(args.job, *numbers)
    if args.json:
        output.as_json(compared)
        return 0
    counts = Counter(c["kind"] for c in compared["changes"])
    told = ", ".join(f"{n} {kind}" for kind, n in counts.items()) or "nothing changed"
    output.say(f"R{compared['old']} to R{compared['new']}: {told}; {compared['unchanged']} members as they were\n")
    rows = [
        (c["kind"], c["name"], c["was"], c["now"], f"{c['share']:.0%}" if c["share"] else "", ", ".join(c["joints"]))
        for c in compared["changes"]
    ]
    shown = rows[: args.limit] if args.limit > 0 else rows
    output.table(("change", "what", "was", "is now", "of its strength", "joints"), shown, right=("of its strength",))
    output.say(f"{len(shown)} of {len(rows)} changes")
    return 0


def _number(text: str) -> int:
    digits = text.upper().removeprefix("R")
    if not digits.isdecimal():
        raise InputError(f"'{text}' is no revision; write it like R2")
    return int(digits)
