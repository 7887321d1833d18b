"""A run over several cores comes out as over one, whatever becomes of the other process."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time

import numpy as np
import pytest

from handrail.core.checking import acting, batch, cores
from tests.bundles import plan_of


@pytest.fixture
def shared(monkeypatch, demo_folder):
    monkeypatch.setattr(cores, "WORTH", 0.0)
    plan = plan_of(demo_folder)
    wanted = {a.connection.id for a in plan.assigned if a.rule and a.rule.use in ("single_plate", "double_angle")}
    families = plan.families(set(sorted(wanted)[:120]))
    return plan, families, dict(plan.batch().run(families))


def test_it_comes_out_the_same(shared):
    plan, families, alone = shared
    told: list[int] = []
    assert dict(cores.spread(plan.batch(told.append), families, 3)) == alone
    assert told and told == sorted(told) and told[-1] <= len(alone)


def test_what_is_not_kept_and_gone_through_in_parts_comes_out_the_same(shared, monkeypatch, demo_folder):
    """Of many connections the actions are made anew each time, and a family is worked at a part at a time."""
    plan, families, alone = shared
    facts = [plan.acting.peaks()[k].tolist() for k in range(40)]
    monkeypatch.setattr(acting, "KEPT", 0)
    monkeypatch.setattr(acting, "PART", 7)
    monkeypatch.setattr(batch, "PART", 3)
    other, told = plan_of(demo_folder), list[int]()
    assert dict(other.batch(told.append).run(families)) == alone
    assert told == sorted(set(told)) and len(told) > len(families)
    assert [other.acting.peaks()[k].tolist() for k in range(40)] == facts
    assert (np.isnan(other.acting.all) == np.isnan(plan.acting.all)).all()


def test_a_process_that_ends_leaves_nothing_undone(shared, monkeypatch):
    plan, families, alone = shared
    monkeypatch.setattr(cores, "_work", lambda batch, part, mouth, parent: os.kill(os.getpid(), signal.SIGKILL))
    assert dict(cores.spread(plan.batch(), families, 2)) == alone


def test_what_progress_raises_ends_both(shared):
    plan, families, _ = shared

    class Stopped(Exception):
        pass

    def stop(done: int) -> None:
        raise Stopped

    with pytest.raises(Stopped):
        list(cores.spread(plan.batch(stop), families, 2))
    assert not [child for child in cores.multiprocessing.active_children() if child.is_alive()]


def test_parts_weigh_about_the_same(shared):
    _, families, _ = shared
    parts = cores._shared_out(families, 2)
    assert sum(len(part) for part in parts) == len(families) and {f for part in parts for f in part} == set(families)
    assert max(len(p) for p in parts) < len(families)


def test_what_climbs_step_by_step_is_shared_out_evenly(demo_folder):
    """Bases and splices take nearly all of the demo's time: no core has more than one of them more than another."""
    families = plan_of(demo_folder).families()
    stepped = [sum(bool(family.axes) for family in part) for part in cores._shared_out(families, 2)]
    assert sum(stepped) == sum(bool(family.axes) for family in families) > 2
    assert max(stepped) - min(stepped) <= 1


def test_the_other_ends_with_the_one_that_started_it():
    """A process that shares out work is killed: what it started ends by itself."""
    code = (
        "import os, time\nfrom handrail.core.checking import cores\nfrom types import SimpleNamespace\nclass Slow:\n   "
        " def __init__(self, **given): self.__dict__.update(given)\n    def run(self, part):\n        time.sleep(60)\n "
        "       return []\ncores.replace = lambda batch, progress: Slow(progress=progress)\nother ="
        " cores._Other.start(SimpleNamespace(progress=print), {})\nprint(other.process.pid,"
        " flush=True)\nos.kill(os.getpid(), 9)\n"
    )
    with subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE, text=True) as started:
        pid = int(started.stdout.readline())
        started.wait()
    for _ in range(100):
        try:
            os.kill(pid, 0)
        except ProcessLookupError:
            return
        time.sleep(0.1)
    pytest.fail(f"process {pid} is still there")
