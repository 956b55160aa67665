"""Two grinds against each other, and matched settings that rest on samples: made, kept true to them, and refused where they no longer hold."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ..act import Act
from ..core.errors import Inconsistent, PennyError
from ..core.grinding.dials import Dials
from ..core.grinding.samples import Sample, Sampled, compare, spread_of, taken_together, to_try, usual_band
from ..history import service as history
from ..refusals import Conflict, Unprocessable
from ..store.grinding import SieveSample
from ..store.load_trial import as_sample, load_dials
from ..store.models import MatchedSetting
from ..store.writing import use_case
from . import schemas as s
from . import shapes
from .known import dial_words, lines_of, live_samples, scale_of


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


def _two(sent: s.CompareBody, instead: Sample | None = None) -> tuple[Sampled, Sampled, list[Sampled], Dials]:
    """instead: a sample as it is about to be."""
    rows = {r.id: as_sample(r) for r in live_samples()} | ({instead.id: instead} if instead else {})
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
    found = to_try(first, [g for g in groups if g.grind.dial_id == dial_id and g.grind.simulated == second.grind.simulated], scale_of(dials, dial_id))
    if found is None:
        return None
    name, written = dial_words(dials, dial_id, found.setting)
    return s.ToTryShown(dial_id=dial_id, dial=name, setting=found.setting, setting_written=written, why=found.why)


def _unmatchable(first: Sampled, second: Sampled, matched: bool | None) -> PennyError | None:
    """Why no matched setting can be made of the two."""
    if first.grind.dial_id == second.grind.dial_id:
        return Inconsistent("second_id", "those are settings of one dial.", "Choose a sample of another grinder.")
    if first.grind.simulated or second.grind.simulated:
        return Inconsistent("second_id", "a simulated sample shows the program, and no grinder.", "Match what was sieved.")
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
    spread = spread_of(first, second, lines.get(a), lines.get(b), scale_of(dials, a), scale_of(dials, b))
    return {"a": [x.id for x in first.samples], "b": [x.id for x in second.samples], "a_spread": spread.a, "b_spread": spread.b}


def resting_on(sample_id: str) -> list[MatchedSetting]:
    rows = MatchedSetting.select().where(MatchedSetting.deleted_at.is_null() & MatchedSetting.rests_on.is_null(False))
    return [m for m in rows if m.rests_on and sample_id in (*m.rests_on["a"], *m.rests_on["b"])]


PLACED_BY = ("dial", "setting", "coffee", "fractions", "mass_in_g", "scale_step_g", "source")


def keep_true(row: SieveSample, values: dict[str, Any]) -> None:
    """Before a sample is corrected or a correction undone: the matches that rest on it get the spread it then leaves, and one it would no longer support is a refusal."""
    resting = resting_on(row.id)
    if not resting:
        return
    now = dict(row.__data__) | {name: value for name, value in values.items() if name in PLACED_BY}
    instead = as_sample(SieveSample(**now))
    for match in resting:
        try:
            first, second, groups, dials = _two(s.CompareBody(first_id=match.rests_on["a"][0], second_id=match.rests_on["b"][0]), instead)
        except Unprocessable:
            raise _no_longer() from None
        here = (first.grind.dial_id, first.grind.setting, second.grind.dial_id, second.grind.setting)
        if here != (match.a_id, match.a_setting, match.b_id, match.b_setting) or _unmatchable(first, second, compare(first, second).matched):
            raise _no_longer()
        MatchedSetting.update(rests_on=_rests_on(first, second, groups, dials)).where(MatchedSetting.id == match.id).execute()


def _no_longer() -> Conflict:
    return Conflict("", "A matched setting rests on this sample, and would no longer hold.", "Take the match out first, in the translator.")


def _not_rested_on(row: SieveSample) -> None:
    if resting_on(row.id):
        raise Conflict("", "A matched setting rests on this sample.", "Take the match out first, in the translator.")


def _its_samples_are_there(match: MatchedSetting) -> None:
    wanted = [*match.rests_on["a"], *match.rests_on["b"]] if match.rests_on else []
    there = SieveSample.select().where(SieveSample.id.in_(wanted or [""]) & SieveSample.deleted_at.is_null()).count()
    if there < len(wanted):
        raise Conflict("", "A sample this match rests on was deleted.", "Bring the sample back first.")


history.guard("sieve_sample", remove=_not_rested_on, edit=keep_true)
history.guard("matched_setting", restore=_its_samples_are_there)
