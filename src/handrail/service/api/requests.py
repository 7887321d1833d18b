"""What requests take. Numbers are mm, kN, kN*m, MPa and degrees unless they carry a unit."""

from functools import lru_cache
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

Number = Annotated[int, Field(ge=0, lt=2**63)]  # what SQLite holds in a column


class Body(BaseModel):
    model_config = ConfigDict(extra="forbid")


class Query(BaseModel):
    """What stands behind the ? of an address, or in a form. Its schema is asked for with every request, so it is made
    once."""

    @classmethod
    def model_json_schema(cls, *args: Any, **more: Any) -> dict[str, Any]:
        return super().model_json_schema(*args, **more) if args or more else _schema(cls)


@lru_cache(maxsize=64)
def _schema(model: type[Query]) -> dict[str, Any]:
    return super(Query, model).model_json_schema()


class JobPath(BaseModel):
    job: str = Field(description="the job's name")


class ConnectionPath(JobPath):
    connection: str = Field(description="member and end, like B12.i")


class TwoRevisions(Query):
    old: int | None = Field(
        None, ge=1, le=10**9, description="number of a revision; the one before the last unless named"
    )
    new: int | None = Field(None, ge=1, le=10**9, description="number of a revision; the last unless named")


class Chosen(Body):
    """Connections: by name, by a filter, or those of a pattern (all, or those at one of its places)."""

    connections: list[str] = Field([], max_length=20_000)
    where: str = Field("", description="a filter, as lists take it, like `group=stair core, status=fail`")
    pattern: str = Field("", max_length=40, description="like P1")
    slot: int | None = Field(None, ge=0, le=10_000, description="one place of the pattern")


class TablePath(JobPath):
    kind: str = Field(description="csv or xlsx")


class Reason(Body):
    reason: str = ""
