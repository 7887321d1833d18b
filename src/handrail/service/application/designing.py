"""Designs of the house: made from a trial, looked at by our own code, found, and tried on what they might hold."""

from __future__ import annotations

import hashlib
import json
import math
import re
from collections.abc import Mapping, Sequence
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np

from handrail import __version__
from handrail.core.catalogue import section
from handrail.core.catalogue.sections import Section
from handrail.core.checking.holding import Held, InPlace, held, in_place, put_first, replaced
from handrail.core.checking.trial.trial import Given, read_given, read_trial
from handrail.core.errors import InputError
from handrail.core.quantities.units import INCH, parse
from handrail.core.quantities.words import held as in_words
from handrail.core.quantities.words import said
from handrail.core.rulebook.design import DESIGN, Design, read_design
from handrail.core.rulebook.yaml import NotYaml, load
from handrail.core.standards import STANDARDS
from handrail.interchange.design_table import Row, read_designs
from handrail.interchange.drawings.pages import view_as_svg
from handrail.service.application import effort, trying
from handrail.service.application.mark_schedule import Standing
from handrail.service.application.plans import look_at, plan_of, rulebook_of
from handrail.service.application.refused import Refused
from handrail.store import designs
from handrail.store.database import reading
from handrail.store.designs import Like, Reader, Wanted
from handrail.store.models import Connection, HouseDesign, Job

Data = dict[str, Any]
BELOW = 1.0 - 1e-6  # of what it holds: there it passes
SHIPPED = Path(__file__).parents[1] / "shipped" / "designs.csv"
ACTING = ("actions", "cases", "combinations")
PIECE = ("standard", "parameters")
SCALES = {"N": (1e-3, "force"), "M": (1e-6, "moment")}
WORDS = {"V": "V", "Vw": "Vw", "Mw": "Mw", "N.max": "N pull", "N.min": "N push", "M.max": "M top", "M.min": "M bottom"}
AROUND = 12.7  # mm that the depth of a member may be off, where nobody says what a design fits
SQUARE = 0.5  # degrees
MOST_TRIED, MOST_TOLD = 60, 2000
CHECK_AT_ONCE = 40
KEPT = 400  # pictures


def text_of(trial: Data, fits: Data | None, fields: Data | None, parameters: Data | None, system: str = "us") -> str:
    """A design as it is written, from a trial; what it fits as it is said, else like the members that it is made on.
    Raises InputError."""
    given = read_given(trial)
    on = {k: v for k, v in trial.items() if k not in (*ACTING, *PIECE, "code", "method")}
    if isinstance(on.get("geometry"), dict):  # what stands opposite is of a place, not of the piece
        on["geometry"] = {k: v for k, v in on["geometry"].items() if k != "opposed"}
    written: Data = {
        "design": 1,
        "standard": given.standard.name,
        "code": given.code.name,
        "method": given.code.method,
        "fits": _like_it(given, system) if fits is None else fits,
        "fields": fields or {},
        "parameters": dict(parameters if parameters is not None else trial.get("parameters") or {}),
        "on": on,
    }
    text = json.dumps({k: v for k, v in written.items() if v not in ({}, "")}, indent=1, ensure_ascii=False)
    read_design(text)
    return text


def _like_it(given: Given, system: str) -> Data:
    """Framed so, between members about as deep, of the same kinds, at the same angles."""
    situation = given.situation
    fits: Data = {"framing": situation.framing}
    for role, steel in (("supported", situation.supported), ("support", situation.support)):
        if steel is None:
            continue
        fits[f"{role}.family"] = steel.section.family
        unit, scale = ("in", 1 / INCH) if system == "us" else ("mm", 1.0)
        low, high = (f"{(steel.section.d + way * AROUND) * scale:.4g}" for way in (-1, 1))
        fits[f"{role}.depth"] = f"{low} .. {high} {unit}"
    if situation.framing.startswith("beam_to_"):
        for name, angle in (("skew", situation.skew), ("slope", abs(situation.slope))):
            at = math.degrees(angle)
            fits[name] = f"< {SQUARE} deg" if abs(at) < SQUARE else f"{at - SQUARE:.4g} .. {at + SQUARE:.4g} deg"
    return fits


def given_of(design: Design, asked: Mapping[str, Any] | None = None, actions: Any = None) -> Given:
    """The design on the members that it was made on, its fields as `asked`. Raises InputError."""
    return read_given(as_trial(design, asked, actions))


def as_trial(design: Design, asked: Mapping[str, Any] | None = None, actions: Any = None) -> Data:
    """The same in a trial's form; with nothing acting where nothing is said. Raises InputError."""
    if not design.on:
        raise InputError("the design has no members that it was made on (`on`)")
    own: Data = dict(design.on)
    if design.code:
        own |= {"code": design.code, "method": design.method}
    nothing = {"name": "alone", "V": "0 kN"}
    if own.get("framing") == "beam_to_hollow_column":
        nothing["N_support"] = "0 kN"
    own |= {"standard": design.standard.name, "parameters": design.given(asked)}
    return own | (actions or {"actions": [nothing]})


def record_of(text: str, **about: Any) -> Data:
    """A design's record, with what it holds by our own code. Raises InputError."""
    design = read_design(text)
    return _bare(design, text) | checked(text) | about | {"words": ""} | _words(design, about)


def _bare(design: Design, text: str) -> Data:
    """What a record says of a design before our code has looked at it."""
    on = design.on
    supported, support = (_member(on, k) for k in (0, 1))
    geometry = on.get("geometry") or {}
    return {
        "text": text,
        "standard": design.standard.name,
        "framing": str(on.get("framing") or ""),
        "section": supported.name if supported else "",
        "support": support.name if support else "",
        "family": supported.family if supported else "",
        "support_family": support.family if support else "",
        "depth": supported.d if supported else 0.0,
        "support_depth": support.d if support else 0.0,
        **{name: _degrees(geometry.get(name)) for name in ("skew", "slope")},
    }


def _member(on: Mapping[str, Any], number: int) -> Section | None:
    pieces = on.get("pieces")
    entry = on.get(("supported", "support")[number])
    if isinstance(pieces, list):
        entry = pieces[number] if number < len(pieces) else None
    try:
        return section(str(entry["section"])) if isinstance(entry, Mapping) else None
    except (InputError, KeyError):
        return None


def _degrees(value: Any) -> float:
    try:
        return math.degrees(parse(value, "angle")) if value is not None else 0.0
    except InputError:
        return 0.0


def checked(text: str) -> Data:
    """What our own code says of a design: what it holds, on the members that it was made on, and what it takes."""
    try:
        design = read_design(text)
        given = given_of(design)
        of = held(given)
    except InputError as exc:
        return {"checked": __version__, "why": exc.words, "holds": {}}
    holds = {name: [round(amount, 1), of.ends[name]] for name, amount in of.holds.items()}
    return {
        "checked": __version__,
        "why": of.why,
        "holds": holds,
        "shear": of.holds.get("V", 0.0),
        "pull": of.holds.get("N.max", 0.0),
        "push": of.holds.get("N.min", 0.0),
        "moment": min((of.holds[n] for n in ("M.max", "M.min") if n in of.holds), default=0.0),
        **_takes(given, of),
    }


def _takes(given: Given, of: Held) -> Data:
    bolt = next((str(of.sizes[n].value) for n in ("bolt", "rod") if n in of.sizes), "")
    if of.takes is None:
        return {"bolt": bolt}
    bolts = of.takes.field_bolts + of.takes.shop_bolts + of.takes.rods
    own, si = (given.standard.summary(of.sizes, system) for system in ("us", "si"))
    return {"bolt": bolt, "steel": round(of.takes.steel, 3), "bolts": bolts, "summary": own, "summary_si": si}


def _words(design: Design, about: Mapping[str, Any]) -> Data:
    """What it is looked for by, in small letters."""
    own = _bare(design, "")
    names = [design.standard.name, design.standard.title, own["framing"], own["section"], own["support"]]
    names += [str(v) for v in design.given().values() if isinstance(v, str)]
    names += [str(about.get(n, "")) for n in ("name", "title", "note", "job")] + list(about.get("tags") or ())
    return {"words": " ".join(names).lower().replace("_", " ")}


def put(reader: Reader, name: str, text: str, **about: Any) -> HouseDesign:
    """A new revision, a draft of who made it. Raises InputError; Refused where it is somebody else's draft."""
    before = designs.newest(name)
    if before is not None and before.state == designs.DRAFT and before.author != reader.name and not reader.admin:
        raise Refused(409, f"{designs.called(before)} is a draft of {before.author}: take another name")
    return designs.put(record_of(text, name=name, author=reader.name, **about))


def find(
    reader: Reader, wanted: Wanted, trial: Data, share: float, degrees: float, system: str
) -> tuple[list[Data], int]:
    """Designs that are roughly like a trial's members and angles, tried under its actions by our own code: those that
    pass first, the lightest first; and how many are like it, of which the nearest MOST_TRIED are tried; words in the
    units of `system`. Raises InputError."""
    found, like = near(reader, wanted, trial, share, degrees, MOST_TRIED)
    rows = [(one, apart, tried_on(one, trial, system)) for one, apart in found]
    rows.sort(key=lambda row: (row[2]["status"] != "pass", row[0].steel if row[2]["status"] == "pass" else row[1]))
    return [{"design": one, "apart": round(apart, 4), **here} for one, apart, here in rows], like


def near(
    reader: Reader, wanted: Wanted, trial: Data, share: float, degrees: float, limit: int
) -> tuple[list[tuple[HouseDesign, float]], int]:
    """Those roughly like it, the nearest first, and how many there are. Raises InputError."""
    data = {**trial, "parameters": {}}
    going = [s.name for s in STANDARDS.values() if data.get("framing") in s.framings]
    if not going:
        raise InputError("framing: say what is looked for, like beam_to_girder")
    data.setdefault("standard", going[0])
    situation = read_given(data).situation
    own, support = situation.supported.section, situation.support.section if situation.support else None
    like = Like(
        own.family,
        own.d,
        support.family if support else "",
        support.d if support else 0.0,
        math.degrees(situation.skew),
        math.degrees(situation.slope),
        share,
        degrees,
    )
    return designs.near(wanted, like, reader, limit)


def tried_on(kept: HouseDesign, trial: Data, system: str) -> Data:
    """A design on the members and under the actions of a trial."""
    design = read_design(designs.revision(designs.called(kept)).text)
    data = {k: v for k, v in trial.items() if k not in PIECE}
    try:
        result = read_trial({**data, "standard": design.standard.name, "parameters": design.given()}).run()
    except InputError as exc:
        return {"status": "unchecked", "utilisation": 0.0, "check": "", "reason": exc.said(system)}
    why = result.why(system) if result.reason else ""
    check = result.governing.check if result.governing else ""
    use = round(min(result.utilisation, 99.0), 4)
    return {"status": result.status, "utilisation": use, "check": check, "reason": why}


def in_job(job: Job, kept: HouseDesign, asked: Mapping[str, Any], fits: bool) -> Data:
    """Which connections of a job a design would hold, were a rule to use it before all others: those that it `fits`, or
    all of its framings; at what utilisation, and of how many marks they are now. Raises InputError, Refused."""
    called, design = designs.called(kept), read_design(kept.text)
    book = put_first(rulebook_of(job), called, design, design.sizes(f"{DESIGN}{called}", asked), fits)
    with reading():
        seen = look_at(job, rulebook=book)
    plan = plan_of(seen, rulebook=book)
    found = in_place(plan, called, effort.step)
    holds = {one.connection for one in found if one.holds}
    marks = {name: piece.connections for name, piece in Standing(job).pieces.items()}
    listed = sorted(found, key=lambda one: (not one.holds, -one.use))
    return {
        "fitting": len(found),
        "holds": len(holds),
        "marks": sum(not holds.isdisjoint(keys) for keys in marks.values()),
        "marks_saved": max(len(replaced(marks, holds)) - 1, 0),
        "items": [_placed(one, plan.building.system) for one in listed[:MOST_TOLD]],
    }


def _placed(one: InPlace, system: str) -> Data:
    use = round(min(one.use, 99.0), 4) if np.isfinite(one.use) else 0.0
    own = {"connection": one.connection, "holds": one.holds, "utilisation": use, "check": one.check}
    return own | {"reason": said(one.why, system)}


def check_some(limit: int) -> int:
    """Let our own code look at designs that came in from a table; how many it looked at. What was published and is
    otherwise by more than two in a hundred is told."""
    done = 0
    while done < limit and (some := designs.unchecked(min(CHECK_AT_ONCE, limit - done))):
        for kept in some:
            values = checked(kept.text)
            values["differs"] = "" if values["why"] else differs(kept.stated, values)
            designs.change(kept, designs.STATES, **values)
            done += 1
            effort.step(done, limit)
    return done


def differs(stated: Mapping[str, float], values: Mapping[str, Any]) -> str:
    """Where a published design is said to hold otherwise than our code says, in words; empty where it is the same."""
    told = []
    for name, amount in stated.items():
        own = (values["holds"].get(name) or [0.0])[0]
        if abs(own - amount) > 0.02 * max(abs(amount), 1.0):
            kind = "moment" if name.startswith("M") else "force"
            told.append(f"{WORDS.get(name, name)} {in_words(amount, kind)} as published, {in_words(own, kind)} by us")
    return "; ".join(told)


@lru_cache(maxsize=KEPT)
def picture(text: str, called: str, system: str, bare: bool) -> bytes:
    """The first view of a design as SVG, on the members that it was made on; `bare` without what is written on it.
    Raises InputError."""
    given = given_of(read_design(text))
    sizes = given.standard.complete(given.situation, given.sizes)
    laid = given.standard.views(given.situation, sizes, system)
    if not laid:
        raise InputError(f"{called} has no drawing")
    return view_as_svg(laid[0].fitted(), bare)


def paper(kept: HouseDesign, kind: str, system: str, address: str) -> bytes:
    """Its drawing as pdf, dxf or svg, or the `page`: its calculation under what it holds, each action alone. Raises
    InputError."""
    rows = [_alone(name, float(amount)) for name, (amount, _) in kept.holds.items()]
    data = as_trial(read_design(kept.text), None, {"actions": rows} if rows else None)
    called = designs.called(kept)
    return trying.page(data, system, called, address) if kind == "page" else trying.drawing(data, kind, system, called)


def _alone(name: str, amount: float) -> Data:
    """One action alone as a trial has it, a millionth below what ends it."""
    component, _, end = name.partition(".")
    unit = "N*mm" if component.startswith("M") else "N"
    signed = amount * (-BELOW if end == "min" else BELOW)
    return {"name": f"{WORDS.get(name, name)} alone", component: f"{signed} {unit}"}


def changes(kept: HouseDesign, asked: Mapping[str, Any], record: Connection) -> Data:
    """What deciding for a design changes on a connection. Raises InputError."""
    design = read_design(kept.text)
    wanted: Data = {} if record.standard == design.standard.name else {"standard": design.standard.name}
    return wanted | design.given(asked)


def loaded(text: str) -> Data:
    """What a file says, YAML or JSON. Raises InputError."""
    try:
        data = load(text)
    except NotYaml as exc:
        raise InputError(f"line {exc.line}: {exc.words}") from exc
    if not isinstance(data, dict):
        raise InputError("a file of a design is a mapping")
    return data


def words_of(kept: HouseDesign, values: Mapping[str, Any]) -> Data:
    """What a design is looked for by, with other words about it."""
    about = {n: values.get(n, getattr(kept, n)) for n in ("name", "title", "note", "job", "tags")}
    return _words(read_design(kept.text), about)


def take(listed: Sequence[Row], author: str, file: str, tags: Sequence[str]) -> list[str]:
    """Designs of a table kept as drafts, all or none, not looked at by our code yet. Raises InputError with the row."""
    values = []
    for number, row in enumerate(listed, 1):
        try:
            text = text_of(row.trial, None, None, None)
        except InputError as exc:
            raise InputError(f"{row.name} (design {number}): {exc.words}") from exc
        design = read_design(text)
        about = {"title": row.title, "note": row.note, "tags": [*row.tags, *tags], "name": row.name, "job": ""}
        own = _bare(design, text) | about | _words(design, about)
        values.append(own | {"author": author, "source": f"table {file}", "stated": row.stated})
    designs.put_many(values)
    return [one["name"] for one in values]


def with_revision(text: str, name: str, number: int) -> str:
    """A rulebook with this revision of a design wherever a rule uses another one."""
    return re.sub(rf"(use:\s*[\"']?design {re.escape(name)}) R\d+", rf"\g<1> R{number}", text)


def ship() -> int:
    """The designs that come with the service kept as such, looked at by our own code, where they are not there as they
    are now; how many are new."""
    content = SHIPPED.read_bytes()
    digest = hashlib.sha256(content + __version__.encode()).hexdigest()
    if designs.shipped() == digest:
        return 0
    values = []
    for row in read_designs(content, SHIPPED.name):
        text = text_of(row.trial, None, None, None)
        about = {"title": row.title, "note": row.note, "tags": list(row.tags), "name": row.name, "job": ""}
        own = record_of(text, **about) | {"author": "handrail", "source": "the service", "state": designs.SHIPPED}
        values.append(own)
    return designs.ship(values, digest)
