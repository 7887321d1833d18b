"""Drawings, calculations and the steel's model as files: of a connection, of a mark, of many."""

from __future__ import annotations

from flask import Response
from pydantic import Field

from handrail.interchange.drawings.files import KINDS
from handrail.interchange.printed.calculation import SECTIONS
from handrail.service.api import blueprint
from handrail.service.api import requests as s
from handrail.service.api.auth import caller, job_for
from handrail.service.api.long import long
from handrail.service.application import calculating, detailing, modelling, results
from handrail.service.application.refused import Refused

api = blueprint("drawings", "drawings that leave the house")


class DrawingPath(s.JobPath):
    kind: str = Field(description="pdf, svg or dxf")


class DrawingQuery(s.Query):
    connection: str = Field("", max_length=80, description="of this connection alone, as it stands")
    mark: str = Field("", max_length=40, description="of this mark alone")
    where: str = Field(
        "", max_length=20_000, description="of the marks of these connections; of all, where none is said"
    )
    neighbours: bool = Field(False, description="of one connection: with the others of its joint, dimmed")
    sheet: str = Field("", max_length=20, description="the paper: A4 to A1, ANSI-A to ANSI-D; ANSI-B, or A3 in mm")


class ModelPath(s.JobPath):
    kind: str = Field(description="ifc; of one connection also dxf")


class ModelQuery(s.Query):
    connection: str = Field("", max_length=80, description="of this connection alone, its members broken off near it")
    where: str = Field("", max_length=20_000, description="of these connections, with the members that they hold")


class PageQuery(s.Query):
    address: str = Field(
        "", max_length=300, pattern=r"^(https?://\S+)?$", description="under which the console is reached, for its link"
    )


class CalculationPath(s.JobPath):
    kind: str = Field(description="pdf; or docx, for a word processor, with at most 200 calculations")


class CalculationQuery(s.Query):
    connection: str = Field("", max_length=80, description="of this connection alone, as it stands")
    mark: str = Field("", max_length=40, description="of this mark alone, by the place that is used most")
    where: str = Field("", max_length=20_000, description="of the marks of these connections")
    each: bool = Field(False, description="a calculation a connection, not a mark")
    sections: str = Field(
        "",
        max_length=200,
        description=f"what is in it, of {', '.join(SECTIONS)}, with commas; else what the profile says, else all",
    )
    lines: str = Field(
        "", max_length=20, description="whose worked lines: governing, all, none; else as the profile says"
    )
    profile: str = Field("", max_length=64, description="of the house; the usual one, where none is said")


@api.get("/jobs/<string:job>/calculations.<string:kind>", responses={200: None})
@long(keeps=False)  # it says who asked for it
def calculations_file(path: CalculationPath, query: CalculationQuery) -> Response:
    """Calculations with a cover and contents: of each what it is, its drawing, its sizes and where they come from, what
    acts, every check with clause, demand and available, worked lines, detailing, decisions; failing ones with what
    fails."""
    job = job_for(path.job)
    sections = tuple(name.strip() for name in query.sections.split(",") if name.strip())
    asked = calculating.Asked(
        query.connection, query.mark, query.where, query.each, sections, query.lines, caller().name,
        query.profile,
    )  # fmt: skip
    of = query.connection or query.mark
    name = f"{job.name}-{f'{of}-' if of else ''}calculations.{path.kind}".replace("/", "-").replace('"', "")
    return Response(
        calculating.report(job, asked, path.kind),
        mimetype=calculating.KINDS[path.kind],
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


@api.get("/jobs/<string:job>/drawings.<string:kind>", responses={200: None})
@long(by_role=False)
def drawing_file(path: DrawingPath, query: DrawingQuery) -> Response:
    """A detail a mark on sheets with a title block: views cut from the solids, dimensions, weld symbols, what each is
    made of and where it is used. PDF, SVG (one sheet), or DXF with layers and real dimensions (at most 100 details)."""
    job = job_for(path.job)
    if path.kind not in KINDS:
        raise Refused(404, f"a drawing is {', '.join(KINDS)}, not {path.kind}")
    if query.connection:
        body = detailing.of_connection(job, query.connection, path.kind, query.sheet, query.neighbours)
    else:
        body = detailing.of_marks(job, query.where, query.mark, path.kind, query.sheet)
    of = query.connection or query.mark or "drawings"
    name = f"{job.name}-{of}.{path.kind}".replace("/", "-").replace('"', "")
    return Response(body, mimetype=KINDS[path.kind], headers={"Content-Disposition": f'attachment; filename="{name}"'})


@api.get("/jobs/<string:job>/steel-model.<string:kind>", responses={200: None})
@long(by_role=False)
def model_file(path: ModelPath, query: ModelQuery) -> Response:
    """The steel as IFC 4 (reference view), mm: members with their end cuts, copes and holes; each connection as an
    assembly of its plates, bolts and welds, with mark, status and utilisation; on storeys, with the grid. Of one
    connection also as DXF with solids."""
    job = job_for(path.job)
    body = modelling.model(job, path.kind, query.where, query.connection)
    of = f"{query.connection}-" if query.connection else ""
    name = f"{job.name}-{of}model.{path.kind}".replace("/", "-").replace('"', "")
    media = modelling.KINDS[path.kind]
    return Response(body, mimetype=media, headers={"Content-Disposition": f'attachment; filename="{name}"'})


@api.get("/jobs/<string:job>/connections/<string:connection>/page.pdf", responses={200: None})
@long(by_role=False)
def connection_page(path: s.ConnectionPath, query: PageQuery) -> Response:
    """A connection on one page, to be sent to a person: drawing, sizes, the checks that ask most of it, how it stands,
    and a link to it."""
    job = job_for(path.job)
    name = f"{job.name}-{path.connection}.pdf".replace("/", "-").replace('"', "")
    return Response(
        calculating.one_page(job, path.connection, query.address),
        mimetype="application/pdf",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


class ResultsPath(s.JobPath):
    kind: str = Field(description="csv or xlsx: a row a member end; png or svg: the building coloured")


@api.get("/jobs/<string:job>/results.<string:kind>", responses={200: None})
@long(by_role=False)
def results_file(path: ResultsPath) -> Response:
    """What came of every member end, for whoever made the model, in its own names and units: standard, status,
    utilisation, governing check and combination, actions designed for, how the analysis has it and how it is built,
    remarks; or the building coloured by utilisation."""
    job = job_for(path.job)
    name = f"{job.name}-results.{path.kind}".replace('"', "")
    return Response(
        results.as_file(job, path.kind),
        mimetype=results.KINDS[path.kind],
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )
