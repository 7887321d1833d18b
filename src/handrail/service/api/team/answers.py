"""What the service answers about working together: labels, releases, views, progress, what a revision left standing."""

from typing import Literal

from pydantic import BaseModel, Field

from handrail.service.api.decisions.answers import RefusedOne


class Labelled(BaseModel):
    connections: int
    changed: int


class Said(BaseModel):
    connection: str
    words: str


class Released(BaseModel):
    connections: int = Field(description="how many were released, or whose release was withdrawn")
    refused: list[RefusedOne]


class KeptView(BaseModel):
    name: str
    author: str
    made: str
    where: str
    find: str = ""
    sort: str
    columns: list[str]
    group: str


class Counts(BaseModel):
    """How many connections are how."""

    total: int
    passing: int = Field(alias="pass")
    fail: int
    unchecked: int = Field(description="stale ones too")
    remarks: int = Field(0, description="of those that pass, with a remark that asks something of a person")
    over_target: int = Field(0, description="of those that pass, used more than sizing aims at")
    stale: int
    unassigned: int
    elsewhere: int
    overridden: int
    released: int
    fell: int = Field(0, description="whose release fell, for an engineer to look at")
    awaiting: int = Field(description="with a decision that awaits an engineer's word")
    look: int = Field(description="with a decision that asks to be looked at again")
    done: int = Field(description="pass or elsewhere, with no decision that awaits or asks to be looked at again")


class Part(Counts):
    name: str = Field(description="of the level, sequence or person; empty where a connection has none")


class Day(Counts):
    day: str


class Progress(BaseModel):
    now: Counts
    level: list[Part]
    sequence: list[Part]
    person: list[Part]
    days: list[Day] = Field(description="how it stood at the end of each day on which something changed")


class Stood(BaseModel):
    """A connection as it stands, or as it stood before the revision."""

    status: str
    utilisation: float
    check: str
    summary: str
    section: str
    released: str


What = Literal[
    "stands",
    "resized",
    "passes now",
    "fails",
    "still fails",
    "stale",
    "unchecked",
    "unassigned",
    "elsewhere",
    "new",
    "gone",
]


class After(BaseModel):
    connection: str
    place: str
    framing: str
    what: What
    before: Stood | None
    now: Stood | None
    reason: str


class Revised(BaseModel):
    revision: int
    before: int | None = Field(description="the revision that it is compared with; null for a first one")
    counts: dict[str, int]
    items: list[After]


class Reserve(BaseModel):
    connections: list[str]
    standard: str
    framing: str
    section: str
    summary: str
    utilisation: float = Field(description="the highest of them as they stand")
    then: float = Field(description="the highest of them with the changes")
    changes: dict[str, str] = Field(
        description="parameter -> value in the job's units; empty where nothing less passes"
    )
    saves: dict[str, float] = Field(
        description="of one: steel and weld (kg), field_bolts, shop_bolts; empty where its standard does not count them"
    )
    saves_all: dict[str, float] = Field(description="times their count")
    idle: list[str] = Field(description="parts of which no check reaches 5 %")
    worth: float = Field(description="what all save, by the prices of remedies")


class Reserves(BaseModel):
    connections: int = Field(description="how many are used less than that")
    items: list[Reserve]
