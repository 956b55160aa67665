"""Samples, comparisons and matches of the Grind room: one transaction per use case."""

from __future__ import annotations

from collections.abc import Sequence

from ..act import Act
from ..core import figures
from ..core.errors import Inconsistent, PennyError
from ..core.grinding.dials import Dials
from ..core.grinding.samples import Line, Sample, Sampled, compare, spread_of, taken_together, to_try, usual_band
from ..core.grinding.settings import GrinderScale
from ..core.grinding.sieve import ONE_SCHOOL, Fraction, Weibull, apertures_of, sieve, what_to_mind
from ..core.grinding.tables import WHOLE_G, read_table
from ..devices import sieves
from ..history import service as history
from ..kit import service as kit
from ..refusals import Conflict, NotFound, Unprocessable
from ..store.frozen import load_dials
from ..store.grinding import SieveSample
from ..store.models import KitItem, MatchedSetting
from ..store.writing import use_case
from . import flows, shapes
from . import schemas as s
from .known import USUAL_BAND, KnownGrinds, as_sample, lines_of, live_samples

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
        dials=[s.DialShown(id=i, name=dials.names[i], step=_scale(dials, i).grain, direction=_scale(dials, i).direction) for i in dials.sides],
        stacks=_stacks(items, rows),
        grinds=[_shape(g, dials, items, {r.id: r for r in rows}) for g in groups],
        lines=[_line(dial_id, line, dials) for dial_id, line in lines.items()],
        school=ONE_SCHOOL,
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


def _scale(dials: Dials, dial_id: str) -> GrinderScale:
    return dials.scales[dials.names[dial_id]]


def _line(dial_id: str, line: Line, dials: Dials) -> s.LineShown:
    scale = _scale(dials, dial_id)
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


def dial_words(dials: Dials, dial_id: str, setting: float | None) -> tuple[str, str]:
    """(the dial's name, the setting as it stands on it), also of one that is gone."""
    name = dials.names.get(dial_id, "a grinder that is gone")
    scale = dials.scales.get(name)
    return name, "" if setting is None else scale.write(setting) if scale else f"{setting:g}"


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
        said=[t for t in what_to_mind(found) if t != ONE_SCHOOL],
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
    values = _shaken(sent) | _facts(sent, act)
    if row.source == "table":
        raise Conflict("", "This one was read from a table.", "Delete it and read the table again.")
    if _place(row) != (values["dial"], values["setting"], values["coffee"], _apertures(values["fractions"])):
        values["replicate"] = _next_replicate(values)
    history.edit(row, values, rev=rev, act=act, trial_id=None)
    _rest_again(sample_id, act)
    return sample_id


@use_case
def remove_sample(sample_id: str, act: Act) -> str:
    return history.remove(open_sample(sample_id), act=act, trial_id=None)


def _not_rested_on(row: SieveSample) -> None:
    if _resting_on(row.id):
        raise Conflict("", "A matched setting rests on this sample.", "Take the match out first, in the translator.")


history.guard("sieve_sample", remove=_not_rested_on)


def _add(values: dict, sent: s.SampleFacts, act: Act) -> str:
    values = values | _facts(sent, act)
    row = SieveSample(id=act.new_id(), created_at=act.now, created_by=act.who, replicate=_next_replicate(values), **values)
    history.add(row, act=act, trial_id=None)
    return row.id


def _facts(sent: s.SampleFacts, act: Act) -> dict:
    if sent.dial_id not in load_dials().sides:
        raise Unprocessable("dial_id", "That is not a grinder with its burrs.", "Choose a burr set, or a grinder that has none.")
    if sent.coffee_id:
        _of_kind("coffee_id", sent.coffee_id, "coffee")
    return {
        "dial": sent.dial_id,
        "setting": round(sent.setting, 3),
        "coffee": sent.coffee_id,
        "sampled_on": sent.sampled_on or act.now.date(),
        "note": sent.note,
    }


def _of_kind(field: str, item_id: str, kind: str) -> KitItem:
    item = KitItem.get_or_none((KitItem.id == item_id) & KitItem.deleted_at.is_null())
    if item is None or item.kind != kind:
        raise Unprocessable(field, f"That is no {kind.replace('_', ' ')} of this kit.", f"Choose a {kind.replace('_', ' ')}.")
    return item


def _shaken(sent: s.SampleBody) -> dict:
    fractions = tuple(Fraction(f.aperture_um, f.mass_g) for f in sent.fractions)
    sieve(sent.mass_in_g, fractions, usual_band(apertures_of(fractions)), scale_step_g=sent.scale_step_g, fit=False)  # refuses what cannot be, at the field
    if sent.stack_id:
        stack = _of_kind("stack_id", sent.stack_id, "sieve_stack")
        if list(apertures_of(fractions)) != [float(a) for a in stack.facts["apertures_um"]]:
            raise Unprocessable("fractions", f"Those are not the apertures of {stack.name}.", "Choose its own stack, or none.")
    return {
        "stack": sent.stack_id,
        "mass_in_g": round(sent.mass_in_g, 3),
        "fractions": [[f.aperture_um, f.mass_g] for f in fractions],
        "scale_step_g": sent.scale_step_g,
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
    return row.dial_id, row.setting, row.coffee_id, _apertures(row.fractions)


def _next_replicate(values: dict) -> int:
    """One more than was ever given to a sample of this dial, setting, coffee and stack."""
    there = SieveSample.select().where(
        (SieveSample.dial == values["dial"])
        & (SieveSample.setting == values["setting"])
        & (SieveSample.coffee == values["coffee"] if values["coffee"] else SieveSample.coffee.is_null())
    )
    return 1 + max((r.replicate for r in there if _apertures(r.fractions) == _apertures(values["fractions"])), default=0)


# --- two grinds ----------------------------------------------------------------------------------------------------------------


def compare_two(sent: s.CompareBody, act: Act) -> s.ComparisonShown:
    first, second, groups, dials = _two(sent)
    found = compare(first, second)
    can = _unmatchable(first, second, found.matched) is None
    return shapes.comparison(found, _to_try(first, second, groups, dials, found.matched), can_match=can, is_kept=can and _is_kept(first, second))


def _is_kept(first: Sampled, second: Sampled) -> bool:
    """Whether a matched setting of the two is in the kit already, with samples behind it."""
    asked = {(g.grind.dial_id, g.grind.setting) for g in (first, second)}
    rows = MatchedSetting.select().where(MatchedSetting.deleted_at.is_null() & MatchedSetting.rests_on.is_null(False))
    return any(m.rests_on and {(m.a_id, m.a_setting), (m.b_id, m.b_setting)} == asked for m in rows)


def _two(sent: s.CompareBody) -> tuple[Sampled, Sampled, list[Sampled], Dials]:
    rows = {r.id: as_sample(r) for r in live_samples()}
    for field, sample_id in (("first_id", sent.first_id), ("second_id", sent.second_id)):
        if sample_id not in rows:
            raise Unprocessable(field, "There is no such sample, or it was deleted.", "Choose another.")
    band = (sent.band.from_um, sent.band.to_um) if sent.band else usual_band(rows[sent.first_id].grind.apertures_um)
    groups = taken_together(list(rows.values()), band)
    first, second = (next(g for g in groups if any(x.id == i for x in g.samples)) for i in (sent.first_id, sent.second_id))
    if first is second:
        raise Unprocessable("second_id", "Those are replicates of one grind.", "Choose another setting or grinder.")
    return first, second, groups, load_dials()


def _to_try(first: Sampled, second: Sampled, groups: Sequence[Sampled], dials: Dials, matched: bool | None) -> s.ToTryShown | None:
    dial_id = second.grind.dial_id
    if matched or dial_id == first.grind.dial_id or dial_id not in dials.sides:
        return None
    found = to_try(first, [g for g in groups if g.grind.dial_id == dial_id], _scale(dials, dial_id))
    if found is None:
        return None
    name, written = dial_words(dials, dial_id, found.setting)
    return s.ToTryShown(dial_id=dial_id, dial=name, setting=found.setting, setting_written=written, why=found.why)


def _unmatchable(first: Sampled, second: Sampled, matched: bool | None) -> PennyError | None:
    """Why no matched setting can be made of the two."""
    if first.grind.dial_id == second.grind.dial_id:
        return Inconsistent("second_id", "those are settings of one dial.", "Choose a sample of another grinder.")
    if first.samples[0].simulated != second.samples[0].simulated:
        return Inconsistent("second_id", "one of the two is simulated.", "Match what was sieved.")
    if matched is None:
        return Inconsistent("second_id", "a stack only bounds one of the medians.", "Sample with three sieves or more.")
    if not matched:
        return Inconsistent("second_id", "their medians lie apart.", "Sample the setting that is proposed, then match.")
    return None


@use_case
def make_match(sent: s.CompareBody, act: Act) -> str:
    """A matched setting by sieve median, with its samples behind it and its spread worked out from their intervals."""
    first, second, groups, dials = _two(sent)
    trouble = _unmatchable(first, second, compare(first, second).matched)
    if trouble:
        raise trouble
    if _is_kept(first, second):
        raise Conflict("second_id", "These two are matched already.", "Take that match out first, in the translator.")
    row = MatchedSetting(
        id=act.new_id(),
        a=first.grind.dial_id,
        a_setting=first.grind.setting,
        b=second.grind.dial_id,
        b_setting=second.grind.setting,
        match_kind="sieve_median",
        matched_on=act.now.date(),
        rests_on=_rests_on(first, second, groups, dials),
        created_at=act.now,
    )
    history.add(row, act=act, trial_id=None)
    return row.id


def _rests_on(first: Sampled, second: Sampled, groups: Sequence[Sampled], dials: Dials) -> dict:
    lines = lines_of(groups, dials)
    a, b = first.grind.dial_id, second.grind.dial_id
    spread = spread_of(first, second, lines.get(a), lines.get(b), _scale(dials, a), _scale(dials, b))
    return {"a": [x.id for x in first.samples], "b": [x.id for x in second.samples], "a_spread": spread.a, "b_spread": spread.b}


def _resting_on(sample_id: str) -> list[MatchedSetting]:
    rows = MatchedSetting.select().where(MatchedSetting.deleted_at.is_null() & MatchedSetting.rests_on.is_null(False))
    return [m for m in rows if m.rests_on and sample_id in (*m.rests_on["a"], *m.rests_on["b"])]


def _rest_again(sample_id: str, act: Act) -> None:
    """A corrected sample moves the spread of the matches that rest on it; one it no longer supports is refused."""
    for match in _resting_on(sample_id):
        try:
            first, second, groups, dials = _two(s.CompareBody(first_id=match.rests_on["a"][0], second_id=match.rests_on["b"][0]))
            here = (first.grind.setting, second.grind.setting, first.grind.dial_id, second.grind.dial_id)
            trouble = _unmatchable(first, second, compare(first, second).matched)
        except Unprocessable:
            here, trouble = (), None
        if trouble or here != (match.a_setting, match.b_setting, match.a_id, match.b_id):
            raise Conflict("", "A matched setting rests on this sample, and would no longer hold.", "Take the match out first, in the translator.")
        history.edit(match, {"rests_on": _rests_on(first, second, groups, dials)}, rev=match.rev, act=act, trial_id=None)


# --- the stand-in sieves ---------------------------------------------------------------------------------------------------------


def simulate(sent: s.ShakeBody, act: Act) -> s.ShakenAnswer:
    """A made-up shaking: by what this dial's samples say, else of a grind in the middle of things."""
    dials = load_dials()
    if sent.dial_id not in dials.sides:
        raise Unprocessable("dial_id", "That is not a grinder with its burrs.", "Choose a burr set, or a grinder that has none.")
    stack = _of_kind("stack_id", sent.stack_id, "sieve_stack")
    known = KnownGrinds(dials).at(sent.dial_id, sent.setting)
    found = known or Weibull(USUAL_MEDIAN_UM / Weibull(1.0, USUAL_EVENNESS, 0.0).median_um, USUAL_EVENNESS, 0.0)
    fractions = sieves.shake(found, stack.facts["apertures_um"], sent.mass_in_g, act.rng.randrange(2**31))
    return s.ShakenAnswer(
        mass_in_g=sent.mass_in_g,
        fractions=[s.FractionIn(aperture_um=f.aperture_um, mass_g=f.mass_g) for f in fractions],
        rests_on="Simulated by this dial's own samples." if known else "Simulated: no sample tells what this dial does, so a usual grind was taken.",
    )
