"""Opens the records and brings them to the newest schema."""

from __future__ import annotations

from pathlib import Path

from peewee import SqliteDatabase

from handrail.store.database import PRAGMAS, proxy
from handrail.store.migrations import migrate


def open_database(path: Path) -> SqliteDatabase:
    """Open (and make) the records at `path`. Raises TooNew where a later version wrote them."""
    path.parent.mkdir(parents=True, exist_ok=True)
    database = SqliteDatabase(str(path), pragmas=PRAGMAS)
    proxy.initialize(database)
    with database.connection_context():
        migrate(database)
    return database
