"""What answers hold. Numbers are mm, kN, kN*m, MPa and degrees unless a field beside them names another unit."""

from typing import Generic, Literal, TypeVar

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


class PutFile(BaseModel):
    """A file that somebody put to something."""

    id: int
    name: str
    media: str
    size: int = Field(description="bytes")
    digest: str = Field(description="SHA-256 of the file")
    author: str
    made: str


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


class LastChange(BaseModel):
    what: str = Field(description="made, a revision of the model, a run, or what the ledger says")
    author: str
    made: str


class Job(BaseModel):
    name: str
    tag: str = Field(
        description="what a change sends as If-Match: it fails with 412 where the job was changed meanwhile"
    )
    moved: str = Field(
        description="another word whenever results, decisions, rules or the model of the job have changed: look again"
    )
    title: str
    firm: str = Field(description="what title blocks say of it, line by line")
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
    stale: int = Field(description="connections whose result rests on something that was changed since")
    ledger_faults: list[str] = Field(
        [],
        description=(
            "what its ledger is not, of what was signed of it: entries that are missing, records that are older"
        ),
    )
    remarks: int = Field(description="connections that pass with a remark that asks something of a person")
    over_target: int = Field(description="connections that pass and are used more than sizing aims at")
    released: int = Field(description="connections that an engineer said may be drawn")
    tolerance: float = Field(
        description="how far actions (as a share) and utilisation may move before a decision asks to be looked at again"
    )
    overrides_look: int = Field(description="decisions that ask to be looked at again")
    overrides_awaiting: int
    last_run: int | None
    last_change: LastChange = Field(description="the last model, run or decision")
    last_transmittal: int = Field(description="number of what left the house last; 0 where nothing did")
    people: list[str] = Field(description="who has a role in it, by name")
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
    remarks: int = Field(description="how many of its remarks ask something of a person")
    stale: bool


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
    mode: Literal["size", "verify", "look"] = Field(
        description="look: sizes as they stand by other combinations than the job's, no result changed"
    )
    where: str
    combination_set: str = Field(description="that was checked")
    only: list[str] = Field(description="of its combinations; all where there is none")
    found: list[Seen] = Field(description="of a look: the 200 worst")
    state: Literal["queued", "running", "done", "failed", "cancelled", "interrupted"]
    total: int
    done: int
    counts: dict[str, int] | None
    changed: int | None = Field(
        description=(
            "connections that it left other steel, by another standard or judged otherwise; null before it is done"
        )
    )
    fresh: int = Field(description="connections that were stale, and are as they were")
    shifted: int = Field(description="connections whose utilisation moved by more than 0.02, and nothing else of them")
    left: float | None = Field(description="seconds that it will take yet; null where that is not known")
    message: str
    author: str
    made: str
    finished: str


class View(BaseModel):
    title: str
    lettering: float = Field(description="height of the letters, mm")
    extent: tuple[float, float, float, float] = Field(
        description="(x0, y0, x1, y1) of all that is drawn, lettering too; y up"
    )
    shapes: list[Shape | Circle]
    dimensions: list[Dimension]
    notes: list[Note]
    clouds: list[tuple[float, float, float, float]] = Field(
        [], description="around what it says otherwise than when it was last issued"
    )


class Drawing(BaseModel):
    views: list[View]
