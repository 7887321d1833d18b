"""Maps that the house keeps above its jobs, by name, those that tables come in through and those that rows go out by:
each saving a revision of its own, so that none is lost."""

from __future__ import annotations

import re
from typing import Any

from peewee import fn

from handrail.core.errors import InputError
from handrail.store.database import writing
from handrail.store.models import HouseMap

KEPT, LEFT = "kept", "left"
IN, OUT = "in", "out"


def listed(*ways: str) -> list[HouseMap]:
    """The newest revision of every map that is kept, by name; of these `ways` alone, where any are said."""
    newest = HouseMap.select(HouseMap.name, fn.MAX(HouseMap.number).alias("number")).group_by(HouseMap.name)
    listed = HouseMap.select().join(
        newest, on=((HouseMap.name == newest.c.name) & (HouseMap.number == newest.c.number))
    )
    return [m for m in listed.order_by(HouseMap.name) if m.state == KEPT and (not ways or m.way in ways)]


def find(name: str) -> HouseMap | None:
    """The newest revision of a map; None where there is none, or it was left."""
    house_map = HouseMap.select().where(HouseMap.name == name).order_by(HouseMap.number.desc()).first()
    return house_map if house_map is not None and house_map.state == KEPT else None


def put(name: str, text: str, note: str, author: str, state: str = KEPT, way: str = IN) -> HouseMap:
    """A new revision. Raises InputError for a name that cannot be."""
    if not re.fullmatch(r"[a-z0-9][a-z0-9-]{0,63}", name):
        raise InputError(f"'{name[:60]}': use small letters, figures and hyphens, like frame-report")
    with writing():
        number = (HouseMap.select(fn.MAX(HouseMap.number)).where(HouseMap.name == name).scalar() or 0) + 1
        return HouseMap.create(
            name=name, number=number, text=text, note=note.strip(), author=author, state=state, way=way
        )


def as_dict(house_map: HouseMap) -> dict[str, Any]:
    return {name: getattr(house_map, name) for name in ("name", "number", "way", "note", "author", "made")}
