"""What the service answers about decisions against the rules: overrides, their reviews, the ledger. kN, kN*m and mm
unless said."""

from typing import Any, Literal

from pydantic import BaseModel, Field

from handrail.service.api.answers import Drawing, PutFile, Status


class Side(BaseModel):
    """A connection before or after an override."""

    value: str
    status: str
    utilisation: float
    check: str
    clause: str
    action: str
    reason: str
    over_target: bool = Field(False, description="it passes, and is used more than sizing aims at")
    also: list[str] = Field([], description="what the next run sizes otherwise besides, like `rows 3 to 4`")


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


class Held(BaseModel):
    """How a connection is with a decision, or without it."""

    status: str
    utilisation: float
    check: str
    action: str


class Grounds(Held):
    """What a decision rests on; status, utilisation and check are those without it."""

    rule: str
    value: str = Field(description="what the rule gives for it")
    held: Held = Field(alias="with", description="the same with the decision")
    members: list[str] = Field(description="framing, then section and grade of each member")
    place: list[float] | None = Field(description="of the member's end and its far end, mm")
    peaks: dict[str, tuple[float, float]] = Field(
        description="smallest and largest of each action of the model, kN and kN*m"
    )
    actions: dict[str, float] = Field(description="in the combination that governs, kN and kN*m")


class Beside(BaseModel):
    """Another connection of the joint that comes out otherwise, by what stands in it then."""

    connection: str
    before: Side
    after: Side


class Override(BaseModel):
    id: int | None
    connection: str
    parameter: str
    value: str
    reason: str
    cause: str = Field(description="of the shop's list of reasons; empty where none was chosen")
    author: str
    made: str
    state: Literal["preview", "awaiting", "accepted", "returned", "cleared"]
    reviewer: str = Field(description="who accepted, returned or cleared it")
    reviewed: str
    word: str = Field(description="what they said")
    before: Side
    after: Side
    grounds: Grounds | None = Field(
        description="what it rested on when it was made or last confirmed; null where that is not known yet"
    )
    look: list[str] = Field(
        description="what of that moved beyond the job's tolerance, in words: it asks to be looked at again"
    )
    replaces: int | None = Field(description="the accepted one that it took the place of")
    marks: list[Literal["agrees", "worse", "carries"]] = Field(
        description="agrees: the rule gives the same now; worse: used more than without it; carries: passes by it only"
    )


class MadeOverride(Override):
    beside: list[Beside] = Field(
        [], description="others of the joint that come out otherwise by what stands in them then"
    )
    drawing: Drawing | None = Field(None, description="of a preview that asked for it; null where nothing is sized")


class ListedOverride(Override):
    level: str
    section: str
    status: str = Field(description="of its connection now; empty where that is not in the revision")
    utilisation: float
    attachments: int


class Counted(BaseModel):
    awaiting: int
    accepted: int
    returned: int
    look: int


class Listed(BaseModel):
    items: list[ListedOverride]
    total: int
    next: int | None
    counts: Counted = Field(description="of the whole job")
    authors: list[str]
    causes: list[str]
    levels: list[str]


class Row(BaseModel):
    connection: str
    before: Side
    after: Side


class RefusedOne(BaseModel):
    connection: str
    why: str


class DecidedForMany(BaseModel):
    connections: int
    kept: bool
    counts: dict[str, dict[str, int]] = Field(description="before and after: status -> how many")
    stood: dict[str, dict[str, int]] = Field(description="parameter -> value as it stood -> how many had it")
    worst: list[Row] = Field(description="at most 200, the worst after it first")
    refused: list[RefusedOne]
    overrides: list[int]


class Reviewed(BaseModel):
    overrides: list[Override]


class Causes(BaseModel):
    causes: list[str]


class Attachment(PutFile):
    digest: str = Field(description="SHA-256 of the file, which its entry of the ledger names too")


class Entry(BaseModel):
    """An entry of the ledger; its digest is over all the others (docs/ledger.md)."""

    job: str
    number: int
    made: str
    author: str
    connection: str
    override: int | None
    parameter: str
    event: str
    words: str
    data: dict[str, Any]
    previous: str
    digest: str


class LedgerPage(BaseModel):
    items: list[Entry]
    total: int
    next: int | None
    head: str = Field(
        description="the digest of the last entry there is: note it, and later show that all up to it is still there"
    )


class Verified(BaseModel):
    entries: int
    head: str
    sound: bool
    faults: list[str] = Field(
        description=(
            "what does not follow from the entry before, stands otherwise in the records, or is not what was signed"
        )
    )
    notes: list[str] = Field(
        [], description="whether results are as the last run left them; when records were put back from a copy"
    )


class Closed(BaseModel):
    job: str
    entries: int
    first: str = Field(description="digest of its first entry")
    head: str = Field(description="digest of its last one")
    author: str = Field(description="who deleted the job")
    made: str


class Changed(BaseModel):
    connection: str
    before: Side
    after: Side
    overrides: list[Override]
    beside: list[Beside]
    drawing: Drawing | None = Field(None, description="of a preview that asked for it; null where nothing is sized")


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
    override: int | None = None


class EarlierDesign(BaseModel):
    job: str
    connection: str = Field(description="the nearest that has it")
    section: str
    support_section: str
    standard: str
    count: int = Field(description="connections that have it")
    there: float = Field(description="utilisation there")
    summary: str
    status: str = Field(description="here, under this connection's own forces")
    utilisation: float
    check: str
    reason: str
    steel: float | None = Field(description="kg")
    changes: dict[str, str | int | float] = Field(description="what makes this connection so")


class EarlierDesigns(BaseModel):
    connection: str
    looked: int = Field(description="designs that were found; the nearest twelve are tried")
    items: list[EarlierDesign]
