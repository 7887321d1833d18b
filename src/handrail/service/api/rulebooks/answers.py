"""What the API answers of rulebooks: as they are written, what they would make of a building, and why."""

from pydantic import BaseModel, Field

from handrail.service.api.answers import System


class RuleTaken(BaseModel):
    name: str
    takes: int
    line: int = Field(description="in the rulebook that it is written in")
    origin: str = Field(
        description="the rulebook of the house that it is inherited from, like shop-practice R2; empty for its own"
    )


class RulebookRule(RuleTaken):
    use: str
    when: list[str] = Field(description="the conditions, as they are written")
    note: str


class AlsoRule(RuleTaken):
    takes: int = Field(description="to how many connections it adds")
    when: list[str] = Field(description="the conditions, as they are written")
    adds: str = Field(description="what it adds, in words")
    note: str


class TableKey(BaseModel):
    name: str
    match: str
    is_fact: bool


class RulebookTable(BaseModel):
    name: str
    keys: list[TableKey]
    columns: list[str] = Field(description="with their units")
    rows: list[list[str]] = Field(description="keys first, then the other columns")
    file: str = Field(description="the CSV file that it is in; empty where it stands in the text")


class RulebookRevision(BaseModel):
    number: int
    name: str
    inherits: str
    author: str
    made: str


class WrittenRevision(RulebookRevision):
    text: str
    files: dict[str, str]


class Rulebook(BaseModel):
    text: str
    files: dict[str, str] = Field(description="CSV files that its tables are in, by name")
    version: int
    name: str = Field(description="of this revision")
    author: str
    made: str
    inherits: str
    target: float
    rules: list[RulebookRule]
    also: list[AlsoRule] = Field(description="what adds to whichever rule took a connection, in order")
    tables: list[RulebookTable]


class PracticeOf(BaseModel):
    parameter: str
    standard: str
    label: str
    help: str
    text: str = Field(description="as it is now")
    source: str = Field(
        description="practice, by use or of one standard, perhaps of a rulebook of the house; or default"
    )
    said: str = Field(
        description=(
            "the entry of this rulebook's own practice that says it; empty where it is at its default or inherited"
        )
    )
    default: str = Field(description="without shop practice; empty where it follows from other sizes")


class RulebookSaid(BaseModel):
    practice: list[PracticeOf]
    tables: list[RulebookTable]


class RuledSide(BaseModel):
    status: str
    standard: str
    rule: str
    summary: str
    utilisation: float
    reason: str


class RuledChange(BaseModel):
    connection: str
    before: RuledSide
    after: RuledSide


class RuledComparison(BaseModel):
    touched: int = Field(description="connections that rest on something else then")
    changed: int
    newly_pass: int
    newly_fail: int
    newly_unchecked: int = Field(description="unchecked then, and not now")
    resized: int = Field(description="other sizes or another standard, judged the same")
    statuses_before: dict[str, int]
    statuses_after: dict[str, int]
    before: dict[str, float] = Field(
        description="of all connections: field_bolts, shop_bolts, rods, steel and weld in kg"
    )
    after: dict[str, float]
    system: System
    connections: list[RuledChange] = Field(description="the first 500; what newly fails first")


class UnresolvedSize(BaseModel):
    connection: str
    why: str


class ShadowedRule(BaseModel):
    name: str
    by: dict[str, int] = Field(description="earlier rule -> how many it takes that this one would")


class Nameless(BaseModel):
    where: str = Field(description="the rule, or the table")
    fact: str
    name: str
    near: str = Field(description="the nearest that there is; empty where none is near")


class RulebookTried(BaseModel):
    rules: list[RuleTaken]
    also: list[AlsoRule]
    never: list[str]
    nameless: list[Nameless] = Field(
        [],
        description=(
            "names that are asked for and that nothing in the building has: sections, levels, groups and the like"
        ),
    )
    shadowed: list[ShadowedRule] = Field(
        description="of the rules that never fire, those whose connections earlier rules take"
    )
    uncovered: list[str] = Field(
        description="the first 500 connections, of framing conditions that there are standards for, that no rule takes"
    )
    uncovered_total: int
    unresolved: list[UnresolvedSize] = Field(
        description="the first 500 for which a table has no row, or a formula no value"
    )
    unresolved_total: int
    compared: RuledComparison | None


class FailingCondition(BaseModel):
    asked: str = Field(description="the condition, as it is written")
    has: str = Field(description="what the connection has instead")


class MetRule(BaseModel):
    rule: str
    line: int
    origin: str
    note: str
    took: bool
    failing: list[FailingCondition]


class MetAlso(MetRule):
    took: bool = Field(description="whether it adds something")
    adds: str = Field(description="what it adds, in words")


class SizeSource(BaseModel):
    parameter: str
    text: str
    source: str
    formula: str
    values: dict[str, str] = Field(description="what the formula works with")


class WhyRule(BaseModel):
    connection: str
    rule: str
    reason: str
    standard: str
    chosen: str = Field(description="where a person chose the standard, whatever the rules say")
    met: list[MetRule] = Field(description="the rules in their order, up to the one that took it")
    also: list[MetAlso] = Field(description="the also-rules in their order; a later one holds over an earlier one")
    target: float = Field(description="what sizing it aims at")
    sizes: list[SizeSource]
    facts: dict[str, str]


class TableRow(BaseModel):
    key: str
    cells: dict[str, str]


class TriedOnConnection(BaseModel):
    why: WhyRule
    value: str | None = None
    values: dict[str, str] = {}
    rows: list[str] = []
    row: TableRow | None = None
    rule: MetRule | None = None
    none: str = Field("", description="why there is no value or no row")


class RulebookDifference(BaseModel):
    what: str
    name: str
    was: str
    now: str


class DifferingRulebooks(BaseModel):
    old: str
    new: str
    differences: list[RulebookDifference]
    lines: str = Field(description="as a unified diff")


class FactOf(BaseModel):
    name: str
    kind: str
    help: str
    example: str
    choices: list[str]


class RulebookWord(BaseModel):
    name: str
    help: str
    example: str = ""


class RulebookLanguage(BaseModel):
    facts: list[FactOf]
    functions: list[RulebookWord]
    uses: list[RulebookWord] = Field(description="what practice can say by what it is for")
    keys: dict[str, list[str]] = Field(description="what a rulebook, a rule, a table and a ladder take")
    parameters: dict[str, list[str]] = Field(description="standard -> its parameters")


class RunChanged(BaseModel):
    run: int
    counts: dict[str, int] = Field(
        description=(
            "from one status to another, like fail to pass; where it is the same `resized`, or `moved`: only used"
            " otherwise"
        )
    )
    items: list[RuledChange]
    kept: bool = Field(description="false where the run is too old: what it changed is not kept any more")


class EditedRulebook(BaseModel):
    text: str
    files: dict[str, str]
