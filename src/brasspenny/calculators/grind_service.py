"""From asked to answered, by the core: the grind calculators. No database."""

from __future__ import annotations

from ..core.grinding.sieve import Figure, Fraction, Percentile, Share, Sieved, sieve, what_to_mind
from . import grind_schemas as s


def shake(asked: s.SieveBody) -> s.SieveAnswer:
    fractions = [Fraction(f.aperture_um, f.mass_g) for f in asked.fractions]
    return shape(sieve(asked.mass_in_g, fractions, (asked.band.from_um, asked.band.to_um), scale_step_g=asked.scale_step_g))


def shape(found: Sieved) -> s.SieveAnswer:
    d10, d50, d90 = (_percentile(p) for p in found.percentiles)
    w = found.weibull
    return s.SieveAnswer(
        recovery_pct=_pct(found.recovery),
        lost_g=found.lost_g,
        cumulative=[s.CumulativeShown(aperture_um=a, finer_pct=100 * finer) for a, finer in found.cumulative],
        fines=_share(found.fines),
        in_band=_share(found.in_band),
        coarse=_share(found.coarse),
        d10=d10,
        d50=d50,
        d90=d90,
        span=_figure(found.span) if found.span else None,
        weibull=s.WeibullShown(size_um=w.size_um, evenness=w.evenness, misfit_pct=100 * w.misfit) if w else None,
        said=list(what_to_mind(found)),
    )


def _figure(f: Figure) -> s.FigureShown:
    return s.FigureShown(value=f.value, interval=list(f.interval))


def _pct(f: Figure) -> s.FigureShown:
    return s.FigureShown(value=100 * f.value, interval=[100 * end for end in f.interval])


def _share(x: Share) -> s.ShareShown:
    return s.ShareShown(of_recovered_pct=_pct(x.of_recovered), of_mass_in_pct=_pct(x.of_mass_in))


def _percentile(p: Percentile) -> s.PercentileShown:
    return s.PercentileShown(share_pct=100 * p.share, at_um=_figure(p.at_um) if p.at_um else None, between_um=list(p.between_um))
