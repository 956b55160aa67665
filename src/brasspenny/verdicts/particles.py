"""Grinds as their samples have them, beside what was tasted of the setups that use them."""

from __future__ import annotations

from ..core import figures
from ..core.grinding.dials import dial_ids
from ..core.grinding.samples import Sampled
from ..core.trial.sieved import sampled_setups
from ..store.load_trial import load_dials, load_samples
from . import value_schemas as w
from .attributes import attribute_of
from .view import View

TASTED = ("clarity", "body")


def beside_taste(view: View) -> tuple[list[w.ParticlesShown], list[float]]:
    """Of each setup whose setting was sampled, and the band its shares are of, by the sieves all their stacks have; both empty below two, as one alone compares with nothing."""
    dials = {dial for _, r in view.trial.rows for dial in dial_ids(r.kit)}
    samples = load_samples(dials) if dials else ()
    if not samples:
        return [], []
    found = sampled_setups(view.trial, samples, load_dials())
    if len({id(g) for g in found.grinds.values()}) < 2:
        return [], []
    tasted = {a: _means(view, a) for a in TASTED}
    return [_shown(letter, view.names[letter], group, tasted) for letter, group in sorted(found.grinds.items())], list(found.band_um or ())


def said_of_grinds(found: w.ValueAnswer) -> list[str]:
    """A sentence a setup: "A’s grind: median 652 µm, 12.1 % finer than 400 µm (2 samples)." """
    return [_said(x, found.band) for x in found.particles]


def _said(x: w.ParticlesShown, band: list[float]) -> str:
    parts = [f"median {figures.um(x.median_um)} µm"] if x.median_um is not None else []
    if x.fines_pct and band:
        share, low, high = (figures.grind_share(x) for x in x.fines_pct)
        parts.append(f"{share} % finer than {figures.um(band[0])} µm ({low} to {high})")
    return f"{x.name} by sieve: {', '.join(parts) or 'sampled on other sieves'} ({figures.counted(x.samples, 'sample')})."


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
