"""Fixtures that many tests share."""

from __future__ import annotations

import os
from pathlib import Path

import pytest
from hypothesis import settings

from tests.bundles import DEMO, outcomes

# The same examples on every run, so that nothing fails by chance; PROPERTIES=wide looks much further.
settings.register_profile("usual", derandomize=True, deadline=None, max_examples=12)
settings.register_profile("wide", deadline=None, max_examples=2000, database=None)
settings.load_profile(os.environ.get("PROPERTIES", "usual"))


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

    running = Service(tmp_path_factory.mktemp("service") / "home", processes=2).start()
    yield running
    running.stop()


SLOW_FIRST = ("console", "service", "cli", "interchange", "core")  # xdist hands their files out in this order


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    if "WIDE" not in os.environ and not config.option.keyword and not any("::" in one for one in config.args):
        out = [item for item in items if "wide" in item.keywords]
        config.hook.pytest_deselected(items=out)
        items[:] = [item for item in items if "wide" not in item.keywords]

    def rank(item: pytest.Item) -> int:
        folder = item.path.parent.name
        return SLOW_FIRST.index(folder) if folder in SLOW_FIRST else len(SLOW_FIRST)

    items.sort(key=rank)


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter, config: pytest.Config) -> None:
    """The order that the tests had, so that one that fails by it can be tried again."""
    seed = config.getoption("randomly_seed", None)
    if seed is not None:
        terminalreporter.write_line(f"shuffled with --randomly-seed={seed}")
