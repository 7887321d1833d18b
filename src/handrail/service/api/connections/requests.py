"""What requests about this subject take. Numbers as in `api/requests`."""

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from handrail.service.api.requests import Body, Number, Query


class Cell(Query):
    check: int = Field(0, ge=0, le=10_000, description="row of the matrix")
    combination: int = Field(0, ge=0, le=100_000, description="column of the matrix")


class StandardsQuery(Query):
    job: str = Field("", description="whose own choices are offered too")


class SectionQuery(Query):
    text: str = Field("", description="part of a section's name; case and spaces forgiven")
    limit: int = Field(50, ge=1, le=1000)


class ListQuery(Query):
    where: str = Field("", description="filters, like `status=fail, utilisation>0.9, section~W16`")
    sort: str = Field("connection", description="a field; with - in front for falling order")
    limit: int = Field(100, ge=1, le=5000)
    cursor: Number = Field(0, description="`next` of the page before")


class OtherSizes(Body):
    changes: dict[str, str | int | float] = Field(
        min_length=1, max_length=100, description="parameter (or `standard`) -> value, as for an override"
    )


class SweepOf(Body):
    values: list[dict[str, Any]] = Field(
        min_length=1,
        max_length=20,
        description=(
            "parameters with their values, each a list, `start .. limit by step` or one "
            "value; what is in one entry moves together; the first entry goes fastest"
        ),
    )
    order: str = "as_written"
    stop: str = Field("all", description="first: at the first that passes; all of them")
    parameters: dict[str, str | int | float] = Field(
        {}, max_length=100, description="what else is otherwise than it stands, formulas too"
    )


class SweepBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    sweep: dict[str, Any] = Field(
        description="values, order and stop, as in `handrail sweep FILE`; the rest of the body is a trial"
    )
    units: Literal["si", "us"] = "si"


class CapacityBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    standard: str
    framing: str
    sections: str | list[str] = Field(description="names with * and ?, between commas or as a list")
    units: Literal["si", "us"] = "si"
