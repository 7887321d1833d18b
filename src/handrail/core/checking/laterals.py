"""A building with what its rulebook says of the systems that resist sideways forces."""

from __future__ import annotations

from dataclasses import replace

from handrail.core.building.model import Building
from handrail.core.rulebook.lateral import Lateral


def by_rule(building: Building, roles: tuple[str, ...], lateral: Lateral) -> Building:
    """The building whose members, which stand in it as `roles`, are of the kinds that `lateral` says; itself where that
    says nothing else."""
    if not lateral.kinds and lateral.category in ("", building.category):
        return building
    members = []
    for member, role in zip(building.members, roles, strict=True):
        kind = lateral.of(member, role)
        members.append(replace(member, lateral=kind) if kind and kind != member.lateral else member)
    return replace(building, members=tuple(members), category=lateral.category or building.category)
