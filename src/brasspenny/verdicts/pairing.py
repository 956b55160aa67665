"""Pairing measurement with taste: an attribute against ratio, strength and yield, and the panel's own surface over the chart."""

from __future__ import annotations

import statistics
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import asdict

from ..act import Act
from ..core.errors import BadScores
from ..core.judging import Score as CoreScore
from ..core.judging.measures import MEASURES, Measure
from ..core.judging.peak import find_peak, said
from ..core.judging.surface import FEWEST_POINTS, panel_surface
from ..core.tasting.sheets import SCALES
from ..measuring.service import TrialResults, run_label, served_strength
from . import worth_schemas as w
from .attributes import gathered
from .cache import worked_out
from .tasted import scale_of


def read_pairing(trial_id: str, attribute: str, act: Act) -> w.PairingAnswer:
    results, found = gathered(trial_id)
    scores = found.scores(attribute)
    numbers = {m.code: _numbers(results, m.code) for m in MEASURES}
    labels = {run.id: run_label(results.letter_of(run), run) for run in results.runs}
    rests_on = [sorted(tuple(vars(x).values()) for x in scores), {code: sorted(x.items()) for code, x in numbers.items()}, sorted(labels.items())]
    payload = worked_out(trial_id, f"pairing {attribute}", rests_on, lambda: _work_out(scores, attribute, numbers, labels), act)
    return w.PairingAnswer.model_validate(payload)


def _numbers(results: TrialResults, code: str) -> dict[str, float]:
    """Run → the number, for brews that have it. Strength is that of the cup as served."""
    out = {}
    for run in results.runs:
        m = results.measured[run.id]
        ey = m.yield_in(results.school)
        value = {"ratio": m.brew_ratio, "tds_pct": served_strength(run, m), "ey_pct": ey.value if ey else None}[code]
        if value is not None:
            out[run.id] = float(value)
    return out


def _work_out(scores: Sequence[CoreScore], attribute: str, numbers: dict[str, dict[str, float]], labels: dict[str, str]) -> dict:
    low, high = scale_of(attribute)
    curves = [_curve(scores, m, numbers[m.code], labels, low, high) for m in MEASURES]
    both = {run: (ey, numbers["tds_pct"][run]) for run, ey in numbers["ey_pct"].items() if run in numbers["tds_pct"]}
    at = {(x.setup, x.brew): both[x.brew] for x in scores if x.brew in both}
    surface = panel_surface(scores, at, low=low, high=high) if at else None
    points = len(set(at.values()))
    text = _surface_text(surface, points)
    shown = None
    if surface:
        shown = {"ey_pct": surface.ey, "tds_pct": surface.tds, "liking": surface.liking, "guess": surface.guess, "points": surface.points, "best": surface.best}
    return {"attribute": attribute, "label": SCALES[attribute].label, "low": low, "high": high, "curves": curves, "surface": shown, "surface_text": text}


def _surface_text(surface, points: int) -> str:
    if surface is None:
        few = points < FEWEST_POINTS
        return (
            f"{points} of {FEWEST_POINTS} distinct points of yield and strength it takes to draw this panel's surface."
            if few
            else "The points lie on one line: there is no surface in them."
        )
    if surface.best is None:
        return "The surface is too unsure everywhere to say where this panel's liking lies."
    return f"As far as these cups tell, this panel likes them best near {surface.best[0]:.1f} % EY and {surface.best[1]:.2f} % TDS. Hatched: a guess."


def _curve(scores: Sequence[CoreScore], m: Measure, numbers: dict[str, float], labels: dict[str, str], low: float, high: float) -> dict:
    kept = [x for x in scores if x.brew in numbers]
    base = {"measure": m.code, "label": m.label, "unit": m.unit.strip(), "points": _points(kept, numbers, labels)}
    nothing = {"kind": "none", "best": None, "interval": None, "tested": None, "next_value": None, "x": [], "y": [], "low": [], "high": []}
    values = [numbers[x.brew] for x in kept]
    if not values:
        return {**base, **nothing, "text": f"No brew of these has {m.label.lower()} measured."}
    span = max(values) - min(values)
    if span < m.least_span:
        ends = f"{m.prefix}{min(values):.{m.places}f} to {m.prefix}{max(values):.{m.places}f}{m.unit}"
        return {**base, **nothing, "text": f"{ends} is too narrow to say what {m.label.lower()} does."}
    try:
        peak = find_peak(kept, {(x.setup, x.brew): numbers[x.brew] for x in kept}, low=low, high=high, same_within=m.same_within)
    except BadScores as error:
        return {**base, **nothing, "text": f"{error.reason} {error.remedy}".capitalize()}
    found = {k: v for k, v in asdict(peak).items() if k in ("kind", "best", "interval", "tested", "next_value")}
    return {**base, **found, **asdict(peak.curve), "text": said(peak, what=m.what, unit=m.unit, places=m.places, prefix=m.prefix)}


def _points(kept: Sequence[CoreScore], numbers: dict[str, float], labels: dict[str, str]) -> list[dict]:
    by_brew: dict[tuple[str, str], list[float]] = defaultdict(list)
    for x in kept:
        by_brew[x.setup, x.brew].append(x.score)
    return [
        {"letter": letter, "label": labels[run], "x": numbers[run], "mean": statistics.fmean(v), "n": len(v)} for (letter, run), v in sorted(by_brew.items())
    ]
