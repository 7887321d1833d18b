"""Does one work to its end, whatever happens in it."""

from __future__ import annotations

import logging
import secrets
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from peewee import PeeweeException

from handrail.core.errors import InputError
from handrail.service.application.importing import UPLOADS, do_import
from handrail.service.application.running import do_run
from handrail.store import works
from handrail.store.database import proxy, writing
from handrail.store.jobs import system_of
from handrail.store.models import Import, Run, Work
from handrail.store.trouble import trouble

log = logging.getLogger("handrail.work")
BEAT = 3.0  # seconds between two words that the worker lives


def do(work: Work, home: Path) -> None:
    """Do `work`, which the caller has claimed. Nothing is raised: how it ended stands in its record."""
    try:
        with _beating(work):
            if isinstance(work, Import):
                do_import(work, home)
            elif isinstance(work, Run):
                do_run(work)
    except works.Lost:
        log.info("%s was cancelled, or taken over; nothing of it was kept", _name(work))
    except InputError as exc:
        _fail(work, exc.said(system_of(work.job)))
    except Exception as exc:
        _fail(work, _said(work, exc))
    if isinstance(work, Import):
        _tidy(work, home)


def _name(work: Work) -> str:
    return f"{type(work).__name__.lower()} {work.id}"


def _said(work: Work, exc: Exception) -> str:
    """What a person is told of an error that nobody foresaw; the log has the rest."""
    if (known := trouble(exc)) is not None:
        log.error("%s: %s", _name(work), exc)
        return known.words
    reference = secrets.token_hex(4)
    log.exception("%s failed, reference %s", _name(work), reference)
    return f"unexpected error ({type(exc).__name__}), {reference} in the service's log; nothing was kept"


def _fail(work: Work, message: str) -> None:
    """Say that it failed; where even that cannot be written, the end of its lease says it."""
    try:
        with writing():
            works.finish(work, "failed", message)
    except PeeweeException:
        log.exception("%s: the failure could not be written; its lease ends it", _name(work))


def _tidy(work: Import, home: Path) -> None:
    """What was sent goes once nobody will read it again; one whose worker was taken for dead is read by another."""
    try:
        ended = not Import.select().where((Import.id == work.id) & Import.state.in_(works.OPEN)).exists()
    except PeeweeException:
        return  # the next start clears it
    if ended:
        (home / UPLOADS / work.file).unlink(missing_ok=True)


@contextmanager
def _beating(work: Work) -> Iterator[None]:
    """A thread beside the work that says that the worker lives."""
    over = threading.Event()

    def beat() -> None:
        with proxy.connection_context():
            while not over.wait(BEAT):
                try:
                    works.beat(work)
                except works.Lost:
                    return  # the work finds out at its next word
                except PeeweeException:
                    log.warning("no word could be written for %s", _name(work))

    thread = threading.Thread(target=beat, daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join(timeout=5)
