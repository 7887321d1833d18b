"""What requests about queries take. Numbers as in `api/requests`."""

from typing import Literal

from pydantic import BaseModel, Field

from handrail.service.api.requests import Body, JobPath, Query


class QueryPath(JobPath):
    number: int


class QueriesPath(JobPath):
    kind: str = Field(description="pdf, a list to print; or bcf")


class QueriesOf(Query):
    state: Literal["", "open", "answered", "closed"] = Field("", description="only those; all, where none is said")
    connection: str = Field("", max_length=400, description="only those that concern it")


class QueriesFile(Query):
    state: Literal["", "open", "answered", "closed"] = ""
    version: str = Field("2.1", max_length=8, description="of BCF: 2.1 or 3.0")


class Subject(BaseModel):
    kind: str = Field(max_length=20, description="connection, joint, member or finding")
    name: str = Field(max_length=400)


class NewQuery(Body):
    title: str = Field(max_length=400)
    words: str = Field("", max_length=8000)
    to: str = Field("", max_length=200, description="who is asked")
    due: str = Field("", max_length=10, description="ISO date")
    of: list[Subject] = Field(max_length=200)
    holds: bool = Field(False, description="while it is open what it concerns cannot be released")
    view: dict[str, list[float]] = Field(
        {}, max_length=3, description="how it is looked at, m: eye, way, up; from over it, where nothing is said"
    )


class QueryWords(Body):
    words: str = Field("", max_length=8000)
