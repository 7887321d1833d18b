"""What requests about this subject take. Numbers as in `api/requests`."""

from typing import Any, Literal

from flask_openapi3.models.file import FileStorage
from pydantic import BaseModel, Field

from handrail.service.api.requests import Body, JobPath, Number, Query


class ImportPath(JobPath):
    number: Number


class Upload(Query):
    bundle: FileStorage = Field(
        description="the model: a zip or workbook; or several files of other programs' tables, each under this name"
    )
    map: str | None = Field(
        None, description="the column map in TOML that tables are read through; the job's last one where it is left out"
    )
    hold: bool | None = Field(None, description="keep it until somebody has looked at what was understood and says so")


class MapText(Body):
    map: str = Field(description="a column map in TOML")


class MapChoice(Body):
    take: Literal["proposed", "saved", "sent", "house"] = Field(
        description="proposed anew, the job's last, the one sent beside the tables, one of the house's"
    )
    name: str = Field("", description="of the house's map")


class MapChange(Body):
    what: Literal["state", "unit", "table", "key", "column", "held", "try"] = Field(
        description=(
            "held: all that supports hold by the words of the column `name`, `value` a kind of support for each; try:"
            " what statics says"
        )
    )
    table: str = ""
    name: str = Field("", description="of what is stated, the unit, the key or our column")
    value: Any = None
    source: str = Field("", description="what a table is read from, as `called`; empty to leave the table out")
    end: Literal["", "i", "j"] = ""
    spec: dict[str, Any] | None = Field(None, description="a column as the map says it; none to leave it out")
    instead: str = Field("", description="our column that this one takes the place of, like Fy, or Fy at i")


class MapPath(BaseModel):
    name: str = Field(description="of a column map of the house, like frame-report")


class KeptMap(Body):
    text: str = Field(description="a column map, or an output map, in TOML")
    note: str = ""


class Basis(Body):
    edition: Literal["7-22", "7-16"] = "7-22"
    methods: list[Literal["LRFD", "ASD"]] = Field(["LRFD"], min_length=1, max_length=2)
    S_DS: float = Field(0.0, description="design spectral acceleration at short periods, g")
    rho: float = Field(1.0, description="redundancy factor, 1.0 or 1.3")
    omega: float = Field(0.0, description="overstrength factor; 0 makes no overstrength set")
    category: Literal["A", "B", "C", "D", "E", "F"] = Field("B", description="seismic design category")
    one_way: list[str] = Field(
        [], max_length=200, description="wind and seismic cases that are not also taken the other way round"
    )
    service: bool = True


class GivenCombination(Body):
    name: str = Field(min_length=1, max_length=200)
    set: str = Field(min_length=1, max_length=60, description="strength, service, overstrength, or a name of one's own")
    method: Literal["LRFD", "ASD", "none"]
    terms: list[tuple[str, float]] = Field(max_length=200)


class NewCombinations(Body):
    combinations: list[GivenCombination] = Field(min_length=1, max_length=5000)


class GroupPath(JobPath):
    group: str


class GroupOf(Body):
    connections: list[str] = Field([], max_length=200_000)
    where: str = Field("", description="a filter, as lists take it")
    how: Literal["replace", "add", "take"] = "replace"


class PatternEdit(Body):
    beside: str = Field(
        description="the joint whose pattern it goes into; empty takes it out of its own", max_length=200
    )
    reason: str = Field(max_length=2000)


class PatternJointPath(JobPath):
    joint: str


class PatternPath(JobPath):
    pattern: str = Field(description="like P1")


class PickedPoints(Query):
    picked: list[str] = Field(
        [], max_length=200, description="points that go into it: CONNECTION~NUMBER of a combination, from 0"
    )


class Slot(Query):
    slot: int = Field(0, ge=0, le=10_000, description="a place of the pattern")


Component = Literal["N", "V", "Vw", "M", "Mw", "T"]


class TwoActions(Slot):
    x: Component = "V"
    y: Component = "N"


class FindingKey(Query):
    code: str
    node: str = ""
    member: str = ""


class Acknowledgement(Body):
    code: str = Field(min_length=1, max_length=100)
    node: str = Field("", max_length=200)
    member: str = Field("", max_length=200, description="or the combination that the finding is about")
    reason: str = Field(max_length=2000)
    all: bool = Field(False, description="every finding of the code (and cause) that is open")
    cause: str = Field("", max_length=400)
