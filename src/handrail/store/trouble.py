"""What is wrong with the records or their disk, in words that say what to do."""

from __future__ import annotations

import errno
import sqlite3
from dataclasses import dataclass

from peewee import PeeweeException


@dataclass(frozen=True)
class Trouble:
    """`status` is the answer's over HTTP: 503 where it may pass by itself or somebody must mend it, 507 where space is
    missing."""

    status: int
    words: str


FULL = Trouble(
    507,
    "the disk that holds the records is full: free some space and try again. Nothing of this was kept; reading"
    " goes on.",
)
READ_ONLY = Trouble(
    503,
    "the records cannot be written (a read-only folder or file): mend its permissions and try again. Nothing of this"
    " was kept; reading goes on.",
)
BUSY = Trouble(
    503,
    "the records are being written by others for longer than usual: try again in a moment. Nothing of this was kept.",
)
DAMAGED = Trouble(
    503,
    "the records are damaged: stop the service and put a backup back with `handrail restore FILE --replace`; the"
    " damaged ones are set aside.",
)
UNREADABLE = Trouble(
    503, "the records cannot be opened: see that their folder is there and is the service's own, and try again."
)
_WORDS = (
    ("disk is full", FULL),
    ("readonly", READ_ONLY),
    ("read-only", READ_ONLY),
    ("locked", BUSY),
    ("busy", BUSY),
    ("malformed", DAMAGED),
    ("not a database", DAMAGED),
    ("corrupt", DAMAGED),
    ("disk i/o error", DAMAGED),
    ("unable to open", UNREADABLE),
    ("no such table", DAMAGED),
)
_NUMBERS = {
    errno.ENOSPC: FULL,
    errno.EDQUOT: FULL,
    errno.EROFS: READ_ONLY,
    errno.EACCES: READ_ONLY,
    errno.EPERM: READ_ONLY,
}


def trouble(error: BaseException) -> Trouble | None:
    """What the error says of the records or their disk; None where it is about something else."""
    if isinstance(error, PeeweeException | sqlite3.Error):
        said = str(error).lower()
        known = next((known for words, known in _WORDS if words in said), None)
        return known or (
            trouble(error.__context__) if error.__context__ else None
        )  # "cannot rollback" follows a full disk
    return _NUMBERS.get(error.errno or 0) if isinstance(error, OSError) else None


def unwritable(error: BaseException) -> bool:
    """Whether nothing can be written for now: who only reads goes on without."""
    return trouble(error) in (FULL, READ_ONLY)
