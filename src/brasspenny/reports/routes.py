"""A trial's report: as JSON for the print view, as PDF, as Markdown; its scores as CSV and Parquet."""

from __future__ import annotations

import csv
import io

from flask import Response, current_app, g
from pydantic import BaseModel

from ..http import SAMPLE_QUERY, Done, IdPath, act, blueprint, file_of, reply
from ..interchange.cells import harmless
from ..interchange.scores_parquet import parquet_of
from . import dictionary, service, sharing
from . import schemas as s
from .html import html_of
from .markdown import markdown_of
from .pdf import pdf_of

bp = blueprint("reports", __name__)


@bp.get("/trials/<id>/report", responses={200: s.ReportAnswer})
def read_report(path: IdPath):
    """The trial on one or two pages."""
    return reply(service.read_report(path.id, act()))


@bp.get("/trials/<id>/statements", responses={200: s.StatementsAnswer})
def read_statements(path: IdPath):
    """All that is said of a trial, as values: what each statement is about, what it claims, and its sentence."""
    return reply(service.read_statements(path.id, act()))


@bp.get("/trials/<id>/report.pdf", responses={200: file_of("application/pdf", "the report")})
def read_report_pdf(path: IdPath):
    """The report as PDF."""
    report = service.read_report(path.id, act())
    return _file(pdf_of(report), "application/pdf", f"trial-{report.number}.pdf")


@bp.get("/trials/<id>/report.md", responses={200: file_of("text/markdown", "the report")})
def read_report_markdown(path: IdPath):
    """The report as Markdown."""
    report = service.read_report(path.id, act())
    return _file(markdown_of(report).encode(), "text/markdown; charset=utf-8", f"trial-{report.number}.md")


@bp.get("/trials/<id>/report.html", responses={200: file_of("text/html", "the report as one page")})
def read_report_html(path: IdPath):
    """The report as one HTML page that needs nothing else, with its data in it."""
    report = service.read_report(path.id, act())
    page = html_of(report, service.scores_for_csv(path.id)).encode()
    return _file(page, "text/html; charset=utf-8", f"trial-{report.number}.html", kept=True)


@bp.get("/trials/<id>/scores.csv", responses={200: file_of("text/csv", "the scores")})
def read_scores_csv(path: IdPath):
    """Scores whose key is known, in the columns ./penny judge reads. Cells that begin like a formula are quoted off."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(s.SCORE_COLUMNS)
    writer.writerows([harmless(cell) for cell in row] for row in service.scores_for_csv(path.id))
    return _file(out.getvalue().encode(), "text/csv; charset=utf-8", "scores.csv")


@bp.get("/trials/<id>/scores.parquet", responses={200: file_of("application/vnd.apache.parquet", "the scores")})
def read_scores_parquet(path: IdPath):
    """The same scores as Parquet: numbers as numbers, each column with its meaning."""
    return _file(parquet_of(service.scores_for_csv(path.id), dictionary.COLUMNS), "application/vnd.apache.parquet", "scores.parquet", kept=True)


@bp.get("/scores-dictionary.csv", responses={200: file_of("text/csv", "what the columns of a file of scores hold")})
def read_scores_dictionary():
    """Columns, passes and attributes of a file of scores, each with its meaning and its scale."""
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerows(dictionary.rows())
    return _file(out.getvalue().encode(), "text/csv; charset=utf-8", "scores-dictionary.csv")


class VerdictTokenPath(BaseModel):
    token: str


@bp.get("/trials/<id>/verdict-links", responses={200: s.VerdictLinksAnswer})
def read_verdict_links(path: IdPath):
    """The read-only links to this trial's verdict that work."""
    return reply(sharing.links_of(path.id))


@bp.post("/trials/<id>/verdict-links", responses={201: s.VerdictLinkMade})
def share_verdict(path: IdPath):
    """Make a read-only link to the verdict; it is shown this once."""
    base, query = current_app.config["LINK_BASE"](), SAMPLE_QUERY if g.get("in_sample") else ""
    return reply(sharing.share(path.id, base, query, act()), 201)


@bp.delete("/verdict-links/<id>", responses={200: Done})
def withdraw_verdict_link(path: IdPath):
    """Withdraw a link; it stops at once."""
    return reply(Done(change_id=sharing.withdraw(path.id, act())))


@bp.get("/shown/<token>", responses={200: s.ReportAnswer})
def read_shown_verdict(path: VerdictTokenPath):
    """A verdict by its read-only link."""
    return reply(sharing.shown(path.token, act()))


def _file(body: bytes, mimetype: str, name: str, *, kept: bool = False) -> Response:
    """kept: to be saved, never shown as a page of this bench."""
    how = "attachment" if kept else "inline"
    return Response(body, content_type=mimetype, headers={"Content-Disposition": f'{how}; filename="{name}"', "Cache-Control": "no-store"})
