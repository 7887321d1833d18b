"""Puts the service together."""

from __future__ import annotations

import json
import logging
import os
import re
import time
from pathlib import Path

from flask import Flask, Response, g, request, send_from_directory
from flask_openapi3.models.info import Info
from flask_openapi3.openapi import OpenAPI
from werkzeug.security import safe_join

from handrail import __version__
from handrail.service.api import DESCRIBED, PREFIX, limits, metrics, problems
from handrail.service.api.accounts import accounts
from handrail.service.api.answers import Problem
from handrail.service.api.auth import ASKED_BY, HOME, SECURE
from handrail.service.api.bench import bench
from handrail.service.api.connections import capacity, catalogue, connections, sweeps
from handrail.service.api.decisions import decisions, ledger, overrides
from handrail.service.api.designs import designs
from handrail.service.api.designs import files as design_files
from handrail.service.api.jobs import jobs, runs
from handrail.service.api.long import ELSEWHERE
from handrail.service.api.models import drawn, groups, imports, maps, patterns, survey
from handrail.service.api.queries import queries
from handrail.service.api.questions import questions
from handrail.service.api.rulebooks import entries, house, profiles, rulebook
from handrail.service.api.schedule import drawings, outputs, schedule
from handrail.service.api.team import progress, reserve, team
from handrail.service.api.transmittals import transmittals
from handrail.service.application.by_facts import serve_lists
from handrail.store import entries as entries_of_house
from handrail.store.database import proxy
from handrail.store.opening import RECORDS, open_database

HERE = Path(__file__).parents[1]  # where the console and the document are
CONSOLE = HERE / "console"
PARTS = (  # of the API, in the order that its document has them
    accounts,
    jobs,
    imports,
    maps,
    drawn,
    survey,
    patterns,
    groups,
    connections,
    overrides,
    decisions,
    ledger,
    team,
    progress,
    reserve,
    rulebook,
    house,
    profiles,
    designs,
    design_files,
    entries,
    sweeps,
    capacity,
    runs,
    schedule,
    outputs,
    drawings,
    catalogue,
    bench,
    queries,
    questions,
    transmittals,
)
log = logging.getLogger("handrail.http")


_ASKED = {
    "description": "It takes longer than a moment: ask again at the address in the header Location",
    "content": {"application/json": {"schema": {"$ref": "#/components/schemas/Question"}}},
}


class _Api(OpenAPI):
    """An app whose document says that refusals are problems, and what may take longer than a moment."""

    def generate_spec_json(self) -> None:
        super().generate_spec_json()  # type: ignore[no-untyped-call]
        for rule in self.url_map.iter_rules():
            if getattr(self.view_functions[rule.endpoint], "long", False):
                path = self.spec_json["paths"][re.sub(r"<(?:[^:<>]+:)?([^<>]+)>", r"{\1}", rule.rule)]
                for method in {name.lower() for name in rule.methods or ()} & path.keys():
                    path[method]["responses"].setdefault("202", _ASKED)
        operations = [one for path in self.spec_json["paths"].values() for one in path.values()]
        for answer in (answer for one in operations for answer in one.get("responses", {}).values()):
            content = answer.get("content", {})
            if content.get("application/json", {}).get("schema", {}).get("$ref", "").endswith("/Problem"):
                content["application/problem+json"] = content.pop("application/json")


def create_app(home: Path, questions_elsewhere: bool = False) -> OpenAPI:
    """The service over the records in `home`, made where they are not there yet. What takes long is asked in processes
    of their own where there are such."""
    app = _Api(
        __name__,
        info=Info(
            title="Hand Rail", version=__version__, description="Standard steel connections for a whole building."
        ),
        security_schemes={
            "token": {"type": "http", "scheme": "bearer"},
            "cookie": {"type": "apiKey", "in": "cookie", "name": "handrail"},
        },
        doc_prefix=PREFIX,
        doc_url="/openapi.json",
        doc_ui=DESCRIBED,
        validation_error_callback=problems.invalid,
        validation_error_model=Problem,
        static_folder=None,
    )
    app.config.update(MAX_CONTENT_LENGTH=limits.UPLOAD, MAX_FORM_MEMORY_SIZE=8 * 1024**2)
    app.config.update(
        {
            HOME: home,
            ELSEWHERE: questions_elsewhere,
            SECURE: os.environ.get("HANDRAIL_SECURE_COOKIES", "") not in ("", "0"),
        }
    )
    app.json.sort_keys = False  # type: ignore[attr-defined]
    open_database(home / RECORDS, tidies=False)
    serve_lists()
    for part in PARTS:
        app.register_api(part.api)
    problems.register(app)
    _around(app)
    _console(app)
    return app


def _around(app: Flask) -> None:
    """The records open in each thread that answers; one line of log after a request."""

    @app.before_request
    def begin() -> None:
        g.begun = time.perf_counter()
        request.max_content_length = limits.most_body(request.method, request.path)
        proxy.connect(reuse_if_open=True)
        if request.path.startswith(f"{PREFIX}/"):
            entries_of_house.stand(str((request.view_args or {}).get("job", "")))

    @app.after_request
    def note(response: Response) -> Response:
        if ASKED_BY in request.environ:  # it is the answer to one that is noted itself
            return response
        took = time.perf_counter() - g.begun if "begun" in g else 0.0
        user = g.user.name if g.get("user") else None
        metrics.note(request.method, request.url_rule.rule if request.url_rule else "none", response.status_code, took)
        line = {
            "method": request.method,
            "path": request.path[:300],
            "status": response.status_code,
            "ms": round(took * 1000, 1),
            "user": user,
        }
        log.info(json.dumps(line))
        response.headers["X-Content-Type-Options"] = "nosniff"
        if request.path.startswith("/api/"):
            response.headers["Cache-Control"] = "no-store"
        response.headers["Content-Security-Policy"] = (
            "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; frame-ancestors 'none'"
        )
        return response


def _console(app: Flask) -> None:
    """The built console; every address that is no file is one of its views."""

    def console(name: str = "") -> Response:
        if name.startswith("api/"):
            return problems.problem(404, f"there is nothing at /{name}")
        inside = safe_join(str(CONSOLE), name) if name else None  # an address that leaves the folder is no file of ours
        if inside and Path(inside).is_file():
            return send_from_directory(CONSOLE, name)
        if not (CONSOLE / "index.html").is_file():
            return problems.problem(404, "the console is not built; run 'make setup'")
        return send_from_directory(CONSOLE, "index.html")

    if not DESCRIBED:
        app.add_url_rule(f"{PREFIX}/openapi.json", "openapi", lambda: send_from_directory(HERE, "openapi.json"))
    app.add_url_rule("/healthz", "healthz", lambda: Response("ok\n", mimetype="text/plain"))
    app.add_url_rule("/metrics", "metrics", metrics.answer)
    app.add_url_rule("/", "console", console)
    app.add_url_rule("/<path:name>", "console", console)
