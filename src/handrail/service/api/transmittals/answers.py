"""What the service answers about transmittals."""

from typing import Literal

from pydantic import BaseModel, Field


class SentConnection(BaseModel):
    connection: str
    place: str
    mark: str
    standard: str
    status: str = Field(description="as it stood; empty where it is withdrawn")
    utilisation: float
    released: str = Field(description="by whom; empty where it was sent anyway")
    change: Literal["new", "changed", "same", "withdrawn"] = Field(description="against when it was last sent")
    words: str = Field(description="what was changed")
    before: int = Field(description="number of the transmittal in which it was last sent; 0 for none")


class Transmittal(BaseModel):
    number: int = Field(description="0 for a preview")
    name: str
    to: str
    why: str
    where: str
    anyway: str = Field(description="why what is not released went along")
    author: str
    made: str
    revision: int
    marks: int
    new: int
    changed: int
    same: int
    withdrawn: int
    unreleased: int
    superseded: int = Field(description="how many of its connections a later one has")
    size: int = Field(description="bytes of the zip")
    digest: str = Field(description="SHA-256 of the zip")


class Transmittals(BaseModel):
    items: list[Transmittal]


class LeftOut(BaseModel):
    why: str
    connections: int


class TransmittalInFull(Transmittal):
    items: list[SentConnection] = Field(description="those that are new, changed or withdrawn; at most 2,000 are named")
    left_out: list[LeftOut] = Field(description="of a preview: what stays here, and why")
