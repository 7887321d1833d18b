"""Marks: names of connections as fabricated, given once and never to others."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Mapping
from typing import Any

from peewee import PeeweeException

from handrail.store import bulk
from handrail.store.database import writing
from handrail.store.models import Job, Mark
from handrail.store.trouble import unwritable

UNSURE = "?"  # behind a mark that could not be written down


def named(job: Job, wanted: Mapping[str, str], formerly: Callable[[str], str]) -> dict[str, str]:
    """digest -> mark, of the digests `wanted` (each with the series that its mark is of), in whose order new ones are
    numbered. One that a mark had `formerly`, by an earlier way to tell them apart, hands it on once. Where nothing can
    be written for now a new one is what it would be, UNSURE."""
    names = _known(job)
    if not wanted.keys() - names.keys():
        return {digest: names[digest] for digest in wanted}
    try:
        with writing():
            _handed_on(job, wanted, formerly)
            names, new = _numbered(job, wanted)
            bulk.insert(Mark, new)
    except PeeweeException as exc:
        if not unwritable(exc):
            raise
        names, new = _numbered(job, wanted)
        names |= {one["digest"]: f"{names[one['digest']]}{UNSURE}" for one in new}
    return {digest: names[digest] for digest in wanted}


def _handed_on(job: Job, wanted: Mapping[str, str], formerly: Callable[[str], str]) -> None:
    """Marks that are known by what their digests were are known by what they are."""
    known = set(_known(job))
    for digest in wanted:
        if digest in known or (was := formerly(digest)) not in known or was in wanted:
            continue
        Mark.update(digest=digest).where((Mark.job == job) & (Mark.digest == was)).execute()
        known = known - {was} | {digest}


def _numbered(job: Job, wanted: Mapping[str, str]) -> tuple[dict[str, str], list[dict[str, Any]]]:
    """digest -> mark, and the records of those that are new."""
    names, new = _known(job), []
    last: dict[str, int] = defaultdict(int)
    for series, number in Mark.select(Mark.series, Mark.number).where(Mark.job == job).tuples():
        last[series] = max(last[series], number)
    for digest, series in wanted.items():
        if digest not in names:
            last[series] += 1
            names[digest] = f"{series}{last[series]}"
            new.append({"job": job.id, "digest": digest, "series": series, "number": last[series]})
    return names, new


def _known(job: Job) -> dict[str, str]:
    rows = Mark.select(Mark.digest, Mark.series, Mark.number).where(Mark.job == job).tuples()
    return {digest: f"{series}{number}" for digest, series, number in rows}
