"""What requests about this subject take. Numbers as in `api/requests`."""

from typing import Literal

from pydantic import BaseModel, Field

from handrail.service.api.requests import Body, JobPath, Number


class RulebookText(Body):
    text: str
    files: dict[str, str] = Field({}, max_length=50, description="CSV files that its tables are in, by name")


class NewRulebook(RulebookText):
    name: str = Field("", max_length=200, description="what this revision is called, or is for")


class TriedRulebook(RulebookText):
    compare: bool = Field(True, description="also what would be otherwise than now")


class TriedOn(RulebookText):
    text: str = ""
    connection: str = Field(max_length=400)
    table: str = Field("", max_length=60, description="the row that it has for the connection")
    formula: str = Field("", max_length=400, description="what it gives for the connection, like = 2 * ceil(rows / 2)")
    rule: str = Field("", max_length=300, description="what of its conditions holds")


class RuleMove(Body):
    rule: int = Field(ge=0, le=500, description="of its own rules, from 0")
    to: int = Field(ge=0, le=500)


class RuleLike(Body):
    connection: str = Field(max_length=400)
    free: list[str] = Field([], max_length=100, description="sizes that the ladder may climb")
    sections: bool = Field(True, description="between the same sections; else between the same kinds of section")


class TableCell(Body):
    table: str = Field(max_length=60)
    row: int = Field(ge=0, le=5000)
    column: str = Field(max_length=100)
    value: str = Field(max_length=200)


class RulebookEdit(RulebookText):
    move: RuleMove | None = None
    like: RuleLike | None = None
    default: str | None = Field(
        None,
        max_length=100,
        description="what practice says: bolt, by use bolts.moment, of one standard double_angle.bolt",
    )
    cell: TableCell | None = None


class RulebookBack(Body):
    number: int = Field(0, ge=0, le=10**9, description="of the revision; 0 for the one before")
    name: str = Field("", max_length=200)


class HousePath(BaseModel):
    name: str = Field(description="of a rulebook of the house, like shop-practice")


class HouseRevisionPath(HousePath):
    number: Number


class HouseRulebook(RulebookText):
    note: str = Field("", max_length=2000, description="what this revision is for, or what is new in it")


class HouseReview(Body):
    state: Literal["approved", "retired"]


class RulebookRevisionPath(JobPath):
    number: Number
