"""Where the processes of a service count together: in memory where there is such a folder, and never what somebody else
put there."""

from __future__ import annotations

import os
from pathlib import Path

import httpx
import pytest

from handrail.service import counters


@pytest.fixture(autouse=True)
def _environment(monkeypatch):
    monkeypatch.setenv(counters.FOLDER, "")  # and back as it was


def test_the_folder_of_a_killed_service_goes(tmp_path, monkeypatch):
    memory = tmp_path / "memory"
    memory.mkdir()
    monkeypatch.setattr(counters, "MEMORY", memory)
    first = counters.count_together(tmp_path)
    assert first.parent == memory and os.environ[counters.FOLDER] == str(first)
    (first / "counter_1.db").write_bytes(b"x")
    second = counters.count_together(tmp_path)  # nobody took the first away
    assert list(memory.iterdir()) == [second]


@pytest.mark.parametrize("said", ["/etc", "../handrail-else", ""])
def test_nothing_else_is_taken_away(tmp_path, monkeypatch, said):
    memory, keep = tmp_path / "memory", tmp_path / "handrail-else"
    memory.mkdir()
    keep.mkdir()
    monkeypatch.setattr(counters, "MEMORY", memory)
    (tmp_path / counters.SAID).write_text(str(keep) if said.startswith("..") else said)
    counters.count_together(tmp_path)
    assert keep.is_dir() and Path("/etc").is_dir()


def test_without_a_folder_in_memory(tmp_path, monkeypatch):
    monkeypatch.setattr(counters, "MEMORY", tmp_path / "not there")
    assert counters.count_together(tmp_path).parent == tmp_path


def test_odd_methods_do_not_make_counters(service):
    """However many a caller thinks of, they are one."""
    for k in range(5):
        httpx.request(f"ODD{k}", f"{service.url}/healthz", trust_env=False)
    text = httpx.get(f"{service.url}/metrics", trust_env=False).text
    assert 'method="other"' in text and "ODD" not in text
    assert "handrail_connections" in text and "handrail_works" in text
