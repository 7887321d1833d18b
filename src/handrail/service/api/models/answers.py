"""What the service answers about a job's models: imports, audits, the survey, patterns, combinations, revisions side by
side."""

from typing import Any, Literal

from pydantic import BaseModel, Field

from handrail.service.api.answers import ModelGrid, ModelLevel, System, Without


class Acknowledged(BaseModel):
    reason: str
    author: str
    made: str


class AuditFinding(BaseModel):
    code: str
    severity: Literal["error", "warning", "note"]
    message: str
    node: str = ""
    member: str = ""
    value: float = 0.0
    place: str = Field("", description="of its node, by grid lines and level")
    piece: str = Field("", description="the physical member that it is of")
    combination: str = Field(
        "", description="that it is about; a finding of it is let stand by this name as its member"
    )
    acknowledged: Acknowledged | None = Field(None, description="who lets it stand, and why")
    cause: str = Field("", description="what findings of one code have in common")


class WorstNode(BaseModel):
    node: str
    place: str = ""
    result: str
    share: float
    residual: list[float] = Field(description="Fx, Fy, Fz in kN and Mx, My, Mz in kN*m, global axes")


class Balance(BaseModel):
    worst_share: float = Field(description="worst residual as a share of the forces meeting at the node")
    node: str
    result: str
    nodes_checked: int
    worst: list[WorstNode] = []


class WorstForce(BaseModel):
    component: str
    value: float
    unit: str
    member: str
    end: str
    result: str


class Audit(BaseModel):
    counts: dict[str, int]
    balance: Balance
    worst: list[WorstForce]
    findings: list[AuditFinding]
    system: System = "us"


class Revision(BaseModel):
    number: int
    label: str
    title: str
    source: str
    dated: str
    author: str
    made: str
    audit: Audit


class SurveySection(BaseModel):
    section: str
    family: str
    grades: list[str]
    members: int
    length: float = Field(description="mm")
    mass: float = Field(description="kg")


class RareSection(BaseModel):
    section: str
    members: int
    instead: str = Field(description="a section used more often that could stand in for it; empty where none is near")


class SurveyPeak(BaseModel):
    component: str
    largest: bool
    value: float
    unit: str
    member: str
    end: str
    piece: str = Field("", description="the physical member that it is of")
    combination: str


class Demand(BaseModel):
    member: str
    end: str
    section: str
    share: float = Field(description="of what its own section yields at")
    component: str
    piece: str = Field("", description="the physical member that it is of")
    combination: str
    node: str


class Survey(BaseModel):
    number: int = Field(description="of the revision")
    method: str
    system: System
    sections: list[SurveySection]
    rare: list[RareSection]
    framings: dict[str, int]
    roles: dict[str, int]
    peaks: list[SurveyPeak]
    demands: list[Demand] = Field(description="the member ends that are asked for most")
    histogram: list[int] = Field(
        description="member ends by tenths of their section's strength; the last is 1.1 and more"
    )
    unknown: int = Field(description="member ends without forces or a known section")


class Pattern(BaseModel):
    name: str
    at: list[str] = Field(description="its joints")
    joints: int
    mirrored: int = Field(description="joints that are mirror images of the first")
    slots: list[str] = Field(description="what stands at each place, in words")
    framings: list[str]
    connections: int


class PatternJoint(BaseModel):
    joint: str
    place: str
    turn: float = Field(description="degrees about the vertical")
    mirrored: bool
    connections: list[str] = Field(description="by place; empty where the end has none")
    said: str = Field(description="who put it here or took it out of its own pattern, and why; empty where nobody did")


class PatternPeak(BaseModel):
    action: str
    largest: bool
    connection: str
    piece: str = Field("", description="the physical member that it is of")
    combination: str
    values: list[float] = Field(description="N, V, Vw in kN, M, Mw, T in kN*m, acting at the same time")


class PatternPlace(BaseModel):
    words: str
    framing: str
    peaks: list[PatternPeak]


class PatternInFull(Pattern):
    members: list[PatternJoint]
    places: list[PatternPlace]
    actions: list[str]


class PatternPoints(BaseModel):
    connections: list[str]
    combinations: list[str]
    actions: list[str]
    data: str = Field(description="float32, little endian, in base64: connections x combinations x actions")


class PatternLine(BaseModel):
    words: str = Field(description="of which sizes, and how many connections have them")
    points: list[tuple[float, float]] = Field(
        description="x and y at which a limit state is used up, all round; nothing else acts"
    )


class PatternGoverning(BaseModel):
    connection: str
    piece: str = Field("", description="the physical member that it is of")
    combination: str
    check: str
    utilisation: float
    values: list[float] = Field(description="the six actions, kN and kN*m")
    peak: bool = Field(description="whether it is the largest or smallest of a single action too")


class PatternBoundary(BaseModel):
    lines: list[PatternLine]
    governing: list[PatternGoverning] = Field(
        description="what the place's connections are used most by, the worst first"
    )
    reason: str = Field(description="why there is no line; else empty")


class Group(BaseModel):
    name: str
    author: str
    made: str
    connections: int
    statuses: dict[str, int]


class GroupInFull(Group):
    keys: list[str] = Field(description="its connections")
    common: dict[str, str] = Field(description="sizes and facts that all have alike")
    differ: dict[str, dict[str, int]] = Field(description="those in which they differ: value -> how many")


class Change(BaseModel):
    kind: Literal["new", "gone", "moved", "renamed", "resized", "released", "framed", "reloaded"]
    name: str = Field(description="of the member or its end, as the new revision calls it")
    was: str
    now: str
    share: float = Field(description="of its section's strength, that its forces changed by")
    joints: list[str]


class Comparison(BaseModel):
    old: int
    new: int
    changes: list[Change]
    unchanged: int = Field(description="members that are as they were")


class Case(BaseModel):
    name: str
    title: str
    nature: str
    kind: str


class OneCombination(BaseModel):
    name: str
    set: str
    method: str
    terms: list[tuple[str, float]]


class Combinations(BaseModel):
    cases: list[Case]
    combinations: list[OneCombination]
    left_out: list[str] = Field(description="cases that no basic combination takes")


class SeenColumn(BaseModel):
    name: str = Field(description="of ours")
    source: str = Field(description="what it is called in the file")
    unit: str


class SeenTable(BaseModel):
    table: str = Field(description="of ours; a file as it stands where the map does not read")
    source: str
    rows: int
    columns: list[SeenColumn]
    sample: list[list[str]] = Field(description="the first rows as they are understood")
    unread: list[str] = Field(description="columns that nothing reads")


class FoundTable(BaseModel):
    called: str = Field(description="how a change names it: its file, sheet, and the title it stands behind")
    file: str
    names: list[str] = Field(description="of its columns")
    units: dict[str, str] = Field(description="what a row below the names says of their units")
    rows: int = Field(description="that were looked at")
    sample: list[list[str]]
    used: list[str] = Field(description="our tables that are read from it")


class MissingPart(BaseModel):
    table: str = Field(description="of ours; empty for what the map states of the whole")
    column: str
    words: str


class OtherMap(BaseModel):
    name: str
    number: int
    note: str
    misfits: list[str] = Field(description="what it names and these files do not have; empty where it fits")


class Pointing(BaseModel):
    found: list[FoundTable] = Field(description="every table in the files, as it stands there")
    missing: list[MissingPart] = Field(description="what the map does not say yet, what weighs most first")
    tables: dict[str, Any] = Field(description="the map's tables as it writes them")
    stated: dict[str, Any] = Field(description="what the map states of the whole, and its units")
    maps: list[OtherMap] = Field(description="the house's maps, those that fit first")
    choices: dict[str, Any] = Field(description="our tables and their columns, layouts, units")


class HouseMap(BaseModel):
    name: str
    number: int = Field(description="of its revision")
    way: Literal["in", "out"] = Field(description="whether tables come in through it, or rows go out by it")
    note: str
    author: str
    made: str


class WrittenMap(HouseMap):
    text: str


class Understood(BaseModel):
    kind: Literal["bundle", "workbook", "tables"]
    map: str = Field(description="the column map in TOML; empty for a bundle")
    map_from: Literal["given", "sent", "saved", "house", "proposed", ""] = Field(description="where the map comes from")
    stated: dict[str, Any] = Field(description="units, up, signs and so on, as stated")
    tables: list[SeenTable]
    unread: list[str] = Field(description="files that nothing reads")
    problems: list[dict[str, Any]]
    whole: bool = Field(description="whether all of it was read already; a large model is read on import")
    pointing: Pointing | None = Field(description="what a map is made from by pointing; none for a bundle")


class Import(BaseModel):
    id: int
    name: str = Field(description="of the file that was sent")
    state: Literal["held", "queued", "running", "done", "failed", "cancelled", "interrupted"]
    total: int
    done: int
    message: str = Field(description="what is being done, or why it failed")
    problems: list[dict[str, Any]] = Field(
        description="what is wrong with the bundle, each with its file, row and column"
    )
    revision: int | None = Field(description="number of the revision that came of it")
    author: str
    made: str
    finished: str


class Words(BaseModel):
    words: list[str] = Field(description="each once")
    of: list[int] = Field(description="of each node, member or connection: which of the words it has")


class Ways(BaseModel):
    words: list[tuple[float, float, float]] = Field(description="unit vectors, each once")
    of: list[int]


class ShapeNodes(BaseModel):
    xyz: list[float] = Field(description="x, y, z of one node after the other, mm, Z up")
    support: Words = Field(description="pinned, fixed or other; empty where a node is none")


class ShapeMembers(BaseModel):
    ends: list[int] = Field(description="i, j of one member after the other: indexes of nodes")
    section: list[int] = Field(description="index of its section")
    role: Words = Field(description="beam, column or brace")
    up: Ways = Field(description="along its depth (local y)")


class ShapeSection(BaseModel):
    section: str
    shape: str = Field(description="family, like W or HSS_RECT; empty where the catalogue lacks it")
    depth: float = Field(description="mm")
    width: float = Field(description="mm")


class ModelShape(BaseModel):
    title: str
    system: System
    grids: list[ModelGrid]
    levels: list[ModelLevel]
    north: float | None = Field(description="degrees to the left of the plan's y axis; null where nobody said")
    nodes: ShapeNodes
    members: ShapeMembers
    sections: list[ShapeSection]


class ModelStates(BaseModel):
    member: list[int] = Field(description="of each connection: index of its member")
    end: list[int] = Field(description="0: it is called by the member's name and `.i`, 1: and `.j`")
    called: dict[int, str] = Field(description="of those that are called otherwise: how")
    at: dict[int, int] = Field(description="of those that are not at their member's node: index of theirs")
    framing: Words
    status: Words
    utilisation: list[float]
    remarks: dict[int, int] = Field(description="of those that have some: how many ask something of a person")
    stale: list[int] = Field(description="indexes of those that are")


class ModelAsked(BaseModel):
    share: list[float | None] = Field(
        description="of its own section, of each member's end, i then j, in the shape's order; none where not known"
    )


class ModelNames(BaseModel):
    nodes: list[str]
    place: Words = Field(description="of nodes: grid lines and level; empty where the model has none")
    level: Words = Field(description="of nodes: the highest level that is not above it")
    members: list[str]
    grade: Words
    piece: list[int] = Field(description="of members: the same for the elements of one piece of steel")
    without: list[Without] = Field(description="ends that need no connection")
