"""Grinds as their samples have them, beside what was tasted of the setups that use them."""

from __future__ import annotations

from ..core.grinding.dials import dial_id
from ..core.grinding.samples import Sampled, taken_together
from ..grinding.known import USUAL_BAND, as_sample, live_samples
from ..store.load_trial import load_dials
from . import value_schemas as w
from .attributes import attribute_of
from .view import View

BAND_UM = USUAL_BAND
TASTED = ("clarity", "body")


def beside_taste(view: View) -> list[w.ParticlesShown]:
    """Of each setup whose setting was sampled; empty below two, as one alone compares with nothing."""
    at = {setup.letter: (dial_id(r.kit) or "", r.grind_setting) for setup, r in view.trial.rows}
    mine = {dial for dial, _ in at.values() if dial}
    rows = [r for r in live_samples() if r.dial_id in mine and r.source != "simulated"]
    if not rows:
        return []
    groups, dials = taken_together([as_sample(r) for r in rows], BAND_UM), load_dials()
    found = {}
    for letter, (dial, written) in at.items():
        setting = dials.read(dial, written)
        group = next((g for g in groups if g.grind.dial_id == dial and setting is not None and abs(g.grind.setting - setting) < 1e-6), None)
        if group:
            found[letter] = group
    if len({id(g) for g in found.values()}) < 2:
        return []
    tasted = {a: _means(view, a) for a in TASTED}
    return [_shown(letter, view.names[letter], group, tasted) for letter, group in sorted(found.items())]


def _means(view: View, attribute: str) -> dict[str, float]:
    judged = attribute_of(view, attribute)
    counts = next((p for p in judged.passes if p.pass_name == judged.counts), None)
    return {x.setup: x.mean for x in counts.setups} if counts else {}


def _shown(letter: str, name: str, g: Sampled, tasted: dict[str, dict[str, float]]) -> w.ParticlesShown:
    def interval(code: str) -> list[float] | None:
        figure = g.figure(code)
        return [100 * x for x in (figure.value, *figure.interval)] if figure else None

    return w.ParticlesShown(
        setup=letter,
        name=name,
        samples=len(g.samples),
        median_um=g.d50_um,
        fines_pct=interval("fines"),
        in_band_pct=interval("in_band"),
        **{a: tasted[a].get(letter) for a in TASTED},
    )
