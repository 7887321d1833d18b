"""What many tests of the service begin with."""

from __future__ import annotations

import pytest

from tests.service.house import House
from tests.service.running import Service


@pytest.fixture
def house(tmp_path):
    """The service in this process over the small bay."""
    made = House(tmp_path / "home")
    yield made
    made.close()


@pytest.fixture
def own(tmp_path):
    """A real service that a test may kill."""
    service = Service(tmp_path / "home").start()
    yield service
    if service.process and service.process.poll() is None:
        service.stop()
