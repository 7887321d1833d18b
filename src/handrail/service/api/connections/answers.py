"""What the service answers about connections: lists, one in full, its figures, a trial. Numbers as in `answers`."""

from typing import Any, Literal

from pydantic import BaseModel, Field

from handrail.service.api.answers import Drawing, Status, System
from handrail.service.api.decisions.answers import Event, Override


class VerifiedUnder(BaseModel):
    revision: int
    utilisation: float = Field(description="before")


class PieceName(BaseModel):
    """A member at a connection; the first is the one whose end it is."""

    role: str = Field(description="supported, or support: what that is fastened to")
    member: str
    section: str


class Piece(PieceName):
    grade: str
    ends: list[Literal["i", "j"]] = Field(description="of its elements, those that end there")
    skew: float = Field(description="degrees off square to what it meets, in plan")
    slope: float = Field(description="degrees, + where it rises away")
    offset: float = Field(description="mm that its top of steel lies below that of what it meets")
    face: str = Field(description="of what it meets, where faces can be told apart: long, short")
    ends_here: bool = Field(description="it carries others and does not run on")


class Relation(BaseModel):
    kind: Literal["opposite", "shares_bolts", "other_side"] = Field(
        description=(
            "stands on the other side of the same member; the same bolts may hold both; on the other side of the same"
            " web in another line"
        )
    )
    other: str = Field(description="a connection")


class ConnectionRow(BaseModel):
    connection: str = Field(description="member and end, like B12.i")
    joint: str
    framing: str
    member: str
    section: str
    support: str
    support_section: str
    pieces: list[PieceName] = Field(description="the members that meet there, by role")
    relations: list[Relation] = Field(description="what it has to do with other connections")
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
    stale: bool = Field(description="what its result rests on was changed since; run again")
    over_target: bool = Field(description="passes, and is used more than sizing aims at")
    remarks: list[str] = Field(description="of its notes those that ask something of a person")
    broken: str = Field(description="the detailing rules that fail, by name")
    overridden: int = Field(description="how many sizes a person set, and corrections of its framing")
    released: str = Field(
        description="the engineer who said that it may be drawn; empty where nobody did, or the release fell"
    )
    fell: str = Field(
        description=(
            "why its release fell, what was then and what is now, until an engineer releases or withdraws it; else"
            " empty"
        )
    )
    verified: VerifiedUnder | None = Field(
        description=(
            "by a revision that moved what it rests on, as it stands; null where a run or a person made the result"
        )
    )
    tags: list[str]
    sequence: str = Field(description="of erection; empty where none was said")
    person: str = Field(description="who works on it; empty where nobody was said")
    version: int
    summary: str = Field(description="the sizes in a few words, in the job's units; empty where there is no standard")
    sizes: dict[str, float | int | str] = Field(
        description="the sizes that the standard names for lists; lengths mm, forces N"
    )


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
    formula: str = Field(
        "", description="that it follows, like `= 2 * ceil(rows / 2)`; empty where it stands by itself"
    )
    shared_with: list[str] = Field(
        default=[], description="the connections that are held by the same bolts, where this is a size of theirs"
    )


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


class Collision(BaseModel):
    """What of a connection stands in another one of its joint, or in the room that work there needs."""

    piece: str
    part: str = Field(description="as checks and drawings call the piece")
    other: str = Field(description="the other connection")
    its: str = Field(description="its piece")
    its_part: str
    depth: float = Field(description="mm")
    at: tuple[float, float, float] = Field(description="about where, mm in the connection's own axes")
    stands: bool = Field(description="a person lets it stand")
    room: str = Field(description="`wrench`, `electrode`, `way`: room that work on one needs, not a piece; else empty")
    own: bool = Field(description="with a room: whether it is that of this connection's piece")
    fails: bool = Field(description="both connections fail by it")
    words: str


class Drawn(BaseModel):
    points: list[float] = Field(description="x, y, z after each other, mm about the joint's node, z up")
    faces: list[int] = Field(
        description="triangles: three points each, by number, counter-clockwise as they are seen from outside"
    )


class Solid(Drawn):
    name: str
    part: str = Field(description="as checks and drawings call it")
    kind: Literal["piece", "bolt", "rod", "weld", "bar", "ground"]
    words: str = Field(description="what it is, as a parts list says it")


class SolidMember(Drawn):
    member: str
    part: str
    words: str = Field(description="its section")


class SolidConnection(BaseModel):
    connection: str
    standard: str
    framing: str
    status: Status
    utilisation: float
    reason: str
    used: dict[str, float] = Field(description="part -> the largest utilisation of its checks")
    broken: list[str] = Field(description="parts of which rules of detailing fail")
    solids: list[Solid]


class JointCollision(BaseModel):
    connection: str
    piece: str
    other: str
    its: str
    depth: float = Field(description="mm")
    at: tuple[float, float, float] = Field(description="about where, mm as the solids' points")
    stands: bool = Field(description="a person lets it stand")
    fails: bool = Field(description="both connections fail by it")
    words: str


class JointSolids(BaseModel):
    joint: str
    connection: str = Field(description="the one that was asked for")
    system: System
    connections: list[SolidConnection] = Field(description="those of the joint that have sizes")
    members: list[SolidMember] = Field(description="the members' ends, with what is cut and drilled in them")
    collisions: list[JointCollision]
    sizes: dict[str, list[str]] = Field(
        description="of the connection asked for: part -> the parameters that it changes with, its own first"
    )


class Parts(BaseModel):
    connection: str
    sizes: dict[str, list[str]] = Field(description="part -> the parameters that it changes with, its own first")


class Peak(BaseModel):
    action: str
    unit: str
    max: float
    max_in: str
    min: float
    min_in: str
    carried: bool


class Remedy(BaseModel):
    changes: dict[str, str] = Field(description="parameter -> value in the job's units")
    utilisation: float
    over_target: bool = Field(description="passes, and is used more than the job's target")
    cost: float = Field(
        description="steel 1 a kg, weld 10 a kg, field bolts 3, shop bolts 1.5, each size changed 0.5, "
        "and 4 where it leaves what the shop does everywhere (edges, places of holes, another bolt)"
    )
    more: dict[str, float] = Field(
        description="steel and weld (kg), field_bolts, shop_bolts; empty where its standard does not count them"
    )


class StandsOn(BaseModel):
    revision: int
    combinations: list[str] = Field(description="that it is judged by")
    cases: list[str] = Field(description="that these are made of")
    let_stand: list[str] = Field(
        description="findings that would hold it back, and that somebody lets stand: code and name"
    )


class Connection(ConnectionRow):
    stands_on: StandsOn
    shop_note: str = Field(description="what the shop may alter, and how, as an engineer said it")
    words: str
    pieces: list[Piece]  # type: ignore[assignment]  # each in full
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
    collisions: list[Collision]
    notes: list[str]
    remedy: str
    remedies: list[Remedy] = Field(
        description="the changes found that make it pass: one size before two, the cheapest first"
    )
    drawing: Drawing | None = Field(description="views of lines, dimensions and notes in mm at full size")
    overrides: list[Override]
    history: list[Event]
    neighbours: list[ConnectionRow]


class Breakout(BaseModel):
    kind: Literal["tension", "shear"]
    rods: list[str] = Field(description="that come out with it, by name")
    side: str = Field(description="of shear: -x, +x (along the column's depth), -y or +y")
    lines: list[tuple[tuple[float, float], tuple[float, float]]] = Field(description="its outline in plan, mm as zone")
    use: float = Field(description="demand over what the concrete holds, utilisation")
    barred: bool = Field(description="bars are there in its place")


class BaseState(BaseModel):
    """A base under one combination."""

    by: Literal["block", "strain"] = Field(description="block of even pressure, or plane of strain")
    solved: bool = Field(description="false where nothing balances: the plate is too small")
    zone: list[tuple[float, float]] = Field(
        description="the pressed part of the plate, mm along and across the column's depth from its centre"
    )
    pressure: float = Field(description="the largest under the plate, MPa")
    pulls: list[float] = Field(description="kN of each rod")
    shears: list[float] = Field(description="kN of each rod")
    breaks: list[Breakout] = Field(description="what may break out of the concrete in this combination")


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
    points: list[tuple[float, float]] = Field(
        description=(
            "moment (kN*m) and N (kN, uplift positive) at which a limit state is used up, all round; nothing else acts"
        )
    )


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
    utilisations: list[list[float | None]] = Field(
        description="by check and combination; null where it is not judged by it, or not known"
    )
    unknown: list[tuple[int, int]] = Field(
        description="check and combination where it would be judged and is not known"
    )


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


class Grade(BaseModel):
    name: str
    Fy: float
    Fu: float
    standard: str
    use: str = Field(description="any, shape or hollow")
    max_thickness: float = Field(description="mm; 0 where it has no limit here")


class SweepRow(BaseModel):
    number: int
    values: dict[str, str]
    status: str
    utilisation: float
    check: str
    action: str
    reason: str
    steel: float | None = Field(description="kg; null where its standard does not count it")
    weld: float | None
    bolts: int | None = Field(description="bolts and anchor rods")


class Sweep(BaseModel):
    standard: str
    vary: list[str]
    total: int
    tried: int
    winner: int | None = Field(description="index of the first that passes")
    changes: dict[str, str | int | float] = Field(
        description="what makes a connection the winner, as a change of several sizes takes it"
    )
    rows: list[SweepRow]


class CapacityRow(BaseModel):
    section: str
    values: dict[str, str]
    summary: str
    shear: float = Field(description="available, in `unit`; 0 where it cannot be made")
    check: str = Field(description="that governs there")
    steel: float = Field(description="kg")
    bolts: int
    why: str = Field(description="why it cannot be made there")


class CapacityAt(BaseModel):
    shear: float
    sections: dict[str, CapacityRow] = Field(
        description="section -> the lightest that holds it; sections on which none does are left out"
    )


class Capacity(BaseModel):
    standard: str
    framing: str
    support: str
    code: str
    unit: str
    sections: list[str]
    rows: list[CapacityRow]
    shears: list[CapacityAt]
