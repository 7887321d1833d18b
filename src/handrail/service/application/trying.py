"""The Bench: one connection with no building, tried, sized, drawn; one of a job taken there as it stands."""

from __future__ import annotations

import io
from collections.abc import Collection
from typing import Any

import numpy as np

from handrail.core.checking.details import Subject, parts
from handrail.core.checking.result import CEILING
from handrail.core.checking.trial import read_given, read_trial
from handrail.core.checking.trial.answering import Answer, answers, remedies
from handrail.core.checking.trial.writing import form, left_out, typed
from handrail.core.drawing.sheets import Title
from handrail.core.quantities.words import said
from handrail.core.rulebook.yaml import dump
from handrail.core.solids import bodies
from handrail.core.standards import STANDARDS, Standard
from handrail.core.standards.sizes import Parameter, Sizes
from handrail.interchange.drawings.files import as_file
from handrail.interchange.printed.one_page import write_page
from handrail.interchange.printed.page import Head
from handrail.service.application import calculating, effort, present
from handrail.service.application.in_space import Drawn, sizes_of, used
from handrail.service.application.kept import kept
from handrail.service.application.plans import look_at, plan_of
from handrail.service.application.refused import Refused
from handrail.store import connections, profiles
from handrail.store.database import reading
from handrail.store.models import Job

Data = dict[str, Any]
HERE = "trial"


def tried(data: Data, system: str, trace: bool, drawn: bool) -> Data:
    """The answer to a trial. Raises InputError."""
    trial = read_trial(data)
    answer = trial.answer(trial.run(trace), system, trace)
    answer["sizes"] = sizes(trial.standard, trial.sizes, system)
    answer["summary"] = trial.standard.summary(trial.sizes, system)
    answer["drawing"] = trial.standard.draw(trial.situation, trial.sizes, system).as_dict() if drawn else None
    return answer


def sizes(standard: Standard, own: Sizes, system: str) -> list[Data]:
    """Every parameter with what it is, where that comes from, and its bounds, as a form shows them."""
    listed = present.parameters(standard, own, system)
    by_name = {p.name: p for p in standard.parameters}
    return [row | {"of": by_name[row["name"]].of, "bounds": _bounds(by_name[row["name"]], system)} for row in listed]


def _bounds(parameter: Parameter, system: str) -> str:
    """In words, empty where it has none."""
    limits = (("at least", parameter.low), ("at most", parameter.high))
    return ", ".join(f"{word} {said(parameter.in_words(limit), system)}" for word, limit in limits if limit is not None)


def sized(data: Data, hold: Collection[str], target: float, system: str) -> list[Data]:
    """Several designs under a target, with some of the sizes held. Raises InputError, Refused."""
    given = read_given(data)
    known = {p.name for p in given.standard.parameters}
    if unknown := sorted(set(hold) - known):
        raise Refused(422, f"hold: {given.standard.name} has no parameter '{unknown[0][:60]}'")
    return [
        _answer(given.standard, one, system) for one in answers(given, frozenset(hold), target, effort.step)
    ]  # fmt: skip


def _answer(standard: Standard, one: Answer, system: str) -> Data:
    takes = one.takes
    return {
        "names": list(one.names),
        "parameters": {
            n: typed(standard.parameter(n), size.asked or size.value, system) for n, size in one.chosen.items()
        },
        "summary": standard.summary(one.sizes, system),
        "passes": one.passes,
        "utilisation": round(one.utilisation, 4),
        "check": one.check,
        "steel": round(takes.steel, 3),
        "weld": round(takes.weld, 4),
        "bolts": takes.field_bolts + takes.shop_bolts,
        "rods": takes.rods,
    }


def mended(data: Data, target: float, system: str) -> list[Data]:
    """The changes that make a trial pass, the cheapest first. Raises InputError."""
    given = read_given(data)
    return [
        {
            "changes": {n: typed(given.standard.parameter(n), v, system) for n, v in one.changes},
            "words": one.words(given.standard, system),
            "utilisation": round(one.utilisation, 4),
        }
        for one in remedies(given, target)
    ]


def solids(data: Data, system: str) -> Data:
    """It in 3D, as a joint of one connection. Raises InputError."""
    trial = read_trial(data)
    made, result = trial.standard.solids(trial.situation, trial.sizes), trial.run()
    drawn = Drawn((0.0, 0.0, 0.0), system)
    own = {
        "connection": HERE,
        "standard": trial.standard.name,
        "framing": trial.situation.framing,
        "status": result.status,
        "utilisation": round(min(result.utilisation, CEILING), 4),
        "reason": result.why(system) if result.reason else "",
        "solids": drawn.solids(made),
        **used(result),
    }
    return {
        "joint": HERE,
        "connection": HERE,
        "system": system,
        "connections": [own],
        "members": [drawn.member(bar.part, bar, bodies.body(bar)) for bar in made.members],
        "collisions": [],
        "sizes": sizes_of(trial.standard.name, trial.situation, trial.sizes),
    }


def as_yaml(data: Data) -> bytes:
    """It as `handrail trial` reads it, whether or not it can be tried yet."""
    return dump(data).encode()


def drawing(data: Data, kind: str, system: str, name: str) -> bytes:
    """Its drawing as pdf, dxf or svg. Raises InputError."""
    trial = read_trial(data)
    result = trial.run()
    words = f"{result.status} at {result.utilisation:.2f}" + (f": {result.why(system)}" if result.reason else "")
    one = Subject(name, trial.standard.name, trial.situation, trial.sizes, (words,))
    own = profiles.said()
    title = Title(
        profiles.firm_of((), own), name, trial.standard.title, (("code", f"{trial.code.name} {trial.code.method}"),),
        own.emblem, own.kind,
    )  # fmt: skip
    return as_file([one], title, kind, "", system)


def page(data: Data, system: str, name: str, address: str) -> bytes:
    """It on one page of PDF. Raises InputError."""
    trial = read_trial(data)
    own = profiles.said()
    head = Head(
        profiles.firm_of((), own), name, trial.standard.title, f"a trial, {trial.code.name} {trial.code.method}",
        system, own.emblem, own.kind,
    )  # fmt: skip
    stream = io.BytesIO()
    solids = trial.standard.solids(trial.situation, trial.sizes)
    write_page(calculating.of_trial(trial, name, system), list(parts(solids, system)), head, address, stream)
    return stream.getvalue()


def of_connection(job: Job, key: str) -> Data:
    """A connection of a job in a trial's form, with its own actions; and what of it the form does not say. Raises
    Refused."""
    with reading():
        seen, record = look_at(job), connections.find(job, key)
    if record is None:
        raise Refused(404, f"job {job.name} has no connection '{key}'")
    plan = plan_of(seen)
    stands = kept(plan, record)
    situation = stands.assigned.situation
    if not stands.sizes or situation is None:
        raise Refused(409, f"connection {record.key} has no sizes to begin with ({record.reason or 'run the job'})")
    index = np.array([plan.index[record.key]])
    if np.isnan(plan.acting.on(index)).any() or not plan.acting.names:
        raise Refused(409, f"connection {record.key} has no forces")
    system = plan.building.system
    acting = plan.acting.actions(index).only()
    written = form(plan.code, STANDARDS[record.standard], situation, stands.sizes, acting, system)
    return {
        "trial": written,
        "left_out": left_out(written, situation),
        "system": system,
        "connection": record.key,
        "version": record.version,
    }
