"""Capacity tables: of a standard on every section of a range, how much shear each candidate holds, and the lightest for
a given shear."""

from __future__ import annotations

import fnmatch
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from handrail.core.actions import COMPONENTS, Actions
from handrail.core.catalogue import Steel, grade, section
from handrail.core.catalogue.sections import all_sections
from handrail.core.catalogue.tables import key
from handrail.core.checking.batch import evaluate
from handrail.core.checking.connection import limit_states, without_forces
from handrail.core.checking.sweep import read_asked
from handrail.core.codes import code
from handrail.core.codes.family import Code
from handrail.core.errors import InputError
from handrail.core.joint.situation import Situation
from handrail.core.progress import Progress, quiet
from handrail.core.quantities.shown import show
from handrail.core.quantities.units import SHOWN, parse
from handrail.core.quantities.words import said
from handrail.core.rulebook.ladders import spread
from handrail.core.standards import Standard, standard
from handrail.core.standards.sizes import Sized, Sizes

KEYS = (
    "code",
    "method",
    "standard",
    "framing",
    "support",
    "sections",
    "grade",
    "geometry",
    "parameters",
    "values",
    "shears",
)
MOST_SECTIONS, MOST_ROWS, MOST_SHEARS = 400, 20_000, 60
UNIT = 1000.0  # N that strengths are found with
NEARLY = 1e-6


@dataclass(frozen=True)
class Asked:
    """What a table is of; `rungs` are the candidates on top of `given`, None those of the standard's own ladder."""

    code: Code
    standard: Standard
    framing: str
    support: Steel
    beams: tuple[Steel, ...]
    skew: float
    slope: float
    given: Sizes
    rungs: tuple[Sizes, ...] | None
    shears: tuple[float, ...]


@dataclass(frozen=True)
class Holds:
    """One candidate on one section: the shear that it holds, N (0 where it cannot be made, then `why`), and what
    governs there."""

    section: str
    sizes: Sizes
    chosen: tuple[str, ...]
    shear: float
    check: str
    weight: float
    bolts: int
    why: str


def read_asked_of(data: Any) -> Asked:
    """The table that a file asks for. Raises InputError that names the entry."""
    if not isinstance(data, Mapping):
        raise InputError("a capacity table is a mapping with standard, framing, support, sections")
    if unknown := [str(name) for name in data if name not in KEYS]:
        raise InputError(f"'{unknown[0]}' is not known; a capacity table takes {', '.join(KEYS)}")
    samples = {
        "standard": "single_plate",
        "framing": "beam_to_column_flange",
        "support": "{section: W12X65, grade: A992}",
        "sections": "W16*",
    }
    for name, sample in samples.items():
        if data.get(name) is None:
            raise InputError(f"{name} is missing; give it, like {name}: {sample}")
    chosen = standard(str(data["standard"]))
    framing = str(data["framing"])
    if framing not in chosen.framings or not framing.startswith("beam_to_"):
        shear = [f for f in chosen.framings if f.startswith("beam_to_")]
        raise InputError(f"framing: {chosen.name} goes with {', '.join(shear) or 'no end of a beam'}, not '{framing}'")
    support = data["support"]
    if not isinstance(support, Mapping) or "section" not in support:
        raise InputError("support: give its section and grade, like {section: W12X65, grade: A992}")
    geometry, parameters = _mapping(data, "geometry"), _mapping(data, "parameters")
    values = data.get("values")
    rungs = read_asked(chosen, {"values": values}).rungs if values is not None else None
    return Asked(
        code(str(data.get("code", "AISC 360-22")), str(data.get("method", "LRFD")).upper()),
        chosen,
        framing,
        Steel.of(section(str(support["section"])), grade(str(support.get("grade", "A992")))),
        _beams(data["sections"], str(data.get("grade", "A992"))),
        parse(geometry.get("skew", 0), "angle"),
        parse(geometry.get("slope", 0), "angle"),
        chosen.read(parameters, "given"),
        rungs,
        _shears(data.get("shears")),
    )


def _mapping(data: Mapping[str, Any], name: str) -> dict[str, Any]:
    value = data.get(name)
    if value is None:
        return {}
    if not isinstance(value, Mapping):
        raise InputError(
            f"{name}: give it as a mapping of names and values, not {type(value).__name__} {str(value)[:40]!r}"
        )
    return {str(key): given for key, given in value.items()}


def _beams(wanted: Any, of_grade: str) -> tuple[Steel, ...]:
    """The sections of a list, a name with * and ?, or both, in the catalogue's order."""
    patterns = [
        key(str(part)) if "*" not in str(part) else "*".join(key(p) for p in str(part).split("*"))
        for part in (wanted if isinstance(wanted, list) else str(wanted).split(","))
    ]
    beams = [
        s for s in all_sections() if any(fnmatch.fnmatchcase(key(s.name), pattern.strip()) for pattern in patterns)
    ]
    if not beams or len(beams) > MOST_SECTIONS:
        raise InputError(
            f"sections: '{wanted}' is like {len(beams)} sections of the catalogue; 1 to {MOST_SECTIONS} make a table"
        )
    return tuple(Steel.of(s, grade(of_grade)) for s in beams)


def _shears(wanted: Any) -> tuple[float, ...]:
    if wanted is None:
        return ()
    if isinstance(wanted, str) and ".." in wanted:
        low, _, rest = wanted.partition("..")
        high, _, by = rest.partition(" by ")
        shears = tuple(spread("shears", "force", low.strip(), high.strip(), by.strip() or None))
    else:
        shears = tuple(parse(one, "force") for one in (wanted if isinstance(wanted, list) else [wanted]))
    if len(shears) > MOST_SHEARS or any(v <= 0 for v in shears):
        raise InputError(f"shears: 1 to {MOST_SHEARS} of them, each more than nothing")
    return shears


def capacities(asked: Asked, progress: Progress = quiet) -> list[Holds]:
    """Every candidate on every section. Raises InputError where there are too many."""
    table: list[Holds] = []
    for number, beam in enumerate(asked.beams):
        situation = Situation.of(
            asked.framing, beam, asked.support, skew=asked.skew, slope=asked.slope, code=asked.code
        )
        for rung in _candidates(asked, situation):
            if len(table) >= MOST_ROWS:
                raise InputError(f"there are more than {MOST_ROWS} rows; ask for fewer sections or values")
            progress(number, len(asked.beams))
            table.append(_holds(asked, situation, asked.given | rung, tuple(rung)))
    return table


def _candidates(asked: Asked, situation: Situation) -> Sequence[Sizes]:
    if asked.rungs is not None:
        return asked.rungs
    try:
        start = asked.standard.complete(situation, asked.given)
    except InputError:
        return [{}]
    return [
        {n: Sized(v, "rung") for n, v in rung.items()}
        for rung in asked.standard.changing.ladder(situation, start, frozenset(asked.given))
    ]


def _holds(asked: Asked, situation: Situation, given: Sizes, chosen: tuple[str, ...]) -> Holds:
    name, of = situation.supported.section.name, asked.standard
    try:
        sizes = of.complete(situation, given)
    except InputError as exc:
        return Holds(name, given, chosen, 0.0, "", 0.0, 0, exc.words)
    examined = of.examine(situation, sizes, asked.code)
    broken = [r.rule for r in examined.detailing if not r.ok]
    made = of.quantities(situation, sizes)
    weight, bolts = (made.steel, made.field_bolts + made.shop_bolts) if made else (0.0, 0)
    shear = _only(UNIT)
    why = "; ".join(examined.unchecked or without_forces(situation, shear)) or (
        f"detailing rule {', '.join(broken)}" if broken else ""
    )
    if why:
        return Holds(name, sizes, chosen, 0.0, "", weight, bolts, why)
    states = limit_states(of, situation, sizes, asked.code)
    use, which, _ = evaluate(states, of.acted(situation, sizes, asked.code, shear))
    if np.isnan(use[0]) or use[0] <= 0:
        return Holds(name, sizes, chosen, 0.0, "", weight, bolts, f"{states[int(which[0])].check} cannot be judged")
    most = UNIT / float(use[0])
    again, governs, _ = evaluate(states, of.acted(situation, sizes, asked.code, _only(most)))
    if abs(float(again[0]) - 1) > NEARLY:  # what it is used does not grow with the shear alone
        most, governs = _found(states, asked, situation, sizes, most)
    return Holds(name, sizes, chosen, most, states[int(governs[0])].check, weight, bolts, "")


def _found(states: Any, asked: Asked, situation: Situation, sizes: Sizes, guess: float) -> tuple[float, Any]:
    """By halves: the largest shear that passes."""
    low, high, which = 0.0, 4 * guess, np.zeros(1, int)
    for _ in range(60):
        middle = (low + high) / 2
        use, which, _ = evaluate(states, asked.standard.acted(situation, sizes, asked.code, _only(middle)))
        low, high = (middle, high) if use[0] <= 1 else (low, middle)
    return low, which


def _only(V: float) -> Actions:
    table = np.zeros((1, 1, len(COMPONENTS)))
    table[0, 0, COMPONENTS.index("V")] = V
    return Actions.of(table, ("V",))


def lightest(table: Sequence[Holds], shear: float) -> dict[str, Holds]:
    """section -> the lightest candidate that holds a shear, N; the fewer bolts of two that are as light. Sections on
    which none does are left out."""
    best: dict[str, Holds] = {}
    for one in table:
        if one.shear >= shear * (1 - NEARLY) and not one.why:
            kept = best.get(one.section)
            if kept is None or (round(one.weight, 6), one.bolts, -one.shear) < (
                round(kept.weight, 6),
                kept.bolts,
                -kept.shear,
            ):
                best[one.section] = one
    return best


def as_dict(asked: Asked, table: Sequence[Holds], system: str = "us") -> dict[str, Any]:
    """Plain data: every candidate with its shear (kip, or kN), and for each of the shears asked the lightest on every
    section; weights in kg."""
    unit, scale = SHOWN[system]["force"]
    rows = [_row(asked.standard, one, scale, system) for one in table]
    by_shear = [
        {
            "shear": round(v * scale, 3),
            "sections": {name: _row(asked.standard, one, scale, system) for name, one in lightest(table, v).items()},
        }
        for v in asked.shears
    ]
    return {
        "standard": asked.standard.name,
        "framing": asked.framing,
        "support": asked.support.section.name,
        "code": f"{asked.code.name} {asked.code.method}",
        "unit": unit,
        "sections": [beam.section.name for beam in asked.beams],
        "rows": rows,
        "shears": by_shear,
    }


def _row(of: Standard, one: Holds, scale: float, system: str) -> dict[str, Any]:
    shown = {n: of.parameter(n).show(one.sizes[n].value, system) for n in one.chosen if n in one.sizes}
    return {
        "section": one.section,
        "values": shown,
        "summary": of.summary(one.sizes, system) if not one.why else "",
        "shear": round(one.shear * scale, 2),
        "check": one.check,
        "steel": round(one.weight, 3),
        "bolts": one.bolts,
        "why": said(one.why, system),
    }


def words(asked: Asked) -> str:
    """What the table is of, in a line."""
    turned = f", skew {show(asked.skew, 'angle')}" if asked.skew else ""
    of = f"{asked.standard.title}, {asked.framing.replace('_', ' ')} {asked.support.section.name}"
    return f"{of}{turned}, {asked.code.name} {asked.code.method}"
