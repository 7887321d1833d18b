"""Questions that are open: asked again, or left."""

from __future__ import annotations

from flask import Response
from pydantic import BaseModel, Field

from handrail.service.api import blueprint, long
from handrail.service.api.answers import Problem
from handrail.service.api.auth import caller, job_for
from handrail.service.api.questions import answers as q
from handrail.service.application.refused import Refused
from handrail.store import questions

api = blueprint("questions", "what takes longer than a moment")


class QuestionPath(BaseModel):
    question: str = Field(description="its number, as the address in Location has it")


def _own(number: str) -> questions.Question:
    """A question that the caller asked. Raises Refused(404)."""
    user, found = caller(), questions.find(number)
    if found is None or user.id not in found.askers:
        raise Refused(404, "nobody asked this, or so long ago that its answer is not kept any more: ask again")
    if found.job:
        job_for(found.job)
    return found


@api.get("/questions/<string:question>", responses={200: None, 202: q.Question, 503: Problem})
def get_question(path: QuestionPath) -> Response:
    """The answer, as the request that asked would have had it; or 202 and how far it is. One that nobody asks after for
    15 s is ended."""
    _own(path.question)
    questions.want(path.question)
    return long.state_of(questions.find(path.question))


@api.delete("/questions/<string:question>", responses={204: None})
def leave_question(path: QuestionPath) -> tuple[str, int]:
    """Not to be answered any more, unless somebody else asks after it."""
    _own(path.question)
    questions.leave(path.question)
    return "", 204
