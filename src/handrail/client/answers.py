"""What the service answers, as the document of its API says it; made by `make openapi`, not by hand."""

from __future__ import annotations

from typing import Any, Literal, NotRequired, TypeAlias, TypedDict


class Acknowledged(TypedDict):
    author: str
    made: str
    reason: str


class AlsoRule(TypedDict):
    adds: str
    line: int
    name: str
    note: str
    origin: str
    takes: int
    when: list[str]


class Attachment(TypedDict):
    author: str
    digest: str
    id: int
    made: str
    media: str
    name: str
    size: int


class AuditFinding(TypedDict):
    acknowledged: NotRequired[Acknowledged | None]
    cause: NotRequired[str]
    code: str
    combination: NotRequired[str]
    member: NotRequired[str]
    message: str
    node: NotRequired[str]
    piece: NotRequired[str]
    place: NotRequired[str]
    severity: Literal["error", "warning", "note"]
    value: NotRequired[float]


class BenchSize(TypedDict):
    bounds: str
    choices: list[str]
    default: str | int | None
    formula: NotRequired[str]
    help: str
    kind: str
    label: str
    name: str
    number: float | None
    of: str
    shared_with: NotRequired[list[str]]
    source: str
    text: str
    unit: str


Line: TypeAlias = tuple[float, float]


class Breakout(TypedDict):
    barred: bool
    kind: Literal["tension", "shear"]
    lines: list[tuple[Line, Line]]
    rods: list[str]
    side: str
    use: float


class CapacityRow(TypedDict):
    bolts: int
    check: str
    section: str
    shear: float
    steel: float
    summary: str
    values: dict[str, str]
    why: str


class Case(TypedDict):
    kind: str
    name: str
    nature: str
    title: str


class CatalogueEntry(TypedDict):
    author: str
    job: str
    kind: str
    made: str
    name: str
    reviewed: str
    reviewer: str
    source: str
    state: Literal["draft", "approved", "retired"]
    values: dict[str, Any]


class Causes(TypedDict):
    causes: list[str]


class Change(TypedDict):
    joints: list[str]
    kind: Literal["new", "gone", "moved", "renamed", "resized", "released", "framed", "reloaded"]
    name: str
    now: str
    share: float
    was: str


class Check(TypedDict):
    action: str
    check: str
    clause: str
    code: str
    demand: float
    limit: bool
    lines: NotRequired[list[str]]
    part: str
    strength: float
    unit: str
    utilisation: float


class Circle(TypedDict):
    centre: tuple[float, float]
    part: str
    radius: float
    style: NotRequired[str]


class Closed(TypedDict):
    author: str
    entries: int
    first: str
    head: str
    job: str
    made: str


class Collision(TypedDict):
    at: tuple[float, float, float]
    depth: float
    fails: bool
    its: str
    its_part: str
    other: str
    own: bool
    part: str
    piece: str
    room: str
    stands: bool
    words: str


class Comparison(TypedDict):
    changes: list[Change]
    new: int
    old: int
    unchanged: int


class Counted(TypedDict):
    accepted: int
    awaiting: int
    look: int
    returned: int


Counts = TypedDict(
    "Counts",
    {
        "awaiting": int,
        "done": int,
        "elsewhere": int,
        "fail": int,
        "fell": NotRequired[int],
        "look": int,
        "over_target": NotRequired[int],
        "overridden": int,
        "pass": int,
        "released": int,
        "remarks": NotRequired[int],
        "stale": int,
        "total": int,
        "unassigned": int,
        "unchecked": int,
    },
)


Day = TypedDict(
    "Day",
    {
        "awaiting": int,
        "day": str,
        "done": int,
        "elsewhere": int,
        "fail": int,
        "fell": NotRequired[int],
        "look": int,
        "over_target": NotRequired[int],
        "overridden": int,
        "pass": int,
        "released": int,
        "remarks": NotRequired[int],
        "stale": int,
        "total": int,
        "unassigned": int,
        "unchecked": int,
    },
)


class Demand(TypedDict):
    combination: str
    component: str
    end: str
    member: str
    node: str
    piece: NotRequired[str]
    section: str
    share: float


class Design(TypedDict):
    bolts: int
    check: str
    names: list[str]
    parameters: dict[str, str | int]
    passes: bool
    rods: int
    steel: float
    summary: str
    utilisation: float
    weld: float


class DesignChanges(TypedDict):
    changes: dict[str, Any]
    reason: str


class DesignField(TypedDict):
    choices: list[str]
    help: str
    high: str
    kind: str
    label: str
    low: str
    name: str
    usual: str


class DesignFile(TypedDict):
    file: str
    text: str


class DesignHolds(TypedDict):
    action: str
    amount: float
    check: str
    text: str
    words: str


class DesignInPlace(TypedDict):
    check: str
    connection: str
    holds: bool
    reason: str
    utilisation: float


class DesignUse(TypedDict):
    by: Literal["rule", "decision"]
    connections: list[str]
    job: str
    revision: int


class Designs(TypedDict):
    items: list[Design]


class DesignsIn(TypedDict):
    checked: int
    left: int
    names: list[str]


class DetailingRule(TypedDict):
    clause: str
    given: float
    limit: float
    ok: bool
    part: str
    rule: str
    says: str
    sense: Literal["at least", "at most"]
    unit: str


Extension: TypeAlias = tuple[float, float]


LineItem: TypeAlias = tuple[float, float]


class Dimension(TypedDict):
    anchor: str
    extensions: list[tuple[Extension, Extension]]
    line: tuple[LineItem, LineItem]
    parameter: NotRequired[str]
    place: tuple[float, float]
    text: str


class EarlierDesign(TypedDict):
    changes: dict[str, str | int | float]
    check: str
    connection: str
    count: int
    job: str
    reason: str
    section: str
    standard: str
    status: str
    steel: float | None
    summary: str
    support_section: str
    there: float
    utilisation: float


class EarlierDesigns(TypedDict):
    connection: str
    items: list[EarlierDesign]
    looked: int


class EditedRulebook(TypedDict):
    files: dict[str, str]
    text: str


class Entry(TypedDict):
    author: str
    connection: str
    data: dict[str, Any]
    digest: str
    event: str
    job: str
    made: str
    number: int
    override: int | None
    parameter: str
    previous: str
    words: str


class EntryValue(TypedDict):
    choices: list[str]
    help: str
    name: str
    needed: bool
    quantity: str


class Event(TypedDict):
    author: str
    event: str
    made: str
    override: NotRequired[int | None]
    words: str


class FactOf(TypedDict):
    choices: list[str]
    example: str
    help: str
    kind: str
    name: str


class FailingCondition(TypedDict):
    asked: str
    has: str


class FoundTable(TypedDict):
    called: str
    file: str
    names: list[str]
    rows: int
    sample: list[list[str]]
    units: dict[str, str]
    used: list[str]


class Governing(TypedDict):
    action: str
    check: str
    place: NotRequired[str | None]


class Grade(TypedDict):
    Fu: float
    Fy: float
    max_thickness: float
    name: str
    standard: str
    use: str


class Group(TypedDict):
    author: str
    connections: int
    made: str
    name: str
    statuses: dict[str, int]


class GroupInFull(TypedDict):
    author: str
    common: dict[str, str]
    connections: int
    differ: dict[str, dict[str, int]]
    keys: list[str]
    made: str
    name: str
    statuses: dict[str, int]


class Held(TypedDict):
    action: str
    check: str
    status: str
    utilisation: float


class HouseMap(TypedDict):
    author: str
    made: str
    name: str
    note: str
    number: int
    way: Literal["in", "out"]


class Import(TypedDict):
    author: str
    done: int
    finished: str
    id: int
    made: str
    message: str
    name: str
    problems: list[dict[str, Any]]
    revision: int | None
    state: Literal["held", "queued", "running", "done", "failed", "cancelled", "interrupted"]
    total: int


class JointCollision(TypedDict):
    at: tuple[float, float, float]
    connection: str
    depth: float
    fails: bool
    its: str
    other: str
    piece: str
    stands: bool
    words: str


class JointRow(TypedDict):
    connections: list[str]
    elevation: float
    joint: str
    level: str
    place: str
    status: Literal["pass", "fail", "unchecked", "unassigned", "elsewhere"]
    utilisation: float


class KeptDesign(TypedDict):
    author: str
    bolt: str
    bolts: int
    called: str
    checked: str
    differs: str
    framing: str
    holds: list[DesignHolds]
    job: str
    made: str
    name: str
    note: str
    number: int
    section: str
    seen_by: list[str]
    signed: str
    signer: str
    source: str
    standard: str
    state: Literal["draft", "house", "shipped", "withdrawn"]
    steel: float
    summary: str
    support: str
    tags: list[str]
    title: str
    why: str


class KeptProfile(TypedDict):
    author: str
    emblem: str
    firm: list[str]
    lines: str
    made: str
    name: str
    registration: str
    sections: list[str]


class KeptRulebook(TypedDict):
    author: str
    called: str
    inherits: str
    jobs: list[str]
    made: str
    name: str
    note: str
    number: int
    reviewed: str
    reviewer: str
    state: Literal["draft", "approved", "retired"]


class KeptView(TypedDict):
    author: str
    columns: list[str]
    find: NotRequired[str]
    group: str
    made: str
    name: str
    sort: str
    where: str


class Labelled(TypedDict):
    changed: int
    connections: int


class LastChange(TypedDict):
    author: str
    made: str
    what: str


class LedgerPage(TypedDict):
    head: str
    items: list[Entry]
    next: int | None
    total: int


class LeftOut(TypedDict):
    connections: int
    why: str


class MarkMerge(TypedDict):
    bolts: int
    changes: dict[str, str | int | float]
    connections: list[str]
    given: str
    given_summary: str
    marks: int
    number: int
    standard: str
    steel: float
    taken: str
    taken_summary: str
    worst: float


class MarkRow(TypedDict):
    connections: list[str]
    count: int
    counted_there: int
    field_bolts: int
    framings: list[str]
    hand: str
    mark: str
    members: list[str]
    rods: int
    shared_with: list[str]
    shop_bolts: int
    sizes: dict[str, str]
    standard: str
    statuses: dict[str, int]
    steel: float
    steel_each: float
    summary: str
    supports: list[str]
    title: str
    utilisation: float
    weld: float


class MarkTotals(TypedDict):
    count: int
    field_bolts: int
    rods: int
    shop_bolts: int
    steel: float
    weld: float


class MatrixColumn(TypedDict):
    action: str
    governs: int
    method: str
    set: str


class MatrixRow(TypedDict):
    check: str
    clause: str
    governs: int
    limit: bool
    part: str


class Me(TypedDict):
    admin: bool
    name: str
    roles: dict[str, str]


class MetAlso(TypedDict):
    adds: str
    failing: list[FailingCondition]
    line: int
    note: str
    origin: str
    rule: str
    took: bool


class MetRule(TypedDict):
    failing: list[FailingCondition]
    line: int
    note: str
    origin: str
    rule: str
    took: bool


class MissingPart(TypedDict):
    column: str
    table: str
    words: str


class ModelAsked(TypedDict):
    share: list[float | None]


class ModelConnection(TypedDict):
    connection: str
    framing: str
    joint: str
    member: str
    remarks: int
    stale: bool
    status: Literal["pass", "fail", "unchecked", "unassigned", "elsewhere"]
    utilisation: float


class ModelGrid(TypedDict):
    end: tuple[float, float]
    grid: str
    start: tuple[float, float]


class ModelLevel(TypedDict):
    level: str
    z: float


class ModelMember(TypedDict):
    depth: float
    grade: str
    i: int
    j: int
    member: str
    piece: int
    role: Literal["beam", "column", "brace"]
    section: str
    shape: str
    up: tuple[float, float, float]
    width: float


class ModelNode(TypedDict):
    level: str
    node: str
    place: str
    support: Literal["pinned", "fixed", "other", ""]
    xyz: tuple[float, float, float]


class Nameless(TypedDict):
    fact: str
    name: str
    near: str
    where: str


class Note(TypedDict):
    anchor: NotRequired[str]
    around: NotRequired[bool]
    arrow_side: NotRequired[bool]
    dashed: NotRequired[bool]
    field: NotRequired[bool]
    groove: NotRequired[bool]
    leader: list[tuple[float, float]]
    part: NotRequired[str]
    place: tuple[float, float]
    text: str
    weld: NotRequired[str]


class OfConnection(TypedDict):
    connection: str
    left_out: list[str]
    system: Literal["us", "si"]
    trial: dict[str, Any]
    version: int


class OneCombination(TypedDict):
    method: str
    name: str
    set: str
    terms: list[tuple[str, float]]


class OtherMap(TypedDict):
    misfits: list[str]
    name: str
    note: str
    number: int


class OutputColumn(TypedDict):
    name: str
    unit: str


class OutputTable(TypedDict):
    columns: list[OutputColumn]
    file: str
    name: str
    rows: int
    rows_of: str
    sample: list[list[str]]
    sheet: str


class PageDesigns(TypedDict):
    items: list[KeptDesign]
    next: int | None
    tags: list[str]
    total: int
    unchecked: int


class PageAttachment(TypedDict):
    items: list[Attachment]
    next: int | None
    total: int


class PageClosed(TypedDict):
    items: list[Closed]
    next: int | None
    total: int


class PageGrade(TypedDict):
    items: list[Grade]
    next: int | None
    total: int


class PageGroup(TypedDict):
    items: list[Group]
    next: int | None
    total: int


class PageHouseMap(TypedDict):
    items: list[HouseMap]
    next: int | None
    total: int


class PageImport(TypedDict):
    items: list[Import]
    next: int | None
    total: int


class PageJointRow(TypedDict):
    items: list[JointRow]
    next: int | None
    total: int


class PageKeptProfile(TypedDict):
    items: list[KeptProfile]
    next: int | None
    total: int


class PageKeptRulebook(TypedDict):
    items: list[KeptRulebook]
    next: int | None
    total: int


class PageKeptView(TypedDict):
    items: list[KeptView]
    next: int | None
    total: int


class Parameter(TypedDict):
    choices: list[str]
    default: str | int | None
    help: str
    kind: str
    label: str
    name: str


Part = TypedDict(
    "Part",
    {
        "awaiting": int,
        "done": int,
        "elsewhere": int,
        "fail": int,
        "fell": NotRequired[int],
        "look": int,
        "name": str,
        "over_target": NotRequired[int],
        "overridden": int,
        "pass": int,
        "released": int,
        "remarks": NotRequired[int],
        "stale": int,
        "total": int,
        "unassigned": int,
        "unchecked": int,
    },
)


class PartForce(TypedDict):
    force: float
    part: str


class Parts(TypedDict):
    connection: str
    sizes: dict[str, list[str]]


class Pattern(TypedDict):
    at: list[str]
    connections: int
    framings: list[str]
    joints: int
    mirrored: int
    name: str
    slots: list[str]


class PatternGoverning(TypedDict):
    check: str
    combination: str
    connection: str
    peak: bool
    piece: NotRequired[str]
    utilisation: float
    values: list[float]


class PatternJoint(TypedDict):
    connections: list[str]
    joint: str
    mirrored: bool
    place: str
    said: str
    turn: float


class PatternLine(TypedDict):
    points: list[tuple[float, float]]
    words: str


class PatternPeak(TypedDict):
    action: str
    combination: str
    connection: str
    largest: bool
    piece: NotRequired[str]
    values: list[float]


class PatternPlace(TypedDict):
    framing: str
    peaks: list[PatternPeak]
    words: str


class PatternPoints(TypedDict):
    actions: list[str]
    combinations: list[str]
    connections: list[str]
    data: str


class Peak(TypedDict):
    action: str
    carried: bool
    max: float
    max_in: str
    min: float
    min_in: str
    unit: str


class Piece(TypedDict):
    ends: list[Literal["i", "j"]]
    ends_here: bool
    face: str
    grade: str
    member: str
    offset: float
    role: str
    section: str
    skew: float
    slope: float


class PieceName(TypedDict):
    member: str
    role: str
    section: str


class Pointing(TypedDict):
    choices: dict[str, Any]
    found: list[FoundTable]
    maps: list[OtherMap]
    missing: list[MissingPart]
    stated: dict[str, Any]
    tables: dict[str, Any]


class PracticeOf(TypedDict):
    default: str
    help: str
    label: str
    parameter: str
    said: str
    source: str
    standard: str
    text: str


class Progress(TypedDict):
    days: list[Day]
    level: list[Part]
    now: Counts
    person: list[Part]
    sequence: list[Part]


class ProposedOutput(TypedDict):
    map: str


class PutFile(TypedDict):
    author: str
    digest: str
    id: int
    made: str
    media: str
    name: str
    size: int


class QuerySaid(TypedDict):
    author: str
    made: str
    what: str
    words: str


class QuerySubject(TypedDict):
    kind: Literal["connection", "joint", "member", "finding"]
    name: str


class Question(TypedDict):
    ahead: int
    done: int
    id: str
    left: float | None
    state: str
    total: int


class RareSection(TypedDict):
    instead: str
    members: int
    section: str


class ReadTrial(TypedDict):
    trial: dict[str, Any]


class RefusedOne(TypedDict):
    connection: str
    why: str


class Relation(TypedDict):
    kind: Literal["opposite", "shares_bolts", "other_side"]
    other: str


class Released(TypedDict):
    connections: int
    refused: list[RefusedOne]


class Remedy(TypedDict):
    changes: dict[str, str]
    cost: float
    more: dict[str, float]
    over_target: bool
    utilisation: float


class Reserve(TypedDict):
    changes: dict[str, str]
    connections: list[str]
    framing: str
    idle: list[str]
    saves: dict[str, float]
    saves_all: dict[str, float]
    section: str
    standard: str
    summary: str
    then: float
    utilisation: float
    worth: float


class Reserves(TypedDict):
    connections: int
    items: list[Reserve]


class RevisionName(TypedDict):
    label: str
    number: int


class RodPlace(TypedDict):
    at: tuple[float, float]
    name: str


class RuleTaken(TypedDict):
    line: int
    name: str
    origin: str
    takes: int


class RulebookDifference(TypedDict):
    name: str
    now: str
    was: str
    what: str


class RulebookRevision(TypedDict):
    author: str
    inherits: str
    made: str
    name: str
    number: int


class RulebookRule(TypedDict):
    line: int
    name: str
    note: str
    origin: str
    takes: int
    use: str
    when: list[str]


class RulebookWord(TypedDict):
    example: NotRequired[str]
    help: str
    name: str


class RuledSide(TypedDict):
    reason: str
    rule: str
    standard: str
    status: str
    summary: str
    utilisation: float


class Said(TypedDict):
    connection: str
    words: str


class Schedule(TypedDict):
    rows: list[MarkRow]
    system: Literal["us", "si"]
    totals: MarkTotals
    unsized: int


class Section(TypedDict):
    A: float
    Cw: float
    Ix: float
    Iy: float
    J: float
    Sx: float
    Sy: float
    Zx: float
    Zy: float
    bf: float
    d: float
    family: str
    gauge: float
    k: float
    k1: float
    k_detail: float
    mass: float
    name: str
    rx: float
    ry: float
    tf: float
    tw: float
    wall: float


class Seen(TypedDict):
    action: str
    check: str
    clause: str
    connection: str
    reason: str
    status: Literal["pass", "fail", "unchecked", "unassigned", "elsewhere"]
    utilisation: float


class SeenColumn(TypedDict):
    name: str
    source: str
    unit: str


class SeenTable(TypedDict):
    columns: list[SeenColumn]
    rows: int
    sample: list[list[str]]
    source: str
    table: str
    unread: list[str]


class SentConnection(TypedDict):
    before: int
    change: Literal["new", "changed", "same", "withdrawn"]
    connection: str
    mark: str
    place: str
    released: str
    standard: str
    status: str
    utilisation: float
    words: str


class ShadowedRule(TypedDict):
    by: dict[str, int]
    name: str


class Shape(TypedDict):
    closed: NotRequired[bool]
    holes: NotRequired[list[list[tuple[float, float]]]]
    part: str
    points: list[tuple[float, float]]
    style: NotRequired[str]


class ShapeSection(TypedDict):
    depth: float
    section: str
    shape: str
    width: float


class Shown(TypedDict):
    demand: float
    strength: float
    unit: str


class ShownCheck(TypedDict):
    action: str
    check: str
    clause: str
    code: str
    demand: float
    limit: bool
    lines: list[str]
    part: str
    shown: Shown | None
    strength: float
    unit: str
    utilisation: float


class Side(TypedDict):
    action: str
    also: NotRequired[list[str]]
    check: str
    clause: str
    over_target: NotRequired[bool]
    reason: str
    status: str
    utilisation: float
    value: str


class SideBySide(TypedDict):
    action: str
    broken: list[str]
    check: str
    field_bolts: int | None
    field_weld: float | None
    fits: bool
    name: str
    reason: str
    shop_bolts: int | None
    standard: str
    status: Literal["pass", "fail", "unchecked", "unassigned", "elsewhere"]
    steel: float | None
    summary: str
    utilisation: float
    weld: float | None


class SizeSource(TypedDict):
    formula: str
    parameter: str
    source: str
    text: str
    values: dict[str, str]


class SizedAsOne(TypedDict):
    bolts: int
    changes: dict[str, str | int | float]
    check: str
    connections: list[str]
    passes: bool
    sizes: dict[str, str]
    sound: bool
    standard: str
    steel: float
    worst: float
    worst_at: str


class SizedParameter(TypedDict):
    choices: list[str]
    default: str | int | None
    formula: NotRequired[str]
    help: str
    kind: str
    label: str
    name: str
    number: float | None
    shared_with: NotRequired[list[str]]
    source: str
    text: str
    unit: str


class Solid(TypedDict):
    faces: list[int]
    kind: Literal["piece", "bolt", "rod", "weld", "bar", "ground"]
    name: str
    part: str
    points: list[float]
    words: str


class SolidConnection(TypedDict):
    broken: list[str]
    connection: str
    framing: str
    reason: str
    solids: list[Solid]
    standard: str
    status: Literal["pass", "fail", "unchecked", "unassigned", "elsewhere"]
    used: dict[str, float]
    utilisation: float


class SolidMember(TypedDict):
    faces: list[int]
    member: str
    part: str
    points: list[float]
    words: str


class Standard(TypedDict):
    carries: list[str]
    framings: list[str]
    help: str
    name: str
    parameters: list[Parameter]
    title: str


class StandsOn(TypedDict):
    cases: list[str]
    combinations: list[str]
    let_stand: list[str]
    revision: int


class Stepped(TypedDict):
    connection: str
    status: Literal["pass", "fail", "unchecked", "unassigned", "elsewhere"]
    utilisation: float
    words: str


class Steps(TypedDict):
    back: str | None
    forward: str | None


class Stood(TypedDict):
    check: str
    released: str
    section: str
    status: str
    summary: str
    utilisation: float


class StrengthBoundary(TypedDict):
    axis: Literal["M", "Mw"]
    method: Literal["LRFD", "ASD"]
    points: list[tuple[float, float]]


class SurveyPeak(TypedDict):
    combination: str
    component: str
    end: str
    largest: bool
    member: str
    piece: NotRequired[str]
    unit: str
    value: float


class SurveySection(TypedDict):
    family: str
    grades: list[str]
    length: float
    mass: float
    members: int
    section: str


class SweepRow(TypedDict):
    action: str
    bolts: int | None
    check: str
    number: int
    reason: str
    status: str
    steel: float | None
    utilisation: float
    values: dict[str, str]
    weld: float | None


class TableKey(TypedDict):
    is_fact: bool
    match: str
    name: str


class TableRow(TypedDict):
    cells: dict[str, str]
    key: str


class TakenQueries(TypedDict):
    changed: list[int]
    new: list[int]
    same: list[int]


class Token(TypedDict):
    name: str
    token: str


class TokenShown(TypedDict):
    expires: str
    id: int
    label: str
    made: str
    session: bool


class Transmittal(TypedDict):
    anyway: str
    author: str
    changed: int
    digest: str
    made: str
    marks: int
    name: str
    new: int
    number: int
    revision: int
    same: int
    size: int
    superseded: int
    to: str
    unreleased: int
    where: str
    why: str
    withdrawn: int


class TransmittalInFull(TypedDict):
    anyway: str
    author: str
    changed: int
    digest: str
    items: list[SentConnection]
    left_out: list[LeftOut]
    made: str
    marks: int
    name: str
    new: int
    number: int
    revision: int
    same: int
    size: int
    superseded: int
    to: str
    unreleased: int
    where: str
    why: str
    withdrawn: int


class Transmittals(TypedDict):
    items: list[Transmittal]


class TrialRemedy(TypedDict):
    changes: dict[str, str | int]
    utilisation: float
    words: str


class TrialSize(TypedDict):
    formula: NotRequired[str]
    source: str
    value: str | int


class TriedOutput(TypedDict):
    tables: list[OutputTable]


class Understood(TypedDict):
    kind: Literal["bundle", "workbook", "tables"]
    map: str
    map_from: Literal["given", "sent", "saved", "house", "proposed", ""]
    pointing: Pointing | None
    problems: list[dict[str, Any]]
    stated: dict[str, Any]
    tables: list[SeenTable]
    unread: list[str]
    whole: bool


class UnresolvedSize(TypedDict):
    connection: str
    why: str


class User(TypedDict):
    admin: bool
    made: str
    name: str
    roles: dict[str, str]


class Verified(TypedDict):
    entries: int
    faults: list[str]
    head: str
    notes: NotRequired[list[str]]
    sound: bool


class VerifiedUnder(TypedDict):
    revision: int
    utilisation: float


class View(TypedDict):
    clouds: NotRequired[list[tuple[float, float, float, float]]]
    dimensions: list[Dimension]
    extent: tuple[float, float, float, float]
    lettering: float
    notes: list[Note]
    shapes: list[Shape | Circle]
    title: str


class Ways(TypedDict):
    of: list[int]
    words: list[tuple[float, float, float]]


class WhyRule(TypedDict):
    also: list[MetAlso]
    chosen: str
    connection: str
    facts: dict[str, str]
    met: list[MetRule]
    reason: str
    rule: str
    sizes: list[SizeSource]
    standard: str
    target: float


class Without(TypedDict):
    end: str
    words: str


class Words(TypedDict):
    of: list[int]
    words: list[str]


class WorstForce(TypedDict):
    component: str
    end: str
    member: str
    result: str
    unit: str
    value: float


class WorstNode(TypedDict):
    node: str
    place: NotRequired[str]
    residual: list[float]
    result: str
    share: float


class WrittenDesign(TypedDict):
    author: str
    bolt: str
    bolts: int
    called: str
    checked: str
    differs: str
    fields: list[DesignField]
    files: list[PutFile]
    fits: list[str]
    framing: str
    holds: list[DesignHolds]
    job: str
    made: str
    name: str
    note: str
    number: int
    parameters: dict[str, Any]
    revisions: list[KeptDesign]
    section: str
    seen_by: list[str]
    signed: str
    signer: str
    source: str
    standard: str
    state: Literal["draft", "house", "shipped", "withdrawn"]
    steel: float
    summary: str
    support: str
    tags: list[str]
    text: str
    title: str
    trial: dict[str, Any] | None
    used: list[DesignUse]
    why: str


class WrittenMap(TypedDict):
    author: str
    made: str
    name: str
    note: str
    number: int
    text: str
    way: Literal["in", "out"]


class WrittenRevision(TypedDict):
    author: str
    files: dict[str, str]
    inherits: str
    made: str
    name: str
    number: int
    text: str


class WrittenRulebook(TypedDict):
    author: str
    called: str
    files: dict[str, str]
    inherits: str
    jobs: list[str]
    made: str
    name: str
    note: str
    number: int
    reviewed: str
    reviewer: str
    state: Literal["draft", "approved", "retired"]
    text: str


class After(TypedDict):
    before: Stood | None
    connection: str
    framing: str
    now: Stood | None
    place: str
    reason: str
    what: Literal[
        "stands",
        "resized",
        "passes now",
        "fails",
        "still fails",
        "stale",
        "unchecked",
        "unassigned",
        "elsewhere",
        "new",
        "gone",
    ]


class AsOne(TypedDict):
    items: list[SizedAsOne]
    system: Literal["us", "si"]
    unsized: list[str]


class Balance(TypedDict):
    node: str
    nodes_checked: int
    result: str
    worst: NotRequired[list[WorstNode]]
    worst_share: float


class BaseState(TypedDict):
    breaks: list[Breakout]
    by: Literal["block", "strain"]
    pressure: float
    pulls: list[float]
    shears: list[float]
    solved: bool
    zone: list[tuple[float, float]]


class Beside(TypedDict):
    after: Side
    before: Side
    connection: str


class CapacityAt(TypedDict):
    sections: dict[str, CapacityRow]
    shear: float


class CatalogueEntries(TypedDict):
    items: list[CatalogueEntry]
    kinds: dict[str, list[EntryValue]]


class CombinationUsed(TypedDict):
    M: float
    Mw: float
    N: float
    T: float
    V: float
    Vw: float
    action: str
    base: NotRequired[BaseState | None]
    check: str
    flow: NotRequired[list[PartForce] | None]
    method: Literal["LRFD", "ASD"]
    set: str
    utilisation: float | None


class Combinations(TypedDict):
    cases: list[Case]
    combinations: list[OneCombination]
    left_out: list[str]


class Compared(TypedDict):
    alternatives: list[SideBySide]
    connection: str


class ConnectionRow(TypedDict):
    action: str
    broken: str
    check: str
    clause: str
    connection: str
    cope: Literal["none", "top", "bottom", "both"]
    elevation: float
    fell: str
    framing: str
    joint: str
    level: str
    member: str
    over_target: bool
    overridden: int
    person: str
    pieces: list[PieceName]
    place: str
    reason: str
    relations: list[Relation]
    released: str
    remarks: list[str]
    rule: str
    section: str
    sequence: str
    sizes: dict[str, float | int | str]
    skew: float
    slope: float
    stale: bool
    standard: str
    status: Literal["pass", "fail", "unchecked", "unassigned", "elsewhere"]
    summary: str
    support: str
    support_section: str
    tags: list[str]
    utilisation: float
    verified: VerifiedUnder | None
    version: int


class Consolidation(TypedDict):
    connections: int
    marks: int
    merges: list[MarkMerge]
    shared: int
    standards: dict[str, int]
    system: Literal["us", "si"]


class DesignInJob(TypedDict):
    fitting: int
    holds: int
    items: list[DesignInPlace]
    marks: int
    marks_saved: int


class DifferingRulebooks(TypedDict):
    differences: list[RulebookDifference]
    lines: str
    new: str
    old: str


class Drawing(TypedDict):
    views: list[View]


class EngineerQuery(TypedDict):
    answer: str
    answered: str
    answered_by: str
    author: str
    closed: str
    closed_by: str
    connections: list[str]
    due: str
    guid: str
    holds: bool
    late: bool
    made: str
    missing: list[str]
    name: str
    number: int
    of: list[QuerySubject]
    said: list[QuerySaid]
    state: Literal["open", "answered", "closed"]
    title: str
    to: str
    words: str


class Figures(TypedDict):
    boundary: list[StrengthBoundary]
    combinations: list[CombinationUsed]
    rods: list[RodPlace]


class FoundDesign(TypedDict):
    apart: float
    check: str
    design: KeptDesign
    reason: str
    status: Literal["pass", "fail", "unchecked"]
    utilisation: float


class FoundDesigns(TypedDict):
    items: list[FoundDesign]
    like: int
    tried: int


Grounds = TypedDict(
    "Grounds",
    {
        "action": str,
        "actions": dict[str, float],
        "check": str,
        "members": list[str],
        "peaks": dict[str, tuple[float, float]],
        "place": list[float] | None,
        "rule": str,
        "status": str,
        "utilisation": float,
        "value": str,
        "with": Held,
    },
)


class Job(TypedDict):
    author: str
    code: str
    combination_set: str
    connections: int
    firm: str
    framings: dict[str, int]
    joints: int
    last_change: LastChange
    last_run: int | None
    last_transmittal: int
    ledger_faults: NotRequired[list[str]]
    made: str
    method: Literal["LRFD", "ASD"]
    moved: str
    name: str
    over_target: int
    overrides_awaiting: int
    overrides_look: int
    people: list[str]
    released: int
    remarks: int
    revision: RevisionName | None
    role: str
    rulebook_version: int
    stale: int
    statuses: dict[str, int]
    system: Literal["us", "si"]
    tag: str
    title: str
    tolerance: float


class JointSolids(TypedDict):
    collisions: list[JointCollision]
    connection: str
    connections: list[SolidConnection]
    joint: str
    members: list[SolidMember]
    sizes: dict[str, list[str]]
    system: Literal["us", "si"]


class ListedOverride(TypedDict):
    after: Side
    attachments: int
    author: str
    before: Side
    cause: str
    connection: str
    grounds: Grounds | None
    id: int | None
    level: str
    look: list[str]
    made: str
    marks: list[Literal["agrees", "worse", "carries"]]
    parameter: str
    reason: str
    replaces: int | None
    reviewed: str
    reviewer: str
    section: str
    state: Literal["preview", "awaiting", "accepted", "returned", "cleared"]
    status: str
    utilisation: float
    value: str
    word: str


class MadeOverride(TypedDict):
    after: Side
    author: str
    before: Side
    beside: NotRequired[list[Beside]]
    cause: str
    connection: str
    drawing: NotRequired[Drawing | None]
    grounds: Grounds | None
    id: int | None
    look: list[str]
    made: str
    marks: list[Literal["agrees", "worse", "carries"]]
    parameter: str
    reason: str
    replaces: int | None
    reviewed: str
    reviewer: str
    state: Literal["preview", "awaiting", "accepted", "returned", "cleared"]
    value: str
    word: str


class Matrix(TypedDict):
    checks: list[MatrixRow]
    combinations: list[MatrixColumn]
    unknown: list[tuple[int, int]]
    utilisations: list[list[float | None]]


class Model(TypedDict):
    connections: list[ModelConnection]
    grids: list[ModelGrid]
    levels: list[ModelLevel]
    members: list[ModelMember]
    nodes: list[ModelNode]
    north: float | None
    system: Literal["us", "si"]
    title: str
    without: list[Without]


class ModelNames(TypedDict):
    grade: Words
    level: Words
    members: list[str]
    nodes: list[str]
    piece: list[int]
    place: Words
    without: list[Without]


class ModelStates(TypedDict):
    at: dict[str, int]
    called: dict[str, str]
    end: list[int]
    framing: Words
    member: list[int]
    remarks: dict[str, int]
    stale: list[int]
    status: Words
    utilisation: list[float]


class Override(TypedDict):
    after: Side
    author: str
    before: Side
    cause: str
    connection: str
    grounds: Grounds | None
    id: int | None
    look: list[str]
    made: str
    marks: list[Literal["agrees", "worse", "carries"]]
    parameter: str
    reason: str
    replaces: int | None
    reviewed: str
    reviewer: str
    state: Literal["preview", "awaiting", "accepted", "returned", "cleared"]
    value: str
    word: str


class PageConnectionRow(TypedDict):
    items: list[ConnectionRow]
    next: int | None
    total: int


class PageJob(TypedDict):
    items: list[Job]
    next: int | None
    total: int


class PagePattern(TypedDict):
    items: list[Pattern]
    next: int | None
    total: int


class PagePracticeOf(TypedDict):
    items: list[PracticeOf]
    next: int | None
    total: int


class PageRulebookRevision(TypedDict):
    items: list[RulebookRevision]
    next: int | None
    total: int


class PageSection(TypedDict):
    items: list[Section]
    next: int | None
    total: int


class PageStandard(TypedDict):
    items: list[Standard]
    next: int | None
    total: int


class PageTokenShown(TypedDict):
    items: list[TokenShown]
    next: int | None
    total: int


class PageUser(TypedDict):
    items: list[User]
    next: int | None
    total: int


class PageWithout(TypedDict):
    items: list[Without]
    next: int | None
    total: int


class PatternBoundary(TypedDict):
    governing: list[PatternGoverning]
    lines: list[PatternLine]
    reason: str


class PatternInFull(TypedDict):
    actions: list[str]
    at: list[str]
    connections: int
    framings: list[str]
    joints: int
    members: list[PatternJoint]
    mirrored: int
    name: str
    places: list[PatternPlace]
    slots: list[str]


class Reviewed(TypedDict):
    overrides: list[Override]


class Revised(TypedDict):
    before: int | None
    counts: dict[str, int]
    items: list[After]
    revision: int


class Row(TypedDict):
    after: Side
    before: Side
    connection: str


class RulebookLanguage(TypedDict):
    facts: list[FactOf]
    functions: list[RulebookWord]
    keys: dict[str, list[str]]
    parameters: dict[str, list[str]]
    uses: list[RulebookWord]


class RulebookTable(TypedDict):
    columns: list[str]
    file: str
    keys: list[TableKey]
    name: str
    rows: list[list[str]]


class RuledChange(TypedDict):
    after: RuledSide
    before: RuledSide
    connection: str


class RuledComparison(TypedDict):
    after: dict[str, float]
    before: dict[str, float]
    changed: int
    connections: list[RuledChange]
    newly_fail: int
    newly_pass: int
    newly_unchecked: int
    resized: int
    statuses_after: dict[str, int]
    statuses_before: dict[str, int]
    system: Literal["us", "si"]
    touched: int


class Run(TypedDict):
    author: str
    changed: int | None
    combination_set: str
    counts: dict[str, int] | None
    done: int
    finished: str
    found: list[Seen]
    fresh: int
    id: int
    left: float | None
    made: str
    message: str
    mode: Literal["size", "verify", "look"]
    only: list[str]
    shifted: int
    state: Literal["queued", "running", "done", "failed", "cancelled", "interrupted"]
    total: int
    where: str


class RunChanged(TypedDict):
    counts: dict[str, int]
    items: list[RuledChange]
    kept: bool
    run: int


class ShapeMembers(TypedDict):
    ends: list[int]
    role: Words
    section: list[int]
    up: Ways


class ShapeNodes(TypedDict):
    support: Words
    xyz: list[float]


class Survey(TypedDict):
    demands: list[Demand]
    framings: dict[str, int]
    histogram: list[int]
    method: str
    number: int
    peaks: list[SurveyPeak]
    rare: list[RareSection]
    roles: dict[str, int]
    sections: list[SurveySection]
    system: Literal["us", "si"]
    unknown: int


class Sweep(TypedDict):
    changes: dict[str, str | int | float]
    rows: list[SweepRow]
    standard: str
    total: int
    tried: int
    vary: list[str]
    winner: int | None


class Trial(TypedDict):
    advice: str
    checks: list[Check]
    detailing: list[DetailingRule]
    drawing: Drawing | None
    governing: Governing | None
    notes: list[str]
    parameters: dict[str, TrialSize]
    reason: str
    remarks: list[str]
    sizes: list[BenchSize]
    status: Literal["pass", "fail", "unchecked"]
    summary: str
    utilisation: float
    works: list[dict[str, Any]]


class TrialRemedies(TypedDict):
    items: list[TrialRemedy]


class TriedOnConnection(TypedDict):
    none: NotRequired[str]
    row: NotRequired[TableRow | None]
    rows: NotRequired[list[str]]
    rule: NotRequired[MetRule | None]
    value: NotRequired[str | None]
    values: NotRequired[dict[str, str]]
    why: WhyRule


class Audit(TypedDict):
    balance: Balance
    counts: dict[str, int]
    findings: list[AuditFinding]
    system: NotRequired[Literal["us", "si"]]
    worst: list[WorstForce]


class Capacity(TypedDict):
    code: str
    framing: str
    rows: list[CapacityRow]
    sections: list[str]
    shears: list[CapacityAt]
    standard: str
    support: str
    unit: str


class Changed(TypedDict):
    after: Side
    before: Side
    beside: list[Beside]
    connection: str
    drawing: NotRequired[Drawing | None]
    overrides: list[Override]


class Connection(TypedDict):
    action: str
    broken: str
    check: str
    checks: list[ShownCheck]
    clause: str
    code: str
    collisions: list[Collision]
    connection: str
    cope: Literal["none", "top", "bottom", "both"]
    detailing: list[DetailingRule]
    drawing: Drawing | None
    edition: str
    elevation: float
    facts: dict[str, Any]
    fell: str
    framing: str
    history: list[Event]
    joint: str
    level: str
    may_be: list[str]
    member: str
    method: str
    neighbours: list[ConnectionRow]
    notes: list[str]
    over_target: bool
    overridden: int
    overrides: list[Override]
    parameters: list[SizedParameter]
    peaks: list[Peak]
    person: str
    pieces: list[Piece]
    place: str
    reason: str
    relations: list[Relation]
    released: str
    remarks: list[str]
    remedies: list[Remedy]
    remedy: str
    rule: str
    section: str
    sequence: str
    shop_note: str
    sizes: dict[str, float | int | str]
    skew: float
    slope: float
    stale: bool
    standard: str
    stands_on: StandsOn
    status: Literal["pass", "fail", "unchecked", "unassigned", "elsewhere"]
    summary: str
    support: str
    support_section: str
    system: Literal["us", "si"]
    tags: list[str]
    target: float
    utilisation: float
    verified: VerifiedUnder | None
    version: int
    words: str


class DecidedForMany(TypedDict):
    connections: int
    counts: dict[str, dict[str, int]]
    kept: bool
    overrides: list[int]
    refused: list[RefusedOne]
    stood: dict[str, dict[str, int]]
    worst: list[Row]


class EngineerQueries(TypedDict):
    items: list[EngineerQuery]
    late: int
    open: int
    total: int


class Listed(TypedDict):
    authors: list[str]
    causes: list[str]
    counts: Counted
    items: list[ListedOverride]
    levels: list[str]
    next: int | None
    total: int


class ModelShape(TypedDict):
    grids: list[ModelGrid]
    levels: list[ModelLevel]
    members: ShapeMembers
    nodes: ShapeNodes
    north: float | None
    sections: list[ShapeSection]
    system: Literal["us", "si"]
    title: str


class PageRun(TypedDict):
    items: list[Run]
    next: int | None
    total: int


class Revision(TypedDict):
    audit: Audit
    author: str
    dated: str
    label: str
    made: str
    number: int
    source: str
    title: str


class Rulebook(TypedDict):
    also: list[AlsoRule]
    author: str
    files: dict[str, str]
    inherits: str
    made: str
    name: str
    rules: list[RulebookRule]
    tables: list[RulebookTable]
    target: float
    text: str
    version: int


class RulebookSaid(TypedDict):
    practice: list[PracticeOf]
    tables: list[RulebookTable]


class RulebookTried(TypedDict):
    also: list[AlsoRule]
    compared: RuledComparison | None
    nameless: NotRequired[list[Nameless]]
    never: list[str]
    rules: list[RuleTaken]
    shadowed: list[ShadowedRule]
    uncovered: list[str]
    uncovered_total: int
    unresolved: list[UnresolvedSize]
    unresolved_total: int


class PageRevision(TypedDict):
    items: list[Revision]
    next: int | None
    total: int
