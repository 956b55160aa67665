"""From asked to answered, by the core: the grind calculators. No database."""

from __future__ import annotations

from ..core.errors import PennyError
from ..core.grinding.samples import Grind, Sample, Sampled, compare, taken_together, usual_band
from ..core.grinding.sieve import Fraction, apertures_of, is_within, sieve
from ..core.grinding.tables import MOST_ROWS, WHOLE_G, read_table
from ..core.vocabulary import TABLE_KINDS, by_code
from ..grinding import schemas as g
from ..grinding import shapes
from . import grind_schemas as s


def shake(asked: s.SieveBody) -> g.SieveAnswer:
    fractions = _fractions(asked)
    band = _band(asked.band) if asked.band else usual_of(fractions)
    return shapes.sieved(sieve(asked.mass_in_g, fractions, band, scale_step_g=asked.scale_step_g), band)


def usual_of(fractions: tuple[Fraction, ...]) -> tuple[float, float]:
    apertures = apertures_of(fractions)
    return usual_band(apertures) if len(apertures) > 1 else (*apertures, *apertures)


def compare_two(asked: s.TwoSievesBody) -> s.TwoSievesAnswer:
    sides = {}
    for name in ("first", "second"):
        side: s.StackIn = getattr(asked, name)
        try:
            sides[name] = sieve(side.mass_in_g, _fractions(side), _band(asked.band), scale_step_g=side.scale_step_g)
        except PennyError as error:
            raise error if error.field.startswith("band") else error.at(f"{name}.{error.field}") from error
    found = compare(_alone(asked.first, "first", asked.band), _alone(asked.second, "second", asked.band))
    shown = shapes.comparison(found, None, can_match=False)
    return s.TwoSievesAnswer(
        first=shapes.sieved(sides["first"], _band(asked.band)),
        second=shapes.sieved(sides["second"], _band(asked.band)),
        matched=shown.matched,
        said=shown.said,
        changes=shown.changes,
    )


def _alone(side: s.StackIn, name: str, band: g.BandIn) -> Sampled:
    fractions = _fractions(side)
    sample = Sample(name, Grind(name, 0.0, "", apertures_of(fractions)), side.mass_in_g, fractions, side.scale_step_g)
    return taken_together([sample], _band(band))[0]


def read_particle_table(asked: s.ParticleTableBody) -> s.ParticleTableAnswer:
    table = read_table(asked.text, kind=asked.kind)
    apertures = apertures_of(table.fractions)
    band = _band(asked.band) if asked.band and is_within(apertures, _band(asked.band)) else usual_band(apertures)
    found = sieve(WHOLE_G, table.fractions, band, scale_step_g=1e-6, most=MOST_ROWS + 1)
    return s.ParticleTableAnswer(
        kind=table.kind, kind_label=by_code(TABLE_KINDS)[table.kind].label, rows=table.rows, skipped=list(table.skipped), sieved=shapes.sieved(found, band)
    )


def _fractions(side: s.StackIn) -> tuple[Fraction, ...]:
    return tuple(Fraction(f.aperture_um, f.mass_g) for f in side.fractions)


def _band(band: g.BandIn) -> tuple[float, float]:
    return band.from_um, band.to_um
