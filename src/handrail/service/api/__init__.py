"""One module a subject of the API."""

from __future__ import annotations

import os
from collections.abc import Collection
from typing import Any

from flask import Response, request
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from handrail.service.api import auth
from handrail.service.api.answers import Problem

# what an endpoint answers: JSON, JSON with a status, or a stream
Reply = dict[str, Any] | list[Any] | str | Response | tuple[Any, int] | tuple[Any, int, dict[str, str]]
PREFIX = "/api/v1"
DESCRIBED = (
    "HANDRAIL_DESCRIBE" in os.environ
)  # the document of the API is made by `make openapi`: it takes longer than all else at a start
SECURITY: list[dict[str, list[str]]] = [{"token": []}, {"cookie": []}]


def blueprint(name: str, words: str, open_to: Collection[str] = ()) -> APIBlueprint:
    """A part of the API, its errors declared once. Who calls, and whether they may see the job, is known before what
    they send is looked at, but for the views that are `open_to` everybody."""
    refusals: dict[Any, Any] = {"401": Problem, "403": Problem, "404": Problem, "422": Problem}
    part = APIBlueprint(
        name,
        __name__,
        url_prefix=PREFIX,
        abp_tags=[Tag(name=name, description=words)],
        abp_security=SECURITY,
        abp_responses=refusals,
        doc_ui=DESCRIBED,
    )

    @part.before_request
    def known() -> None:
        if str(request.endpoint).rpartition(".")[2] in open_to:
            return
        auth.caller()
        if job := (request.view_args or {}).get("job"):
            auth.job_for(job)

    return part
