"""Samples, comparisons and matches of the Grind room: one transaction per use case."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from ..act import Act
from ..core import figures
from ..core.grinding.dials import Dials
from ..core.grinding.samples import Line, Sample, Sampled, taken_together, usual_band
from ..core.grinding.sieve import IN_BAND_NOTE, Fraction, Weibull, apertures_of, sieve, what_to_mind
from ..core.grinding.tables import WHOLE_G, read_table
from ..devices import sieves
from ..history import service as history
from ..kit import service as kit
from ..refusals import Conflict, NotFound, Unprocessable
from ..store.grinding import SieveSample
from ..store.load_trial import as_sample, load_dials
from ..store.models import Bench, KitItem
from ..store.writing import use_case
from . import flows, shapes
from . import schemas as s
from .known import USUAL_BAND, KnownGrinds, dial_words, lines_of, live_samples, scale_of

USUAL_MEDIAN_UM, USUAL_EVENNESS = 650.0, 2.2
"""Of the stand-in sieves, where no sample tells what this grinder does."""


def open_sample(sample_id: str) -> SieveSample:
    row = SieveSample.get_or_none((SieveSample.id == sample_id) & SieveSample.deleted_at.is_null())
    if row is None:
        raise NotFound("sample")
    return row


def band_of(asked: s.BandQuery, samples: Sequence[Sample]) -> tuple[float, float]:
    """As asked; else the newest stack's usual one."""
    if asked.from_um and asked.to_um:
        if asked.from_um >= asked.to_um:
            raise Unprocessable("to_um", "The band ends above where it begins.", f"Give more than {asked.from_um:g} µm.")
        return asked.from_um, asked.to_um
    shaken = [x for x in samples if not x.table]
    return usual_band(shaken[-1].grind.apertures_um) if shaken else USUAL_BAND


# --- the room ------------------------------------------------------------------------------------------------------------------


def read_room(asked: s.BandQuery, act: Act) -> s.GrindRoom:
    rows = live_samples()
    samples = [as_sample(r) for r in rows]
    band = band_of(asked, samples)
    dials, items = load_dials(), {k.id: k for k in kit.live_items()}
    groups = taken_together(samples, band)
    lines = lines_of(groups, dials)
    return s.GrindRoom(
        band=s.BandIn(from_um=band[0], to_um=band[1]),
        dials=[s.DialShown(id=i, name=dials.names[i], step=scale_of(dials, i).grain, direction=scale_of(dials, i).direction) for i in dials.sides],
        stacks=_stacks(items, rows),
        grinds=[_shape(g, dials, items, {r.id: r for r in rows}) for g in groups],
        lines=[_line(dial_id, line, dials) for dial_id, line in lines.items()],
        in_band_note=IN_BAND_NOTE,
        scale_step_g=Bench.get_by_id(1).scale_resolution_g,
        **flows.room_of(dials, items),
    )


def _stacks(items: dict[str, KitItem], rows: Sequence[SieveSample]) -> list[s.StackShown]:
    """The one used last first."""
    used = {r.stack_id: i for i, r in enumerate(rows)}
    mine = [k for k in items.values() if k.kind == "sieve_stack" and not k.retired_at]
    return [_stack(k) for k in sorted(mine, key=lambda k: (-used.get(k.id, -1), k.name))]


def _stack(item: KitItem) -> s.StackShown:
    facts = item.facts
    return s.StackShown(id=item.id, name=item.name, apertures_um=facts["apertures_um"], usual_s=facts.get("usual_s"), shaking=facts.get("shaking", "hand"))


def _line(dial_id: str, line: Line, dials: Dials) -> s.LineShown:
    scale = scale_of(dials, dial_id)
    low, high = line.settings
    step = line.per_step
    return s.LineShown(
        dial_id=dial_id,
        per_step_um=shapes.figure(step),
        step=scale.grain,
        settings=[low, high],
        ends_um=[line.at(low), line.at(high)],
        said=f"{dials.names[dial_id]}: one step of {scale.grain:.3g} is worth {figures.um(step.value)} µm ({figures.um(step.interval[0])} to {figures.um(step.interval[1])}).",
    )


def _shape(g: Sampled, dials: Dials, items: dict[str, KitItem], rows: dict[str, SieveSample]) -> s.GrindShown:
    name, written = dial_words(dials, g.grind.dial_id, g.grind.setting)
    coffee = items.get(g.grind.coffee_id)
    stack = items.get(rows[g.samples[0].id].stack_id or "")
    return shapes.grind(
        g,
        dial=name,
        written=written,
        coffee=coffee.name if coffee else "",
        stack="a table read in" if g.samples[0].table else stack.name if stack else ", ".join(f"{a:g}" for a in g.grind.apertures_um) + " µm",
        samples=[_sample(rows[x.id], found) for x, found in zip(g.samples, g.sieved, strict=True)],
    )


def _sample(row: SieveSample, found) -> s.SampleShown:
    return s.SampleShown(
        id=row.id,
        rev=row.rev,
        replicate=row.replicate,
        sampled_on=row.sampled_on,
        source=row.source,
        stack_id=row.stack_id,
        mass_in_g=row.mass_in_g,
        fractions=[s.FractionIn(aperture_um=a, mass_g=m) for a, m in row.fractions],
        scale_step_g=row.scale_step_g,
        shaken_s=row.shaken_s,
        shaken_how=row.shaken_how,
        note=row.note,
        recovery_pct=100 * found.recovery.value,
        lost_g=found.lost_g,
        said=[t for t in what_to_mind(found) if t != IN_BAND_NOTE],
    )


# --- samples -------------------------------------------------------------------------------------------------------------------


@use_case
def add_sample(sent: s.SampleBody, act: Act) -> str:
    return _add(_shaken(sent), sent, act)


@use_case
def add_table(sent: s.TableBody, act: Act) -> str:
    return _add(_read_in(sent), sent, act)


@use_case
def edit_sample(sample_id: str, sent: s.SampleBody, rev: int, act: Act) -> str:
    row = open_sample(sample_id)
    values = _shaken(sent) | _facts(sent, row.sampled_on)
    if row.source == "table":
        raise Conflict("", "This one was read from a table.", "Delete it and read the table again.")
    if _place(row) != _place_of(values):
        values["replicate"] = _next_replicate(values)
    history.edit(row, values, rev=rev, act=act, trial_id=None)
    return sample_id


@use_case
def remove_sample(sample_id: str, act: Act) -> str:
    return history.remove(open_sample(sample_id), act=act, trial_id=None)


def _add(values: dict, sent: s.SampleFacts, act: Act) -> str:
    values = values | _facts(sent, act.now.date())
    row = SieveSample(id=act.new_id(), created_at=act.now, created_by=act.who, replicate=_next_replicate(values), **values)
    history.add(row, act=act, trial_id=None)
    return row.id


def _facts(sent: s.SampleFacts, day: date) -> dict:
    """day: where none is given."""
    if sent.dial_id not in load_dials().sides:
        raise Unprocessable("dial_id", "That is not a grinder with its burrs.", "Choose a burr set, or a grinder that has none.")
    if sent.coffee_id:
        kit.of_kind("coffee_id", sent.coffee_id, "coffee")
    return {
        "dial": sent.dial_id,
        "setting": round(sent.setting, 3),
        "coffee": sent.coffee_id,
        "sampled_on": sent.sampled_on or day,
        "note": sent.note,
    }


def _shaken(sent: s.SampleBody) -> dict:
    fractions = tuple(Fraction(f.aperture_um, f.mass_g) for f in sent.fractions)
    step_g = sent.scale_step_g or Bench.get_by_id(1).scale_resolution_g
    sieve(sent.mass_in_g, fractions, usual_band(apertures_of(fractions)), scale_step_g=step_g, fit=False)  # refuses what cannot be, at the field
    if sent.stack_id:
        stack = kit.of_kind("stack_id", sent.stack_id, "sieve_stack")
        if list(apertures_of(fractions)) != [float(a) for a in stack.facts["apertures_um"]]:
            raise Unprocessable("fractions", f"Those are not the apertures of {stack.name}.", "Choose its own stack, or none.")
    return {
        "stack": sent.stack_id,
        "mass_in_g": round(sent.mass_in_g, 3),
        "fractions": [[f.aperture_um, f.mass_g] for f in fractions],
        "scale_step_g": step_g,
        "shaken_s": sent.shaken_s,
        "shaken_how": sent.shaken_how,
        "source": "simulated" if sent.simulated else "sieve",
    }


def _read_in(sent: s.TableBody) -> dict:
    table = read_table(sent.text, kind=sent.kind)
    return {
        "stack": None,
        "mass_in_g": WHOLE_G,
        "fractions": [[f.aperture_um, f.mass_g] for f in table.fractions],
        "scale_step_g": 0.001,
        "shaken_s": None,
        "shaken_how": "",
        "source": "table",
    }


def _apertures(fractions: Sequence[Sequence[float]]) -> tuple[float, ...]:
    return tuple(a for a, _ in fractions[1:])


def _place(row: SieveSample) -> tuple:
    return row.dial_id, row.setting, row.coffee_id, _apertures(row.fractions), row.source == "simulated"


def _place_of(values: dict) -> tuple:
    return values["dial"], values["setting"], values["coffee"], _apertures(values["fractions"]), values["source"] == "simulated"


def _next_replicate(values: dict) -> int:
    """One more than was ever given to a sample of this dial, setting, coffee and stack."""
    there = SieveSample.select().where(
        (SieveSample.dial == values["dial"])
        & (SieveSample.setting == values["setting"])
        & (SieveSample.coffee == values["coffee"] if values["coffee"] else SieveSample.coffee.is_null())
    )
    return 1 + max((r.replicate for r in there if _place(r) == _place_of(values)), default=0)


# --- the stand-in sieves ---------------------------------------------------------------------------------------------------------


def simulate(sent: s.ShakeBody, act: Act) -> s.ShakenAnswer:
    """A made-up shaking: by what this dial's samples say, else of a grind in the middle of things."""
    dials = load_dials()
    if sent.dial_id not in dials.sides:
        raise Unprocessable("dial_id", "That is not a grinder with its burrs.", "Choose a burr set, or a grinder that has none.")
    stack = kit.of_kind("stack_id", sent.stack_id, "sieve_stack")
    known = KnownGrinds(dials).at(sent.dial_id, sent.setting)
    found = known or Weibull(USUAL_MEDIAN_UM / Weibull(1.0, USUAL_EVENNESS, 0.0).median_um, USUAL_EVENNESS, 0.0)
    fractions = sieves.shake(found, stack.facts["apertures_um"], sent.mass_in_g, act.rng.randrange(2**31))
    return s.ShakenAnswer(
        mass_in_g=sent.mass_in_g,
        fractions=[s.FractionIn(aperture_um=f.aperture_um, mass_g=f.mass_g) for f in fractions],
        rests_on="Simulated by this dial's own samples." if known else "Simulated: no sample tells what this dial does, so a usual grind was taken.",
    )
