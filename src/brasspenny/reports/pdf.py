"""The report as PDF, on one or two A4 pages. Text is set as text: what people typed is escaped, never markup."""

from __future__ import annotations

import io
from pathlib import Path
from xml.sax.saxutils import escape

from reportlab import rl_config
from reportlab.graphics.shapes import Circle, Drawing, Line, Rect, String
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import KeepTogether, Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from ..core import figures
from . import schemas as s
from .words import chance, ends, number, p_value

FONTS = Path(__file__).parent / "fonts"
INK, QUIET, LINE, BRASS, VERDIGRIS = (HexColor(x) for x in ("#13201C", "#41514B", "#C6D4CE", "#E9D28B", "#1B7563"))
HUES = {"A": "#2F4B8F", "B": "#A95512", "C": "#7A3E7E", "D": "#456A1C", "E": "#0F6483", "F": "#82473A"}
WIDTH = A4[0] - 36 * mm
rl_config.invariant = 1  # the same report is the same bytes, whenever it is made


def _register() -> None:
    if "Archivo" not in pdfmetrics.getRegisteredFontNames():
        for name, file in (("Archivo", "Archivo-Regular"), ("Archivo-Bold", "Archivo-Bold"), ("Mono", "PlexMono-Medium")):
            pdfmetrics.registerFont(TTFont(name, str(FONTS / f"{file}.ttf")))
        pdfmetrics.registerFontFamily("Archivo", normal="Archivo", bold="Archivo-Bold", italic="Archivo", boldItalic="Archivo-Bold")


def _style(name: str, **how) -> ParagraphStyle:
    return ParagraphStyle(name, **({"fontName": "Archivo", "fontSize": 9, "leading": 12.2, "textColor": INK} | how))


def pdf_of(r: s.ReportAnswer) -> bytes:
    _register()
    body, quiet = _style("body"), _style("quiet", textColor=QUIET, fontSize=8.5, leading=11.2)
    big, head = (
        _style("big", fontName="Archivo-Bold", fontSize=17, leading=20, spaceAfter=3),
        _style("head", fontName="Archivo-Bold", fontSize=10.5, spaceBefore=7, spaceAfter=2),
    )
    out = io.BytesIO()
    title = f"Trial {r.number}: {r.question}"
    document = SimpleDocTemplate(
        out, pagesize=A4, leftMargin=18 * mm, rightMargin=18 * mm, topMargin=15 * mm, bottomMargin=14 * mm, title=title, author=r.bench, invariant=1
    )
    flow: list = [
        Paragraph(_text(f"{r.bench} · trial {r.number} · {r.made_at:%d %B %Y}"), quiet),
        Paragraph(_text(r.question), _style("asked", fontName="Archivo-Bold", fontSize=11, leading=14, spaceBefore=2)),
        Spacer(1, 5),
        Paragraph(_text(r.headline or "No verdict yet"), big),
        Paragraph(_text(f"{r.text} {r.lean}"), body),
    ]
    if r.grade:
        reasons = " ".join(x.text for x in r.grade.reasons)
        flow += [Paragraph(f"<b>Design: {_text(r.grade.design)}</b> ({r.grade.step} of 5). {_text(reasons)}", body)]
    flow += _bullets("Liking by group", r.by_group, head, body)
    if any(x.interval for x in r.judged):
        flow += [Paragraph("Liking, 1 to 9, with 95 % intervals", head), _intervals(r)]
    if r.judged:
        flow.append(_measured(r))
    if r.differences:
        flow += [KeepTogether([Paragraph("Differences", head), _differences(r)])]
    for name, rows in (("What else was found", r.findings), ("How it was done", r.method)):
        flow += _bullets(name, rows, head, body)
    alike = [f"In all: {', '.join(r.shared)}."] if r.shared else []
    flow += _bullets("Setups", [*alike, *(f"{x.letter}, {x.name}: {', '.join(x.variables) or 'nothing of its own'}." for x in r.setups)], head, quiet)
    flow += _bullets("What weakens it", [f"{c.title}. {c.text} {c.cure}" for c in r.caveats], head, quiet)
    flow += _bullets("Next", [r.next] if r.next else [], head, body)
    flow += _bullets("Flights and seals", [f"Flight {f.number}: {f.text}" for f in r.flights], head, quiet)
    mono = _style("mono", fontName="Mono", fontSize=7, leading=9, textColor=QUIET)
    flow += [Paragraph(f"Seal of flight {f.number}{' holds' if f.holds else ''}: {_text(f.commitment)}", mono) for f in r.flights if f.commitment]
    document.build(flow)
    return out.getvalue()


def _text(text: str) -> str:
    """Escaped, and without signs the shipped fonts do not draw."""
    known = pdfmetrics.getFont("Archivo").face.charToGlyph
    return escape("".join(c if ord(c) in known else "?" for c in text))


def _bullets(name: str, rows: list[str], head: ParagraphStyle, style: ParagraphStyle) -> list:
    if not rows:
        return []
    hung = ParagraphStyle(f"{style.name}-list", parent=style, leftIndent=9, bulletIndent=0)
    first, *rest = [Paragraph(_text(row), hung, bulletText="–") for row in rows]
    return [KeepTogether([Paragraph(name, head), first]), *rest]


def _intervals(r: s.ReportAnswer) -> Drawing:
    """Each setup's mean and interval on the 1-to-9 scale, its letter on a coin."""
    row, left, right = 19.0, 150.0, WIDTH - 86
    height = row * len(r.judged) + 16
    drawing = Drawing(WIDTH, height)

    def x(points: float) -> float:
        return left + (right - left) * (points - 1) / 8

    for step in range(1, 10):
        drawing.add(Line(x(step), 14, x(step), height, strokeColor=LINE, strokeWidth=0.6))
        drawing.add(String(x(step), 3, str(step), fontName="Mono", fontSize=7.5, fillColor=QUIET, textAnchor="middle"))
    for i, setup in enumerate(r.judged):
        y = height - row * (i + 0.5)
        hue = HexColor(HUES["ABCDEF"[(ord(setup.setup) - 65) % 6]])
        drawing.add(Circle(9, y, 8, fillColor=BRASS, strokeColor=hue, strokeWidth=1.6))
        drawing.add(String(9, y - 3, setup.setup, fontName="Archivo-Bold", fontSize=8.5, fillColor=INK, textAnchor="middle"))
        drawing.add(String(23, y - 3, _cut(setup.name, 122), fontName="Archivo", fontSize=8.8, fillColor=INK))
        if setup.interval:
            low, high = setup.interval
            drawing.add(Rect(x(low), y - 2.2, x(high) - x(low), 4.4, fillColor=hue, strokeColor=None, fillOpacity=0.35))
            drawing.add(String(right + 10, y - 3, f"{number(setup.mean, 1)}  {ends(setup.interval)}", fontName="Mono", fontSize=8, fillColor=INK))
        if setup.mean is not None:
            drawing.add(Circle(x(setup.mean), y, 3.6, fillColor=hue, strokeColor=None))
    return drawing


def _cut(text: str, width: float) -> str:
    known = pdfmetrics.getFont("Archivo").face.charToGlyph
    text = "".join(c if ord(c) in known else "?" for c in text)
    while pdfmetrics.stringWidth(text, "Archivo", 8.8) > width:
        text = text[:-2].rstrip() + "…"
    return text


def _measured(r: s.ReportAnswer) -> Table:
    rows = [["", "best", "risk, points", "ratio", "TDS, %", "yield, %", "a cup"]]
    prices = {x.letter: x.price for x in r.setups}
    for x in r.judged:
        ratio = figures.ratio(x.brew_ratio) if x.brew_ratio is not None else "–"
        tds = f"{figures.tds(x.tds.value)} ± {figures.tds(x.tds.half_width)}" if x.tds else "not read"
        ey = f"{figures.ey(x.extraction_yield.value)} ± {figures.ey(x.extraction_yield.half_width)}" if x.extraction_yield else "not read"
        rows.append([x.setup, chance(x.probability_best), number(x.expected_regret, 2), ratio, tds, ey, number(prices.get(x.setup), 2)])
    return _table(rows, [30, 60, 66, 60, 100, 100, 60])


def _differences(r: s.ReportAnswer) -> Table:
    rows = [["pair", "points", "95 % interval", "p, adjusted", "chance they are equivalent"]]
    rows += [[f"{d.a} − {d.b}", number(d.estimate, 1), ends(d.interval), p_value(d.p_adjusted), chance(d.probability_practically_equal)] for d in r.differences]
    return _table(rows, [60, 70, 120, 90, 110])


def _table(rows: list[list[str]], widths: list[float]) -> Table:
    style = [
        ("FONT", (0, 0), (-1, 0), "Archivo", 7.8),
        ("TEXTCOLOR", (0, 0), (-1, 0), QUIET),
        ("FONT", (0, 1), (-1, -1), "Mono", 8),
        ("FONT", (0, 1), (0, -1), "Archivo-Bold", 8.5),
        ("TEXTCOLOR", (0, 1), (-1, -1), INK),
        ("LINEABOVE", (0, 1), (-1, -1), 0.5, LINE),
        ("TOPPADDING", (0, 0), (-1, -1), 2.2),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 2.2),
        ("LEFTPADDING", (0, 0), (0, -1), 0),
    ]
    return Table(rows, colWidths=widths, hAlign="LEFT", style=TableStyle(style))
