"""One way to change a thing: worked out outside any lock, written once and only on what it was worked out from."""

from __future__ import annotations

from dataclasses import dataclass

import pytest

from handrail.service.application import patterns
from handrail.service.application.attempting import Basis, Overtaken, attempt
from handrail.service.application.plans import look_at
from handrail.service.application.standing import TRIES
from handrail.store import jobs, pattern_edits, sheets, team
from handrail.store.database import proxy, writing
from handrail.store.models import Connection, ConnectionRow, Job
from tests.service.house import House


@pytest.fixture
def job(tmp_path):
    (tmp_path / "home").mkdir()
    house = House(tmp_path / "home")
    house.run()
    with proxy.connection_context():
        yield Job.get(Job.name == "bay")
    house.close()


@dataclass(frozen=True)
class Tagging:
    """The next kind of change, as the guide has it."""

    basis: Basis
    tag: str

    def write(self) -> str:
        with_tag = ConnectionRow.update(tags=[self.tag]).where(sheets.standing(self.basis.job))
        with_tag.execute()
        return self.tag


def tags(job):
    return {tuple(c.tags) for c in Connection.select().where(Connection.job == job)}


def test_what_nothing_moves_under_is_written_once(job):
    worked = []

    def work_out():
        worked.append(1)
        return Tagging(Basis(job, moves=jobs.moves(job)), "east")

    assert attempt(job, work_out, Tagging.write) == "east" and worked == [1] and tags(job) == {("east",)}


@pytest.mark.parametrize("moved", ["seen", "versions", "moves"])
def test_what_moved_is_worked_out_again(job, moved):
    """Somebody tags a connection, or changes the set of combinations, after it was looked at: the first try is not
    written, the second is."""
    tried = []

    def work_out():
        records = list(Connection.select().where(Connection.job == job))
        found = {
            "seen": lambda: Basis.of(look_at(job)),
            "versions": lambda: Basis(job, versions={r.key: r.version for r in records}),
            "moves": lambda: Basis(job, moves=jobs.moves(job)),
        }[moved]()
        tried.append(found)
        if len(tried) == 1:
            if moved == "seen":
                Job.update(combination_set="service").where(Job.id == job.id).execute()
            elif moved == "versions":
                this = sheets.standing(job) & (ConnectionRow.of == records[0].id)
                ConnectionRow.update(version=ConnectionRow.version + 1).where(this).execute()
            else:
                team.label(job, [records[0].key], ["stairs"], [], None, None, "ann")
        return Tagging(found, "east")

    assert attempt(job, work_out, Tagging.write) == "east" and len(tried) == 2


def test_what_is_left_is_tried_again_and_what_was_written_of_it_stays(job):
    """As a run does: one connection a try, until none is left."""
    left = [c.key for c in Connection.select().where(Connection.job == job)]

    def write(work):
        this = sheets.standing(job) & (ConnectionRow.key == left.pop())
        ConnectionRow.update(tags=["done"]).where(this).execute()
        return None if left else len(tags(job))

    del left[3:]
    assert attempt(job, lambda: Tagging(Basis(job), ""), write) == 2 and not left
    assert [c.tags for c in Connection.select().where(Connection.job == job)].count(["done"]) == 3


def test_what_others_change_again_and_again_is_given_up_with_nothing_written(job):
    before, tried = tags(job), []

    def work_out():
        tried.append(1)
        basis = Basis(job, moves=jobs.moves(job))
        with writing():
            jobs.move(job.id)
        return Tagging(basis, "east")

    with pytest.raises(Overtaken, match="the bay was changed again and again"):
        attempt(job, work_out, Tagging.write, "the bay")
    assert len(tried) == TRIES and tags(job) == before


def test_an_error_in_the_middle_leaves_nothing(job):
    before = tags(job)

    def write(work):
        work.write()
        raise ValueError("no")

    with pytest.raises(ValueError, match="no"):
        attempt(job, lambda: Tagging(Basis(job), "east"), write)
    assert tags(job) == before


def test_what_others_say_of_patterns_meanwhile_counts(job, monkeypatch):
    """Two put joints into patterns at once: the second is laid on what the first made of them."""
    first, second = sorted(patterns.patterns_of(job).joints())[:2]
    laid, real = [], patterns.with_edits

    def meanwhile(building, framing, edits):
        if first in edits:
            laid.append(dict(edits))
            if len(laid) == 1:
                pattern_edits.put(job, second, "", "it is to be reinforced", "ben")
        return real(building, framing, edits)

    monkeypatch.setattr(patterns, "with_edits", meanwhile)
    assert patterns.put_beside(job, first, "", "so is this", "ann")["at"] == [first]
    assert laid[:2] == [{first: ""}, {first: "", second: ""}]
    assert set(pattern_edits.listed(job)) == {first, second}
