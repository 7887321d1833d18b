"""Numbered steps from an empty file to the newest schema; each is done once, in one transaction."""

from __future__ import annotations

from collections.abc import Callable

from peewee import SqliteDatabase, fn

from handrail.core.errors import InputError
from handrail.store import alike, ledger, models, proving, revisions, sheets


def _first(database: SqliteDatabase) -> None:
    database.create_tables(models.TABLES)
    database.execute_sql("alter table connectionrow rename to connection")  # as it was called until there were sheets
    _only_grows(database)


def _only_grows(database: SqliteDatabase) -> None:
    """The ledger is never changed, except that it goes with its job."""
    for event in ("update", "delete"):
        database.execute_sql(
            f"create trigger ledger_no_{event} before {event} on ledger "
            "when exists (select 1 from job where id = old.job_id) "
            "begin select raise(abort, 'the ledger is append-only'); end"
        )


def _column(database: SqliteDatabase, table: str, name: str, kind: str) -> None:
    """Add a column; records that are made now have it from the first step."""
    if name not in {row[1] for row in database.execute_sql(f'pragma table_info("{table}")')}:
        database.execute_sql(f'alter table "{table}" add column {name} {kind}')


def _places(database: SqliteDatabase) -> None:
    """Overrides know where the member's end stood that they were made for."""
    _column(database, "override", "place", "text")


def _tokens(database: SqliteDatabase) -> None:
    """Revisions have a name that is never used again, whatever is deleted."""
    _column(database, "revision", "token", "varchar(255) not null default ''")


def _rows(database: SqliteDatabase) -> None:
    """Members row by row, what a connection touches, how it is drawn and listed: a page needs no whole building."""
    for table, name, kind in (
        ("revision", "system", "varchar(255) not null default 'us'"),
        ("revision", "joints", "integer not null default 0"),
        ("revision", "connections", "integer not null default 0"),
        ("revision", "head", "blob not null default ''"),
        ("revision", "drawn", "blob not null default ''"),
        ("memberforces", "facts", "text not null default '{}'"),
        ("connection", "at", "text not null default '{}'"),
        ("connection", "joint_number", "integer not null default 0"),
        ("connection", "summary", "text not null default ''"),
        ("connection", "brief", "text not null default '{}'"),
        ("connection", "remedy", "text not null default ''"),
        ("job", "takes", "text not null default '{}'"),
    ):
        _column(database, table, name, kind)
    for name in ("joint_number", "status", "utilisation"):
        database.execute_sql(
            f'create index if not exists "connection_job_id_{name}" on "connection" ("job_id", "{name}")'
        )
    database.execute_sql("create index if not exists ledger_job_connection on ledger (job_id, connection)")
    database.execute_sql(
        "create index if not exists connection_no_remedy on connection (id) where status = 'fail' and remedy = '' and"
        " digest != ''"
    )


def _works(database: SqliteDatabase) -> None:
    """Runs under a lease, imports beside them; tokens that expire, sessions kept here, wrong passwords counted, people
    removed."""
    for table, name, kind in (
        ("run", "owner", "varchar(255) not null default ''"),
        ("run", "beat", "real not null default 0"),
        ("run", "tries", "integer not null default 0"),
        ("token", "session", "integer not null default 0"),
        ("token", "expires", "varchar(255) not null default ''"),
        ("token", "used", "varchar(255) not null default ''"),
        ("user", "removed", "integer not null default 0"),
    ):
        _column(database, table, name, kind)
    database.create_tables([models.Import, models.Wrong], safe=True)
    database.execute_sql('create index if not exists "run_state" on "run" ("state")')


def _stopping(database: SqliteDatabase) -> None:
    """A run is stopped by its state alone."""
    if "cancel" in {row[1] for row in database.execute_sql('pragma table_info("run")')}:
        database.execute_sql('alter table "run" drop column "cancel"')


def _moves(database: SqliteDatabase) -> None:
    """Every change of a job is counted, so that whoever looks sees at a glance whether to look again."""
    _column(database, "job", "moves", "integer not null default 0")
    database.execute_sql(
        "update revision set token = lower(hex(randomblob(12))) where token = ''"
    )  # of before there were names


def _bases(database: SqliteDatabase) -> None:
    """Bases are checked: what stands at them is kept beside their connections, made from the model again."""
    database.execute_sql("update revision set head = ''")


def _maps(database: SqliteDatabase) -> None:
    """Models of other programs come in through a column map; findings of the audit are acknowledged."""
    for table in ("import", "job"):
        _column(database, table, "column_map", "text not null default ''")
    database.create_tables([models.Acknowledged], safe=True)


def _grids(database: SqliteDatabase) -> None:
    """Joints are known by their places on the grid too; what is drawn is made again from the model."""
    for name in ("place", "level"):
        _column(database, "connection", name, "varchar(255) not null default ''")
    database.execute_sql("update revision set head = ''")


def _sets(database: SqliteDatabase) -> None:
    """A job names the set of combinations that it is designed for, a run the one that it checked; groups that people
    make."""
    for table, name, kind in (
        ("job", "combination_set", "varchar(255) not null default 'strength'"),
        ("run", "combination_set", "varchar(255) not null default ''"),
        ("run", "only", "text not null default '[]'"),
        ("run", "found", "text not null default '[]'"),
    ):
        _column(database, table, name, kind)
    database.create_tables([models.Group, models.GroupMember, models.PatternEdit], safe=True)


def _steps(database: SqliteDatabase) -> None:
    """People go back and forward through their own changes."""
    database.create_tables([models.Step], safe=True)


def _decisions(database: SqliteDatabase) -> None:
    """Decisions are reviewed and know what they rest on; the ledger is chained; releases, comments, tags, progress,
    views."""
    text, words = "text not null default ''", "varchar(255) not null default ''"
    for table, name, kind in (
        ("job", "tolerance", "real not null default 0.05"),
        ("job", "noted", "integer not null default -1"),
        ("job", "look_due", "integer not null default 1"),
        ("revision", "gone", "text not null default '[]'"),
        ("connection", "tags", "text not null default '[]'"),
        *(("connection", name, words) for name in ("sequence", "person", "released", "released_at")),
        ("connection", "was", "text"),
        ("connection", "remedies", "text not null default '[]'"),
        *(("override", name, words) for name in ("cause", "reviewer", "reviewed")),
        ("override", "word", text),
        ("override", "grounds", "text"),
        ("override", "present", "text"),
        ("override", "look", "text not null default '[]'"),
        ("override", "replaces", "integer"),
        ("ledger", "number", "integer not null default 0"),
        ("ledger", "parameter", words),
        ("ledger", "data", "text not null default '{}'"),
        ("ledger", "previous", words),
        ("ledger", "digest", words),
    ):
        _column(database, table, name, kind)
    database.create_tables([models.Attachment, models.Event, models.Progress, models.View], safe=True)
    for event in ("update", "delete"):
        database.execute_sql(f"drop trigger if exists ledger_no_{event}")
    ledger.chain_old()
    _only_grows(database)
    database.execute_sql("create unique index ledger_in_order on ledger (job_id, number)")
    database.execute_sql(
        "create trigger release_falls after update on connection when old.released != '' and new.released ="
        " old.released and (new.status not in ('pass', 'elsewhere') or new.standard is not old.standard or new.sizes is"
        " not old.sizes) begin update connection set released = '', released_at = '' where id = new.id; insert into"
        " event (job_id, connection, kind, words, author, made, place, gone, after) values (new.job_id, new.key,"
        " 'fell', 'released by ' || old.released || '; fell because ' || case when new.status not in ('pass',"
        " 'elsewhere') then 'it is ' || new.status || case new.reason when '' then '' else ': ' || new.reason end else"
        " 'it was sized otherwise' end, '', strftime('%Y-%m-%dT%H:%M:%SZ', 'now'), json_extract(new.facts, '$.place'),"
        " 0, (select coalesce(max(number), 0) from ledger where job_id = new.job_id)); end"
    )


def _rulebooks(database: SqliteDatabase) -> None:
    """Rulebooks are kept by revisions; the house has its own; marks are kept, and what runs changed."""
    _column(database, "job", "rulebook_files", "text not null default '{}'")
    database.create_tables([models.RulebookRevision, models.House, models.Mark, models.RunChanges], safe=True)
    for table, name, kind in (
        ("run", "started", "real not null default 0"),
        ("import", "started", "real not null default 0"),
        ("run", "changed", "integer"),
    ):
        _column(database, table, name, kind)
    database.execute_sql(
        "insert into rulebookrevision (job_id, number, name, text, files, inherits, author, made) select id,"
        " rulebook_version, '', rulebook, '{}', '', '', strftime('%Y-%m-%dT%H:%M:%SZ', 'now') from job where rulebook"
        " != '' and rulebook_version > 0"
    )


def _verdicts(database: SqliteDatabase) -> None:
    """A verdict is by 1.00, whoever chose the sizes; what passes over the target says so."""
    _column(database, "connection", "over_target", "integer not null default 0")
    database.execute_sql(
        "update revision set head = ''"
    )  # bases know their storey, splices what is clear between the beams


def _places_beside(database: SqliteDatabase) -> None:
    """A part of a building knows its grid lines and levels."""
    database.execute_sql("update revision set head = ''")


def _living(database: SqliteDatabase) -> None:
    """Releases live through revisions: one falls where steel or verdict are otherwise, and says what was and what
    is."""
    for table, name, kind in (
        ("connection", "remarks", "text not null default '[]'"),
        ("connection", "broken", "text not null default ''"),
        ("connection", "fell", "text not null default ''"),
        ("connection", "verified", "text"),
        ("connection", "last", "varchar(255) not null default ''"),
        ("event", "sealed", "integer not null default 1"),
        ("run", "fresh", "integer not null default 0"),
        ("run", "shifted", "integer not null default 0"),
    ):
        _column(database, table, name, kind)
    database.execute_sql("drop trigger if exists release_falls")
    database.execute_sql(
        "create trigger release_falls after update on connection when old.released != '' and new.released ="
        f" old.released and ({' or '.join(f'({when})' for when, _ in _FALLS)}) begin update connection set released ="
        f" '', released_at = '', fell = {_WHY} where id = new.id; insert into event (job_id, connection, kind, words,"
        f" author, made, place, gone, after, sealed) values (new.job_id, new.key, 'fell', {_WHY}, '',"
        " strftime('%Y-%m-%dT%H:%M:%SZ', 'now'), json_extract(new.facts, '$.place'), 0, (select coalesce(max(number),"
        " 0) from ledger where job_id = new.job_id), 0); end"
    )
    database.execute_sql("create index if not exists event_open on event (job_id) where kind = 'fell' and not sealed")
    database.create_tables([models.Closed], safe=True)
    ledger.seal_old()
    proving.seal_old()


_FALLS = (  # when a release falls, and what is said of it
    (
        "new.status not in ('pass', 'elsewhere')",
        "'it is ' || new.status || iif(new.reason = '', '', ': ' || new.reason)",
    ),
    ("new.framing is not old.framing", "'it is framed otherwise: ' || new.framing"),
    (
        "(new.section, new.support_section) is not (old.section, old.support_section)",
        (
            "'its members are other ones: ' || new.section || ' on ' || new.support_section || ', ' || old.section || '"
            " on ' || old.support_section || ' then'"
        ),
    ),
    ("new.standard is not old.standard or new.sizes is not old.sizes", "'it was sized otherwise'"),
    ("new.over_target and not old.over_target", "'it is used over the target'"),
)
_SIDE = "{0}.status || iif({0}.status in ('pass', 'fail'), printf(' %.3f', {0}.utilisation), '')"
_WHY = (
    "'released by ' || old.released || '; fell because ' || case "
    + " ".join(f"when {when} then {words}" for when, words in _FALLS)
    + " end || '; then ' || "
    + _SIDE.format("old")
    + " || ', now ' || "
    + _SIDE.format("new")
)


def _house_maps(database: SqliteDatabase) -> None:
    """Column maps above the jobs."""
    database.create_tables([models.HouseMap], safe=True)


def _pieces(database: SqliteDatabase) -> None:
    """Connections say which members they have by role, and what they have to do with others; made from the model
    again."""
    for name in ("pieces", "relations"):
        _column(database, "connection", name, "text not null default '[]'")
    database.execute_sql("update revision set head = ''")


def _columns(database: SqliteDatabase) -> None:
    """What a connection's result is, in columns of its own: why it is stale, how and by what it was made, whether it
    asks to be looked at."""
    for name, kind in (
        ("stale", "text not null default ''"),
        ("made", "varchar(255) not null default ''"),
        ("engine", "varchar(255) not null default ''"),
        ("less", "text not null default ''"),
        ("asks", "integer not null default 0"),
    ):
        _column(database, "connection", name, kind)
    database.execute_sql("update connection set stale = substr(reason, 8) where reason like 'stale: %'")
    database.execute_sql(
        "update connection set engine = substr(digest, 1, instr(digest, ':') - 1), made = case when digest like"
        " '%:stand:%' then 'verified' when digest like '%:size:%' then 'sized' else 'none' end where digest like '%:%'"
    )
    asks = "what it was said of has changed, look at it again: "
    database.execute_sql(
        "update connection set asks = 1 where status = 'unchecked' and substr(reason, 1, ?) = ?", (len(asks), asks)
    )


def _sheets(database: SqliteDatabase) -> None:
    """Connections stand on a sheet of their job, beside which another one can be prepared."""
    for table, name, kind in (
        ("connection", "of", "integer not null default 0"),
        ("connection", "sheet", "integer not null default 0"),
        ("job", "sheet", "integer not null default 0"),
        ("job", "copying", "integer not null default 0"),
        ("runchanges", "packed", "blob not null default ''"),
    ):
        _column(database, table, name, kind)
    of_table = "select name from sqlite_master where type = 'index' and tbl_name = 'connection' and sql is not null"
    for (name,) in database.execute_sql(of_table).fetchall():
        database.execute_sql(f'drop index "{name}"')
    database.execute_sql("drop trigger release_falls")
    database.execute_sql("alter table connection rename to connectionrow")
    database.execute_sql("update connectionrow set of = id")
    database.create_tables([models.ConnectionRow, models.Touched], safe=True)
    database.execute_sql(
        "create index connectionrow_wants on connectionrow (job_id, sheet) where remedy = '' and digest != '' and"
        " (status = 'fail' or (status = 'pass' and over_target) or (status = 'unchecked' and standard != ''))"
    )
    held = database.execute_sql("select group_id, connection_id from groupmember").fetchall()
    database.execute_sql("drop table groupmember")
    database.create_tables([models.GroupMember])
    for row in held:
        database.execute_sql("insert into groupmember (group_id, connection_id) values (?, ?)", row)
    sheets.make_watch(database)
    falls = f"old.released != '' and new.released = old.released and ({' or '.join(f'({when})' for when, _ in _FALLS)})"
    database.execute_sql(
        f"create trigger release_falls after update on connectionrow when {falls} begin update connectionrow set"
        f" released = '', released_at = '', fell = {_WHY} where id = new.id; end"
    )
    database.execute_sql(
        f"create trigger release_fell after update on connectionrow when {falls} and new.sheet = (select sheet from job"
        " where id = new.job_id) begin insert into event (job_id, connection, kind, words, author, made, place, gone,"
        f" after, sealed) values (new.job_id, new.key, 'fell', {_WHY}, '', strftime('%Y-%m-%dT%H:%M:%SZ', 'now'),"
        " json_extract(new.facts, '$.place'), 0, (select coalesce(max(number), 0) from ledger where job_id ="
        " new.job_id), 0); end"
    )


def _counts(database: SqliteDatabase) -> None:
    """What is counted of every connection again and again, read without the rows themselves."""
    database.execute_sql(
        "create index if not exists connectionrow_counted on connectionrow (job_id, sheet, level, sequence, person,"
        " elevation, status, over_target, overridden, released, stale, remarks, fell, tags, framing, key)"
    )


def _alike(database: SqliteDatabase) -> None:
    """Texts that connections have alike are kept once; members' forces are packed from now on."""
    database.create_tables([models.Alike], safe=True)
    if "packed" not in {c.name for c in database.get_columns("memberforces")}:
        database.execute_sql("alter table memberforces add column packed integer not null default 0")
        database.execute_sql("alter table memberforces add column about blob not null default x''")
    triggers = database.execute_sql(
        "select name, sql from sqlite_master where type = 'trigger' and tbl_name = 'connectionrow'"
    )
    kept = triggers.fetchall()
    for name, _ in kept:  # nothing of it is otherwise for being kept otherwise
        database.execute_sql(f"drop trigger {name}")
    known: dict[str, str] = {}
    database.register_function(lambda text: known[text], "number_of_text", 1)
    for column in alike.COLUMNS:
        texts = [t for (t,) in database.execute_sql(f"select distinct {column} from connectionrow")]
        known.update(alike.numbers_of(t for t in texts if not t.isdigit()))
        long = f"length({column}) > {alike.SHORT} and {column} not glob '[0-9]*'"
        database.execute_sql(f"update connectionrow set {column} = number_of_text({column}) where {long}")
    database.unregister_function("number_of_text")
    for _, statement in kept:
        database.execute_sql(statement)


def _collisions(database: SqliteDatabase) -> None:
    """What of a connection stands in others of its joint."""
    if "collides" not in {c.name for c in database.get_columns("connectionrow")}:
        database.execute_sql("alter table connectionrow add column collides text not null default '[]'")
        database.execute_sql("update revision set head = ''")  # beams on two sides of a web are related, in any line


def _firm(database: SqliteDatabase) -> None:
    """What title blocks say of the firm."""
    if "firm" not in {c.name for c in database.get_columns("job")}:
        database.execute_sql("alter table job add column firm text not null default ''")


def _transmittals(database: SqliteDatabase) -> None:
    """What leaves the house is kept as it was."""
    database.create_tables([models.Transmittal, models.Sent], safe=True)


def _profiles(database: SqliteDatabase) -> None:
    """How the house prints."""
    database.create_tables([models.Profile], safe=True)


def _queries(database: SqliteDatabase) -> None:
    """What is asked of the engineer of record."""
    database.create_tables([models.Query], safe=True)


def _outputs(database: SqliteDatabase) -> None:
    """Maps of the house are also such as rows are written by."""
    _column(database, "housemap", "way", "varchar(255) not null default 'in'")


def _designs(database: SqliteDatabase) -> None:
    """Designs of the house."""
    database.create_tables([models.HouseDesign], safe=True)


def _entries(database: SqliteDatabase) -> None:
    """What the house has beside the shipped tables; connections know how long their members are."""
    database.create_tables([models.HouseEntry], safe=True)
    database.execute_sql("update revision set head = x''")  # made again from the model


def _design_files(database: SqliteDatabase) -> None:
    """Files of designs of the house; what they are in mm."""
    _column(database, "housedesign", "summary_si", "text not null default ''")
    database.create_tables([models.DesignFile], safe=True)


STEPS: tuple[Callable[[SqliteDatabase], None], ...] = (
    _first,
    _places,
    _tokens,
    _rows,
    _works,
    _stopping,
    _moves,
    _bases,
    _maps,
    _grids,
    _sets,
    _steps,
    _decisions,
    _rulebooks,
    _verdicts,
    _places_beside,
    _living,
    _house_maps,
    _pieces,
    _columns,
    _sheets,
    _counts,
    _alike,
    _collisions,
    _firm,
    _transmittals,
    _profiles,
    _queries,
    _outputs,
    _designs,
    _entries,
    _design_files,
)


class TooNew(InputError):
    """The records were written by a later version."""


def migrate(database: SqliteDatabase) -> None:
    """Bring the records to the newest schema. Raises TooNew."""
    with database.atomic("IMMEDIATE"):
        database.execute_sql("create table if not exists schema_step (step integer not null)")
        row = database.execute_sql("select max(step) from schema_step").fetchone()
        at = row[0] or 0
        if at > len(STEPS):
            raise TooNew(f"these records are of schema {at}; this version knows {len(STEPS)}. Use the newer version.")
        for number in range(at, len(STEPS)):
            STEPS[number](database)
            database.execute_sql("insert into schema_step values (?)", (number + 1,))
        if at < len(STEPS):
            sheets.make_view(database)
        for revision in models.Revision.select(models.Revision.id).where(
            fn.LENGTH(models.Revision.head) == 0
        ):  # by the newest schema only
            revisions.renew(revision.id)
