"""Capacity tables of a standard."""

from __future__ import annotations

from typing import Any

from flask import Response, request

from handrail.core.checking import capacity
from handrail.interchange.capacity_book import workbook
from handrail.interchange.sheet import WORKBOOK
from handrail.service.api import Reply, blueprint
from handrail.service.api.auth import caller
from handrail.service.api.connections import answers as c
from handrail.service.api.connections import requests as q
from handrail.service.api.long import long
from handrail.service.application import effort

api = blueprint("capacity", "what a standard holds on a range of sections")


@api.post("/capacity", responses={200: c.Capacity})
@long()
def capacity_table(body: q.CapacityBody) -> Reply:
    """For every section of a range the shear that each candidate holds, and the lightest for each shear that is
    asked."""
    _, table = _made(body)
    return table


@api.post("/capacity.xlsx", responses={200: None})
@long()
def capacity_workbook(body: q.CapacityBody) -> Response:
    """The same as a workbook."""
    asked, table = _made(body)
    name = f"{asked.standard.name}-capacity.xlsx"
    content = workbook(table, capacity.words(asked))
    return Response(content, mimetype=WORKBOOK, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def _made(body: q.CapacityBody) -> tuple[capacity.Asked, dict[str, Any]]:
    caller()
    data = {k: v for k, v in (request.get_json(silent=True) or {}).items() if k != "units"}
    asked = capacity.read_asked_of(data)
    return asked, capacity.as_dict(asked, capacity.capacities(asked, effort.step), body.units)
