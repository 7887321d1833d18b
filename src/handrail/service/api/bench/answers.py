"""What the Bench answers."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from handrail.service.api.answers import Drawing, System
from handrail.service.api.connections.answers import Check, DetailingRule, Governing, SizedParameter, TrialSize


class BenchSize(SizedParameter):
    of: str = Field(description="what it is for: piece, members, ground, site, method, known, asked")
    bounds: str = Field(description="in words; empty where it has none")


class Trial(BaseModel):
    status: Literal["pass", "fail", "unchecked"]
    reason: str
    utilisation: float
    governing: Governing | None
    advice: str = Field(description="what to enlarge against the governing check; empty where it passes")
    parameters: dict[str, TrialSize]
    checks: list[Check]
    detailing: list[DetailingRule]
    remarks: list[str] = Field(description="of the notes those that ask something of a person")
    notes: list[str]
    works: list[dict[str, Any]] = Field(
        description="of a base or splice, under each action: what anchors and parts take, kN, and the pressure, MPa"
    )
    summary: str = Field(description="its sizes in a line")
    sizes: list[BenchSize] = Field(description="every parameter as a form shows it, in `units`")
    drawing: Drawing | None = Field(description="null where it was not asked for")


class ReadTrial(BaseModel):
    trial: dict[str, Any] = Field(description="as it stands in the file")


class Design(BaseModel):
    names: list[str] = Field(
        description="`first of the ladder`, `lightest`, `fewest bolts`; `nearest` where none passes"
    )
    parameters: dict[str, str | int] = Field(description="as a trial takes them")
    summary: str
    passes: bool
    utilisation: float
    check: str
    steel: float = Field(description="kg")
    weld: float = Field(description="kg")
    bolts: int
    rods: int


class Designs(BaseModel):
    items: list[Design]


class TrialRemedy(BaseModel):
    changes: dict[str, str | int] = Field(description="as a trial's parameters take them")
    words: str
    utilisation: float


class TrialRemedies(BaseModel):
    items: list[TrialRemedy] = Field(description="the cheapest first; none where it passes, or nothing was found")


class OfConnection(BaseModel):
    trial: dict[str, Any] = Field(description="as the trial file, with the connection's own actions")
    left_out: list[str] = Field(description="what of where it sits a trial does not say; empty where it is the same")
    system: System
    connection: str
    version: int = Field(description="of the connection as it was taken: a decision made from it may go by that")
