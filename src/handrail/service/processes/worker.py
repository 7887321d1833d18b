"""A worker: a process of its own beside the web server that takes works from the records, and looks for remedies
between them."""

from __future__ import annotations

import logging
import signal
import threading
from pathlib import Path

from peewee import PeeweeException

from handrail.service.application import looking, remedies
from handrail.service.processes import children
from handrail.service.processes import work as working
from handrail.store import alive, heads, progress, removing, sheets, works
from handrail.store.database import proxy, tidy, writing
from handrail.store.opening import RECORDS
from handrail.store.trouble import trouble

IDLE, PAUSE = 0.25, 5.0  # seconds between two looks for work, and where the records are in trouble
REST = 15.0  # seconds without anything to do
log = logging.getLogger("handrail.work")


def main(home: Path, owner: str) -> None:
    """Work until told to stop, or until the server that started this is gone."""
    children.settle(home)
    alive.hold(owner)
    stop, rest = threading.Event(), children.Rest(REST)
    signal.signal(signal.SIGTERM, lambda *_: children.end_soon(stop))
    with proxy.connection_context():
        while not stop.is_set():
            try:
                busy = _one(owner, home)
                rest.look(busy)
                if not busy:
                    stop.wait(IDLE)
            except PeeweeException as exc:  # the records cannot be read or written now: look again
                known = trouble(exc)
                log.warning("a worker waits: %s", known.words if known else exc)
                stop.wait(PAUSE)


def _one(owner: str, home: Path) -> bool:
    """One work, or else a look at one job's decisions, some remedies, a note of one job's progress, or what another
    worker left; False where there was nothing to do."""
    if (work := works.claim(owner)) is not None:
        working.do(work, home)
        return True
    return (
        looking.look_at_one()
        or remedies.look_for_some()
        or progress.note_one()
        or removing.drop_some()
        or sheets.drop_some()
        or _signed(home)
        or tidy(home / RECORDS)
    )


def _signed(home: Path) -> bool:
    """The ledgers' heads of today, where that is due."""
    if not heads.due(home):
        return False
    with writing():  # one worker at a time
        if heads.due(home):
            for words in heads.watch(home, "day", home / RECORDS):
                log.warning("the ledger is not what was signed: %s", words)
    return True
