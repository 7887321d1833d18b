"""A process that answers questions which take longer than a moment: several at a time, so that a small one never waits
for the end of a large one."""

from __future__ import annotations

import logging
import os
import signal
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path

from flask import Flask
from peewee import PeeweeException

from handrail.service.api.app import create_app
from handrail.service.api.long import replay
from handrail.service.application.effort import Effort, beginning
from handrail.service.processes import children
from handrail.service.processes.ahead import Ahead
from handrail.service.processes.parting import SCRATCH
from handrail.store import questions
from handrail.store.database import proxy as records
from handrail.store.questions import Question

AT_ONCE = 4
IDLE, QUIET = 0.01, 0.04  # seconds between two looks for questions, and where there was none for a while
WORD = 0.25  # seconds between two words of how far each is
WHILE = 1.0  # seconds
REST = 900.0  # seconds without a question
PAUSE = 5.0  # seconds, where the file of questions is in trouble
LONGEST = 900.0  # seconds that one may take
UNWANTED = "nobody waited for the answer any more"
TOO_LONG = f"this took longer than {LONGEST / 60:.0f} minutes and was ended; ask for less at a time"
log = logging.getLogger("handrail.answer")


@dataclass
class _Open:
    """A question that a thread works at."""

    question: Question
    effort: Effort = field(default_factory=Effort)
    said: float = field(default_factory=time.monotonic)
    thread: threading.Thread | None = None


class Answering:
    """The questions that this process works at, under the name `owner`."""

    def __init__(self, app: Flask, owner: str, house: int = 0) -> None:
        self.app, self.owner, self.house, self.open = app, owner, house, list[_Open]()
        self.ahead = Ahead(house)

    def turn(self) -> None:
        """Take what waits, as far as there is room; say how far the others are."""
        self.open = [one for one in self.open if one.thread is not None and one.thread.is_alive()]
        if len(self.open) < AT_ONCE and (question := questions.claim(self.owner, self.house)) is not None:
            one = _Open(question)
            one.thread = threading.Thread(target=self._answer, args=(one,), daemon=True)
            self.open.append(one)
            one.thread.start()
        if not self.open:
            self.ahead.ask()
        for one in self.open:
            if time.monotonic() - one.said > WORD:
                self._say(one)

    def _say(self, one: _Open) -> None:
        one.said = time.monotonic()
        if not questions.word(one.question.id, self.owner, one.effort.done, one.effort.total):
            one.effort.over = UNWANTED
        elif time.time() - one.question.started > LONGEST:
            one.effort.over = TOO_LONG

    def _answer(self, one: _Open) -> None:
        question = one.question
        try:
            with beginning(one.effort):
                status, headers, body = replay(self.app, question)
            if one.effort.over == UNWANTED:
                questions.drop(question.id, self.owner)
            else:
                questions.answered(question, status, headers, body)
        except PeeweeException:
            log.exception("an answer could not be kept")
            questions.drop(question.id, self.owner)
        finally:
            for opened in (records, questions.proxy):  # by this thread, which is over
                opened.close()


def main(home: Path, owner: str, house: int) -> None:
    """Answer until told to stop, or until the server that started this is gone."""
    children.settle(home)
    os.nice(NICE)
    questions.open_questions(home / SCRATCH)
    answering = Answering(create_app(home), owner, house)
    stop, rest, busy = threading.Event(), children.Rest(REST), 0.0
    signal.signal(signal.SIGTERM, lambda *_: children.end_soon(stop))
    while not stop.is_set():
        try:
            answering.turn()
            rest.look(bool(answering.open))
            busy = time.monotonic() if answering.open else busy
        except PeeweeException as exc:
            log.warning("questions cannot be taken: %s", exc)
            stop.wait(PAUSE)
        stop.wait(IDLE if time.monotonic() - busy < WHILE else QUIET)
    os._exit(0)


NICE = 5  # who only looks goes first
