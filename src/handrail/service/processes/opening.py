"""What is done with the records once, before the service answers or where a process has gone: each in a process of its
own, which says why it cannot."""

from __future__ import annotations

import logging
import os
import secrets
from multiprocessing.connection import Connection
from pathlib import Path

from peewee import PeeweeException

from handrail import __version__
from handrail.core.errors import InputError
from handrail.service.application import designing
from handrail.service.application.importing import UPLOADS
from handrail.service.processes import children
from handrail.service.processes.parting import SCRATCH
from handrail.store import accounts, connections, heads, questions, revisions, works
from handrail.store.database import proxy, writing
from handrail.store.models import Import
from handrail.store.opening import RECORDS

log = logging.getLogger("handrail.serve")


def main(home: Path, words: Connection) -> None:
    """What an earlier service left over goes: works under way, half-kept revisions, uploads that nobody waits for."""
    try:
        children.settle(home)
    except InputError as exc:
        words.send(str(exc))
        return
    (home / UPLOADS).mkdir(mode=0o700, parents=True, exist_ok=True)
    if not questions.open_questions(home / SCRATCH, make=True):
        log.warning("there is no room for questions: what takes long is answered where it is asked")
    with proxy.connection_context():
        with writing():
            left = works.release()
            connections.mark_other_engines(__version__)
            revisions.drop_left_over()
        waiting = {
            file for (file,) in Import.select(Import.file).where(Import.state.in_(("queued", works.HELD))).tuples()
        }
        if new := designing.ship():
            log.info("%s designs come with this version", new)
        for said in _watched(home):
            log.warning("the ledger is not what was signed: %s", said)
    for path in (home / UPLOADS).iterdir():
        if path.name not in waiting:
            path.unlink(missing_ok=True)
    if left:
        log.info(
            "%s run(s) or import(s) were under way when the service stopped; runs can be started again, imports are",
            left,
        )


def _watched(home: Path) -> list[str]:
    """What ledgers are not, of what was signed; their heads are signed again. A disk that cannot be written holds no
    service up."""
    try:
        return heads.watch(home, "start", home / RECORDS)
    except (OSError, PeeweeException) as exc:
        return [f"it could not be looked at ({exc})"]


def first_account(home: Path, words: Connection) -> None:
    """A service without accounts gets an administrator; its password is printed once."""
    children.settle(home)
    with proxy.connection_context():
        if not accounts.all_users():
            password = os.environ.get("HANDRAIL_PASSWORD") or secrets.token_urlsafe(9)
            try:
                accounts.add_user("admin", password, admin=True)
            except InputError as exc:
                words.send(str(exc))
                return
            print(f"made the first account: admin, password {password}", flush=True)


def give_up(home: Path, words: Connection, kind: str, owner: str) -> None:
    """What a process that died had under way waits for another, or is told as ended."""
    children.settle(home)
    if kind == "answering":
        questions.open_questions(home / SCRATCH)
        questions.release(owner)
        return
    try:
        with proxy.connection_context(), writing():
            works.release(owner)
    except PeeweeException:
        log.exception("what a worker had could not be given up; the end of its lease does it")
