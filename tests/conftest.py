"""Fixtures that many tests share."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.bundles import DEMO, outcomes


@pytest.fixture(scope="session")
def demo_outcomes() -> dict[str, tuple[str, str, float, str]]:
    """The demo building sized by its own rulebook."""
    return outcomes(DEMO / "bundle")


@pytest.fixture(scope="session")
def demo_folder() -> Path:
    return DEMO / "bundle"


@pytest.fixture(scope="session")
def service(tmp_path_factory):
    """The demo service, running; tests that change it clean up after themselves."""
    from tests.service.running import Service

    running = Service(tmp_path_factory.mktemp("service") / "home").start()
    yield running
    running.stop()
