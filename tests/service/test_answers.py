"""What the service answers is what its document says: every field declared, nothing beside it."""

from __future__ import annotations

import importlib
import json
import pkgutil
from typing import Any

import pytest
from pydantic import BaseModel

import handrail.service
from handrail.core.catalogue import Section
from handrail.service.api import answers as a
from handrail.service.api.bench import answers as bench
from handrail.service.api.connections import answers as c
from handrail.service.api.decisions import answers as d
from handrail.service.api.models import answers as m
from handrail.service.api.rulebooks import answers as b
from tests.service.running import Patient
from tests.worked.sheet import GIRDER

JOB = "/jobs/alder-street"
READ = [
    ("/me", a.Me),
    ("/users", a.Page[a.User]),
    ("/jobs", a.Page[a.Job]),
    (JOB, a.Job),
    (f"{JOB}/revisions", a.Page[m.Revision]),
    (f"{JOB}/audit", m.Revision),
    (f"{JOB}/model", a.Model),
    (f"{JOB}/without", a.Page[a.Without]),
    (f"{JOB}/runs", a.Page[a.Run]),
    (f"{JOB}/connections?limit=2000", a.Page[c.ConnectionRow]),
    (f"{JOB}/joints?limit=2000", a.Page[c.JointRow]),
    (f"{JOB}/connections/B5.i", c.Connection),
    (f"{JOB}/connections/B150.j", c.Connection),
    (f"{JOB}/connections/C1.i", c.Connection),
    (f"{JOB}/connections/B100.i/joint", c.JointSolids),
    (f"{JOB}/connections/C139.i/figures", c.Figures),
    (f"{JOB}/connections/G40%2F2.i/figures", c.Figures),
    (f"{JOB}/survey", m.Survey),
    (f"{JOB}/combinations", m.Combinations),
    (f"{JOB}/patterns", a.Page[m.Pattern]),
    (f"{JOB}/patterns/P1", m.PatternInFull),
    (f"{JOB}/patterns/P1/points?slot=0", m.PatternPoints),
    (f"{JOB}/rulebook", b.Rulebook),
    (f"{JOB}/rulebook/practice", a.Page[b.PracticeOf]),
    (f"{JOB}/rulebook/revisions", a.Page[b.RulebookRevision]),
    (f"{JOB}/rulebook/revisions/1", b.WrittenRevision),
    ("/rulebook-language", b.RulebookLanguage),
    (f"{JOB}/connections/B5.i/rule", b.WhyRule),
    (f"{JOB}/connections/C139.i/rule", b.WhyRule),
    ("/standards", a.Page[c.Standard]),
    ("/sections?text=HSS6", a.Page[Section]),
]


@pytest.fixture(scope="module")
def raw(service):
    token = service.client("admin")._http.headers["Authorization"]
    with Patient(
        base_url=f"{service.url}/api/v1", headers={"Authorization": token}, timeout=120, trust_env=False
    ) as client:
        yield client


def as_declared(model: Any, body: Any) -> Any:
    return model.model_validate(body).model_dump(mode="json", by_alias=True, exclude_unset=True)


@pytest.mark.parametrize(("path", "model"), READ, ids=[path for path, _ in READ])
def test_what_is_read(raw, path, model):
    body = raw.get(path).raise_for_status().json()
    assert as_declared(model, body) == body


def test_what_is_done(raw):
    trial = raw.post("/trial", json=GIRDER | {"trace": True, "units": "us"}).raise_for_status().json()
    assert as_declared(bench.Trial, trial) == trial
    book = {"text": raw.get(f"{JOB}/rulebook").json()["text"]}
    tried = raw.post(f"{JOB}/rulebook/try", json=book).raise_for_status().json()
    assert as_declared(b.RulebookTried, tried) == tried
    wanted = {"parameter": "rows", "value": 4, "preview": True}
    preview = raw.post(f"{JOB}/connections/B5.i/overrides", json=wanted).raise_for_status().json()
    assert as_declared(d.MadeOverride, preview) == preview
    refused = raw.get(f"{JOB}/connections/nobody")
    assert refused.status_code == 404 and as_declared(a.Problem, refused.json()) == refused.json()


def test_no_two_answers_have_one_name():
    """In the document a model is known by its name alone: of two, one would be taken for the other."""

    found: dict[str, set[str]] = {}
    for module in pkgutil.walk_packages(handrail.service.api.__path__, "handrail.service.api."):
        if module.name.endswith(("answers", "requests")):
            for name, model in vars(importlib.import_module(module.name)).items():
                if isinstance(model, type) and issubclass(model, BaseModel) and model.__module__.startswith("handrail"):
                    found.setdefault(name, set()).add(json.dumps(model.model_json_schema(), sort_keys=True))
    assert [name for name, said in found.items() if len(said) > 1] == []
