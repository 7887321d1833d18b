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
from handrail.service.importing import UPLOADS, do_import
from handrail.service.running import do_run
from handrail.store import works
from handrail.store.database import proxy, writing
from handrail.store.models import Import, Run, Work

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
        log.info("%s %s was cancelled, or taken over; nothing of it was kept", type(work).__name__.lower(), work.id)
    except InputError as exc:
        _fail(work, str(exc))
    except Exception as exc:
        reference = secrets.token_hex(4)
        log.exception("%s %s failed, reference %s", type(work).__name__.lower(), work.id, reference)
        _fail(work, f"unexpected error ({type(exc).__name__}), {reference} in the service's log; nothing was kept")
    if isinstance(work, Import):
        (home / UPLOADS / work.file).unlink(missing_ok=True)


def _fail(work: Work, message: str) -> None:
    """Say that it failed; where even that cannot be written, the end of its lease says it."""
    try:
        with writing():
            works.finish(work, "failed", message)
    except PeeweeException:
        log.exception("%s %s: the failure could not be written; its lease ends it", type(work).__name__.lower(), work.id)


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
                    log.warning("no word could be written for %s %s", type(work).__name__.lower(), work.id)

    thread = threading.Thread(target=beat, daemon=True)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join(timeout=5)
