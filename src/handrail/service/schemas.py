"""What requests take. Numbers are mm, kN, kN*m, MPa and degrees unless they carry a unit."""

from functools import lru_cache
from typing import Annotated, Any, Literal

from flask_openapi3.models.file import FileStorage
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


class RunPath(JobPath):
    run: Number


class ConnectionPath(JobPath):
    connection: str = Field(description="member and end, like B12.i")


class Cell(Query):
    check: int = Field(0, ge=0, le=10_000, description="row of the matrix")
    combination: int = Field(0, ge=0, le=100_000, description="column of the matrix")


class StepPath(JobPath):
    way: Literal["back", "forward"]


class OverridePath(JobPath):
    override: Number


class RolePath(JobPath):
    user: str


class SectionQuery(Query):
    text: str = Field("", description="part of a section's name; case and spaces forgiven")
    limit: int = Field(50, ge=1, le=1000)


class ListQuery(Query):
    where: str = Field("", description="filters, like `status=fail, utilisation>0.9, section~W16`")
    sort: str = Field("connection", description="a field; with - in front for falling order")
    limit: int = Field(100, ge=1, le=5000)
    cursor: Number = Field(0, description="`next` of the page before")


class UserPath(BaseModel):
    user: str


class TokenPath(BaseModel):
    token: Number


class ImportPath(JobPath):
    number: Number


class SignIn(Body):
    name: str
    password: str
    label: str = ""


class SignInForToken(SignIn):
    days: int = Field(90, ge=1, le=730, description="how long the token is good for")


class NewUser(Body):
    name: str = Field(description="at most 64 characters, none that cannot be seen; none that looks like another's")
    password: str = Field(min_length=8)
    admin: bool = False


class NewPassword(Body):
    new: str = Field(min_length=8)


class PasswordChange(NewPassword):
    old: str


class NewRole(Body):
    role: Literal["viewer", "detailer", "engineer", "admin", "none"]


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


class Upload(Query):
    bundle: FileStorage = Field(
        description="the model: a zip or workbook; or several files of other programs' tables, each under this name"
    )
    map: str | None = Field(
        None, description="the column map in TOML that tables are read through; the job's last one where it is left out"
    )
    hold: bool | None = Field(None, description="keep it until somebody has looked at what was understood and says so")


class MapText(Body):
    map: str = Field(description="a column map in TOML")


class MapChoice(Body):
    take: Literal["proposed", "saved", "sent", "house"] = Field(
        description="proposed anew, the job's last, the one sent beside the tables, one of the house's"
    )
    name: str = Field("", description="of the house's map")


class MapChange(Body):
    what: Literal["state", "unit", "table", "key", "column", "held", "try"] = Field(
        description=(
            "held: all that supports hold by the words of the column `name`, `value` a kind of support for each; try:"
            " what statics says"
        )
    )
    table: str = ""
    name: str = Field("", description="of what is stated, the unit, the key or our column")
    value: Any = None
    source: str = Field("", description="what a table is read from, as `called`; empty to leave the table out")
    end: Literal["", "i", "j"] = ""
    spec: dict[str, Any] | None = Field(None, description="a column as the map says it; none to leave it out")
    instead: str = Field("", description="our column that this one takes the place of, like Fy, or Fy at i")


class MapPath(BaseModel):
    name: str = Field(description="of a column map of the house, like frame-report")


class KeptMap(Body):
    text: str = Field(description="a column map in TOML")
    note: str = ""


class Basis(Body):
    edition: Literal["7-22", "7-16"] = "7-22"
    methods: list[Literal["LRFD", "ASD"]] = Field(["LRFD"], min_length=1, max_length=2)
    S_DS: float = Field(0.0, description="design spectral acceleration at short periods, g")
    rho: float = Field(1.0, description="redundancy factor, 1.0 or 1.3")
    omega: float = Field(0.0, description="overstrength factor; 0 makes no overstrength set")
    category: Literal["A", "B", "C", "D", "E", "F"] = Field("B", description="seismic design category")
    one_way: list[str] = Field(
        [], max_length=200, description="wind and seismic cases that are not also taken the other way round"
    )
    service: bool = True


class GivenCombination(Body):
    name: str = Field(min_length=1, max_length=200)
    set: str = Field(min_length=1, max_length=60, description="strength, service, overstrength, or a name of one's own")
    method: Literal["LRFD", "ASD", "none"]
    terms: list[tuple[str, float]] = Field(max_length=200)


class NewCombinations(Body):
    combinations: list[GivenCombination] = Field(min_length=1, max_length=5000)


class GroupPath(JobPath):
    group: str


class GroupOf(Body):
    connections: list[str] = Field([], max_length=200_000)
    where: str = Field("", description="a filter, as lists take it")
    how: Literal["replace", "add", "take"] = "replace"


class PatternEdit(Body):
    beside: str = Field(
        description="the joint whose pattern it goes into; empty takes it out of its own", max_length=200
    )
    reason: str = Field(max_length=2000)


class PatternJointPath(JobPath):
    joint: str


class PatternPath(JobPath):
    pattern: str = Field(description="like P1")


class Slot(Query):
    slot: int = Field(0, ge=0, le=10_000, description="a place of the pattern")


Component = Literal["N", "V", "Vw", "M", "Mw", "T"]


class TwoActions(Slot):
    x: Component = "V"
    y: Component = "N"


class TwoRevisions(Query):
    old: int | None = Field(
        None, ge=1, le=10**9, description="number of a revision; the one before the last unless named"
    )
    new: int | None = Field(None, ge=1, le=10**9, description="number of a revision; the last unless named")


class FindingKey(Query):
    code: str
    node: str = ""
    member: str = ""


class Acknowledgement(Body):
    code: str = Field(min_length=1, max_length=100)
    node: str = Field("", max_length=200)
    member: str = Field("", max_length=200, description="or the combination that the finding is about")
    reason: str = Field(max_length=2000)
    all: bool = Field(False, description="every finding of the code (and cause) that is open")
    cause: str = Field("", max_length=400)


class RulebookText(Body):
    text: str
    files: dict[str, str] = Field({}, max_length=50, description="CSV files that its tables are in, by name")


class NewRulebook(RulebookText):
    name: str = Field("", max_length=200, description="what this revision is called, or is for")


class TriedRulebook(RulebookText):
    compare: bool = Field(True, description="also what would be otherwise than now")


class TriedOn(RulebookText):
    text: str = ""
    connection: str = Field(max_length=400)
    table: str = Field("", max_length=60, description="the row that it has for the connection")
    formula: str = Field("", max_length=400, description="what it gives for the connection, like = 2 * ceil(rows / 2)")
    rule: str = Field("", max_length=300, description="what of its conditions holds")


class RuleMove(Body):
    rule: int = Field(ge=0, le=500, description="of its own rules, from 0")
    to: int = Field(ge=0, le=500)


class RuleLike(Body):
    connection: str = Field(max_length=400)
    free: list[str] = Field([], max_length=100, description="sizes that the ladder may climb")
    sections: bool = Field(True, description="between the same sections; else between the same kinds of section")


class TableCell(Body):
    table: str = Field(max_length=60)
    row: int = Field(ge=0, le=5000)
    column: str = Field(max_length=100)
    value: str = Field(max_length=200)


class RulebookEdit(RulebookText):
    move: RuleMove | None = None
    like: RuleLike | None = None
    default: str | None = Field(
        None,
        max_length=100,
        description="what practice says: bolt, by use bolts.moment, of one standard double_angle.bolt",
    )
    cell: TableCell | None = None


class RulebookBack(Body):
    number: int = Field(0, ge=0, le=10**9, description="of the revision; 0 for the one before")
    name: str = Field("", max_length=200)


class HousePath(BaseModel):
    name: str = Field(description="of a rulebook of the house, like shop-practice")


class HouseRevisionPath(HousePath):
    number: Number


class HouseRulebook(RulebookText):
    note: str = Field("", max_length=2000, description="what this revision is for, or what is new in it")


class HouseReview(Body):
    state: Literal["approved", "retired"]


class RulebookRevisionPath(JobPath):
    number: Number


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


class Decided(Body):
    reason: str = Field("", max_length=20_000)
    cause: str = Field(
        "", max_length=80, description="one of the shop's list of reasons; with it the text may be left out"
    )
    preview: bool = Field(False, description="show before and after, keep nothing")
    both: bool = Field(
        False, description="of a size that bolts through one web share with the connection opposite: change it for both"
    )


class EarlierQuery(Query):
    exact: bool = Field(
        False, description="between the same sections only; else between members of the same kinds, about as deep"
    )


class SweepOf(Body):
    values: list[dict[str, Any]] = Field(
        min_length=1,
        max_length=20,
        description=(
            "parameters with their values, each a list, `start .. limit by step` or one "
            "value; what is in one entry moves together; the first entry goes fastest"
        ),
    )
    order: str = "as_written"
    stop: str = Field("all", description="first: at the first that passes; all of them")
    parameters: dict[str, str | int | float] = Field(
        {}, max_length=100, description="what else is otherwise than it stands, formulas too"
    )


class NewOverride(Decided):
    parameter: str = Field(
        description=(
            "a size of its standard, or `standard`; `actions` in place of the model's, like `V = 26 kip, N = 5 kip`;"
            " `elsewhere`: `none` (no connection here) or `by others`; `framing` corrects the framing condition,"
            " `support` the supporting member"
        )
    )
    value: str | int | float = Field(
        description="text with a unit, or a number in mm or kN; a standard; a framing condition; a member's name"
    )


class NewChanges(Decided):
    changes: dict[str, str | int | float] = Field(
        {}, max_length=100, description="parameter (or `standard`) -> value, as for an override"
    )
    take: str = Field("", description="the connection whose chosen sizes are taken over, in place of `changes`")
    hold: bool = Field(
        False,
        description="what a ladder climbed stays as it stands: each such size is an override too, with the same reason",
    )


class Chosen(Body):
    """Connections: by name, by a filter, or those of a pattern (all, or those at one of its places)."""

    connections: list[str] = Field([], max_length=20_000)
    where: str = Field("", description="a filter, as lists take it, like `group=stair core, status=fail`")
    pattern: str = Field("", max_length=40, description="like P1")
    slot: int | None = Field(None, ge=0, le=10_000, description="one place of the pattern")


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


class Labels(Chosen):
    add: list[str] = Field([], max_length=20, description="tags to put on")
    remove: list[str] = Field([], max_length=20, description="tags to take off")
    person: str | None = Field(None, description="who works on them; empty for nobody")
    sequence: str | None = Field(None, description="in which they are erected; empty for none")


class Comment(Body):
    words: str = Field(max_length=8000)


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


class TablePath(JobPath):
    kind: str = Field(description="csv or xlsx")


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


class Reason(Body):
    reason: str = ""


class TrialBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    trace: bool = False
    units: Literal["si", "us"] = "si"


class ScheduleQuery(Query):
    where: str = Field("", max_length=20_000, description="only these connections")


class SweepBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    sweep: dict[str, Any] = Field(
        description="values, order and stop, as in `handrail sweep FILE`; the rest of the body is a trial"
    )
    units: Literal["si", "us"] = "si"


class CapacityBody(BaseModel):
    model_config = ConfigDict(extra="allow")
    standard: str
    framing: str
    sections: str | list[str] = Field(description="names with * and ?, between commas or as a list")
    units: Literal["si", "us"] = "si"
