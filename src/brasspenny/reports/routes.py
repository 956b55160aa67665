"""A trial's report: as JSON for the print view, as PDF, as Markdown; its scores as CSV."""

from __future__ import annotations

import csv
import io

from flask import Response

from ..http import IdPath, act, blueprint, reply
from . import schemas as s
from . import service
from .markdown import markdown_of
from .pdf import pdf_of

bp = blueprint("reports", __name__)
COLUMNS = ("flight", "taster", "setup", "brew", "pass", "cup", "attribute", "score")


@bp.get("/trials/<id>/report", responses={200: s.ReportAnswer})
def read_report(path: IdPath):
    """The trial on one or two pages."""
    return reply(service.read_report(path.id, act()))


@bp.get("/trials/<id>/report.pdf")
def read_report_pdf(path: IdPath):
    """The report as PDF."""
    report = service.read_report(path.id, act())
    return _file(pdf_of(report), "application/pdf", f"trial-{report.number}.pdf")


@bp.get("/trials/<id>/report.md")
def read_report_markdown(path: IdPath):
    """The report as Markdown."""
    report = service.read_report(path.id, act())
    return _file(markdown_of(report).encode(), "text/markdown; charset=utf-8", f"trial-{report.number}.md")


@bp.get("/trials/<id>/scores.csv")
def read_scores_csv(path: IdPath):
    """Scores whose key is known, in the columns ./penny judge reads. Cells that begin like a formula are quoted off."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    writer.writerows([_harmless(cell) for cell in row] for row in service.scores_for_csv(path.id))
    return _file(out.getvalue().encode(), "text/csv; charset=utf-8", "scores.csv")


def _harmless(cell: str) -> str:
    return f"'{cell}" if cell[:1] in ("=", "+", "@", "\t") or (cell[:1] == "-" and not cell[1:2].isdigit()) else cell


def _file(body: bytes, mimetype: str, name: str) -> Response:
    return Response(body, content_type=mimetype, headers={"Content-Disposition": f'inline; filename="{name}"', "Cache-Control": "no-store"})
