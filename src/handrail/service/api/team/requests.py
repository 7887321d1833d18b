"""What requests about this subject take. Numbers as in `api/requests`."""

from pydantic import Field

from handrail.service.api.requests import Body, Chosen, JobPath, Query


class Labels(Chosen):
    add: list[str] = Field([], max_length=20, description="tags to put on")
    remove: list[str] = Field([], max_length=20, description="tags to take off")
    person: str | None = Field(None, description="who works on them; empty for nobody")
    sequence: str | None = Field(None, description="in which they are erected; empty for none")


class Comment(Body):
    words: str = Field(max_length=8000)


class ShopNote(Chosen):
    words: str = Field(max_length=400, description="what the shop may alter, and how; empty takes it back")


class Release(Chosen):
    word: str = Field("", max_length=4000, description="what is said of it; needed to withdraw")
    withdraw: bool = False
    skip: bool = Field(False, description="leave out those that cannot be released; else one of them refuses all")


class ViewPath(JobPath):
    view: str


class ViewOf(Body):
    where: str = Field("", max_length=2000, description="filters, as lists take them")
    find: str = Field("", max_length=200, description="words that the console looks for in every column")
    sort: str = "connection"
    columns: list[str] = Field([], max_length=60)
    group: str = Field("", description="the field that rows are grouped by; empty for none")


class TableQuery(Query):
    where: str = Field("", description="filters, as lists take them")
    find: str = Field("", max_length=200, description="words that some column has, in small or capital letters")
    sort: str = "connection"
    columns: str = Field("", description="names of columns between commas; all where it is left out")


class ReserveQuery(Query):
    below: float = Field(0.5, gt=0, le=1, description="only connections that are used less than this")
    where: str = Field("", description="filters, as lists take them")


class RevisedQuery(Query):
    what: str = Field(
        "",
        description=(
            "only these: stands, resized, passes now, fails, still fails, stale, unchecked, unassigned, elsewhere, new,"
            " gone"
        ),
    )
