"""What the API answers of marks."""

from pydantic import BaseModel, Field

from handrail.service.api.answers import System


class MarkRow(BaseModel):
    mark: str
    hand: str = Field(
        description="`as drawn` or `mirrored` where the pieces of a connection's two hands are not the same; else empty"
    )
    standard: str
    title: str
    count: int
    summary: str
    sizes: dict[str, str]
    members: list[str] = Field(description="sections that have it at their ends")
    supports: list[str]
    framings: list[str]
    statuses: dict[str, int]
    utilisation: float = Field(description="of the worst")
    field_bolts: int = Field(
        description=(
            "of all of them, as are the next; those that hold a connection on either side of a web are counted once"
        )
    )
    shared_with: list[str] = Field(description="marks that are held by the same field bolts across a web")
    counted_there: int = Field(description="how many of its connections have their field bolts counted with those")
    shop_bolts: int
    rods: int
    steel_each: float = Field(description="kg")
    steel: float
    weld: float
    connections: list[str]


class MarkTotals(BaseModel):
    count: int
    field_bolts: int
    shop_bolts: int
    rods: int
    steel: float
    weld: float


class Schedule(BaseModel):
    system: System
    rows: list[MarkRow]
    totals: MarkTotals
    unsized: int = Field(description="connections without sizes, which have no mark")


class MarkMerge(BaseModel):
    number: int
    marks: int = Field(description="that there are after it")
    given: str
    taken: str
    standard: str
    given_summary: str
    taken_summary: str
    connections: list[str]
    worst: float = Field(description="utilisation of the worst of them then")
    bolts: int = Field(description="more (or less) than now, as are the next")
    steel: float = Field(description="kg")
    changes: dict[str, str | int | float] = Field(
        description="what makes the connections so, as a change of many takes it"
    )


class Consolidation(BaseModel):
    system: System
    marks: int
    standards: dict[str, int]
    connections: int
    shared: int = Field(description="connections that share bolts with the one opposite: they are left as they are")
    merges: list[MarkMerge] = Field(description="in their order, each on top of those before")


class SizedAsOne(BaseModel):
    standard: str
    connections: list[str]
    passes: bool
    worst: float = Field(description="utilisation of the worst of them")
    worst_at: str
    check: str
    sound: bool = Field(description="whether every detailing rule holds for all of them")
    bolts: int = Field(description="more (or less) than they stand with")
    steel: float = Field(description="kg")
    sizes: dict[str, str]
    changes: dict[str, str | int | float] = Field(
        description="what makes the connections so, as a change of many takes it"
    )


class AsOne(BaseModel):
    system: System
    items: list[SizedAsOne] = Field(description="one of each standard among them")
    unsized: list[str] = Field(description="connections that have no sizes to begin with")


class ProposedOutput(BaseModel):
    map: str = Field(description="an output map in TOML")


class OutputColumn(BaseModel):
    name: str = Field(description="as the other program calls it")
    unit: str


class OutputTable(BaseModel):
    name: str
    rows_of: str = Field(description="which of our rows it is of")
    file: str
    sheet: str
    columns: list[OutputColumn]
    rows: int = Field(description="how many it has")
    sample: list[list[str]] = Field(description="the first of them, as they are written")


class TriedOutput(BaseModel):
    tables: list[OutputTable]
