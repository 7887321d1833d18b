"""What answers hold. Numbers are mm, kN, kN*m, MPa and degrees unless a field beside them names another unit."""

from __future__ import annotations

from typing import Any, Generic, Literal, TypeVar

from pydantic import BaseModel, Field

from handrail.core.drawing.scene import Circle, Dimension, Note, Shape

Item = TypeVar("Item")
Status = Literal["pass", "fail", "unchecked", "unassigned", "elsewhere"]
System = Literal["us", "si"]


class Problem(BaseModel):
    """RFC 9457 problem details."""

    type: str
    title: str
    status: int
    detail: str


class Page(BaseModel, Generic[Item]):
    items: list[Item]
    total: int
    next: int | None = Field(description="cursor of the next page; null at the end")


class Me(BaseModel):
    name: str
    admin: bool
    roles: dict[str, str] = Field(description="job -> role")


class User(Me):
    made: str


class Token(BaseModel):
    token: str
    name: str


class TokenShown(BaseModel):
    id: int
    label: str
    session: bool = Field(description="a session of the console, not a token for scripts")
    made: str
    expires: str


class RevisionName(BaseModel):
    number: int
    label: str


class Job(BaseModel):
    name: str
    tag: str = Field(description="what a change sends as If-Match: it fails with 412 where the job was changed meanwhile")
    moved: str = Field(description="another word whenever results, decisions, rules or the model of the job have changed: look again")
    title: str
    code: str
    method: Literal["LRFD", "ASD"]
    combination_set: str = Field(description="the set of combinations that results are by")
    revision: RevisionName | None
    system: System = Field(description="the units people see, from the model's")
    rulebook_version: int
    joints: int
    connections: int
    statuses: dict[str, int]
    framings: dict[str, int]
    overrides_awaiting: int
    last_run: int | None
    made: str
    author: str
    role: str


class ModelNode(BaseModel):
    node: str
    xyz: tuple[float, float, float] = Field(description="mm, Z up")
    place: str = Field(description="grid lines and level, like `C/4, level 2`; empty where the model has none")
    level: str = Field(description="the highest level that is not above it")
    support: Literal["pinned", "fixed", "other", ""]


class ModelMember(BaseModel):
    member: str
    i: int = Field(description="index of a node")
    j: int
    section: str
    grade: str
    role: Literal["beam", "column", "brace"]
    piece: int = Field(description="the same for the elements of one piece of steel")
    shape: str = Field(description="family of its section, like W or HSS_RECT; empty where the catalogue lacks it")
    depth: float = Field(description="mm")
    width: float = Field(description="mm")
    up: tuple[float, float, float] = Field(description="unit vector along its depth (local y)")


class ModelConnection(BaseModel):
    connection: str
    joint: str
    status: Status
    utilisation: float
    framing: str
    member: str


class Without(BaseModel):
    end: str
    words: str


class ModelGrid(BaseModel):
    grid: str
    start: tuple[float, float] = Field(description="x, y mm")
    end: tuple[float, float]


class ModelLevel(BaseModel):
    level: str
    z: float = Field(description="mm")


class Model(BaseModel):
    title: str
    system: System
    nodes: list[ModelNode]
    members: list[ModelMember]
    connections: list[ModelConnection]
    without: list[Without]
    grids: list[ModelGrid]
    levels: list[ModelLevel]
    north: float | None = Field(description="degrees to the left of the plan's y axis; null where nobody said")


class Seen(BaseModel):
    connection: str
    status: Status
    utilisation: float
    check: str
    clause: str
    action: str
    reason: str


class Run(BaseModel):
    id: int
    mode: Literal["size", "verify", "look"] = Field(description="look: sizes as they stand by other combinations than the job's, no result changed")
    where: str
    combination_set: str = Field(description="that was checked")
    only: list[str] = Field(description="of its combinations; all where there is none")
    found: list[Seen] = Field(description="of a look: the 200 worst")
    state: Literal["queued", "running", "done", "failed", "cancelled", "interrupted"]
    total: int
    done: int
    counts: dict[str, int] | None
    message: str
    author: str
    made: str
    finished: str


class ConnectionRow(BaseModel):
    connection: str = Field(description="member and end, like B12.i")
    joint: str
    framing: str
    member: str
    section: str
    support: str
    support_section: str
    elevation: float = Field(description="mm")
    place: str = Field(description="grid lines and level of its joint")
    level: str
    standard: str
    rule: str
    status: Status
    utilisation: float
    check: str
    clause: str
    action: str
    reason: str
    skew: float = Field(description="degrees")
    slope: float = Field(description="degrees")
    cope: Literal["none", "top", "bottom", "both"]
    overridden: int = Field(description="how many sizes a person set, and corrections of its framing")
    version: int
    summary: str = Field(description="the sizes in a few words, in the job's units; empty where there is no standard")
    sizes: dict[str, float | int | str] = Field(description="the sizes that the standard names for lists; lengths mm, forces N")


class JointRow(BaseModel):
    joint: str
    place: str
    level: str
    elevation: float = Field(description="mm")
    connections: list[str]
    status: Status
    utilisation: float


class Parameter(BaseModel):
    name: str
    kind: str
    label: str
    help: str
    choices: list[str]
    default: str | int | None


class SizedParameter(Parameter):
    text: str = Field(description="in the job's units")
    number: float | None = Field(description="in `unit`; null where it is a name")
    unit: str
    source: str
    formula: str = Field("", description="that it follows, like `= rows + 2`; empty where it stands by itself")
    shared_with: str = Field("", description="the connection opposite that is held by the same bolts, where this is a size of theirs")


class Shown(BaseModel):
    demand: float
    strength: float
    unit: str


class Check(BaseModel):
    check: str
    part: str
    clause: str
    code: str = Field(description="code and method that it is judged under")
    demand: float
    strength: float = Field(description="the available strength")
    unit: str
    utilisation: float
    action: str
    limit: bool = Field(description="held or not: counts only when passed")
    lines: list[str] = Field(default=[], description="worked lines")


class ShownCheck(Check):
    shown: Shown | None = Field(description="in the job's units")
    lines: list[str]


class DetailingRule(BaseModel):
    rule: str
    part: str
    given: float
    limit: float
    unit: str
    ok: bool
    sense: Literal["at least", "at most"]
    clause: str
    says: str = Field(description="the rule in words where numbers do not say it; else empty")


class View(BaseModel):
    title: str
    lettering: float = Field(description="height of the letters, mm")
    extent: tuple[float, float, float, float] = Field(description="(x0, y0, x1, y1) of all that is drawn, lettering too; y up")
    shapes: list[Shape | Circle]
    dimensions: list[Dimension]
    notes: list[Note]


class Drawing(BaseModel):
    views: list[View]


class Peak(BaseModel):
    action: str
    unit: str
    max: float
    max_in: str
    min: float
    min_in: str
    carried: bool


class Side(BaseModel):
    """A connection before or after an override."""

    value: str
    status: str
    utilisation: float
    check: str
    clause: str
    action: str
    reason: str


class SideBySide(BaseModel):
    """One alternative in figures; quantities are null where its standard does not count them."""

    name: str
    standard: str
    summary: str
    status: Status
    utilisation: float
    check: str
    action: str
    reason: str
    fits: bool = Field(description="every detailing rule holds")
    broken: list[str]
    field_bolts: int | None
    shop_bolts: int | None
    steel: float | None = Field(description="plates and angles, kg")
    weld: float | None = Field(description="metal of its fillets, kg")
    field_weld: float | None = Field(description="length of fillets made at the site, mm")


class Override(BaseModel):
    id: int | None
    connection: str
    parameter: str
    value: str
    reason: str
    author: str
    made: str
    state: Literal["preview", "awaiting", "accepted", "returned", "cleared"]
    before: Side
    after: Side


class Changed(BaseModel):
    connection: str
    before: Side
    after: Side
    overrides: list[Override]


class Compared(BaseModel):
    connection: str
    alternatives: list[SideBySide]


class Steps(BaseModel):
    back: str | None = Field(description="what the caller can go back over; null where there is nothing")
    forward: str | None = Field(description="what the caller went back over last")


class Stepped(BaseModel):
    connection: str
    words: str
    status: Status
    utilisation: float


class Event(BaseModel):
    event: str
    words: str
    author: str
    made: str


class Connection(ConnectionRow):
    words: str
    facts: dict[str, Any]
    may_be: list[str] = Field(description="framing conditions that it can be corrected to")
    system: System
    code: str
    method: str
    edition: str
    target: float
    peaks: list[Peak]
    parameters: list[SizedParameter]
    checks: list[ShownCheck]
    detailing: list[DetailingRule]
    notes: list[str]
    remedy: str
    drawing: Drawing | None = Field(description="views of lines, dimensions and notes in mm at full size")
    overrides: list[Override]
    history: list[Event]
    neighbours: list[ConnectionRow]


class BaseState(BaseModel):
    """A base under one combination."""

    by: Literal["block", "strain"] = Field(description="block of even pressure, or plane of strain")
    solved: bool = Field(description="false where nothing balances: the plate is too small")
    zone: list[tuple[float, float]] = Field(description="the pressed part of the plate, mm along and across the column's depth from its centre")
    pressure: float = Field(description="the largest under the plate, MPa")
    pulls: list[float] = Field(description="kN of each rod")
    shears: list[float] = Field(description="kN of each rod")


class PartForce(BaseModel):
    part: str
    force: float = Field(description="kN, + pulling; shear as it acts")


class CombinationUsed(BaseModel):
    action: str
    method: Literal["LRFD", "ASD"]
    set: str
    N: float = Field(description="kN, uplift positive")
    V: float
    Vw: float
    M: float = Field(description="kN*m")
    Mw: float
    T: float
    utilisation: float | None = Field(description="the highest of the limit states that this combination is judged by")
    check: str
    base: BaseState | None = Field(default=None, description="of a base")
    flow: list[PartForce] | None = Field(default=None, description="of a splice: what its parts take")


class RodPlace(BaseModel):
    name: str
    at: tuple[float, float] = Field(description="mm along and across the column's depth from the plate's centre")


class StrengthBoundary(BaseModel):
    method: Literal["LRFD", "ASD"]
    axis: Literal["M", "Mw"] = Field(description="the moment that is shown: the one that matters more here")
    points: list[tuple[float, float]] = Field(description="moment (kN*m) and N (kN, uplift positive) at which a limit state is used up, "
                                              "all round; nothing else acts")  # fmt: skip


class Figures(BaseModel):
    combinations: list[CombinationUsed]
    rods: list[RodPlace]
    boundary: list[StrengthBoundary]


class MatrixRow(BaseModel):
    check: str
    part: str
    clause: str
    limit: bool = Field(description="held or not: counts only when passed")
    governs: int = Field(description="index of the combination that governs it; -1 where none is judged by it")


class MatrixColumn(BaseModel):
    action: str
    method: str
    set: str
    governs: int = Field(description="index of the check that governs it; -1 where none judges it")


class Matrix(BaseModel):
    checks: list[MatrixRow]
    combinations: list[MatrixColumn]
    utilisations: list[list[float | None]] = Field(description="by check and combination; null where it is not judged by it, or not known")
    unknown: list[tuple[int, int]] = Field(description="check and combination where it would be judged and is not known")


class RuleTaken(BaseModel):
    name: str
    takes: int
    line: int


class Rule(RuleTaken):
    use: str
    when: dict[str, str]


class Rulebook(BaseModel):
    text: str
    version: int
    target: float
    rules: list[Rule]


class RulebookTried(BaseModel):
    rules: list[RuleTaken]
    never: list[str]
    uncovered: list[str] = Field(description="the first 500 connections that no rule takes")
    uncovered_total: int


class Standard(BaseModel):
    name: str
    title: str
    help: str
    framings: list[str]
    carries: list[str]
    parameters: list[Parameter]


class Governing(BaseModel):
    check: str
    action: str
    place: str | None = None


class TrialSize(BaseModel):
    value: str | int
    source: str
    formula: str = ""


class Trial(BaseModel):
    status: Literal["pass", "fail", "unchecked"]
    reason: str
    utilisation: float
    governing: Governing | None
    advice: str = Field(description="what to enlarge against the governing check; empty where it passes")
    parameters: dict[str, TrialSize]
    checks: list[Check]
    detailing: list[DetailingRule]
    notes: list[str]
    works: list[dict[str, Any]] = Field(description="of a base or splice, under each action: what anchors and parts take, kN, and the pressure, MPa")
    drawing: Drawing
