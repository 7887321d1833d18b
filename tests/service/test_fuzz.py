"""Whatever a request holds, the service answers with a problem, never with an error of its own."""

from __future__ import annotations

import os

import httpx
import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings

from handrail.client import Client
from handrail.interchange.archive import zip_folder
from tests.bundles import DEMO, small, write

JOB = "fuzzed"
EXAMPLES = int(os.environ.get("FUZZ", "4"))  # for each operation; FUZZ=150 looks further
LEFT_OUT = ("/session", "/tokens", "/imports", "/password")  # they change who is asking, or take a file

LISTS = (
    {"cursor": 2**63 - 1},
    {"cursor": 2**63},
    {"cursor": -1},
    {"limit": 0},
    {"limit": 10**30},
    {"sort": "-"},
    {"sort": "job"},
    {"where": "utilisation>1e999"},
    {"where": "utilisation=nan"},
    {"where": "overridden=-inf"},
    {"where": "overridden=99999999999999999999999"},
    {"where": "check~%\\_'"},
    {"where": "status=\x00"},
    {"where": "status>fail"},
    {"where": ",,="},
    {"where": "elevation=\u0661"},
)


@pytest.mark.parametrize("query", LISTS, ids=str)
@pytest.mark.parametrize("listed", ["connections", "joints"])
def test_no_filter_breaks_a_list(service, listed, query):
    token = Client(service.url).login("admin", "alder-street")
    answer = httpx.get(
        f"{service.url}/api/v1/jobs/alder-street/{listed}", params=query, headers={"Authorization": f"Bearer {token}"}
    )
    assert answer.status_code in (200, 422), answer.text


def test_no_request_breaks_the_service(service, tmp_path):
    token = Client(service.url).login("admin", "alder-street")
    admin = Client(service.url, token)
    admin.new_job(JOB)
    zip_folder(write(small(), tmp_path / "b"), tmp_path / "b.zip")
    admin.import_bundle(JOB, tmp_path / "b.zip")
    admin.put_rulebook(JOB, (DEMO / "rulebook.yaml").read_text())
    admin.wait(JOB, admin.start_run(JOB)["id"])
    schema = schemathesis.openapi.from_url(f"{service.url}/api/v1/openapi.json")
    asked = 0
    for found in schema.get_all_operations():
        operation = found.ok()
        if operation.method.upper() == "DELETE" or operation.path.endswith(LEFT_OUT):
            continue

        @settings(max_examples=EXAMPLES, suppress_health_check=list(HealthCheck))
        @given(case=operation.as_strategy())
        def ask(case):
            for name, value in (("job", JOB), ("connection", "G1.i")):
                if name in case.path_parameters:
                    case.path_parameters[name] = value
            if "run" in case.path_parameters and str(case.path_parameters["run"])[-1] in "02468":
                case.path_parameters["run"] = 1
            answer = case.call(headers={"Authorization": f"Bearer {token}"})
            assert answer.status_code < 500, (case.method, case.path, case.body, answer.text)
            if answer.status_code >= 400 and "/api/" in case.path:
                assert answer.headers["content-type"][0].startswith("application/problem+json")

        ask()
        asked += 1
    assert asked > 15
