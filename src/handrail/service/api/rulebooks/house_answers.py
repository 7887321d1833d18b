"""What the API answers of the rulebooks of the house."""

from typing import Literal

from pydantic import BaseModel, Field


class KeptRulebook(BaseModel):
    called: str = Field(description="as rulebooks name it, like shop-practice R2")
    name: str
    number: int
    note: str
    inherits: str
    state: Literal["draft", "approved", "retired"]
    author: str
    made: str
    reviewer: str = Field(description="who approved or retired it")
    reviewed: str
    jobs: list[str] = Field(description="jobs whose rulebook stands on it now")


class WrittenRulebook(KeptRulebook):
    text: str
    files: dict[str, str]
