"""What requests about this subject take. Numbers as in `api/requests`."""

from typing import Literal

from pydantic import Field

from handrail.service.api.requests import Body, JobPath, Number


class RunPath(JobPath):
    run: Number


class NewJob(Body):
    name: str = Field(description="small letters, digits and hyphens")
    title: str = ""
    code: str = "AISC 360-22"
    method: Literal["LRFD", "ASD"] = "LRFD"
    rulebook: str = Field(
        "", max_length=80, description="an approved rulebook of the house that it starts from, like shop-practice R2"
    )


class JobChange(Body):
    title: str | None = None
    firm: str | None = Field(
        None, max_length=400, description="what title blocks say of it, line by line: name, address, registration"
    )
    code: str | None = None
    method: Literal["LRFD", "ASD"] | None = None
    combination_set: str | None = Field(
        None,
        min_length=1,
        max_length=60,
        description="the set of combinations that results are by; strength unless set",
    )
    tolerance: float | None = Field(
        None,
        ge=0,
        le=1,
        description="how far actions (a share) and utilisation may move before decisions ask for a look",
    )
    anyway: bool = Field(
        False,
        description=(
            "also where the model has no combinations that connections could be judged by then; else that is refused,"
            " in words"
        ),
    )


class NewRun(Body):
    where: str = ""
    pattern: str = Field(
        "", max_length=40, description="in place of a filter: the connections of this pattern, like P1"
    )
    verify: bool = Field(False, description="check sizes as they stand; else climb the ladders")
    combination_set: str = Field(
        "",
        max_length=60,
        description="another set than the job's: sizes are looked at as they stand, and no result is changed",
    )
    only: list[str] = Field([], max_length=500, description="single combinations of the set: looked at in the same way")
