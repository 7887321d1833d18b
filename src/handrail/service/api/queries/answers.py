"""What the API answers of queries."""

from typing import Literal

from pydantic import BaseModel, Field


class QuerySubject(BaseModel):
    kind: Literal["connection", "joint", "member", "finding"]
    name: str = Field(description="of a finding its code, then its joint or member")


class QuerySaid(BaseModel):
    what: str = Field(description="answered, closed, asked again, said")
    words: str
    author: str
    made: str


class EngineerQuery(BaseModel):
    number: int
    name: str = Field(description="like Q7")
    guid: str = Field(description="by which other programs know it")
    title: str
    words: str
    to: str
    due: str = Field(description="ISO date; empty where none was said")
    late: bool = Field(description="open past its due date")
    of: list[QuerySubject]
    missing: list[str] = Field(description="what of it is not in the model that stands; of one of them alone")
    connections: list[str] = Field(description="those that it concerns")
    holds: bool = Field(description="while it is open what it concerns cannot be released")
    state: Literal["open", "answered", "closed"]
    author: str
    made: str
    answer: str
    answered_by: str
    answered: str
    closed_by: str
    closed: str
    said: list[QuerySaid]


class EngineerQueries(BaseModel):
    items: list[EngineerQuery]
    total: int
    open: int
    late: int


class TakenQueries(BaseModel):
    new: list[int]
    changed: list[int] = Field(description="those that were known, and of which more was said")
    same: list[int]
