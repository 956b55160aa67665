"""The report as one HTML page that needs nothing else: its style, its picture and its data lie in it."""

from __future__ import annotations

import json

from jinja2 import Environment, select_autoescape

from ..core.tasting.sheets import LIKING, SCALES
from . import schemas as s
from .words import chance, ends, number, p_value

WIDTH, ROW = 420, 34


def html_of(r: s.ReportAnswer, scores: list[tuple]) -> str:
    """scores: rows of the CSV; with the report they stand in the page as JSON, for whoever wants to work on."""
    data = {"report": r.model_dump(mode="json"), "scores": {"columns": list(s.SCORE_COLUMNS), "rows": [list(row) for row in scores]}}
    safe = json.dumps(data, ensure_ascii=False).replace("<", "\\u003c").replace("\u2028", "\\u2028").replace("\u2029", "\\u2029")
    return PAGE.render(r=r, data=safe, bars=_bars(r), width=WIDTH, row=ROW, number=number, ends=ends, chance=chance, p_value=p_value)


def _bars(r: s.ReportAnswer) -> list[dict]:
    """Where each setup's mean and interval lie across the picture."""
    low, high = SCALES[LIKING].low, SCALES[LIKING].high

    def x(value: float) -> float:
        return round(40 + (WIDTH - 60) * (min(max(value, low), high) - low) / (high - low), 1)

    return [
        {"letter": j.setup, "name": j.name, "at": x(j.mean), "from": x(j.interval[0]) if j.interval else None, "to": x(j.interval[1]) if j.interval else None}
        for j in r.judged
        if j.mean is not None
    ]


PAGE = Environment(autoescape=select_autoescape(default=True, default_for_string=True), trim_blocks=True, lstrip_blocks=True).from_string("""\
<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>{{ r.headline or r.question }} · trial {{ r.number }}</title>
<style>
body { max-width: 46rem; margin: 2rem auto; padding: 0 1rem; color: #13201c; background: #fff; font: 16px/1.5 system-ui, sans-serif; }
h1 { margin: 0; font-size: 2rem; line-height: 1.15; } h2 { margin: 1.8rem 0 .4rem; font-size: 1.15rem; }
.quiet { color: #4d5f58; } .lean { padding-left: .8rem; border-left: 4px solid #a2740f; font-weight: 600; }
table { width: 100%; border-collapse: collapse; } th, td { padding: .3rem .5rem .3rem 0; border-top: 1px solid #d3ddd9; text-align: left; }
td { font-variant-numeric: tabular-nums; } svg { display: block; max-width: 100%; margin: 1rem 0; }
@media (prefers-color-scheme: dark) { body { color: #e8f0ec; background: #14211d; } .quiet { color: #bccbc4; } th, td { border-color: #31453d; } svg { color: #e8f0ec; } }
</style>
<p class="quiet">{{ r.bench }}, trial {{ r.number }}, {{ r.made_at.strftime("%d %B %Y") }}<br>{{ r.question }}</p>
<h1>{{ r.headline or "No verdict yet" }}</h1>
<p>{{ r.text }}</p>
{% if r.lean %}<p class="lean">{{ r.lean }}</p>{% endif %}
{% if r.by_group %}<h2>Liking by group</h2><ul>{% for x in r.by_group %}<li>{{ x }}</li>{% endfor %}</ul>{% endif %}
{% if bars %}
<svg role="img" aria-label="Liking of each setup, 1 to 9, with its 95 % interval" width="{{ width }}" height="{{ row * bars|length + 24 }}" viewBox="0 0 {{ width }} {{ row * bars|length + 24 }}" fill="currentColor" font-size="13">
{% for b in bars %}
<g transform="translate(0 {{ loop.index0 * row }})"><circle cx="16" cy="17" r="13" fill="#ecd996" stroke="#7a5a12" stroke-width="2" stroke-dasharray="2 2"/><text x="16" y="22" text-anchor="middle" fill="#13201c" font-weight="700">{{ b.letter }}</text>
{% if b.from is not none %}<line x1="{{ b.from }}" x2="{{ b.to }}" y1="17" y2="17" stroke="#a2740f" stroke-width="7" stroke-linecap="round" opacity=".55"/>{% endif %}<circle cx="{{ b.at }}" cy="17" r="6" fill="#7a5a12"><title>{{ b.name }}</title></circle></g>
{% endfor %}
{% for v in range(1, 10) %}<text x="{{ 40 + (width - 60) * (v - 1) / 8 }}" y="{{ row * bars|length + 18 }}" text-anchor="middle">{{ v }}</text>{% endfor %}
</svg>
<table><tr><th></th><th>setup</th><th>liking</th><th>95 % interval</th><th>best</th><th>risk, points</th></tr>
{% for x in r.judged %}<tr><td>{{ x.setup }}</td><td>{{ x.name }}</td><td>{{ number(x.mean, 1) }}</td><td>{{ ends(x.interval) }}</td><td>{{ chance(x.probability_best) }}</td><td>{{ number(x.expected_regret, 2) }}</td></tr>
{% endfor %}</table>
{% endif %}
{% if r.differences %}
<h2>Pairs</h2>
<table><tr><th>pair</th><th>points</th><th>95 % interval</th><th>p, adjusted</th><th>chance they are equivalent</th></tr>
{% for d in r.differences %}<tr><td>{{ d.a }} − {{ d.b }}</td><td>{{ number(d.estimate, 1) }}</td><td>{{ ends(d.interval) }}</td><td>{{ p_value(d.p_adjusted) }}</td><td>{{ chance(d.probability_practically_equal) }}</td></tr>
{% endfor %}</table>
{% endif %}
{% if r.grade %}<h2>Design: {{ r.grade.design }} ({{ r.grade.step }} of 5)</h2><ul>{% for x in r.grade.reasons %}<li>{{ x.text }}</li>{% endfor %}</ul>{% endif %}
{% for title, rows in [("What else was found", r.findings), ("How it was done", r.method)] %}{% if rows %}<h2>{{ title }}</h2><ul>{% for x in rows %}<li>{{ x }}</li>{% endfor %}</ul>{% endif %}{% endfor %}
{% if r.setups %}<h2>Setups</h2><ul>{% if r.shared %}<li>In all: {{ r.shared|join(", ") }}</li>{% endif %}{% for x in r.setups %}<li><b>{{ x.letter }}</b> {{ x.name }}: {{ x.variables|join(", ") }}</li>{% endfor %}</ul>{% endif %}
{% if r.caveats %}<h2>What weakens it</h2><ul>{% for c in r.caveats %}<li><b>{{ c.title }}</b>: {{ c.text }} <i>{{ c.cure }}</i></li>{% endfor %}</ul>{% endif %}
{% if r.next %}<h2>Next</h2><p>{{ r.next }}</p>{% endif %}
{% if r.flights %}<h2>Flights and seals</h2><ul>{% for f in r.flights %}<li>Flight {{ f.number }}: {{ f.text }}{% if f.commitment %} Seal <code>{{ f.commitment }}</code>{{ " holds" if f.holds }}.{% endif %}</li>{% endfor %}</ul>{% endif %}
<p class="quiet">Its figures and scores lie in this page as JSON, in the element “data”.</p>
<script type="application/json" id="data">{{ data|safe }}</script>
""")
