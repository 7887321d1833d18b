"""Designs that the house keeps above its jobs: numbered revisions of each, drafts until somebody signs them."""

from __future__ import annotations

import json
import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from peewee import SQL, Expression, fn

from handrail.core.errors import InputError
from handrail.core.rulebook import Text
from handrail.core.rulebook.design import DESIGN
from handrail.store import house
from handrail.store.database import rows, writing
from handrail.store.models import HouseDesign, Job, Meta, Override, as_text, now
from handrail.store.overrides import HOLDING

DRAFT, HOUSE, SHIPPED, WITHDRAWN = STATES = ("draft", "house", "shipped", "withdrawn")
STANDING = (HOUSE, SHIPPED)  # what jobs may use
UNCHECKED = ""
SHOWN = 60
SHIPPED_BY = "shipped designs"
SORTS = ("name", "steel", "-steel", "shear", "-shear", "bolts", "made", "-made")
_CALLED = re.compile(r"^(?P<name>[a-z0-9][a-z0-9-]{0,63}) R(?P<number>\d{1,6})$")
_NAMED = re.compile(r"use:\s*[\"']?design ([a-z0-9-]+ R\d+)")
_NAME = re.compile(r"[a-z0-9][a-z0-9-]{0,63}")
SLIM = [f for f in HouseDesign._meta.sorted_fields if f.name not in ("text", "words")]


@dataclass(frozen=True)
class Wanted:
    """What designs are looked for by; `text` words that all have to be there, forces N that it has to hold alone, those
    `like` members so deep within a share of it."""

    text: str = ""
    standard: str = ""
    framing: str = ""
    tag: str = ""
    bolt: str = ""
    job: str = ""
    author: str = ""
    states: tuple[str, ...] = (DRAFT, *STANDING)
    shear: float = 0.0
    pull: float = 0.0
    push: float = 0.0
    moment: float = 0.0
    checked: bool | None = None
    sort: str = "name"


@dataclass(frozen=True)
class Like:
    """What a design should be roughly like: members by kind and depth (mm), angles in degrees, each within so much."""

    family: str = ""
    depth: float = 0.0
    support_family: str = ""
    support_depth: float = 0.0
    skew: float = 0.0
    slope: float = 0.0
    share: float = 0.15
    degrees: float = 3.0


@dataclass(frozen=True)
class Reader:
    """Who looks: what of the house they see."""

    name: str
    admin: bool = False
    jobs: tuple[str, ...] = ()
    roles: tuple[str, ...] = ()

    @property
    def keys(self) -> list[str]:
        return [*(f"job:{job}" for job in self.jobs), *(f"role:{role}" for role in self.roles)]


def called(kept: HouseDesign) -> str:
    """A revision as rulebooks name it."""
    return f"{kept.name} R{kept.number}"


def revision(name: str) -> HouseDesign:
    """One revision by `NAME R2`. Raises InputError with what there is."""
    match = _CALLED.match(name.strip())
    newest_one = newest(match["name"] if match else name.strip())
    if match is None:
        hint = f"{newest_one.name} R{newest_one.number}" if newest_one else "tab-4-rows R1"
        raise InputError(f"design '{name[:60]}': say which revision, like {hint}")
    kept = HouseDesign.get_or_none((HouseDesign.name == match["name"]) & (HouseDesign.number == int(match["number"])))
    if kept is None:
        there = f"its newest is R{newest_one.number}" if newest_one else "'handrail design' lists what there is"
        raise InputError(f"the house has no design '{name[:60]}'; {there}")
    return kept


def newest(name: str, states: Collection[str] = STATES) -> HouseDesign | None:
    """The newest revision of a design that is in one of these states."""
    of = HouseDesign.select().where((HouseDesign.name == name) & HouseDesign.state.in_(list(states)))
    return of.order_by(HouseDesign.number.desc()).first()


def revisions(name: str) -> list[HouseDesign]:
    """All of one, the newest first."""
    return list(HouseDesign.select(*SLIM).where(HouseDesign.name == name).order_by(HouseDesign.number.desc()))


def library(name: str) -> Text:
    """What rulebooks ask for: a rulebook of the house by `NAME R2`, a design by `design NAME R2`. Raises InputError."""
    if not name.startswith(DESIGN):
        return house.text_of(name)
    kept = revision(name.removeprefix(DESIGN))
    if kept.state == DRAFT:
        raise InputError(f"design {called(kept)} is a draft: somebody has to sign it before rules use it")
    return Text(kept.text)


def refuse(named: Collection[str], job: Job | None) -> None:
    """Raises InputError where rules are to begin with a design that is withdrawn, or that is kept to other jobs; those
    that a job stands on already stay."""
    stands = set(_NAMED.findall(job.rulebook)) if job is not None else set()
    for name in sorted(set(named) - stands):
        kept = revision(name)
        if kept.state == WITHDRAWN:
            better = newest(kept.name, STANDING)
            raise InputError(f"design {name} is withdrawn" + (f"; take {called(better)}" if better else ""))
        jobs = [who for who in kept.seen_by if who.startswith("job:")]
        if job is not None and jobs and len(jobs) == len(kept.seen_by) and f"job:{job.name}" not in jobs:
            raise InputError(f"design {name} is kept to {', '.join(who.removeprefix('job:') for who in jobs)}")


def put(values: Mapping[str, Any]) -> HouseDesign:
    """A new revision. Raises InputError for a name that cannot be, or that is shipped with the service."""
    name = str(values["name"])
    if not _NAME.fullmatch(name):
        raise InputError(f"'{name[:60]}': use small letters, figures and hyphens, like tab-4-rows")
    with writing():
        last = HouseDesign.select().where(HouseDesign.name == name).order_by(HouseDesign.number.desc()).first()
        if last is not None and SHIPPED in (last.state, values.get("state")) and last.state != values.get("state"):
            raise InputError(f"'{name}' is the name of another kind of design: one that is shipped, or the house's")
        return HouseDesign.create(**{**values, "number": (last.number if last else 0) + 1})


def put_many(listed: Sequence[Mapping[str, Any]]) -> None:
    """New revisions, all or none."""
    with writing():
        numbers = dict(rows("SELECT name, MAX(number) FROM housedesign GROUP BY name"))
        made = []
        for values in listed:
            numbers[values["name"]] = numbers.get(values["name"], 0) + 1
            made.append({**values, "number": numbers[values["name"]]})
        for start in range(0, len(made), 20):
            HouseDesign.insert_many(made[start : start + 20]).execute()


def change(kept: HouseDesign, before: Collection[str], **values: Any) -> bool:
    """Changes of what is said about a revision; False where it is not in a state for it any more."""
    with writing():
        where = (HouseDesign.id == kept.id) & HouseDesign.state.in_(list(before))
        return bool(HouseDesign.update(**values).where(where).execute())


def sign(kept: HouseDesign, signer: str) -> bool:
    """A draft becomes one of the house."""
    return change(kept, (DRAFT,), state=HOUSE, signer=signer, signed=now())


def withdraw(kept: HouseDesign, by: str) -> bool:
    """It is used no more, where it is not used already; a draft goes."""
    return change(kept, (DRAFT, HOUSE), state=WITHDRAWN, signer=kept.signer or by)


def _seen(reader: Reader) -> Expression:
    """What somebody sees: their own drafts, what is shipped, and what is the house's and not kept to others."""
    if reader.admin:
        return HouseDesign.id > 0
    own = HouseDesign.author == reader.name
    everyone = HouseDesign.seen_by == as_text([])
    some = [fn.instr(HouseDesign.seen_by, f'"{key}"') > 0 for key in reader.keys]
    shared = everyone
    for one in some:
        shared = shared | one
    return own | ((HouseDesign.state != DRAFT) & shared)


def sees(kept: HouseDesign, reader: Reader) -> bool:
    """Whether somebody may look at one."""
    return HouseDesign.select().where((HouseDesign.id == kept.id) & _seen(reader)).exists()


def _where(wanted: Wanted, reader: Reader) -> Expression:
    where = _seen(reader) & HouseDesign.state.in_(list(wanted.states))
    for word in wanted.text.lower().split()[:12]:
        where &= fn.instr(HouseDesign.words, word) > 0
    for name in ("standard", "bolt", "job", "author"):
        if value := getattr(wanted, name):
            where &= getattr(HouseDesign, name) == value
    if wanted.framing:
        where &= fn.instr(HouseDesign.framing, wanted.framing) > 0
    if wanted.tag:
        where &= fn.instr(fn.lower(HouseDesign.tags), f'"{wanted.tag.lower()}"') > 0
    for name in ("shear", "pull", "push", "moment"):
        if (least := getattr(wanted, name)) > 0:
            where &= getattr(HouseDesign, name) >= least - 0.5
    if wanted.checked is not None:
        where &= (HouseDesign.checked != UNCHECKED) if wanted.checked else (HouseDesign.checked == UNCHECKED)
    return where


def found(wanted: Wanted, reader: Reader, offset: int = 0, limit: int = SHOWN) -> tuple[list[HouseDesign], int]:
    """Those that are looked for, a page of them, and how many there are."""
    where = _where(wanted, reader)
    name = wanted.sort.removeprefix("-")
    order = getattr(HouseDesign, name)
    order = order.desc() if wanted.sort.startswith("-") else order.asc()
    of = HouseDesign.select(*SLIM).where(where).order_by(order, HouseDesign.name, HouseDesign.number.desc())
    return list(of.offset(offset).limit(limit)), HouseDesign.select().where(where).count()


def near(wanted: Wanted, like: Like, reader: Reader, limit: int) -> tuple[list[tuple[HouseDesign, float]], int]:
    """Those most like it, the nearest first, and how many there are: how far the members' depths are from those asked,
    in shares of them, and the angles, in parts of what they may be off; then the lightest."""
    where = _where(wanted, reader)
    apart: list[str] = []
    for name, deep in (("depth", like.depth), ("support_depth", like.support_depth)):
        if deep > 0:
            off = fn.abs(getattr(HouseDesign, name) - deep)
            where &= off <= like.share * deep
            apart.append(f"ABS({name} - {float(deep)!r}) / {float(like.share * deep)!r}")
    for name, angle in (("skew", like.skew), ("slope", like.slope)):
        where &= fn.abs(getattr(HouseDesign, name) - angle) <= like.degrees
        apart.append(f"ABS({name} - {float(angle)!r}) / {float(max(like.degrees, 1e-9))!r}")
    for name, family in (("family", like.family), ("support_family", like.support_family)):
        if family:
            where &= getattr(HouseDesign, name) == family
    score = " + ".join(apart) or "0"
    of = HouseDesign.select(*SLIM, SQL(f"({score})").alias("apart")).where(where)
    nearest = of.order_by(SQL("apart"), HouseDesign.steel).limit(limit)
    return [(one, float(one.apart)) for one in nearest], HouseDesign.select().where(where).count()


def tags(reader: Reader) -> list[str]:
    """The tags of what somebody sees."""
    of = HouseDesign.select(HouseDesign.tags).where(_seen(reader) & (HouseDesign.tags != as_text([]))).distinct()
    return sorted({tag for one in of for tag in one.tags})


def unchecked(limit: int) -> list[HouseDesign]:
    """Some of those that our code has not looked at."""
    of = HouseDesign.select().where((HouseDesign.checked == UNCHECKED) & (HouseDesign.state != WITHDRAWN))
    return list(of.order_by(HouseDesign.id).limit(limit))


def used(name: str) -> list[dict[str, Any]]:
    """Where a design stands: in which jobs' rulebooks, as they are now, and on which connections by a decision."""
    like = f"%use: design {name} R%"
    by_rules = rows(
        "SELECT j.name, r.text FROM job j JOIN rulebookrevision r ON r.job_id = j.id AND r.number = j.rulebook_version"
        " WHERE j.sheet >= 0 AND r.text LIKE ? ORDER BY j.name",
        like,
    )
    stands: list[dict[str, Any]] = []
    for job, text in by_rules:
        numbers = sorted({int(n) for n in re.findall(rf"use:\s*design {re.escape(name)} R(\d+)", text)})
        stands += [{"job": job, "revision": n, "by": "rule", "connections": []} for n in numbers]
    decided: dict[tuple[str, int], list[str]] = {}
    of = (
        Override.select(Override.connection, Override.reason, Job.name)
        .join(Job)
        .where(Override.reason.startswith(f"design {name} R") & (Override.state.in_(HOLDING)))
        .tuples()
    )
    for connection, reason, job in of:
        number = re.search(r" R(\d+)", reason)
        if number:
            decided.setdefault((job, int(number[1])), []).append(connection)
    stands += [
        {"job": job, "revision": n, "by": "decision", "connections": sorted(set(keys))}
        for (job, n), keys in sorted(decided.items())
    ]
    return stands


def remove(kept: HouseDesign) -> None:
    """A draft is gone."""
    with writing():
        HouseDesign.delete().where((HouseDesign.id == kept.id) & (HouseDesign.state == DRAFT)).execute()


def left_unchecked() -> int:
    """How many our code has not looked at."""
    return HouseDesign.select().where((HouseDesign.checked == UNCHECKED) & (HouseDesign.state != WITHDRAWN)).count()


def shipped() -> str:
    """The digest of the designs that came with the service last; empty where none did."""
    kept = Meta.get_or_none(Meta.name == SHIPPED_BY)
    return str(json.loads(kept.value)) if kept else ""


def ship(listed: Sequence[Mapping[str, Any]], digest: str) -> int:
    """Those that come with the service, in place of those that came before and say otherwise; how many are new."""
    with writing():
        stood = {d.name: d for d in HouseDesign.select().where(HouseDesign.state == SHIPPED)}
        new = [one for one in listed if one["name"] not in stood or stood[one["name"]].text != one["text"]]
        gone = [one["name"] for one in new if one["name"] in stood]
        gone += [name for name in stood if name not in {one["name"] for one in listed}]
        HouseDesign.update(state=WITHDRAWN).where((HouseDesign.state == SHIPPED) & HouseDesign.name.in_(gone)).execute()
        put_many(new)
        Meta.insert(name=SHIPPED_BY, value=json.dumps(digest)).on_conflict_replace().execute()
    return len(new)
