"""jobs, job new, import, audit, joints, connections, show, run."""

from __future__ import annotations

import sys
from argparse import Namespace
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING, Any

from handrail.cli import output, session
from handrail.core.errors import InputError
from handrail.core.quantities.units import FOOT, KIP, LONG, WEIGHT

if TYPE_CHECKING:
    from handrail.client import answers as a


def _closed(args: Namespace) -> int:
    """What is left of deleted jobs."""
    with session.client(args) as client:
        closed = client.closed()
    if args.json:
        output.as_json(closed)
    else:
        output.table(
            ("job", "entries", "head", "deleted by", "at"),
            [(c["job"], c["entries"], c["head"], c["author"], c["made"]) for c in closed],
        )
    return 0


def jobs(args: Namespace) -> int:
    if args.closed:
        return _closed(args)
    with session.client(args) as client:
        jobs = client.jobs()
    if args.json:
        output.as_json(jobs)
        return 0
    rows = [
        (
            j["name"],
            j["title"],
            f"{j['code']} {j['method']}",
            f"R{j['revision']['number']}" if j["revision"] else "none",
            j["connections"],
            _statuses(j["statuses"]),
            j["role"],
        )
        for j in jobs
    ]
    output.table(("job", "title", "code", "revision", "connections", "standing", "your role"), rows)
    return 0


def _statuses(counts: dict[str, int]) -> str:
    return ", ".join(f"{n} {s}" for s, n in counts.items())


def job(args: Namespace) -> int:
    asked = ("title", "firm", "code", "method", "combination_set", "tolerance", "rulebook")
    given = {name: value for name in asked if (value := getattr(args, name)) not in (None, "")}
    if args.action == "new" and (args.combination_set or args.tolerance is not None):
        raise InputError("--set and --tolerance go with a job that is there: handrail job set NAME --set SET")
    if args.action == "new" and args.firm:
        raise InputError("--firm goes with a job that is there: handrail job set NAME --firm 'name / address'")
    given |= {"firm": "\n".join(line.strip() for line in args.firm.split(" / "))} if args.firm else {}
    if args.action == "set" and args.rulebook:
        raise InputError("--rulebook goes with a new job; in one that is there, put a rulebook that says 'inherits'")
    with session.client(args) as client:
        if args.action == "new":
            given["rulebook"] = _begun_by(client, args.rulebook)
            made = client.new_job(args.name, **given)
        else:
            made = client.change_job(args.name, **given, anyway=args.anyway, tag=client.job(args.name)["tag"])
    if args.json:
        output.as_json(made)
    elif args.action == "new":
        by = f", by {given['rulebook']}" if given["rulebook"] else ""
        output.say(
            f"made job {made['name']} ({made['code']} {made['method']}{by}); next: handrail import {made['name']}"
            " BUNDLE"
        )
    else:
        output.say(
            f"job {made['name']}: {made['title'] or 'no title'}, {made['code']} {made['method']};"
            f" {_statuses(made['statuses'])}"
        )
    return 0


def _begun_by(client: Any, asked: str) -> str:
    """The house's rulebook that a new job begins with: the one that is asked for, `none`, or the only one that is
    approved."""
    if asked:
        return "" if asked == "none" else asked
    newest: dict[str, str] = {}
    for kept in client.house():  # newest first of each name
        if kept["state"] == "approved":
            newest.setdefault(kept["name"], kept["called"])
    if len(newest) > 1:
        raise InputError(
            f"say which rulebook of the house it begins with: --rulebook '{next(iter(newest.values()))}' (there is"
            f" {', '.join(newest.values())}), or --rulebook none"
        )
    return next(iter(newest.values()), "")


def import_model(args: Namespace) -> int:
    path = Path(args.path)
    for given in (path, Path(args.map or path)):
        if not given.exists():
            raise InputError(f"{given}: no such file or folder")
    with session.client(args) as client:
        revision = _import(client, args.job, path, Path(args.map).read_text(encoding="utf-8") if args.map else "")
    return _print_audit(args, revision)


def audit(args: Namespace) -> int:
    with session.client(args) as client:
        revision = client.audit(args.job)
    return _print_audit(args, revision)


SEVERITIES = ("error", "warning", "note")
MOST_FINDINGS = 50
MOST_OF_ONE = 5  # findings of one group that are told


def _print_audit(args: Namespace, revision: a.Revision) -> int:
    if args.json:
        output.as_json(revision)
        return 0
    told = revision["audit"]
    output.say(
        f"R{revision['number']} {revision['title']} (revision {revision['label'] or '-'},"
        f" {revision['dated'] or 'undated'})"
    )
    _say_findings(told["findings"])
    output.say("")
    output.table(("what", "count"), list(told["counts"].items()), right=("count",))
    balance = told["balance"]
    output.say(
        f"\nbalance: {balance['nodes_checked']} nodes; worst residual {balance['worst_share']:.3%} of the forces"
        f" meeting at node {balance['node']} in {balance['result']}\n"
    )
    rows = [
        (
            w["component"],
            _amount(w["value"], w["unit"], told.get("system", "us")),
            f"{w['member']}.{w['end']}",
            w["result"],
        )
        for w in told["worst"]
    ]
    output.table(("component", "largest", "member end", "result"), rows, right=("largest",))
    return 0


def _group(finding: a.AuditFinding) -> tuple[str, str]:
    """What findings have in common that are let stand in one word."""
    return finding["code"], finding.get("cause", "")


def _say_findings(findings: list[a.AuditFinding]) -> None:
    """What the audit saw, the worst first and what nobody let stand before what somebody did; how many more there
    are."""
    groups = Counter(_group(f) for f in findings)
    worst: dict[tuple[str, str], float] = {}
    for f in findings:
        worst[_group(f)] = max(worst.get(_group(f), 0.0), abs(float(f.get("value", 0.0))))
    ranked = sorted(
        findings,
        key=lambda f: (SEVERITIES.index(f["severity"]), bool(f.get("acknowledged")), -worst[_group(f)], _group(f)),
    )
    counts: Counter[str] = Counter(f["severity"] for f in findings)
    output.say(", ".join(f"{counts[name]} {name}{'s' * (counts[name] != 1)}" for name in SEVERITIES))
    told: Counter[tuple[str, str]] = Counter()
    shown: list[a.AuditFinding] = []
    for f in ranked:  # of a group some, and how many more
        told[_group(f)] += 1
        if told[_group(f)] == MOST_OF_ONE + 1 and groups[_group(f)] > MOST_OF_ONE + 1:
            shown.append(
                {
                    **f,
                    "message": f"and {groups[_group(f)] - MOST_OF_ONE} more like these",
                    "place": "",
                    "acknowledged": None,
                }
            )
        elif told[_group(f)] <= MOST_OF_ONE or groups[_group(f)] <= MOST_OF_ONE + 1:
            shown.append(f)
    for f in shown[:MOST_FINDINGS]:
        stands = f" (stands: {let['reason']}, {let['author']})" if (let := f.get("acknowledged")) else ""
        at = f" [{f['place']}]" if f.get("place") else ""
        output.say(f"  {f['severity']} {f['code']}: {f['message']}{at}{stands}")
    if (more := len(shown) - MOST_FINDINGS) > 0:
        output.say(f"  and {more} more: handrail audit JOB --json has them all")


def _shown(rows: list[Any], limit: int) -> list[Any]:
    return rows[:limit] if limit > 0 else rows


def joints(args: Namespace) -> int:
    with session.client(args) as client:
        page = client.joints(args.job, args.where)
        unit, scale = LONG[client.job(args.job)["system"]]
    if args.json:
        output.as_json(page)
        return 0
    rows = [
        (j["joint"], j["place"], j["status"], j["utilisation"], j["elevation"] * scale, ", ".join(j["connections"]))
        for j in _shown(page, args.limit)
    ]
    height = f"height, {unit}"
    output.table(
        ("joint", "place", "status", "utilisation", height, "connections"), rows, right=("utilisation", height)
    )
    output.say(f"{len(rows)} of {len(page)} joints")
    return 0


def connections(args: Namespace) -> int:
    with session.client(args) as client:
        page = client.connections(args.job, args.where, args.sort)
    if args.json:
        output.as_json(page)
        return 0
    rows = [
        (
            c["connection"],
            c["place"],
            output.stands(c),
            c["utilisation"] or None,
            c["framing"],
            c["section"],
            c["support_section"],
            c["summary"],
            c["check"] or c["reason"],
            "yes" if c["overridden"] else "",
        )
        for c in _shown(page, args.limit)
    ]
    output.table(
        (
            "connection",
            "place",
            "status",
            "utilisation",
            "framing",
            "member",
            "support",
            "sizes",
            "governs",
            "override",
        ),
        rows,
        right=("utilisation",),
    )
    output.say(f"{len(rows)} of {len(page)} connections")
    return 0


def show(args: Namespace) -> int:
    with session.client(args) as client:
        c = client.connection(args.job, args.connection)
    if args.json:
        output.as_json(c)
        return 1 if c["status"] == "fail" else 0
    place = f" ({c['place']})" if c["place"] else ""
    output.say(
        f"{c['connection']} at joint {c['joint']}{place}: {output.MARKS[output.stands(c)]}  utilisation"
        f" {c['utilisation']:.2f}  {c['reason']}"
    )
    unit, scale = WEIGHT[c["system"]]
    if c["remedy"]:
        output.say(f"remedy: {c['remedy']}")
    if len(c["remedies"]) > 1 or any(r["more"] for r in c["remedies"]):
        rows = [
            (
                k,
                ", ".join(f"{n} to {v}" for n, v in r["changes"].items()),
                r["utilisation"],
                *(_more(r, n, scale) for n in MORE),
                r["cost"],
            )
            for k, r in enumerate(c["remedies"], 1)
        ]
        right = ("then used", f"steel, {unit}", f"weld, {unit}", "field bolts", "shop bolts", "cost")
        output.table(("remedy", "changes", *right), rows, right=right)
        output.say(f"put one forward: handrail override set {args.job} {c['connection']} --remedy 1 --reason WORDS\n")
    output.say(f"{c['framing']}: {c['words']}. Skew {c['skew']:.1f} deg, slope {c['slope']:.1f} deg, cope {c['cope']}")
    by = f" by rule {c['rule']}" if c["rule"] else ""
    output.say(f"{c['code']} {c['method']}, {c['edition']}; {c['standard'] or 'no standard'}{by}\n")
    output.table(("parameter", "value", "source"), [(p["label"], p["text"], output.source(p)) for p in c["parameters"]])
    output.say("")
    rows = [(k["check"], k["part"], k["clause"], *_amounts(k), k["utilisation"], k["action"]) for k in c["checks"]]
    output.table(
        ("check", "part", "clause", "demand", "available", "utilisation", "combination"),
        rows,
        right=("demand", "available", "utilisation"),
    )
    if args.trace:
        for k in c["checks"]:
            output.say(f"\n{k['check']} in {k['action']}")
            for line in k["lines"]:
                output.say(f"  {line}")
    output.say("")
    output.table(
        ("action", "largest", "in", "smallest", "in "),
        [_peak(p, c["system"]) for p in c["peaks"]],
        right=("largest", "smallest"),
    )
    for rule in c["detailing"]:
        if not rule["ok"]:
            sizes = f"{rule['given']:g} {rule['unit']} given, {rule['sense']} {rule['limit']:g} {rule['unit']} needed"
            output.say(f"detailing {rule['rule']}: {rule['says'] or sizes}")
    for note in c["notes"]:
        output.say(f"note: {note}")
    return 1 if c["status"] == "fail" else 0


def _amounts(check: a.ShownCheck) -> tuple[str, str]:
    shown = check["shown"] or check
    unit = f" {shown['unit']}" if shown["unit"] else ""
    return f"{shown['demand']:.4g}{unit}", f"{output.floored(shown['strength'])}{unit}"


def _amount(value: float, unit: str, system: str) -> str:
    """kN or kN*m as text in the job's units, without a minus zero."""
    if system != "si":
        value, unit = (value * 1e3 / KIP, "kip") if unit == "kN" else (value * 1e6 / KIP / FOOT, "kip*ft")
    return f"{round(value, 2) + 0.0:.2f} {unit}"


def _peak(peak: a.Peak, system: str) -> tuple[Any, ...]:
    name = peak["action"] + ("" if peak["carried"] else " (not carried)")
    largest, smallest = (_amount(peak[side], peak["unit"], system) for side in ("max", "min"))
    return name, largest, peak["max_in"], smallest, peak["min_in"]


MORE = ("steel", "weld", "field_bolts", "shop_bolts")


def _more(remedy: a.Remedy, name: str, scale: float) -> str:
    """How much more a remedy takes of something, kg times `scale`; nothing where that is not counted."""
    amount = remedy["more"].get(name)
    return "" if amount is None else f"{amount * scale:+.2f}" if name in ("steel", "weld") else f"{amount:+.0f}"


def run(args: Namespace) -> int:
    if args.as_one:
        from handrail.cli.marks import as_one

        return as_one(args)
    if args.keep:
        raise InputError("--keep goes with --as-one; a run keeps what it makes anyway")
    with session.client(args) as client:
        started = client.run_again(args.job, args.again) if args.again else _started(client, args)
        try:
            ended = _watch(client, args.job, started["id"])
        except KeyboardInterrupt:
            client.cancel_run(args.job, started["id"])
            ended = client.wait(args.job, started["id"])
    counts = ended["counts"] or {}
    if args.json:
        output.as_json(ended)
    else:
        words = "; ".join(filter(None, (_statuses(counts) if ended["state"] == "done" else "", ended["message"])))
        output.say(f"run {ended['id']} {ended['state']}: {words}" + _moved(ended))
        rows = [
            (f["connection"], f["status"], f["utilisation"] or None, f["check"], f["action"], f["reason"])
            for f in ended["found"][:20]
        ]
        if rows:
            output.table(
                ("connection", "status", "utilisation", "check", "combination", "reason"), rows, right=("utilisation",)
            )
    if ended["state"] != "done":
        return 2
    return 1 if counts.get("fail") else 0


def _moved(ended: a.Run) -> str:
    """What a run found otherwise, told apart."""
    said = (
        (ended["changed"], "are other steel or judged otherwise"),
        (ended["shifted"], "moved by more than 0.02"),
        (ended["fresh"], "were stale and are as they were"),
    )
    return "".join(f"; {count} {words}" for count, words in said if count)


def _started(client: Any, args: Namespace) -> a.Run:
    return client.start_run(args.job, args.where, args.verify, args.combination_set, args.only, args.pattern)


def _watch(client: Any, job: str, number: int) -> a.Run:
    with _progress("checking") as shown:
        return client.wait(job, number, shown)


def _import(client: Any, job: str, path: Path, column_map: str) -> a.Revision:
    with _progress("sending") as shown:
        return client.import_bundle(job, path, shown, column_map=column_map)


@contextmanager
def _progress(words: str) -> Iterator[Callable[[dict[str, Any]], None]]:
    """How far a run or import is, on a terminal; nothing elsewhere."""
    if not sys.stderr.isatty():
        yield lambda found: None
        return
    from rich.console import Console
    from rich.progress import Progress

    with Progress(console=Console(stderr=True), transient=True) as bar:
        task = bar.add_task(words, total=None)
        yield lambda r: bar.update(
            task, total=r["total"] or None, completed=r["done"], description=r["message"] or words
        )
