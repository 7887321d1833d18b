"""What requests of the Bench take beside a trial."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from handrail.service.api.requests import Body

AS_TRIAL = "; the rest of the body is a trial"


class TrialBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    trace: bool = False
    units: Literal["si", "us"] = "si"
    drawn: bool = Field(True, description="whether its drawing is wanted too")


class DrawnBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    units: Literal["si", "us"] = Field("si", description=f"of what is said in words{AS_TRIAL}")


class SizedBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    units: Literal["si", "us"] = "si"
    hold: list[str] = Field([], max_length=100, description=f"parameters that stay as they are{AS_TRIAL}")
    target: float = Field(1.0, ge=0.1, le=1.0, description="utilisation that is not passed")


class MendedBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    units: Literal["si", "us"] = "si"
    target: float = Field(1.0, ge=0.1, le=1.0, description=f"utilisation that is not passed{AS_TRIAL}")


class FileBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    units: Literal["si", "us"] = "us"
    name: str = Field("trial", min_length=1, max_length=60, description=f"what it is called there{AS_TRIAL}")
    address: str = Field(
        "", max_length=6000, pattern=r"^(https?://\S+)?$", description="under which it is found again, for its link"
    )


class ReadBody(Body):
    text: str = Field(max_length=200_000, description="a trial's file, YAML or JSON")


class FilePath(BaseModel):
    kind: str = Field(
        description="pdf, dxf or svg: its drawing; page: all on one page of PDF; yaml: as `handrail trial` reads it"
    )
