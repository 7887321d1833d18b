"""Drawings that leave the house: details of connections and of marks, packed on sheets, as PDF, SVG or DXF."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence, Set
from datetime import date

from handrail.core.checking.details import Subject
from handrail.core.checking.marks import MIRRORED, Piece
from handrail.core.standards.sizes import Sizes
from handrail.interchange.drawings.files import as_file
from handrail.service.application import effort, joints, letterhead
from handrail.service.application.kept import kept_alone
from handrail.service.application.mark_schedule import Standing
from handrail.service.application.plans import CORES, Seen, assigned_of, look_at, plan_around
from handrail.service.application.refused import Refused
from handrail.store import connections, events, transmittals
from handrail.store.database import reading
from handrail.store.models import Job
from handrail.store.transmittals import Last

MOST_IN_ONE = 100  # details of a DXF: it is held whole
NAMED = 12  # places that a detail names


def of_connection(job: Job, key: str, kind: str, sheet: str, neighbours: bool = False) -> bytes:
    """The drawing of one connection as it stands, with others of its joint where these `neighbours` are wanted. Raises
    Refused, InputError."""
    with reading():
        record = connections.find(job, key)
        if record is None:
            raise Refused(404, f"job {job.name} has no connection '{key}'")
        seen = look_at(job, record.key)
        stands = kept_alone(seen, record)
        beside = joints.beside(plan_around(seen, record), record) if neighbours and stands.sizes else ()
    if not stands.sizes or stands.assigned.situation is None:
        raise Refused(404, f"connection '{key}' has no sizes, and nothing to draw: {record.reason or 'run the job'}")
    stale = f"stale: {record.stale}" if record.stale else record.status  # as its page says
    note = events.notes(job).get(record.key, "")
    said = (stands.otherwise or stale, *([f"to the shop: {note}"] if note else []))
    before = _before(transmittals.last_sent(job), record.key)
    one = Subject(
        record.key, record.standard, stands.assigned.situation, stands.sizes, said, beside=beside, before=before
    )
    return _written([one], seen, f"Connection {record.key}", kind, sheet)


def of_marks(job: Job, where: str, mark: str, kind: str, sheet: str) -> bytes:
    """A detail a mark, of the connections that a filter leaves, or of one `mark`. Raises Refused, InputError."""
    standing = Standing(job, where)
    shown = set(standing.shown)
    named = {standing.names[name]: piece for name, piece in standing.pieces.items()}
    if mark and mark not in named:
        raise Refused(404, f"job {job.name} has no mark '{mark}'; 'handrail schedule {job.name}' lists them")
    wanted = {name: piece for name, piece in named.items() if mark in ("", name) and shown & set(piece.connections)}
    if not wanted:
        raise Refused(404, "no connection of these is sized: there is nothing to draw; run the job first")
    if kind == "dxf" and len(wanted) > MOST_IN_ONE:
        raise Refused(
            422,
            f"{len(wanted)} marks are more than the {MOST_IN_ONE} that one DXF holds; choose fewer (--where, --mark),"
            " or write .pdf",
        )
    order = sorted(wanted, key=lambda name: (wanted[name].standard, len(name), name))
    last = transmittals.last_sent(job)
    subjects = [of_mark(standing, name, wanted[name], shown, last) for name in order]
    return _written(subjects, standing.seen, f"Mark {mark}" if mark else "Connections by mark", kind, sheet)


def of_mark(
    standing: Standing,
    name: str,
    piece: Piece,
    shown: Set[str],
    last: Last,
    warning: str = "",
) -> Subject:
    """What it is, where, with which members, and how these connections stand; `last` is how they were last sent,
    `warning` what is wrong with them."""
    keys = [key for key in piece.connections if key in shown]
    records = [standing.records[key] for key in keys]
    situation = assigned_of(standing.plan, keys[0]).situation
    assert situation is not None
    beams = sorted({c.section for c in records})
    supports = sorted({c.support_section for c in records if c.support_section})
    stand = Counter(c.status for c in records)
    said = [
        f"{len(keys)} {'place' if len(keys) == 1 else 'places'}: {_some(keys)}",
        f"{', '.join(beams)}{' to ' + ', '.join(supports) if supports else ''}",
        ", ".join(f"{count} {status}" for status, count in stand.items()),
    ]
    if finish := standing.plan.rulebook.finish:
        said.append(f"finish: {'; '.join(f'{name} {words}' for name, words in finish.items())}")
    said += _notes(standing, keys)
    if piece.hand:
        said.append(f"{piece.hand}: the other hand is another mark")
    sizes, mirrored = standing.sizes[keys[0]], piece.hand == MIRRORED
    return Subject(
        name, piece.standard, situation, sizes, tuple(said), mirrored, before=_before(last, keys[0]), warning=warning
    )


def _notes(standing: Standing, keys: Sequence[str]) -> list[str]:
    """Notes to the shop of the connections of a mark, each with those that it is of where it is not of all."""
    of: dict[str, list[str]] = defaultdict(list)
    for key in keys:
        if key in standing.notes:
            of[standing.notes[key]].append(key)
    return [f"to the shop{'' if len(own) == len(keys) else f' ({_some(own)})'}: {note}" for note, own in of.items()]


def _some(keys: Sequence[str]) -> str:
    more = f" and {len(keys) - NAMED} more" if len(keys) > NAMED else ""
    return f"{', '.join(keys[:NAMED])}{more}"


def _before(last: Last, key: str) -> tuple[str, Sizes] | None:
    """By what a connection was made when it was last sent."""
    return (last[key][1].standard, connections.sizes_in(last[key][1].sizes)) if key in last else None


def of_subjects(subjects: Sequence[Subject], seen: Seen, what: str, made: str) -> bytes:
    """Details as they are sent: PDF on the usual paper, with the day on which they were `made`."""
    return _written(subjects, seen, what, "pdf", "", made)


def _written(subjects: Sequence[Subject], seen: Seen, what: str, kind: str, sheet: str, made: str = "") -> bytes:
    """As a file of its kind."""
    job, revision = seen.job, seen.revision
    label = f" ({revision.label})" if revision.label else ""
    title = letterhead.title(
        job,
        what,
        (
            ("made", made or date.today().isoformat()),
            ("last issue", _last_issue(job)),
            ("checked", ""),
            ("model", f"R{revision.number}{label}"),
            ("code", f"{job.code} {job.method}"),
        ),
    )
    return as_file(subjects, title, kind, sheet, revision.system, CORES, effort.step)


def _last_issue(job: Job) -> str:
    """What left the house last."""
    before = transmittals.following(job) - 1
    return transmittals.name_of(before) if before else "none yet"
