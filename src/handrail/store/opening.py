"""Opens the records and brings them to the newest schema."""

from __future__ import annotations

from pathlib import Path

from peewee import PeeweeException, SqliteDatabase

from handrail.core.errors import InputError
from handrail.store.database import PRAGMAS, proxy
from handrail.store.migrations import migrate
from handrail.store.trouble import trouble

RECORDS = "records.sqlite"  # in the folder of a service


def open_database(path: Path, tidies: bool = True) -> SqliteDatabase:
    """Open (and make) the records at `path`; who does not tidy leaves it to the workers to put what was written into
    the records' own file, as somebody waits for it. Raises TooNew where a later version wrote them, InputError where
    they are damaged or their disk is in trouble."""
    path.parent.mkdir(parents=True, exist_ok=True)
    database = SqliteDatabase(str(path), pragmas=PRAGMAS | ({} if tidies else {"wal_autocheckpoint": 0}))
    proxy.initialize(database)
    try:
        with database.connection_context():
            migrate(database)
    except PeeweeException as exc:
        if (known := trouble(exc)) is None:
            raise
        raise InputError(f"{path}: {known.words}") from exc
    return database
