"""From what the core found to what is sent: figures, sieved stacks, grinds, comparisons."""

from __future__ import annotations

from ..core import figures
from ..core.grinding.samples import BY_CODE, MEASURES, Change, Comparison, Measure, Sampled, distribution_of, said_of
from ..core.grinding.sieve import Figure, Percentile, Share, Sieved, Weibull, what_to_mind
from . import schemas as s


def figure(f: Figure, scale: float = 1.0) -> s.FigureShown:
    return s.FigureShown(value=scale * f.value, interval=[scale * end for end in f.interval])


def sieved(found: Sieved, band_um: tuple[float, float]) -> s.SieveAnswer:
    d10, d50, d90 = (_percentile(p) for p in found.percentiles)
    return s.SieveAnswer(
        band=s.BandIn(from_um=band_um[0], to_um=band_um[1]),
        recovery_pct=figure(found.recovery, 100),
        lost_g=found.lost_g,
        cumulative=[s.CumulativeShown(aperture_um=a, finer_pct=100 * finer) for a, finer in found.cumulative],
        fines=_share(found.fines),
        in_band=_share(found.in_band),
        coarse=_share(found.coarse),
        d10=d10,
        d50=d50,
        d90=d90,
        span=figure(found.span) if found.span else None,
        weibull=weibull(found.weibull),
        said=list(what_to_mind(found)),
    )


def _share(x: Share) -> s.ShareShown:
    return s.ShareShown(of_recovered_pct=figure(x.of_recovered, 100), of_mass_in_pct=figure(x.of_mass_in, 100))


def _percentile(p: Percentile) -> s.PercentileShown:
    return s.PercentileShown(share_pct=100 * p.share, at_um=figure(p.at_um) if p.at_um else None, between_um=list(p.between_um))


def weibull(w: Weibull | None) -> s.WeibullShown | None:
    return s.WeibullShown(size_um=w.size_um, evenness=w.evenness, misfit_pct=100 * w.misfit) if w else None


def _unit(m: Measure) -> str:
    return "" if m.code == "span" else "µm" if m.logs else "%"


def measures(g: Sampled) -> list[s.MeasureShown]:
    bounds = {f"d{round(100 * p.share)}": list(p.between_um) for p in g.sieved[0].percentiles}
    out = []
    for m in MEASURES:
        found = g.figure(m.code)
        scale = 100.0 if _unit(m) == "%" else 1.0
        out.append(
            s.MeasureShown(
                code=m.code, label=m.label, unit=_unit(m), figure=figure(found, scale) if found else None, between_um=bounds.get(m.code, [None, None])
            )
        )
    return out


def curve(g: Sampled) -> list[s.SizePoint]:
    out = []
    for i, aperture in enumerate(g.grind.apertures_um):
        finer = [100 * x.cumulative[i][1] for x in g.sieved]
        out.append(s.SizePoint(aperture_um=aperture, finer_pct=sum(finer) / len(finer), low_pct=min(finer), high_pct=max(finer)))
    return out


def heaps(g: Sampled) -> list[float]:
    total = [sum(f.mass_g for f in x.fractions) for x in g.samples]
    return [
        sum(100 * x.fractions[i].mass_g / whole for x, whole in zip(g.samples, total, strict=True)) / len(g.samples) for i in range(len(g.samples[0].fractions))
    ]


def grind(g: Sampled, *, dial: str, written: str, coffee: str, stack: str, samples: list[s.SampleShown]) -> s.GrindShown:
    return s.GrindShown(
        id=g.samples[0].id,
        dial_id=g.grind.dial_id,
        dial=dial,
        setting=g.grind.setting,
        setting_written=written,
        coffee_id=g.grind.coffee_id or None,
        coffee=coffee,
        stack=stack,
        name=f"{dial} at {written}" + (", simulated" if g.grind.simulated else ""),
        simulated=g.grind.simulated,
        apertures_um=list(g.grind.apertures_um),
        holds_band=g.holds_band,
        measures=measures(g),
        curve=curve(g),
        heaps_pct=heaps(g),
        weibull=weibull(distribution_of(g)),
        samples=samples,
        said=said_of(g),
    )


def _change(c: Change) -> s.GrindChange:
    m = c.measure
    told = figures.um if _unit(m) == "µm" else figures.how_many_times if m.code == "span" else figures.grind_share
    unit = {"%": "points", "µm": "µm", "": ""}[_unit(m)]
    said = f"{figures.signed(c.points.value, told)} {unit}".strip()
    if c.per_cent:
        said += f", {figures.signed(c.per_cent.value, figures.grind_share)} %"
    between = " to ".join(figures.signed(end, told) for end in c.points.interval)
    return s.GrindChange(
        code=m.code,
        label=m.label,
        unit=unit,
        points=figure(c.points),
        per_cent=figure(c.per_cent) if c.per_cent else None,
        said=said,
        between=between,
    )


def comparison(found: Comparison, to_try: s.ToTryShown | None, *, can_match: bool, is_kept: bool = False) -> s.ComparisonShown:
    return s.ComparisonShown(
        matched=found.matched,
        said=found.said,
        changes=[_change(found.changes[code]) for code in BY_CODE if code in found.changes],
        to_try=to_try,
        can_match=can_match,
        is_kept=is_kept,
    )
