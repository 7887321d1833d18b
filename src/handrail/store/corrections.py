"""Corrections of framing that people made, as they stand on the connections of a revision."""

from __future__ import annotations

from functools import partial
from typing import Any

import numpy as np

from handrail.core.building.correcting import Correction
from handrail.core.building.model import Building
from handrail.core.building.nearest import nearest
from handrail.store import overrides
from handrail.store.models import Job, Override


def standing(job: Job) -> dict[str, Correction]:
    """connection -> what is said of it now."""
    return together([(row, row.connection) for row in overrides.framed(job)])


def together(rows: list[tuple[Override, str]], supports: dict[int, str] | None = None) -> dict[str, Correction]:
    """connection -> what all of its overrides say together; `supports` gives what a support is called now, by
    override."""
    by_place: dict[str, dict[str, str]] = {}
    for row, name in rows:
        said = (supports or {}).get(row.id) or row.value["member"] if row.parameter == "support" else row.value
        by_place.setdefault(name, {})[row.parameter] = said
        by_place[name]["words"] = f"corrected by {row.author} ({row.reason or row.cause})"
    return {
        name: Correction(said.get("framing", ""), said.get("support", ""), said["words"])
        for name, said in by_place.items()
    }


def support_of(building: Building, member: str) -> dict[str, Any]:
    """A supporting member by its name and where its ends stand, so that it is known again under another name."""
    index = next(k for k, m in enumerate(building.members) if m.name == member)
    return {"member": member, "place": _ends(building, index).round(1).tolist()}


def called_now(building: Building, rows: list[tuple[Override, str]], within: float) -> dict[int, str]:
    """override -> what the member that it names as support is called in another revision: by place within that distance
    (mm), else by name."""
    names = {}
    wanted = [row for row, _ in rows if row.parameter == "support"]
    places = np.stack([_ends(building, k) for k in range(len(building.members))]) if wanted else None
    for row in wanted:
        assert places is not None
        was, name = np.array([row.value["place"]], float), row.value["member"]
        there = nearest(was, places, within, partial(_other, building, name), either_way=True)
        names[row.id] = building.members[there[0]].name if there else name
    return names


def _ends(building: Building, member: int) -> np.ndarray:
    """x, y, z of both ends, whichever way it is drawn."""
    ends = building.xyz[[building.members[member].i, building.members[member].j]]
    return np.array(sorted(ends.tolist())).ravel()


def _other(building: Building, name: str, _: int, n: int) -> float:
    """Which comes first: the member that is called so."""
    return float(building.members[n].name != name)
