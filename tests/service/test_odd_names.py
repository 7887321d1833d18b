"""Members, joints and jobs may be called whatever a model calls them: addresses, filters and calls of the client take them."""

from __future__ import annotations

import pytest

from handrail.client import ServiceError
from handrail.interchange.archive import zip_folder
from tests.bundles import DEMO, ODD, odd_names, small, write


@pytest.fixture(scope="module")
def odd(service, tmp_path_factory):
    """A small bay whose beam and joint have odd names."""
    folder, admin = tmp_path_factory.mktemp("odd"), service.client("admin")
    tables = odd_names(small())
    zip_folder(write(tables, folder / "b"), folder / "b.zip")
    admin.new_job("odd-names")
    admin.import_bundle("odd-names", folder / "b.zip")
    admin.put_rulebook("odd-names", (DEMO / "rulebook.yaml").read_text())
    admin.wait("odd-names", admin.start_run("odd-names")["id"])
    yield admin
    admin._call("DELETE", "/jobs/odd-names")


def test_a_page_and_a_change(odd):
    key = f"{ODD}.i"
    assert odd.connection("odd-names", key)["joint"] == "e/1,?"
    made = odd.set_override("odd-names", key, "rows", 3, "wish")
    assert made["connection"] == key and odd.connection("odd-names", key)["overridden"] == 1
    odd.clear_override("odd-names", made["id"], state="awaiting")


def test_filters_hold_commas_in_quotes(odd):
    assert {c["connection"] for c in odd.connections("odd-names", 'joint="e/1,?"')} == {f"{ODD}.i"}
    assert odd.connections("odd-names", 'joint="e/1,?", status=fail') == []
    with pytest.raises(ServiceError, match="is not a filter"):
        odd.connections("odd-names", "joint=e/1,?")


def test_joints_come_in_pages(odd):
    whole = odd.joints("odd-names")
    assert [j["joint"] for j in whole][:2] == ["a", "b"] and sum(len(j["connections"]) for j in whole) == len(odd.connections("odd-names"))
    first = odd._call("GET", "/jobs/odd-names/joints", params={"limit": 2})
    rest = odd._call("GET", "/jobs/odd-names/joints", params={"limit": 99, "cursor": first["next"]})
    assert first["items"] + rest["items"] == whole and first["total"] == len(whole) and rest["next"] is None


@pytest.mark.parametrize("name", ["sign-in", "api", "healthz", "assets"])
def test_a_job_takes_no_address_of_the_console(odd, name):
    with pytest.raises(ServiceError, match="address of the console"):
        odd.new_job(name)
