"""Findings of the audit that somebody lets stand, with the reason."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from handrail.core.errors import InputError
from handrail.store.database import writing
from handrail.store.models import Acknowledged, Job

OF_COMBINATIONS = "combination_"  # begins the code of a finding that is known by its combination in place of a member
Key = tuple[str, str, str]  # code, node, member or combination


def key_of(finding: dict[str, Any]) -> Key:
    """What a finding is known by from one revision to the next."""
    return (
        str(finding["code"]),
        str(finding.get("node", "")),
        str(finding.get("member", "") or finding.get("combination", "")),
    )


def acknowledged(job: Job) -> dict[Key, dict[str, str]]:
    """Every acknowledgement of a job."""
    rows = Acknowledged.select().where(Acknowledged.job == job)
    return {(r.code, r.node, r.member): {"reason": r.reason, "author": r.author, "made": r.made} for r in rows}


def let_stand(job: Job, codes: Iterable[str]) -> tuple[tuple[str, str], ...]:
    """(code, member or combination) of the findings with one of these codes that somebody lets stand."""
    rows = (
        Acknowledged.select(Acknowledged.code, Acknowledged.member)
        .where((Acknowledged.job == job) & Acknowledged.code.in_(list(codes)))
        .tuples()
    )
    return tuple(sorted(rows))


def with_words(job: Job, findings: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Findings, each with who let it stand and why, or with nothing."""
    said = acknowledged(job)
    return [f | {"acknowledged": said.get(key_of(f))} for f in findings]


def acknowledge(job: Job, keys: Iterable[Key], reason: str, author: str) -> None:
    """Let findings stand, all for one reason. Raises InputError without one."""
    if not reason.strip():
        raise InputError("reason: say why the finding may stand")
    with writing():
        for key in dict.fromkeys(keys):
            _drop(job, key)
            Acknowledged.create(job=job, code=key[0], node=key[1], member=key[2], reason=reason.strip(), author=author)


def take_back(job: Job, key: Key) -> bool:
    """Not let stand any more; False where it was not."""
    with writing():
        return bool(_drop(job, key))


def follow(job: Job, joints: Mapping[str, str], members: Mapping[str, str]) -> None:
    """After a revision: what is let stand is so of the same joint and member, old name to new. Inside the caller's
    transaction."""
    said = [
        (a, joints.get(a.node, a.node), members.get(a.member, a.member))
        for a in Acknowledged.select().where(Acknowledged.job == job)
    ]
    said = [
        (a, node, member)
        for a, node, member in said
        if (node, member) != (a.node, a.member) and not a.code.startswith(OF_COMBINATIONS)
    ]
    for a, _, _ in said:  # names may be swapped: none stands in another's way
        Acknowledged.update(node=f"~{a.id}").where(Acknowledged.id == a.id).execute()
    for a, node, member in said:
        Acknowledged.update(node=node, member=member).where(Acknowledged.id == a.id).execute()


def _drop(job: Job, key: Key) -> int:
    code, node, member = key
    own = (
        (Acknowledged.job == job)
        & (Acknowledged.code == code)
        & (Acknowledged.node == node)
        & (Acknowledged.member == member)
    )
    return int(Acknowledged.delete().where(own).execute())
