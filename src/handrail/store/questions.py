"""Questions that take longer than a moment, and their answers: beside the records, in a file that lives as long as the
service; nothing in it is missed when it is gone."""

from __future__ import annotations

import secrets
import time
import zlib
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from peewee import BlobField, CharField, DatabaseProxy, FloatField, IntegerField, Model, PeeweeException, SqliteDatabase

from handrail.store.models import JSONField

FILE = "questions.sqlite"
NOBODY = 0  # the author of a question that nobody has asked yet
HOUSES, ELSEWHERE = 2, 1.0  # processes that answer, and seconds that a question waits for the one that knows its job
AT_ONCE, OPEN_EACH, OPEN_ALL = 2, 8, 400  # questions of one account that are worked at, and that are open; of all
PATIENCE = 15.0  # seconds that a question is kept for somebody who does not ask for it again
AGAIN = 2  # times that one is taken up whose process ended
REMEMBERED = 300.0  # seconds that an answer is kept for who asked
ROOM = 256 * 1024**2  # bytes of all answers that are kept
WAITING, WORKING, DONE, DROPPED = "waiting", "working", "done", "dropped"
PRAGMAS = {"journal_mode": "wal", "synchronous": 0, "busy_timeout": 5000}
proxy = DatabaseProxy()


class TooMany(Exception):
    """An account, or all of them together, have as many questions open as are taken."""


class Question(Model):
    """A request that is answered elsewhere. `digest` says what is asked, of what; two that are alike are one. `wanted`
    is when somebody last asked for it (s)."""

    id = CharField(primary_key=True)
    digest = CharField(index=True)
    keeps = IntegerField(default=1)  # whether the answer is that to every question alike
    job = CharField(default="")
    house = IntegerField(default=0)  # the process that answers what is asked of its job
    ahead = IntegerField(default=0)  # nobody has asked it yet
    author = IntegerField()
    askers = JSONField(default=list)  # accounts that may know the answer: the author, and who asked the same
    request = JSONField()  # method, path, query, headers
    body = BlobField(default=b"")
    state = CharField(default=WAITING, index=True)
    owner = CharField(default="")
    done = IntegerField(default=0)
    total = IntegerField(default=0)
    made = FloatField(default=time.time)
    started = FloatField(default=0.0)
    finished = FloatField(default=0.0)
    wanted = FloatField(default=time.time)
    tries = IntegerField(default=0)
    answer = CharField(default="")  # by which its answer is found

    class Meta:
        database = proxy


class Answer(Model):
    """What was answered: an HTTP response."""

    key = CharField(primary_key=True)
    status = IntegerField()
    headers = JSONField()
    body = BlobField()
    size = IntegerField()
    used = FloatField(default=time.time)

    class Meta:
        database = proxy


@dataclass(frozen=True)
class Asked:
    """What somebody wants to know: of which `job` (empty where of none), by the account `author`."""

    digest: str
    keeps: bool
    job: str
    author: int
    request: Mapping[str, Any]
    body: bytes


def open_questions(folder: Path, make: bool = False) -> bool:
    """Open the file in `folder` for every thread of this process, made where it is to be; False where it is not there
    and cannot be made (a full disk): then nobody can be asked."""
    database = SqliteDatabase(str(folder / FILE), pragmas=PRAGMAS)
    proxy.initialize(database)
    try:
        with database.connection_context():
            if make:
                database.create_tables([Question, Answer])
            return bool(database.table_exists("answer"))
    except PeeweeException:
        return False


@contextmanager
def _writing() -> Iterator[None]:
    proxy.connect(reuse_if_open=True)
    with proxy.atomic("IMMEDIATE"):
        yield


def kept(digest: str) -> Answer | None:
    """The answer to an earlier question that was alike."""
    proxy.connect(reuse_if_open=True)
    found = Answer.get_or_none(Answer.key == digest)
    if found is not None and time.time() - found.used > 1.0:
        Answer.update(used=time.time()).where(Answer.key == digest).execute()
    return found


def known(digest: str) -> bool:
    """Whether a question alike is answered, or asked already."""
    open_ones = Question.state.in_((WAITING, WORKING))
    return kept(digest) is not None or Question.select().where(open_ones & (Question.digest == digest)).exists()


def ask(asked: Asked) -> tuple[str, int]:
    """The number of a question, that of one alike where it is open and may be shared, and how many its author has open.
    Raises TooMany."""
    with _writing():
        _forget()
        open_ones = Question.state.in_((WAITING, WORKING))
        own = Question.select().where(open_ones & (Question.author == asked.author)).count()
        alike = Question.get_or_none(open_ones & (Question.digest == asked.digest)) if asked.keeps else None
        if alike is not None:
            askers = sorted({*alike.askers, asked.author})
            Question.update(wanted=time.time(), askers=askers, ahead=0).where(Question.id == alike.id).execute()
            return alike.id, own
        if own >= OPEN_EACH or Question.select().where(open_ones).count() >= OPEN_ALL:
            raise TooMany
        number = secrets.token_urlsafe(16)
        Question.insert(
            id=number,
            digest=asked.digest or number,
            keeps=int(asked.keeps),
            job=asked.job,
            house=house_of(asked.job),
            ahead=int(asked.author == NOBODY),
            author=asked.author,
            askers=[asked.author],
            request=asked.request,
            body=asked.body,
        ).execute()
        return number, own + 1


def house_of(job: str) -> int:
    """Which of the processes that answer knows a job: what it has read of a large one, the others need not read."""
    return zlib.crc32(job.encode()) % HOUSES


def _forget() -> None:
    """What nobody asks for any more goes. Inside the caller's transaction."""
    now = time.time()
    unwanted = (Question.state == WAITING) & (Question.wanted < now - PATIENCE) & (Question.ahead == 0)
    Question.update(state=DROPPED, finished=now).where(unwanted).execute()
    over = Question.state.in_((DONE, DROPPED)) & (Question.finished < now - REMEMBERED)
    gone = [q.id for q in Question.select(Question.id).where(over)]
    if gone:
        Answer.delete().where(Answer.key.in_(gone)).execute()
        Question.delete().where(Question.id.in_(gone)).execute()


def find(number: str) -> Question | None:
    """A question as it stands, without what was sent; None where it is not there, or nobody can be asked."""
    if proxy.obj is None:
        return None
    proxy.connect(reuse_if_open=True)
    columns = [f for f in Question._meta.sorted_fields if f is not Question.body]
    return Question.select(*columns).where(Question.id == number).get_or_none()


def want(number: str) -> None:
    """Somebody still waits for it; one that was dropped is taken up again, unless it changes something."""
    with _writing():
        now = time.time()
        Question.update(wanted=now).where(Question.id == number).execute()
        gone = (Question.state == DONE) & Question.answer.not_in(Answer.select(Answer.key))
        again = (Question.id == number) & ((Question.state == DROPPED) | gone) & (Question.keeps == 1)
        Question.update(state=WAITING, started=0.0, done=0, total=0).where(again).execute()


def leave(number: str) -> None:
    """Who asked does not want to know any more; others who do say so soon."""
    with _writing():
        Question.update(wanted=0.0).where(Question.id == number).execute()


def ahead_of(question: Question) -> int:
    """How many wait longer than it does."""
    proxy.connect(reuse_if_open=True)
    return int(Question.select().where((Question.state == WAITING) & (Question.made < question.made)).count())


def answer_of(question: Question) -> Answer | None:
    proxy.connect(reuse_if_open=True)
    return Answer.get_or_none(Answer.key == question.answer) if question.state == DONE else None


_NEXT = (
    "SELECT id FROM question AS q WHERE state = 'waiting' AND (wanted > ? OR ahead) AND (house = ? OR job = '' OR made"
    " < ?) AND (SELECT count(*) FROM question AS w WHERE w.state = 'working' AND w.author = q.author) < ?"
    " ORDER BY ahead, (SELECT count(*) FROM question AS w WHERE w.state = 'working' AND w.author = q.author),"
    " (SELECT max(started) FROM question AS w WHERE w.author = q.author),"
    " (SELECT max(started) FROM question AS w WHERE w.job = q.job), made LIMIT 1"
)


def claim(owner: str, house: int = 0) -> Question | None:
    """A question that waits, now `owner`'s, who is the process number `house`: of the person, then of the job, served
    least; of each person few at a time, and what nobody has asked yet after all."""
    proxy.connect(reuse_if_open=True)
    if not proxy.execute_sql("SELECT 1 FROM question WHERE state = 'waiting' LIMIT 1").fetchone():
        return None
    with _writing():
        _forget()
        now = time.time()
        found = proxy.execute_sql(_NEXT, (now - PATIENCE, house, now - ELSEWHERE, AT_ONCE)).fetchone()
        if found is None:
            return None
        Question.update(state=WORKING, owner=owner, started=now, tries=Question.tries + 1).where(
            Question.id == found[0]
        ).execute()
        return Question.get_by_id(found[0])


def word(number: str, owner: str, done: int, total: int) -> bool:
    """Say how far it is; whether it is still wanted."""
    with _writing():
        now = time.time()
        own = (Question.id == number) & (Question.owner == owner) & (Question.state == WORKING)
        still = Question.update(done=done, total=total).where(own).execute()
        wanted = Question.select().where(own & ((Question.ahead == 1) | (Question.wanted > now - PATIENCE))).exists()
        return bool(still) and wanted


def drop(number: str, owner: str) -> None:
    """Nobody waited for it."""
    with _writing():
        own = (Question.id == number) & (Question.owner == owner) & (Question.state == WORKING)
        Question.update(state=DROPPED, finished=time.time()).where(own).execute()


def answered(question: Question, status: int, headers: Mapping[str, str], body: bytes) -> None:
    """Keep an answer: for every question alike, or for who asked."""
    with _writing():
        now = time.time()
        key = question.digest if question.keeps and status == 200 else question.id
        Answer.replace(key=key, status=status, headers=dict(headers), body=body, size=len(body), used=now).execute()
        own = (Question.id == question.id) & (Question.owner == question.owner) & (Question.state == WORKING)
        Question.update(state=DONE, answer=key, finished=now).where(own).execute()
        _make_room(key)


def _make_room(newest: str) -> None:
    """The answers that were asked for the longest ago go, where all take too much room."""
    taken = int(proxy.execute_sql("SELECT coalesce(sum(size), 0) FROM answer").fetchone()[0])
    while taken > ROOM:
        oldest = Answer.select(Answer.key, Answer.size).where(Answer.key != newest).order_by(Answer.used).first()
        if oldest is None:
            return
        Answer.delete().where(Answer.key == oldest.key).execute()
        taken -= oldest.size


def release(owner: str) -> None:
    """What a process had that is gone is taken up again, or given up."""
    with _writing():
        own = (Question.state == WORKING) & (Question.owner == owner)
        again = own & (Question.keeps == 1) & (Question.tries < AGAIN)
        Question.update(state=WAITING, owner="", started=0.0).where(again).execute()
        Question.update(state=DROPPED, finished=time.time()).where(own).execute()
