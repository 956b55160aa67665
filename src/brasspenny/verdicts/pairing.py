"""Pairing measurement with taste: an attribute against ratio, strength and yield, and the panel's own surface over the chart."""

from __future__ import annotations

import statistics
from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, replace

from ..act import Act
from ..core import figures
from ..core.errors import BadScores
from ..core.judging import Score
from ..core.judging.measures import Measure, varied_by
from ..core.judging.peak import find_peak, said
from ..core.judging.surface import FEWEST_POINTS, panel_surface
from ..core.tasting.sheets import SCALES
from ..core.trial.ladder import measures_of, numbers_of
from ..core.trial.tasted import scale_of
from . import value_schemas as w
from .secondary import groups_of
from .verdict_cache import Layer
from .view import View, look


@dataclass(frozen=True)
class PairingPart:
    """measures: what it is set against, first what the trial climbs; varied: codes of those that were varied on purpose; groups: tasters who like alike,
    where the panel falls apart: their curves are never averaged; numbers: measure → brew → its number; labels: brew → A1; names: of tasters."""

    attribute: str
    scores: tuple[Score, ...]
    groups: tuple[tuple[str, ...], ...]
    measures: tuple[Measure, ...]
    varied: frozenset[str]
    numbers: Mapping[str, Mapping[str, float]]
    labels: Mapping[str, str]
    names: Mapping[str, str]


def read_pairing(trial_id: str, attribute: str, act: Act) -> w.PairingAnswer:
    return pairing_of(look(trial_id, act), attribute)


def pairing_of(view: View, attribute: str) -> w.PairingAnswer:
    measured, measures = view.measured, measures_of(view.measured)
    part = PairingPart(
        attribute,
        tuple(view.found.counting(attribute)),
        groups_of(view),
        measures,
        varied_by(view.trial.factors),
        {m.code: numbers_of(measured, m.code) for m in measures},
        {run.id: measured.label_of(run) for run in measured.runs},
        view.found.names,
    )
    return w.PairingAnswer.model_validate(view.keeper.of(Layer(f"pairing {attribute}", _work_out), part))


def _work_out(part: PairingPart) -> dict:
    scores, attribute, numbers, labels = part.scores, part.attribute, part.numbers, part.labels
    low, high = scale_of(attribute)
    curves = [
        _curve(rows, m, numbers[m.code], labels, low, high, varied=m.code in part.varied) | {"group": group}
        for m in part.measures
        for group, rows in _by_group(scores, part.groups, part.names)
    ]
    found = {"attribute": attribute, "label": SCALES[attribute].label, "low": low, "high": high, "curves": curves, "surface": None}
    if not scores or part.groups:
        return found | {"surface_text": NO_AVERAGE if scores else NOTHING_SCORED}
    both = {run: (ey, numbers["tds_pct"][run]) for run, ey in numbers["ey_pct"].items() if run in numbers["tds_pct"]}
    at = {(x.setup, x.brew): both[x.brew] for x in scores if x.brew in both}
    surface = panel_surface(scores, at, low=low, high=high) if at else None
    points = len(set(at.values()))
    varied = {"ey_pct", "tds_pct"} <= part.varied
    if surface and not varied:
        surface = replace(surface, best=None)
    text = _surface_text(surface, points, varied=varied)
    shown = None
    if surface:
        shown = {"ey_pct": surface.ey, "tds_pct": surface.tds, "liking": surface.liking, "guess": surface.guess, "points": surface.points, "best": surface.best}
    return found | {"surface": shown, "surface_text": text}


NOTHING_SCORED = "Nothing has been scored yet."
NO_AVERAGE = "This panel holds different kinds of drinkers: one surface of them all would suit neither."


def _by_group(scores: Sequence[Score], groups: Sequence[Sequence[str]], names: Mapping[str, str]):
    """("", all scores), or each group's own under its tasters' names."""
    if not groups:
        yield "", scores
    for group in groups:
        yield ", ".join(sorted(names[t] for t in group)), [x for x in scores if x.taster in group]


def _surface_text(surface, points: int, *, varied: bool) -> str:
    if surface is None:
        few = points < FEWEST_POINTS
        return (
            f"{points} of {FEWEST_POINTS} distinct points of yield and strength it takes to draw this panel's surface."
            if few
            else "The points lie on one line: there is no surface in them."
        )
    if not varied:
        return "Yield and strength were not both varied on purpose: the surface shows what went together here, and claims no best point. Hatched: a guess."
    if surface.best is None:
        return "The surface is too unsure everywhere to say where this panel's liking lies."
    return f"As far as these cups tell, this panel likes them best near {figures.ey(surface.best[0])} % EY and {figures.tds(surface.best[1])} % TDS. Hatched: a guess."


def _curve(scores: Sequence[Score], m: Measure, numbers: Mapping[str, float], labels: Mapping[str, str], low: float, high: float, *, varied: bool) -> dict:
    kept = [x for x in scores if x.brew in numbers]
    base = {"measure": m.code, "label": m.label, "unit": m.unit.strip(), "prefix": m.prefix, "places": m.places, "points": _points(kept, numbers, labels)}
    nothing = {
        "kind": "none",
        "best": None,
        "interval": None,
        "tested": None,
        "rising": "",
        "next_value": None,
        "x": [],
        "y": [],
        "low": [],
        "high": [],
        "chances": {},
    }
    values = [numbers[x.brew] for x in kept]
    if not scores:
        return {**base, **nothing, "text": NOTHING_SCORED}
    if not values:
        return {**base, **nothing, "text": f"No brew of these has {m.label.lower()} measured."}
    span = max(values) - min(values)
    if span < m.least_span:
        ends = f"{m.say(min(values))} to {m.say(max(values))}"
        return {**base, **nothing, "text": f"{ends} is too narrow to say what {m.label.lower()} does."}
    try:
        peak = find_peak(kept, {(x.setup, x.brew): numbers[x.brew] for x in kept}, low=low, high=high, same_within=m.same_within)
    except BadScores as error:
        return {**base, **nothing, "text": f"{error.reason} {error.remedy}".capitalize()}
    if not varied:
        text = f"{m.label} was not varied on purpose: the curve shows what went together here, and claims no best point."
        return {**base, **nothing, **asdict(peak.curve), "kind": "not_varied", "tested": peak.tested, "text": text}
    found = {k: v for k, v in asdict(peak).items() if k in ("kind", "best", "interval", "tested", "rising", "next_value", "chances")}
    return {**base, **found, **asdict(peak.curve), "text": said(peak, m)}


def _points(kept: Sequence[Score], numbers: Mapping[str, float], labels: Mapping[str, str]) -> list[dict]:
    by_brew: dict[tuple[str, str], list[float]] = defaultdict(list)
    for x in kept:
        by_brew[x.setup, x.brew].append(x.score)
    return [
        {"letter": letter, "label": labels[run], "x": numbers[run], "mean": statistics.fmean(v), "n": len(v)} for (letter, run), v in sorted(by_brew.items())
    ]
