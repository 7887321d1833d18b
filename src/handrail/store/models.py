"""The tables."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from typing import Any

from peewee import (
    AutoField,
    BlobField,
    BooleanField,
    CharField,
    CompositeKey,
    FloatField,
    ForeignKeyField,
    IntegerField,
    Model,
    TextField,
)

from handrail.store.database import proxy


def now() -> str:
    """The time as it is stamped on records: UTC, to the second."""
    return datetime.now(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


_text = json.JSONEncoder(separators=(",", ":")).encode


class Text(str):
    """Plain data that is JSON text already."""

    __slots__ = ()


def as_text(value: Any) -> Text:
    """Plain data as it is kept; for what many rows have in common."""
    return Text(_text(value))


class JSONField(TextField):  # what it holds is any plain data
    """Plain data kept as JSON text."""

    def db_value(self, value: Any) -> str | None:
        return value if value is None or isinstance(value, Text) else _text(value)

    def python_value(self, value: str | None) -> Any:
        return None if value is None else json.loads(value)


class Record(Model):
    class Meta:
        database = proxy


class PutFile(Record):
    """What a file that somebody put to something has; not a table of its own."""

    name = CharField()
    media = CharField(default="application/octet-stream")
    size = IntegerField()
    digest = CharField()  # SHA-256 of what was sent
    author = CharField()
    made = CharField(default=now)
    data = BlobField()


class Meta(Record):
    name = CharField(primary_key=True)
    value = TextField()


class User(Record):
    id = AutoField()
    name = CharField(unique=True)
    password = CharField()
    admin = BooleanField(default=False)
    removed = BooleanField(default=False)  # gone; the name stays taken, so that the history keeps its meaning
    made = CharField(default=now)


class Token(Record):
    """What lets somebody in until it expires: a token for scripts, or a session of the console. Only its digest is
    kept."""

    id = AutoField()
    user = ForeignKeyField(User, on_delete="CASCADE")
    digest = CharField(unique=True)
    label = CharField(default="")
    session = BooleanField(default=False)
    made = CharField(default=now)
    expires = CharField(default="")
    used = CharField(default="")


class Wrong(Record):
    """A wrong password: for which name, from which address, when (s)."""

    id = AutoField()
    name = CharField()
    address = CharField()
    at = FloatField()

    class Meta:
        indexes = ((("name", "address"), False),)


class Job(Record):
    id = AutoField()
    name = CharField(unique=True)
    title = CharField()
    code = CharField(default="AISC 360-22")
    method = CharField(default="LRFD")
    firm = TextField(default="")  # what title blocks say of it, line by line
    combination_set = CharField(default="strength")  # what results are by
    rulebook = TextField(default="")
    rulebook_files = JSONField(default=dict)  # its tables that are CSV files, by name
    rulebook_version = IntegerField(default=0)  # number of its newest revision
    moves = IntegerField(default=0)  # counts every change that people see
    sheet = IntegerField(default=0)  # on which its connections stand
    copying = IntegerField(default=0)  # the sheet that is prepared to take its place; 0 where none is
    column_map = TextField(default="")  # of the last model that came in through one
    takes = JSONField(default=dict)  # how many connections each rule takes, and of what this was counted
    tolerance = FloatField(
        default=0.05
    )  # how far actions and utilisation may move before a decision asks to be looked at again
    noted = IntegerField(default=-1)  # `moves` when its progress was last noted
    look_due = BooleanField(
        default=False
    )  # something that decisions rest on was changed, and nobody has looked yet which
    made = CharField(default=now)
    author = CharField(default="")

    @property
    def firm_lines(self) -> tuple[str, ...]:
        """The firm's name and what stands under it, as title blocks say it."""
        return tuple(line.strip() for line in self.firm.splitlines() if line.strip())


class Role(Record):
    job = ForeignKeyField(Job, on_delete="CASCADE")
    user = ForeignKeyField(User, on_delete="CASCADE")
    role = CharField()

    class Meta:
        indexes = ((("job", "user"), True),)


class Revision(Record):
    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    number = IntegerField()
    label = CharField(default="")
    title = CharField(default="")
    source = CharField(default="")
    dated = CharField(default="")
    author = CharField(default="")
    made = CharField(default=now)
    audit = JSONField()
    system = CharField(default="us")  # the units that people see
    joints = IntegerField(default=0)
    connections = IntegerField(default=0)
    gone = JSONField(default=list)  # connections of the revision before that are not in this one
    model = BlobField()  # everything but the forces
    head = BlobField(default=b"")  # the same without nodes and members
    drawn = BlobField(default=b"")  # nodes, members and ends without a connection, as the console draws them
    token = CharField(default="")  # of this revision alone: ids are used again when a job is deleted

    class Meta:
        indexes = ((("job", "number"), True),)


class MemberForces(Record):
    """One member and its end forces: float64 (results, 2 ends, 6), `packed` byte by byte or as they are."""

    revision = ForeignKeyField(Revision, on_delete="CASCADE")
    member = IntegerField()
    facts = JSONField(default=dict)  # the member, its role, its end nodes
    data = BlobField()
    packed = BooleanField(default=False)
    about = BlobField(default=b"")  # its facts where they are packed, too

    class Meta:
        indexes = ((("revision", "member"), True),)


class Placed(Record):
    """What is kept of a connection."""

    job = ForeignKeyField(Job, on_delete="CASCADE")
    key = CharField()
    joint = CharField()
    framing = CharField()
    words = TextField(default="")
    facts = JSONField()
    pieces = JSONField(default=list)  # the members that meet there, by role, each with its number and ends
    relations = JSONField(default=list)  # to other connections: kind and name
    at = JSONField(default=dict)  # its node's number, and what a base or a splice is judged with beside its members
    joint_number = IntegerField(default=0)  # in the order of the model
    member = CharField()
    section = CharField()
    support = CharField(default="")
    support_section = CharField(default="")
    elevation = FloatField(default=0.0)
    place = CharField(default="")  # by grid lines and level
    level = CharField(default="")
    standard = CharField(default="")
    rule = CharField(default="")
    sizes = JSONField(default=dict)
    summary = TextField(default="")  # the sizes in a few words
    brief = JSONField(default=dict)  # those that lists show
    status = CharField(default="unassigned")
    utilisation = FloatField(default=0.0)
    check_name = CharField(default="")
    clause = CharField(default="")
    action = CharField(default="")
    reason = TextField(default="")
    notes = JSONField(default=list)
    remarks = JSONField(default=list)  # of its notes those that ask something of a person
    broken = TextField(default="")  # detailing rules that fail, by name
    collides = JSONField(default=list)  # what of it stands in others of its joint, as core.checking.colliding has it
    remedy = TextField(default="")
    remedies = JSONField(default=list)
    stale = TextField(default="")  # why its result does not stand any more; empty where it does, or there is none
    made = CharField(default="")  # its result: sized by its rule, verified as it stood, or none
    digest = CharField(default="")  # of all that it rests on
    engine = CharField(default="")  # the version of the checks that made it
    less = TextField(default="")  # that less is stated than the analysis says, which an engineer accepts
    asks = BooleanField(
        default=False
    )  # elsewhere, and what that was said of has changed: unchecked until somebody looks
    over_target = BooleanField(default=False)  # passes, and is used more than sizing aims at
    overridden = IntegerField(default=0)
    tags = JSONField(default=list)
    sequence = CharField(default="")  # of erection
    person = CharField(default="")  # who works on it
    released = CharField(default="")  # by whom; empty where it is not, or fell
    released_at = CharField(default="")
    fell = TextField(default="")  # why its release fell, until somebody has looked at it
    # the revision under which it was verified as it stands without being asked, and its utilisation before; null else
    verified = JSONField(null=True)
    last = CharField(default="")  # of what is stale: the status before that
    was = JSONField(null=True)  # how it stood before the last revision; null where that brought it
    version = IntegerField(default=1)


class Connection(Placed):
    """A connection as it stands: a row of its job's sheet. It is read here, and written in ConnectionRow."""

    id = IntegerField(primary_key=True)

    class Meta:
        table_name = "connection"  # a view


class ConnectionRow(Placed):
    """A connection on one sheet of its job: `of` is its number, the same on every sheet."""

    id = AutoField()
    of = IntegerField()
    sheet = IntegerField(default=0)

    class Meta:
        indexes = (
            (("job", "sheet", "key"), True), (("job", "sheet", "joint_number"), False),
            (("job", "sheet", "joint"), False), (("job", "sheet", "status"), False),
            (("job", "sheet", "utilisation"), False), (("of", "sheet"), True),
        )  # fmt: skip


class Alike(Record):
    """A text that rows have alike, by its digest."""

    id = AutoField()
    mark = CharField(unique=True)
    text = TextField()


class Touched(Record):
    """A connection whose row changed on the sheet that stands while another is prepared."""

    job = ForeignKeyField(Job, on_delete="CASCADE")
    of = IntegerField()

    class Meta:
        primary_key = CompositeKey("job", "of")


class Work(Record):
    """Something a worker does for a job, one at a time of its kind: queued, running under a lease, then done, failed,
    cancelled or interrupted. `owner` is the worker that holds it, `beat` when it last said so (s)."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    state = CharField(default="queued", index=True)
    total = IntegerField(default=0)
    done = IntegerField(default=0)
    message = TextField(default="")
    author = CharField(default="")
    made = CharField(default=now)
    finished = CharField(default="")
    owner = CharField(default="")
    beat = FloatField(default=0.0)
    tries = IntegerField(default=0)
    started = FloatField(default=0.0)  # when its worker took it (s)


class Run(Work):
    """A batch over a job or a part of it."""

    mode = CharField()  # size, verify, or look: verify without keeping anything
    where = CharField(default="")
    combination_set = CharField(default="")  # that was checked
    only = JSONField(default=list)  # of its combinations; all where there is none
    found = JSONField(default=list)  # what a look saw, the worst first
    counts = JSONField(default=dict)
    changed = IntegerField(
        null=True
    )  # connections that it left other steel, or judged otherwise; null before it is done
    fresh = IntegerField(default=0)  # that were stale, and are as they were
    shifted = IntegerField(default=0)  # as they were, but for a utilisation that moved


class RunChanges(Record):
    """What a run left otherwise than it was, connection by connection; of a job's newest runs."""

    run = ForeignKeyField(Run, on_delete="CASCADE", unique=True)
    data = JSONField(default=list)  # as it was kept until it was packed
    packed = BlobField(default=b"")  # JSON, deflated


class Import(Work):
    """A model on its way to be a revision. `file` is what was sent, in the uploads' folder; `held` until somebody has
    looked at it."""

    file = CharField()
    name = CharField(default="")
    column_map = TextField(default="")  # that it is read through; empty for a bundle
    problems = JSONField(default=list)
    revision = IntegerField(null=True)


class Acknowledged(Record):
    """A finding of the audit that somebody looked at and lets stand, with why; it stays for later revisions that find
    it again."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    code = CharField()
    node = CharField(default="")
    member = CharField(default="")
    reason = TextField()
    author = CharField()
    made = CharField(default=now)

    class Meta:
        indexes = ((("job", "code", "node", "member"), True),)


class Group(Record):
    """Connections that a person put together."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    name = CharField()
    author = CharField()
    made = CharField(default=now)

    class Meta:
        table_name = "gathering"  # group is a word of SQL
        indexes = ((("job", "name"), True),)


class GroupMember(Record):
    """A connection of a group; it follows its member's end through revisions, as the connection does."""

    group = ForeignKeyField(Group, on_delete="CASCADE")
    connection = IntegerField(column_name="connection_id")  # its number

    class Meta:
        indexes = ((("group", "connection"), True),)


class PatternEdit(Record):
    """A joint that somebody put with another one's pattern, or took out of its own (`beside` empty)."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    joint = CharField()
    beside = CharField(default="")
    reason = TextField()
    author = CharField()
    made = CharField(default=now)

    class Meta:
        indexes = ((("job", "joint"), True),)


class Override(Record):
    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    connection = CharField()
    parameter = CharField()
    value = JSONField()
    shown = CharField()
    reason = TextField()
    author = CharField()
    made = CharField(default=now)
    cause = CharField(default="")  # of the shop's list of reasons
    state = CharField(default="awaiting")
    reviewer = CharField(default="")  # who accepted, returned or cleared it
    reviewed = CharField(default="")
    word = TextField(default="")  # what they said
    before = JSONField()
    after = JSONField()
    grounds = JSONField(
        null=True
    )  # what it rested on when it was made or last confirmed; null where that is not known yet
    present = JSONField(null=True)  # the same as it stands now
    look = JSONField(default=list)  # what of it moved beyond the tolerance, in words
    replaces = IntegerField(
        null=True
    )  # the accepted one that it took the place of: it holds again where this one is returned
    place = JSONField(
        null=True
    )  # of the member's end and its far end, mm; null where it was made before places were kept

    class Meta:
        indexes = ((("job", "connection"), False),)


class Step(Record):
    """One act of a person on overrides: those that it made and those that it ended, by id. `undone` where the person
    has gone back over it."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    author = CharField()
    made = JSONField(default=list)
    ended = JSONField(default=list)
    undone = BooleanField(default=False)

    class Meta:
        indexes = ((("job", "author"), False),)


class Ledger(Record):
    """Append-only: every decision against the rules and what became of it, each entry chained to the one before in its
    job."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    override = ForeignKeyField(Override, on_delete="CASCADE", null=True)
    connection = CharField()
    event = CharField()
    words = TextField(default="")
    author = CharField()
    made = CharField(default=now)
    number = IntegerField(default=0)  # in its job, from 1
    parameter = CharField(default="")
    data = JSONField(default=dict)
    previous = CharField(default="")
    digest = CharField(default="")


class Closed(Record):
    """The ledger of a job that was deleted: how many entries it had, the first one's digest and the last one's."""

    id = AutoField()
    job = CharField()
    entries = IntegerField()
    first = CharField()
    head = CharField()
    author = CharField()
    made = CharField(default=now)


class Attachment(PutFile):
    """A file that belongs to an override: a sketch, a calculation, a mail."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    override = ForeignKeyField(Override, on_delete="CASCADE")


class Transmittal(Record):
    """What left the house at one moment, frozen: a zip with what was drawn and listed."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    number = IntegerField()  # of the job, from 1
    to = TextField()
    why = TextField()
    where = TextField(default="")  # which connections were asked for
    anyway = TextField(default="")  # why what is not released went along; empty where nothing did
    author = CharField()
    made = CharField(default=now)
    revision = IntegerField()  # number of the model's
    marks = IntegerField()
    counts = JSONField(default=dict)  # new, changed, same, withdrawn, unreleased
    size = IntegerField()
    digest = CharField()  # SHA-256 of the zip
    data = BlobField()

    class Meta:
        indexes = ((("job", "number"), True),)


class Sent(Record):
    """A connection as a transmittal has it."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    transmittal = ForeignKeyField(Transmittal, on_delete="CASCADE")
    connection = CharField()
    place = CharField(default="")
    mark = CharField(default="")
    standard = CharField(default="")
    sizes = TextField(default="{}")
    status = CharField(default="")
    utilisation = FloatField(default=0.0)
    released = CharField(default="")  # by whom
    change = CharField()  # new, changed, same, withdrawn, against when it was last sent
    words = TextField(default="")  # what was changed
    before = IntegerField(default=0)  # number of the transmittal in which it was last sent

    class Meta:
        indexes = ((("job", "connection"), False),)


class Event(Record):
    """What happened to a connection beside decisions on its sizes: a comment, a tag, a release and its fall."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    connection = CharField()
    kind = CharField()
    words = TextField(default="")
    author = CharField()
    made = CharField(default=now)
    place = JSONField(null=True)
    gone = BooleanField(default=False)  # its connection is not in the revision
    after = IntegerField(default=0)  # number of the ledger's last entry when it happened
    sealed = BooleanField(default=True)  # false of a fall that is not in the ledger yet

    class Meta:
        indexes = ((("job", "connection"), False),)


class Progress(Record):
    """How many connections stood how at the end of a day."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    day = CharField()
    counts = JSONField()

    class Meta:
        indexes = ((("job", "day"), True),)


class View(Record):
    """A way to look at the table of connections that somebody kept: its filter, order, columns."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    name = CharField()
    asks = JSONField(default=dict)
    author = CharField()
    made = CharField(default=now)

    class Meta:
        indexes = ((("job", "name"), True),)


class RulebookRevision(Record):
    """A rulebook of a job as it was adopted; never changed."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    number = IntegerField()
    name = CharField(default="")
    text = TextField()
    files = JSONField(default=dict)
    inherits = CharField(default="")  # the rulebook of the house that it stands on, as NAME R2
    author = CharField(default="")
    made = CharField(default=now)

    class Meta:
        indexes = ((("job", "number"), True),)


class House(Record):
    """A rulebook that the house keeps above its jobs, one revision of it: draft, approved or retired. What it says is
    never changed."""

    id = AutoField()
    name = CharField()
    number = IntegerField()
    note = TextField(default="")
    text = TextField()
    files = JSONField(default=dict)
    inherits = CharField(default="")
    state = CharField(default="draft")
    author = CharField()
    made = CharField(default=now)
    reviewer = CharField(default="")  # who approved or retired it
    reviewed = CharField(default="")

    class Meta:
        indexes = ((("name", "number"), True),)


class Query(Record):
    """What is asked of the engineer of record, `of` joints, members, connections or findings ([kind, name]); `said` is
    what was answered, closed or asked again, in turn; `guid` is what others know it by."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    number = IntegerField()
    guid = CharField()
    title = CharField()
    words = TextField(default="")
    to = CharField(default="")
    due = CharField(default="")
    of = JSONField(default=list)
    holds = BooleanField(default=False)
    view = JSONField(default=dict)
    state = CharField(default="open")
    author = CharField()
    made = CharField(default=now)
    answer = TextField(default="")
    answered_by = CharField(default="")
    answered = CharField(default="")
    closed_by = CharField(default="")
    closed = CharField(default="")
    said = JSONField(default=list)

    class Meta:
        indexes = ((("job", "number"), True), (("job", "guid"), True))


class Profile(Record):
    """How the house prints: the firm's lines, registration and emblem, sections of calculations and whose worked lines;
    the newest of its name."""

    id = AutoField()
    name = CharField(unique=True)
    firm = TextField(default="")
    registration = CharField(default="")
    emblem = BlobField(default=b"")
    kind = CharField(default="")
    sections = JSONField(default=list)
    lines = CharField(default="")
    author = CharField()
    made = CharField(default=now)


class HouseMap(Record):
    """A column map that the house keeps above its jobs, one revision of it; its `way` is in, or out for one that rows
    are written by; `left` where it was taken away. What it says is never changed."""

    id = AutoField()
    name = CharField()
    number = IntegerField()
    text = TextField()
    note = TextField(default="")
    author = CharField()
    made = CharField(default=now)
    state = CharField(default="kept")
    way = CharField(default="in")

    class Meta:
        indexes = ((("name", "number"), True),)


class HouseDesign(Record):
    """A design that the house keeps above its jobs, one revision of it: a draft of who made it, one of the house once
    somebody signed it, shipped with the service, or withdrawn. What it says is never changed; `checked` says whether
    our code has looked at it (by its version), and `differs` where what was published is otherwise."""

    id = AutoField()
    name = CharField()
    number = IntegerField()
    state = CharField(default="draft")
    text = TextField()
    title = TextField(default="")
    note = TextField(default="")
    tags = JSONField(default=list)
    seen_by = JSONField(default=list)  # who sees it once it is the house's: job:NAME, role:NAME; empty for all
    author = CharField()
    made = CharField(default=now)
    signer = CharField(default="")
    signed = CharField(default="")
    source = CharField(default="")  # the Bench, a connection of a job, a published table
    job = CharField(default="")  # where it is from, if from one
    standard = CharField()
    framing = CharField(default="")
    section = CharField(default="")
    support = CharField(default="")
    family = CharField(default="")
    support_family = CharField(default="")
    depth = FloatField(default=0.0)  # mm
    support_depth = FloatField(default=0.0)
    skew = FloatField(default=0.0)  # degrees
    slope = FloatField(default=0.0)
    bolt = CharField(default="")
    summary = TextField(default="")
    summary_si = TextField(default="")  # the same in mm
    shear = FloatField(default=0.0)  # N that it holds alone
    pull = FloatField(default=0.0)
    push = FloatField(default=0.0)
    moment = FloatField(default=0.0)  # N*mm
    steel = FloatField(default=0.0)  # kg
    bolts = IntegerField(default=0)
    holds = JSONField(default=dict)  # {action: [N or N*mm, the check that ends it]}
    stated = JSONField(default=dict)  # as it was published
    checked = CharField(default="")
    differs = TextField(default="")
    why = TextField(default="")  # it holds nothing
    words = TextField(default="")  # what it is looked for by

    class Meta:
        indexes = ((("name", "number"), True), (("state", "standard"), False))


class DesignFile(PutFile):
    """A file that belongs to a revision of a house design: a calculation, a sketch, a certificate."""

    id = AutoField()
    design = ForeignKeyField(HouseDesign, on_delete="CASCADE")


class HouseEntry(Record):
    """A grade, bolt group, rod grade, electrode, faying surface or section that the house has beside the shipped
    tables: a draft until an administrator approves it. What it says is never changed; a name means one thing for good.
    `job` alone may use it, where one is said."""

    id = AutoField()
    kind = CharField()
    name = CharField()
    called = CharField()  # the name as it is looked up
    given = JSONField()  # as it was typed
    values = JSONField()  # in the core's units
    source = TextField()
    job = CharField(default="")
    state = CharField(default="draft")
    author = CharField()
    made = CharField(default=now)
    reviewer = CharField(default="")
    reviewed = CharField(default="")

    class Meta:
        indexes = ((("kind", "called"), True),)


class Mark(Record):
    """The name of one connection as fabricated, known by the digest of its pieces; it stays theirs for good."""

    id = AutoField()
    job = ForeignKeyField(Job, on_delete="CASCADE")
    digest = CharField()
    series = CharField()
    number = IntegerField()

    class Meta:
        indexes = ((("job", "digest"), True), (("job", "series", "number"), True))


TABLES = (
    Meta,
    User,
    Token,
    Wrong,
    Job,
    Role,
    Revision,
    MemberForces,
    Alike,
    ConnectionRow,
    Touched,
    Run,
    Import,
    Acknowledged,
    Group,
    GroupMember,
    PatternEdit,
    Override,
    Step,
    Ledger,
    Closed,
    Attachment,
    Transmittal,
    Sent,
    Event,
    Progress,
    View,
    RulebookRevision,
    House,
    HouseMap,
    Mark,
    RunChanges,
)
