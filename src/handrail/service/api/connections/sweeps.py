"""Sweeps: one connection tried over lists of values, from a file or as it stands in a job."""

from __future__ import annotations

from typing import Any

import numpy as np
from flask import request

from handrail.core.checking import sweep
from handrail.core.errors import InputError
from handrail.core.standards import STANDARDS
from handrail.core.standards.sizes import NOT_CHOSEN
from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.connections import answers as c
from handrail.service.api.connections import requests as q
from handrail.service.api.long import long
from handrail.service.application import changing, effort
from handrail.service.application.kept import kept
from handrail.service.application.refused import Refused

api = blueprint("sweeps", "a connection over lists of values")


@api.post("/sweep", responses={200: c.Sweep})
@long()
def sweep_file(body: q.SweepBody) -> Reply:
    """A trial, given whole, over lists of values; nothing is kept."""
    caller()
    given, asked = sweep.read_sweep({k: v for k, v in (request.get_json(silent=True) or {}).items() if k != "units"})
    swept = sweep.run(
        given.standard, given.situation, given.sizes, given.code, given.actions, asked, progress=effort.step
    )
    return sweep.as_dict(swept, given.standard, body.units)


@api.post("/jobs/<string:job>/connections/<path:connection>/sweep", responses={200: c.Sweep, 409: a.Problem})
@long()
def sweep_connection(path: s.ConnectionPath, body: q.SweepOf) -> Reply:
    """A connection of a job with its own actions over lists of values, the rest of its sizes as they stand; nothing is
    kept. The winner's `changes` can be kept as an override."""
    job = job_for(path.job)
    record, _, plan = changing.looked_at(job, path.connection)
    stands = kept(plan, record)
    assigned = stands.assigned
    if not stands.ruled or assigned.situation is None or assigned.reason:
        raise Refused(
            409,
            f"connection {record.key} has no sizes to begin with"
            f" ({stands.otherwise or assigned.reason or record.reason}); run it first",
        )
    standard = STANDARDS[record.standard]
    asked = sweep.read_asked(standard, {"values": body.values, "order": body.order, "stop": body.stop})
    try:
        fixed = standard.read(body.parameters, "given", 1.0)
    except InputError as exc:
        raise InputError(f"parameters: {exc.words}") from exc
    base = {n: z for n, z in stands.sizes.items() if z.source not in NOT_CHOSEN} | fixed
    k = np.array([plan.index[record.key]])
    if np.isnan(plan.acting.on(k)).any() or not plan.acting.names:
        raise Refused(409, f"connection {record.key} has no forces")
    swept = sweep.run(
        standard, assigned.situation, base, plan.code, plan.acting.actions(k), asked, progress=effort.step
    )
    answer: dict[str, Any] = sweep.as_dict(swept, standard, plan.building.system)
    if answer["changes"]:
        answer["changes"] |= {
            name: size.formula or standard.parameter(name).given(size.value) for name, size in fixed.items()
        }
    return answer
