"""What each person changed in a job, step by step, so that they can go back and forward through it.

A step is one act: the overrides that it made, and those that it ended. Going back makes and ends others, which the
ledger shows like any."""

from __future__ import annotations

from typing import Any

from handrail.store.models import Job, Step

KEPT = 100  # steps of a person in a job


def begin(job: Job, author: str) -> Step:
    """A new step; what the person had gone back over is no longer to be gone forward to. Inside the caller's
    transaction."""
    own = (Step.job == job) & (Step.author == author)
    Step.delete().where(own & Step.undone).execute()
    old = Step.select(Step.id).where(own).order_by(Step.id.desc()).offset(KEPT - 1)
    Step.delete().where(Step.id.in_([row.id for row in old])).execute()
    return Step.create(job=job, author=author, made=[], ended=[])


def made_many(step: Step, made: list[tuple[int, list[int]]]) -> None:
    """Note the overrides that the step made, each with those that it ended for it."""
    noted: Any = step
    noted.made, noted.ended = [number for number, _ in made], [old for _, ended in made for old in ended]
    step.save()


def ended(step: Step, ids: list[int]) -> None:
    """Note the overrides that the step ended."""
    noted: Any = step
    noted.ended = [*noted.ended, *ids]
    step.save()


def last(job: Job, author: str, undone: bool) -> Step | None:
    """The step to go back over: the person's last; or, where `undone`, to go forward to: the first that was gone back
    over."""
    own = (Step.job == job) & (Step.author == author) & (Step.undone == undone)
    return Step.select().where(own).order_by(Step.id if undone else Step.id.desc()).first()


def turned(step: Step, forward: bool, again: dict[int, int]) -> None:
    """Note that the person went over a step; what was made `again` goes by its new number in all their steps."""
    for other in Step.select().where((Step.job == step.job_id) & (Step.author == step.author)):
        made, ended = ([again.get(k, k) for k in ids] for ids in (other.made, other.ended))
        undone = not forward if other.id == step.id else other.undone
        Step.update(made=made, ended=ended, undone=undone).where(Step.id == other.id).execute()
