"""What is answered of a question that is still open."""

from __future__ import annotations

from pydantic import BaseModel, Field


class Question(BaseModel):
    """A question that is being answered: ask again at the address in the header Location."""

    id: str
    state: str = Field(description="waiting or working")
    done: int = Field(description="steps that are done")
    total: int = Field(description="of so many; 0 where that is not known")
    left: float | None = Field(description="seconds that it will take yet, by how far it is")
    ahead: int = Field(description="questions that wait longer than this one")
