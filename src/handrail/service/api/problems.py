"""Errors as RFC 9457 problem details."""

from __future__ import annotations

import logging
import secrets
from typing import Any

from flask import Flask, Response, g, json
from pydantic import ValidationError
from werkzeug.exceptions import HTTPException

from handrail.core.errors import InputError, UnknownName
from handrail.core.quantities.words import said
from handrail.core.rulebook import RulebookError
from handrail.interchange.problems import BundleError
from handrail.service.application.refused import Refused
from handrail.store.jobs import system_of
from handrail.store.trouble import trouble

log = logging.getLogger("handrail")


TITLES = {400: "Cannot be read", 401: "Sign in first", 403: "Not allowed", 404: "Not there", 409: "Not now",
          412: "Changed meanwhile", 413: "Too large", 422: "Not accepted", 429: "Too often", 500: "Our fault",
          503: "Not now", 507: "No space left"}  # fmt: skip


def problem(status: int, detail: str, **more: Any) -> Response:
    body = {"type": "about:blank", "title": TITLES.get(status, "Refused"), "status": status, "detail": detail, **more}
    return Response(json.dumps(body), status, mimetype="application/problem+json")


def invalid(error: ValidationError) -> Response:
    """What pydantic found wrong with a request."""
    problems = [
        {"where": ".".join(map(str, e["loc"])), "message": e["msg"]}
        for e in error.errors(include_url=False, include_context=False)
    ]
    first = problems[0] if problems else {"where": "", "message": "invalid"}
    return problem(422, f"{first['where']}: {first['message']}".lstrip(": "), problems=problems)


def _system() -> str:
    """The units of who reads an answer: those of the job that it is about; inches where it is about none."""
    job = g.get("job")
    return system_of(job) if job is not None else "us"


def register(app: Flask) -> None:
    """Every error of the service as a problem."""

    @app.errorhandler(Refused)
    def refused(error: Refused) -> Response:
        return problem(error.status, error.detail, **error.more)

    @app.errorhandler(BundleError)
    def bundle(error: BundleError) -> Response:
        return problem(422, error.said(_system()), problems=[p.as_dict() for p in error.problems], more=error.more)

    @app.errorhandler(RulebookError)
    def rulebook(error: RulebookError) -> Response:
        system = _system()
        problems = [{"line": line, "column": column, "message": said(m, system)} for line, column, m in error.problems]
        return problem(422, error.said(system), problems=problems)

    @app.errorhandler(InputError)
    def unusable(error: InputError) -> Response:
        status = 404 if isinstance(error, UnknownName) else 422
        return problem(status, error.said(_system()))

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> Response:
        return problem(error.code or 500, error.description or error.name)

    @app.errorhandler(RecursionError)
    def too_deep(_: RecursionError) -> Response:
        return problem(422, "the request is nested too deep to be read")

    @app.errorhandler(UnicodeError)
    def no_text(_: UnicodeError) -> Response:
        return problem(422, "the request holds characters that are no text (lone surrogates, or not UTF-8)")

    @app.errorhandler(Exception)
    def unexpected(error: Exception) -> Response:
        known = trouble(error)
        if known is not None:
            log.error("%s (%s)", known.words, error)
            return problem(known.status, known.words)
        reference = secrets.token_hex(4)
        log.exception("unexpected error %s", reference)
        return problem(
            500,
            f"an unexpected error; the service's log has it as {reference}. Nothing was changed.",
            reference=reference,
        )
