"""What stands at the head of what is printed: the job's own lines of the firm, else the house's, its registration and
emblem."""

from __future__ import annotations

from handrail.core.drawing.sheets import Title
from handrail.interchange.printed.page import Head
from handrail.store import profiles
from handrail.store.models import Job


def head(job: Job, of: str, made_from: str, system: str, profile: str = "") -> Head:
    """Of pages `of` something. Raises InputError where there is no such profile."""
    own = profiles.said(profile)
    firm = profiles.firm_of(job.firm_lines, own)
    return Head(firm, job.title or job.name, of, made_from, system, own.emblem, own.kind)


def firm(job: Job) -> tuple[str, ...]:
    """The firm's lines."""
    return profiles.firm_of(job.firm_lines, profiles.said())


def title(job: Job, of: str, cells: tuple[tuple[str, str], ...]) -> Title:
    """Of sheets `of` something."""
    own = profiles.said()
    return Title(firm(job), job.title or job.name, of, cells, own.emblem, own.kind)
