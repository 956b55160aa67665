"""Between the documents people send and the core's recipes; and everything worked out from one."""

from __future__ import annotations

from dataclasses import replace

from ..core.brewing.along import planned_steps
from ..core.errors import OutOfDomain
from ..core.extraction import chartlines
from ..core.extraction.yields import BREWER_LABELS, YIELD_BASIS_LABELS, yield_basis_of
from ..core.kit.heat import boiling_point_c
from ..core.recipe import cautions as cautions_
from ..core.recipe import document as document_
from ..core.recipe import lint as lint_
from ..core.recipe import model
from ..core.recipe.describe import ENDS, end_sentence, sentences
from ..core.recipe.model import Recipe
from ..core.recipe.outlook import History, Outlook, Window, is_concentrate, outlook
from ..core.recipe.writing import write
from ..kit import service as kit
from ..kit import worked
from ..store import queries
from ..store.load_trial import load_dials
from ..store.models import Bench
from . import schemas as s
from .pours import pours_shown


def core_recipe(sent: s.RecipeDocument) -> Recipe:
    recipe = document_.from_document(sent.model_dump(exclude_unset=True))
    if not model.fits(recipe):
        raise OutOfDomain("steps", f"these pours add up to more than {model.GRAMS[1]:,} g.", "Check what each of them adds.")
    return recipe


def linked(recipe: Recipe) -> Recipe:
    """Settings on a dial the kit knows by that name become links to it; a link the kit does not have becomes none. The words stay."""
    if not recipe.grinds:
        return recipe
    dials = load_dials()
    return replace(recipe, grinds=tuple(replace(g, dial_id=dials.current(g.dial_id, g.on)) for g in recipe.grinds))


def document_of(recipe: Recipe) -> s.RecipeDocument:
    return s.RecipeDocument.model_validate(document_.to_document(recipe))


def check(sent: s.CheckBody) -> s.CheckedAnswer:
    """With the bench's own boiling point and the named brewer's range, volume and history."""
    recipe = core_recipe(sent.document)
    return checked(recipe, *surroundings(recipe, brewer=sent.brewer, windows=sent.windows))


def surroundings(recipe: Recipe, *, brewer: str = "", windows: list[str] = ()) -> tuple[lint_.Surroundings, Outlook | None]:
    item = kit.item_named("brewer", brewer) if brewer else None
    facts = item.facts if item else {}
    yield_basis = worked.brewer_yield_basis(item) if item else yield_basis_of(recipe.brewer_type) if recipe.brewer_type else "in_cup"
    expected = outlook(recipe, worked.history_of(item), yield_basis=yield_basis)
    low, high = facts.get("dose_low_g"), facts.get("dose_high_g")
    around = lint_.Surroundings(
        boiling_c=boiling_point_c(Bench.get_by_id(1).altitude_m),
        dose_range_g=(low or 0.0, high or 10_000.0) if low or high else None,
        volume_ml=facts.get("volume_ml"),
        windows=named_windows(windows) if yield_basis == "in_cup" else (),
        outlook=expected,
    )
    return around, expected


def named_windows(codes: list[str]) -> tuple[Window, ...]:
    return tuple(Window(w.label, w.ey_pct, w.tds_pct) for w in chartlines.WINDOWS if w.code in codes)


def plain_surroundings(recipe: Recipe, *, boiling_c: float, dose_range_g=None, volume_ml=None, windows: list[str] = (), history: History | None = None):
    """Without the database, for the calculators."""
    yield_basis = yield_basis_of(recipe.brewer_type) if recipe.brewer_type else "in_cup"
    expected = outlook(recipe, history or History(), yield_basis=yield_basis)
    return lint_.Surroundings(boiling_c, dose_range_g, volume_ml, named_windows(windows) if yield_basis == "in_cup" else (), expected), expected


def findings(recipe: Recipe, around: lint_.Surroundings) -> list[s.FindingAnswer]:
    return [_finding(f) for f in lint_.lint(recipe, around)]


def _finding(f: lint_.Finding) -> s.FindingAnswer:
    return s.FindingAnswer(
        code=f.code,
        severity=f.severity,
        where=f.where,
        place=f.place,
        text=f.text,
        why=f.why,
        mends=[s.MendAnswer(label=m.label, document=document_of(m.recipe)) for m in f.mends],
    )


def checked(recipe: Recipe, around: lint_.Surroundings, expected: Outlook | None) -> s.CheckedAnswer:
    found = lint_.lint(recipe, around)
    total = model.sums(recipe)
    return s.CheckedAnswer(
        findings=[_finding(f) for f in found],
        draft=lint_.blocks_a_run(found),
        timeline=timed_steps(recipe),
        poured_g=total.poured_g,
        bypass_g=total.bypass_g,
        bypass_share=total.bypass_share,
        brew_ratio=total.brew_ratio,
        g_per_l=1000 / total.brew_ratio if total.brew_ratio else None,
        g_per_100g=100 / total.brew_ratio if total.brew_ratio else None,
        last_pour_end_s=total.last_pour_end_s,
        total_s=total.total_s,
        end=end_shown(model.ending_of(recipe)),
        pours=pours_shown(planned_steps(recipe), (), sentences(recipe)),
        concentrate=is_concentrate(recipe),
        outlook=_outlook(expected, recipe) if expected else None,
        cautions=[s.CautionAnswer(code=c.code, steps=list(c.steps), text=c.text) for c in cautions_.cautions(recipe, queries.filter_material(recipe.filter))],
        text=write(recipe),
        cumulative=document_of(model.as_cumulative(recipe)),
        per_pour=document_of(model.as_per_pour(recipe)),
    )


def timed_steps(recipe: Recipe) -> list[s.TimedStep]:
    timed = model.timeline(recipe)
    end = model.ending_of(recipe, timed)
    return [_timed(t, said, model.is_after(t, end)) for t, said in zip(timed, sentences(recipe), strict=True)]


def end_shown(end: model.BrewEnd) -> s.EndShown:
    return s.EndShown(kind=end.kind, by=end.by, at_s=end.at_s, ask=ENDS[end.kind].ask, done=ENDS[end.kind].done, text=end_sentence(end))


def _timed(t: model.Timed, said: str, after: bool) -> s.TimedStep:
    return s.TimedStep(
        index=t.index,
        kind=t.step.kind,
        label=model.STEP_LABELS[t.step.kind],
        text=said,
        start_s=t.start_s,
        end_s=t.end_s,
        water_g=t.water_g,
        to_g=t.to_g,
        rate_g_s=t.rate_g_s,
        on_coffee=t.step.kind in model.ON_COFFEE,
        assumed=t.assumed,
        poured_s=model.poured_by_s(t),
        after=after,
    )


def _outlook(o: Outlook, recipe: Recipe) -> s.OutlookAnswer:
    yield_basis = yield_basis_of(recipe.brewer_type) if recipe.brewer_type else "in_cup"
    return s.OutlookAnswer(
        beverage_g=o.beverage_g,
        tds_pct=o.tds_pct,
        ey_pct=o.ey_pct,
        tds_range_pct=list(o.tds_range_pct) if o.tds_range_pct else None,
        ey_range_pct=list(o.ey_range_pct) if o.ey_range_pct else None,
        retained_water_ratio=o.retained_water_ratio,
        brews=o.brews,
        text=o.text,
        yield_basis_label=YIELD_BASIS_LABELS[yield_basis],
    )


def brewer_words(recipe: Recipe) -> str:
    return BREWER_LABELS[recipe.brewer_type] if recipe.brewer_type else ""
