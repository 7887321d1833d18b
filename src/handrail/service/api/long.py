"""What takes longer than a moment is answered in a process of its own: the same view, asked there."""

from __future__ import annotations

import hashlib
import json
import time
from collections.abc import Callable
from contextlib import contextmanager
from functools import wraps
from typing import Any, ParamSpec

from flask import Response, current_app, g, request
from peewee import PeeweeException

from handrail import __version__
from handrail.service.api import PREFIX, auth, turns
from handrail.service.api.limits import PLACE
from handrail.service.api.problems import problem
from handrail.service.application.refused import Refused
from handrail.store import accounts, entries, jobs, profiles, questions
from handrail.store.models import Job
from handrail.store.questions import Answer, Asked, Question
from handrail.store.trouble import unwritable

ELSEWHERE = "QUESTIONS"  # of the app: whether processes are there that answer
MOMENT, LOOK, OFTEN = 0.2, 0.004, 0.02  # seconds that an answer is waited for, between the first looks and the later
WAITED = 3  # questions of an account whose answers are waited for
HEADERS = ("Content-Type", "If-Match")
KEPT_HEADERS = ("Content-Type", "Content-Disposition", "ETag")
MANY = "as many questions are being worked out for this account as may be at once; wait for one of them, or leave one"
P = ParamSpec("P")


def long(
    keeps: bool = True, when: Callable[[], bool] = lambda: True, by_role: bool = True
) -> Callable[[Callable[P, Any]], Callable[P, Any]]:
    """A view that may take long. Its answer comes with the request where it is there within a moment; else with 202 and
    an address to ask again at. It `keeps` the answer for whoever asks the same of the same, in the same role where it
    is `by_role`; an act it does once. `when` says of a request whether it may."""

    def around(view: Callable[P, Any]) -> Callable[P, Any]:
        @wraps(view)
        def asked(*args: P.args, **kwargs: P.kwargs) -> Any:
            if not current_app.config.get(ELSEWHERE) or auth.ASKED_BY in request.environ or not when():
                return view(*args, **kwargs)
            try:
                return _ask(keeps, by_role)
            except PeeweeException as exc:
                if not unwritable(exc):
                    raise
                return view(*args, **kwargs)  # on a full disk nobody can be asked

        asked.long = True  # type: ignore[attr-defined]  # as the document of the API says it
        return asked

    return around


def sent(name: str) -> Any:
    """What the body of the request has under a name; nothing where it has none."""
    body = request.get_json(silent=True)
    return body.get(name, "") if isinstance(body, dict) else ""


def _ask(keeps: bool, by_role: bool) -> Response:
    asked = _asked(keeps, by_role)
    if keeps and (answer := questions.kept(asked.digest)) is not None:
        return _as_response(answer)
    try:
        number, own = questions.ask(asked)
    except questions.TooMany:
        return _too_many()
    response = _waited(number) if own <= WAITED else None
    if response is None and _gone():
        questions.leave(number)
    return response or state_of(questions.find(number))


def _too_many() -> Response:
    response = problem(429, MANY)
    response.headers["Retry-After"] = "1"
    return response


def _asked(keeps: bool, by_role: bool) -> Asked:
    """The request as a question."""
    user, job = auth.caller(), g.get("job")
    sent = {
        "method": request.method,
        "path": request.path,
        "query": sorted(request.args.items(multi=True)),
        "headers": {name: request.headers[name] for name in HEADERS if name in request.headers},
    }
    body = request.get_data(cache=True)
    role = accounts.role_in(user, job) if job and by_role else None
    return Asked(_digest(sent, body, job, role) if keeps else "", keeps, job.name if job else "", user.id, sent, body)


def _digest(sent: dict[str, Any], body: bytes, job: Job | None, role: str | None) -> str:
    """What is asked, and what the answer depends on beside it: the job as it stands, the caller's role, how the house
    prints, its catalogue, the version of the service."""
    said = json.dumps([sent, jobs.stands(job) if job else None, role, profiles.stamp(), entries.stamp(), __version__])
    return hashlib.blake2b(said.encode() + b"\0" + body, digest_size=20).hexdigest()


def ahead_of_all(job: Job, what: str) -> Asked:
    """A question about a job that nobody has asked yet, of a view that is not by role."""
    sent = {"method": "GET", "path": f"{PREFIX}/jobs/{job.name}/{what}", "query": [], "headers": {}}
    return Asked(_digest(sent, b"", job, None), True, job.name, questions.NOBODY, sent, b"")


def _waited(number: str) -> Response | None:
    """The answer, where it is there within a moment. Who waits takes no place of those who are worked at."""
    until, pause = time.monotonic() + MOMENT, LOOK
    with turns.aside(), _aside():
        while time.monotonic() < until and not _gone():
            time.sleep(pause)
            pause = min(pause * 1.3, OFTEN)
            question = questions.find(number)
            if question is not None and question.state == questions.DONE:
                answer = questions.answer_of(question)
                return _as_response(answer) if answer is not None else None
    return None


def _gone() -> bool:
    """Whether who asked has hung up."""
    gone = request.environ.get("waitress.client_disconnected")
    return gone is not None and bool(gone())


@contextmanager
def _aside() -> Any:
    place = request.environ.get(PLACE)
    if place is None:
        yield
        return
    place.release()
    try:
        yield
    finally:
        place.acquire()


def _as_response(answer: Answer) -> Response:
    return Response(bytes(answer.body), answer.status, headers=answer.headers)


def state_of(question: Question | None) -> Response:
    """Its answer; or 202, how far it is, and where to ask again."""
    if question is None:
        raise Refused(404, "nobody asked this, or so long ago that its answer is not kept any more: ask again")
    if (answer := questions.answer_of(question)) is not None:
        return _as_response(answer)
    if question.state == questions.DROPPED and not question.keeps:
        raise Refused(503, "this was ended before it was answered; see whether it was done, and do it again if not")
    body = {
        "id": question.id,
        "state": "working" if question.state == questions.WORKING else "waiting",
        "done": question.done,
        "total": question.total,
        "left": _left(question),
        "ahead": 0 if question.state == questions.WORKING else questions.ahead_of(question),
    }
    headers = {"Location": f"{PREFIX}/questions/{question.id}", "Retry-After": "1"}
    return Response(json.dumps(body), 202, headers, mimetype="application/json")


def _left(question: Question) -> float | None:
    """Seconds that it will take yet, by how far it is; None where that is not known."""
    if not question.done or question.done > question.total:
        return None
    return round((time.time() - question.started) / question.done * (question.total - question.done), 1)


def replay(app: Any, question: Question) -> tuple[int, dict[str, str], bytes]:
    """What the view answers here: status, headers, body."""
    sent = question.request
    response = app.test_client(use_cookies=False).open(
        method=sent["method"],
        query_string=[tuple(pair) for pair in sent["query"]],
        headers=sent["headers"],
        data=bytes(question.body),
        environ_overrides={
            auth.ASKED_BY: question.author or accounts.an_administrator(),
            "PATH_INFO": sent["path"].encode().decode("latin-1"),
        },
    )
    headers = {name: response.headers[name] for name in KEPT_HEADERS if name in response.headers}
    return response.status_code, headers, response.get_data()
