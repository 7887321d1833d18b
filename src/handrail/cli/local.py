"""trial, standards, sections: straight to the core, with no service."""

from __future__ import annotations

import contextlib
import sys
from argparse import Namespace
from pathlib import Path
from typing import Any

from handrail.cli import output
from handrail.core.errors import InputError
from handrail.core.quantities.units import SHOWN, show

NOTHING = 0.005  # kN


def read(name: str) -> Any:
    """The data in a YAML or JSON file. Raises InputError."""
    from handrail.core.rulebook.yaml import NotYaml, load

    try:
        text = sys.stdin.read() if name == "-" else Path(name).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as exc:
        raise InputError(f"{name}: {exc}") from exc
    try:
        return load(text)
    except NotYaml as exc:
        raise InputError(
            f"{name} line {exc.line} column {exc.column}: {exc.words.replace('not YAML', 'not YAML or JSON')}"
        ) from exc


def trial(args: Namespace) -> int:
    from handrail.core.checking.trial import read_trial

    trial = read_trial(read(args.file))
    result = trial.run(args.trace)
    if args.drawing:
        _draw(trial, result, args)
    with contextlib.suppress(BrokenPipeError):  # `| head` may have read enough; the exit code still says pass or not
        if args.json:
            sizes = trial.answer(result, "si" if args.si else "us")["parameters"]  # as they are given; numbers in SI
            output.as_json(trial.answer(result, "si", args.trace) | {"parameters": sizes})
        else:
            _print(trial, result, args)
        sys.stdout.flush()
    return 0 if result.status == "pass" else 1


def _draw(trial: Any, result: Any, args: Namespace) -> None:
    """On a sheet, before anything is printed. Raises InputError."""
    from handrail.core.checking.details import Subject
    from handrail.core.drawing.sheets import Title
    from handrail.interchange.drawings.files import as_file

    path, system = Path(args.drawing), "si" if args.si else "us"
    name = "trial" if args.file == "-" else Path(args.file).stem
    said = [f"{result.status} at {result.utilisation:.2f}: {result.reason}" if result.reason else result.status]
    one = Subject(name, trial.standard.name, trial.situation, trial.sizes, tuple(said))
    title = Title((), name, trial.standard.title, (("code", f"{trial.code.name} {trial.code.method}"),))
    body = as_file([one], title, path.suffix.lower().removeprefix("."), args.sheet, system)
    try:
        path.write_bytes(body)
    except OSError as exc:
        raise InputError(f"{path}: {exc}") from exc


def _print(trial: Any, result: Any, args: Namespace) -> None:
    system = "si" if args.si else "us"
    body = trial.answer(result, system, args.trace)
    place = (body["governing"] or {}).get("place")
    output.say(
        f"{output.MARKS[body['status']]}  utilisation {body['utilisation']:.2f}  {trial.code.name} {trial.code.method} "
        f" {body['reason']}" + (f"  governs at {place}" if place else "")
    )
    if body["advice"]:
        output.say(f"what helps: {body['advice']}")
    output.table(
        ("parameter", "value", "source"),
        [(trial.standard.parameter(n).label, p["value"], output.source(p)) for n, p in body["parameters"].items()],
    )
    output.say("")
    rows = [
        (
            c["check"],
            c["part"],
            c["clause"],
            f"{c['demand']:.4g} {c['unit']}",
            f"{output.floored(c['strength'])} {c['unit']}",
            c["utilisation"],
            c["action"],
        )
        for c in body["checks"]
    ]
    output.table(
        ("check", "part", "clause", "demand", "available", "utilisation", "action"),
        rows,
        right=("demand", "available", "utilisation"),
    )
    for check in body["checks"] if args.trace else []:
        output.say(f"\n{check['check']}")
        for line in check["lines"]:
            output.say(f"  {line}")
    output.say("")
    rules = [_rule(r) for r in body["detailing"]]
    output.table(("detailing rule", "part", "given", "needed", ""), rules, right=("given",))
    _works(body["works"], system)
    for note in body["notes"]:
        output.say(f"note: {note}")


def _works(works: list[dict[str, Any]], system: str) -> None:
    """What anchors and parts take under each action, the named ones that take something."""

    def amounts(of: dict[str, float | None]) -> str:
        taken: dict[str, list[str]] = {}
        for name, value in of.items():
            if value is None:
                taken.setdefault("not known", []).append(name)
            elif abs(value) > NOTHING:
                taken.setdefault(show(value * 1e3, "force", system), []).append(name)
        return "; ".join(f"{', '.join(names)}: {amount}" for amount, names in taken.items()) or "none"

    names = [f"{w['place']}: {w['action']}" if "place" in w else w["action"] for w in works]
    if works:
        output.say("")
    if works and "parts" in works[0]:
        output.table(
            ("action", "what takes how much"),
            [(name, amounts(w["parts"])) for name, w in zip(names, works, strict=True)],
        )
    elif works:
        output.table(
            ("action", "bearing by", "pressure", "anchors"),
            [
                (
                    name,
                    w["bearing_by"],
                    show(w["pressure"], "stress", system),
                    f"pull {amounts(w['pulls'])}; shear {amounts(w['shears'])}",
                )
                for name, w in zip(names, works, strict=True)
            ],
        )


def _rule(r: dict[str, Any]) -> tuple[str, ...]:
    """One detailing rule as a row; what it says in words only where it is broken."""
    held = "✓ holds" if r["ok"] else "✗ broken"
    if r["says"]:
        return r["rule"], r["part"], "", "" if r["ok"] else r["says"], held
    return r["rule"], r["part"], f"{r['given']:g} {r['unit']}", f"{r['sense']} {r['limit']:g} {r['unit']}", held


def standards(args: Namespace) -> int:
    from handrail.core.standards import STANDARDS, standard

    chosen = [standard(args.name)] if args.name else list(STANDARDS.values())
    if args.json:
        output.as_json(
            [
                {
                    "name": s.name,
                    "title": s.title,
                    "framings": s.framings,
                    "carries": s.carries,
                    "parameters": [
                        {k: getattr(p, k) for k in ("name", "kind", "label", "help", "default", "choices")}
                        for p in s.parameters
                    ],
                }
                for s in chosen
            ]
        )
        return 0
    for s in chosen:
        output.say(f"{s.name}: {s.help}. For {', '.join(s.framings)}; carries {', '.join(s.carries)}.")
        rows = [
            (p.name, p.kind, p.default if p.default is not None else "follows", ", ".join(p.offered), p.explained("us"))
            for p in s.parameters
        ]
        output.table(("parameter", "kind", "default", "choices", "help"), rows)
    return 0


def sections(args: Namespace) -> int:
    from handrail.core.catalogue import all_sections
    from handrail.core.catalogue.tables import key

    listed = [s for s in all_sections() if key(args.text) in key(s.name)]
    if args.json:
        output.as_json([s.__dict__ for s in listed])
        return 0
    if not listed:
        raise InputError(f"no section's name holds '{args.text}'")
    inch = SHOWN["us"]["length"][1]
    rows = [
        (
            s.name,
            s.family,
            s.mass,
            *(f"{v * inch:.3f}" if v else "" for v in (s.d, s.bf, s.tw, s.tf, s.wall, s.k_detail)),
        )
        for s in listed[: args.limit]
    ]
    output.table(
        ("section", "family", "kg/m", "d, in", "bf, in", "tw, in", "tf, in", "wall, in", "k detailing, in"),
        rows,
        right=("kg/m", "d, in", "bf, in", "tw, in", "tf, in", "wall, in", "k detailing, in"),
    )
    output.say(f"{len(rows)} of {len(listed)} sections")
    return 0
