"""Maps of the house, kept by name above its jobs: such as tables come in through, proposed where they fit, and such
as rows go out by."""

from __future__ import annotations

from typing import Any

from handrail.interchange.columnmap import read_map
from handrail.interchange.outputmap import is_output, read_output
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api.auth import house_user
from handrail.service.api.models import answers as m
from handrail.service.api.models import requests as q
from handrail.service.application.refused import Refused
from handrail.store import maps
from handrail.store.models import HouseMap

api = blueprint("maps", "column maps above the jobs")


def _found(name: str) -> HouseMap:
    house_map = maps.find(name)
    if house_map is None:
        raise Refused(
            404,
            f"the house has no map '{name[:60]}'; it has"
            f" {', '.join(own.name for own in maps.listed()[:20]) or 'none yet'}",
        )
    return house_map


@api.get("/maps", responses={200: a.Page[m.HouseMap]})
def list_maps() -> Reply:
    """The house's maps, each as it was saved last; `way` says which tables come in through and which rows go out by."""
    house_user()
    listed: list[dict[str, Any]] = [maps.as_dict(own) for own in maps.listed()]
    return {"items": listed, "total": len(listed), "next": None}


@api.get("/maps/<string:name>", responses={200: m.WrittenMap, 404: a.Problem})
def get_map(path: q.MapPath) -> Reply:
    """One as it is written."""
    house_user()
    house_map = _found(path.name)
    return maps.as_dict(house_map) | {"text": house_map.text}


@api.put("/maps/<string:name>", responses={201: m.WrittenMap, 409: a.Problem, 422: a.Problem})
def put_map(path: q.MapPath, body: q.KeptMap) -> Reply:
    """Keep a map by that name, a new revision where there is one; one with mistakes is refused with their lines. One
    that begins with `output = 1` is a map that rows go out by."""
    user = house_user()
    way = maps.OUT if is_output(body.text) else maps.IN
    if (there := maps.find(path.name)) is not None and there.way != way:
        raise Refused(409, f"'{path.name}' is a map that goes {there.way}; give this one another name")
    read_output(body.text) if way == maps.OUT else read_map(body.text)
    house_map = maps.put(path.name, body.text, body.note, user.name, way=way)
    return maps.as_dict(house_map) | {"text": house_map.text}, 201


@api.delete("/maps/<string:name>", responses={204: None, 404: a.Problem})
def leave_map(path: q.MapPath) -> Reply:
    """Take one away: it is proposed no more. Jobs keep the map that they came in through."""
    user = house_user(writes=True)
    house_map = _found(path.name)
    maps.put(house_map.name, house_map.text, "", user.name, maps.LEFT, house_map.way)
    return "", 204
