"""What requests about this subject take. Numbers as in `api/requests`."""

from typing import Literal

from flask_openapi3.models.file import FileStorage
from pydantic import Field

from handrail.service.api.requests import Body, Chosen, JobPath, Number, Query


class StepPath(JobPath):
    way: Literal["back", "forward"]


class OverridePath(JobPath):
    override: Number


class Decided(Body):
    reason: str = Field("", max_length=20_000)
    cause: str = Field(
        "", max_length=80, description="one of the shop's list of reasons; with it the text may be left out"
    )
    preview: bool = Field(False, description="show before and after, keep nothing")
    both: bool = Field(
        False, description="of a size that bolts through one web share with the connection opposite: change it for both"
    )


class Changing(Decided):
    drawing: bool = Field(False, description="with a preview: the drawing of what would stand, too")


class EarlierQuery(Query):
    exact: bool = Field(
        False, description="between the same sections only; else between members of the same kinds, about as deep"
    )


class NewOverride(Changing):
    parameter: str = Field(
        description=(
            "a size of its standard, or `standard`; `actions` in place of the model's, like `V = 26 kip, N = 5 kip`;"
            " `elsewhere`: `none` (no connection here) or `by others`; `collision`: connections of its joint by"
            " name, or `all`, whose collisions with it may stand as deep as they are; `framing` corrects the framing"
            " condition, `support` the supporting member"
        )
    )
    value: str | int | float = Field(
        description="text with a unit, or a number in mm or kN; a standard; a framing condition; a member's name"
    )


class NewChanges(Changing):
    changes: dict[str, str | int | float] = Field(
        {}, max_length=100, description="parameter (or `standard`) -> value, as for an override"
    )
    take: str = Field("", description="the connection whose chosen sizes are taken over, in place of `changes`")
    hold: bool = Field(
        False,
        description="what a ladder climbed stays as it stands: each such size is an override too, with the same reason",
    )


class DecisionForMany(Decided, Chosen):
    changes: dict[str, str | int | float] = Field(
        min_length=1, max_length=100, description="parameter -> value, as for an override"
    )
    skip: bool = Field(
        False, description="leave out the connections of which it cannot be made; else one of them refuses all"
    )


class Review(Body):
    act: Literal["accept", "return", "confirm", "clear"]
    overrides: list[Number] = Field(min_length=1, max_length=20_000)
    word: str = Field("", max_length=4000, description="what is said of it; needed to return")


class OverrideQuery(Query):
    state: str = Field(
        "",
        description=(
            "awaiting, accepted, returned, cleared, holding (awaiting or accepted), or look (asks to be looked at"
            " again)"
        ),
    )
    author: str = ""
    cause: str = ""
    level: str = ""
    where: str = Field("", description="a filter on their connections, as lists take it")
    connection: str = ""
    pattern: str = Field("", max_length=40, description="only on the connections of this pattern, like P1")
    mark: Literal["", "agrees", "worse", "carries"] = ""
    limit: int = Field(5000, ge=1, le=20_000)
    cursor: Number = 0


class LedgerQuery(Query):
    after: Number = Field(0, description="entries numbered above this")
    limit: int = Field(100_000, ge=1, le=1_000_000)


class NewCauses(Body):
    causes: list[str] = Field(
        max_length=100, description="the reasons that the shop's list offers, each at most 80 characters"
    )


class AttachmentPath(OverridePath):
    attachment: Number


class AttachedFile(Query):
    file: FileStorage = Field(description="a sketch, a calculation, a mail; at most 10 MB")


class Alternative(Body):
    name: str = Field("", max_length=200)
    standard: str = Field(
        "",
        description=(
            "sized by its ladder with the shop's practice; empty for the one that stands, with other parameters"
        ),
    )
    parameters: dict[str, str | int | float] = Field({}, max_length=100)


class Alternatives(Body):
    alternatives: list[Alternative] = Field(min_length=1, max_length=6)
