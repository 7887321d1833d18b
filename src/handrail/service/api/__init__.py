"""One module a subject of the API."""

from __future__ import annotations

import os
from typing import Any

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from handrail.service.api.answers import Problem

# what an endpoint answers: JSON, JSON with a status, or a stream
Reply = dict[str, Any] | list[Any] | str | Response | tuple[Any, int] | tuple[Any, int, dict[str, str]]
PREFIX = "/api/v1"
DESCRIBED = (
    "HANDRAIL_DESCRIBE" in os.environ
)  # the document of the API is made by `make openapi`: it takes longer than all else at a start
SECURITY: list[dict[str, list[str]]] = [{"token": []}, {"cookie": []}]


def blueprint(name: str, words: str) -> APIBlueprint:
    """A part of the API, its errors declared once."""
    refusals: dict[Any, Any] = {"401": Problem, "403": Problem, "404": Problem, "422": Problem}
    return APIBlueprint(
        name,
        __name__,
        url_prefix=PREFIX,
        abp_tags=[Tag(name=name, description=words)],
        abp_security=SECURITY,
        abp_responses=refusals,
        doc_ui=DESCRIBED,
    )
