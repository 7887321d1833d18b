"""What requests of the designs of the house take."""

from __future__ import annotations

from typing import Any, Literal

from flask_openapi3.models.file import FileStorage
from pydantic import BaseModel, Field

from handrail.service.api.requests import Body, Number, Query

Units = Literal["si", "us"]


class DesignPath(BaseModel):
    name: str


class DesignRevisionPath(DesignPath):
    number: Number


class DesignQuery(BaseModel):
    text: str = Field("", max_length=200, description="words, all of which have to be there")
    standard: str = ""
    framing: str = ""
    tag: str = ""
    bolt: str = ""
    job: str = ""
    author: str = ""
    state: str = Field("", description="draft, house, shipped, withdrawn, with commas; all but withdrawn where empty")
    V: str = Field("", description="that it has to hold alone, like 40 kip")
    pull: str = ""
    push: str = ""
    M: str = ""
    checked: bool | None = None
    sort: Literal["name", "steel", "-steel", "shear", "-shear", "bolts", "made", "-made"] = "name"
    cursor: int = Field(0, ge=0, le=10_000_000)
    limit: int = Field(60, ge=1, le=500)
    units: Units = "us"


class DesignUnits(BaseModel):
    units: Units = "us"


class DesignPicture(DesignUnits):
    bare: bool = Field(False, description="without what is written on it")


class DesignPaperPath(DesignRevisionPath):
    kind: str = Field(description="page, pdf, dxf or svg")


class DesignPaper(DesignUnits):
    address: str = Field("", max_length=2000, pattern=r"^(https?://\S+)?$", description="where it is found again")


class NewDesign(Body):
    title: str = Field("", max_length=200)
    note: str = Field("", max_length=4000)
    tags: list[str] = Field([], max_length=20)
    seen_by: list[str] = Field([], max_length=50)
    text: str = Field("", max_length=60_000, description="a design as it is written; else it is made from a trial")
    trial: dict[str, Any] | None = Field(None, description="as the Bench has it")
    job: str = Field("", description="with `connection`: made from one of a job, as it stands")
    connection: str = ""
    fits: dict[str, Any] | None = Field(None, description="conditions as in a rule; like its members where left out")
    fields: dict[str, Any] | None = Field(None, description="what it leaves open")
    parameters: dict[str, Any] | None = Field(None, description="its sizes; those of the trial where left out")
    units: Units = "us"


class DesignState(Body):
    state: Literal["house", "withdrawn"]


class DesignAbout(Body):
    title: str | None = Field(None, max_length=200)
    note: str | None = Field(None, max_length=4000)
    tags: list[str] | None = Field(None, max_length=20)
    seen_by: list[str] | None = Field(None, max_length=50)


class FindDesigns(Body):
    trial: dict[str, Any] = Field(description="framing, members, geometry and actions; the standard may be left out")
    standard: str = ""
    tag: str = ""
    share: float = Field(0.15, ge=0, le=1, description="of a member's depth that it may be off")
    degrees: float = Field(3.0, ge=0, le=90, description="that angles may be off")
    limit: int = Field(12, ge=1, le=60, description="how many are told")
    units: Units = "us"


class DesignAsked(Body):
    job: str
    fields: dict[str, Any] = Field({}, max_length=12)
    fits: bool = Field(True, description="only where it fits; false for every connection of its framings")


class DesignDecided(Body):
    job: str
    connection: str
    fields: dict[str, Any] = Field({}, max_length=12)


class DesignTable(Body):
    file: str = Field(max_length=200, description="its name: .csv, .xlsx, .ods")
    content: str = Field(max_length=8_000_000, description="the file in base64")
    tags: list[str] = Field([], max_length=20)


class DesignsChecked(Body):
    most: int = Field(500, ge=1, le=20_000)


class DesignFileQuery(BaseModel):
    people: bool = Field(False, description="who made and signed it goes along")
    origin: bool = Field(False, description="the job that it is from goes along")
    notes: bool = Field(False, description="its note and tags go along")
    files: bool = Field(False, description="its files go along")


class DesignFilePath(DesignRevisionPath):
    file: Number


class PutDesignFile(Query):
    file: FileStorage = Field(description="a calculation, a sketch, a certificate; at most 10 MB")


class DesignFileBody(Body):
    text: str = Field(max_length=11_000_000)
    name: str = Field("", max_length=64, description="another name for it here")


class DesignWouldChange(Body):
    job: str
