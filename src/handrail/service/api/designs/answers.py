"""What the designs of the house answer."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from handrail.service.api.answers import PutFile


class DesignHolds(BaseModel):
    action: str = Field(description="V, N.max (pull), N.min (push), M.max (top in tension), M.min, Vw, Mw")
    words: str
    amount: float = Field(description="kN or kN*m, alone, on the members that it was made on")
    text: str = Field(description="with its unit, in `units`")
    check: str = Field(description="that ends it")


class KeptDesign(BaseModel):
    name: str
    number: int
    called: str = Field(description="as rules name it, like tab-4 R2")
    state: Literal["draft", "house", "shipped", "withdrawn"]
    title: str
    note: str
    tags: list[str]
    seen_by: list[str] = Field(description="job:NAME and role:NAME who see it; empty for all")
    author: str
    made: str
    signer: str
    signed: str
    source: str
    job: str = Field(description="that it is from; empty where it is from none")
    standard: str
    framing: str
    section: str
    support: str
    bolt: str
    summary: str
    holds: list[DesignHolds]
    steel: float = Field(description="kg")
    bolts: int
    checked: str = Field(description="version of our code that looked at it; empty where none has yet")
    differs: str = Field(description="where it was published otherwise than our code says; empty where it is the same")
    why: str = Field(description="it holds nothing; empty where it does")


class PageDesigns(BaseModel):
    items: list[KeptDesign]
    total: int
    next: int | None
    tags: list[str] = Field(description="of all that the caller sees")
    unchecked: int = Field(description="how many our code has not looked at yet")


class DesignField(BaseModel):
    name: str
    kind: str
    label: str
    help: str
    usual: str
    low: str
    high: str
    choices: list[str]


class DesignUse(BaseModel):
    job: str
    revision: int
    by: Literal["rule", "decision"]
    connections: list[str]


class WrittenDesign(KeptDesign):
    text: str = Field(description="as it is written, YAML or JSON")
    fits: list[str] = Field(description="conditions, in words")
    fields: list[DesignField]
    parameters: dict[str, Any]
    trial: dict[str, Any] | None = Field(description="it on its members with nothing acting, for the Bench")
    revisions: list[KeptDesign]
    used: list[DesignUse] = Field(description="where it stands, in jobs that the caller sees")
    files: list[PutFile] = Field(description="that somebody put to this revision")


class FoundDesign(BaseModel):
    design: KeptDesign
    apart: float = Field(description="how unlike its members and angles are, in parts of what they may be")
    status: Literal["pass", "fail", "unchecked"]
    utilisation: float
    check: str
    reason: str


class FoundDesigns(BaseModel):
    items: list[FoundDesign]
    tried: int = Field(description="under the actions given: the nearest")
    like: int = Field(description="how many there are roughly like it")


class DesignInPlace(BaseModel):
    connection: str
    holds: bool
    utilisation: float
    check: str
    reason: str


class DesignInJob(BaseModel):
    fitting: int
    holds: int
    marks: int = Field(description="that those which it holds have now")
    marks_saved: int = Field(description="how many fewer there would be")
    items: list[DesignInPlace]


class DesignChanges(BaseModel):
    changes: dict[str, Any] = Field(description="what deciding for it changes: overrides of the connection")
    reason: str = Field(description="to begin the reason with")


class DesignsIn(BaseModel):
    names: list[str]
    checked: int
    left: int = Field(description="that our code has not looked at yet")


class DesignFile(BaseModel):
    file: str = Field(description="its name")
    text: str
