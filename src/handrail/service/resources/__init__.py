"""One module a subject of the API."""

from __future__ import annotations

import os
from typing import Any

from flask_openapi3 import APIBlueprint, Tag

from handrail.service.answers import Problem

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
