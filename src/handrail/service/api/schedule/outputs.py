"""Our rows under another program's names, by an output map."""

from __future__ import annotations

from urllib.parse import quote

from flask import Response
from pydantic import Field

from handrail.service.api import Reply, blueprint
from handrail.service.api import answers as a
from handrail.service.api import requests as s
from handrail.service.api.auth import job_for
from handrail.service.api.long import long
from handrail.service.api.schedule import answers as sc
from handrail.service.application import outputs

api = blueprint("outputs", "rows under another program's names")
MEDIA = {
    "csv": "text/csv",
    "json": "application/json",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "zip": "application/zip",
}


class WrittenBy(s.Body):
    map: str = Field(description="an output map in TOML; the house's are at /maps/{name}")


@api.get("/jobs/<string:job>/output", responses={200: sc.ProposedOutput})
@long(by_role=False)
def propose_output(path: s.JobPath) -> Reply:
    """An output map to begin with: the column map that the model came in through, turned round."""
    return {"map": outputs.proposed(job_for(path.job))}


@api.post("/jobs/<string:job>/output/try", responses={200: sc.TriedOutput, 422: a.Problem})
@long(by_role=False)
def try_output(path: s.JobPath, body: WrittenBy) -> Reply:
    """What a map writes of the job as it stands: its columns with units, how many rows, the first of them. What does
    not fit is told by the map's lines; nothing is kept."""
    return outputs.tried(job_for(path.job), body.map)


@api.post("/jobs/<string:job>/output/file", responses={200: None, 422: a.Problem})
@long(by_role=False)
def output_file(path: s.JobPath, body: WrittenBy) -> Response:
    """The file that it writes: text, a workbook or JSON as its name says, or a zip of several. What does not fit is
    told, and nothing is written."""
    name, content = outputs.written(job_for(path.job), body.map)
    media = MEDIA.get(name.rpartition(".")[2].lower(), "text/plain")
    plain = name if name.isascii() else "output"
    disposition = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(name)}"
    return Response(content, mimetype=media, headers={"Content-Disposition": disposition})
