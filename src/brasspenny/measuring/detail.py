"""What follows from the results: pairs compared, strengths matched, one change advised, a wished cup aimed at. Reads only."""

from __future__ import annotations

from itertools import combinations

from ..brewing.advice import shape_advised
from ..brewing.behind import Behind
from ..brewing.runs import open_run
from ..brewing.turning import said
from ..core.brewing import adviser
from ..core.brewing.along import plan_now_g, planned_steps
from ..core.extraction.comparing import compare_yields
from ..core.extraction.target_cup import aim
from ..core.recipe.model import Recipe as CoreRecipe
from ..core.recipe.model import sums
from ..core.trial.matching import can_be_matched, is_one_strength, matching_of, say_thinning, still_to_thin
from ..core.trial.measured import MeasuredTrial, masses_of, run_label, served_apart
from ..core.trial.setups import recipe_of
from ..refusals import Conflict
from ..store.models import SetupRevision
from . import schemas as s
from .service import quantity, results_of, shape_served


def compare(trial_id: str) -> s.ComparisonsAnswer:
    """Every pair of setups, with the one instrument's shared error cancelled. Source: docs/formulas.md §3."""
    found = results_of(trial_id)
    sides = {setup.id: _yielded(found, setup.id) for setup, _ in found.setups}
    having = [(setup, sides[setup.id]) for setup, _ in found.setups if sides[setup.id]]
    pairs = []
    for (first, mine), (second, other) in combinations(having, 2):
        c = compare_yields((first.letter, mine), (second.letter, other), yield_basis=found.yield_basis, instrument=found.instrument)
        pairs.append(
            s.PairCompared(
                first=first.letter,
                second=second.letter,
                verdict=c.verdict,
                difference=quantity(c.difference),
                tds_difference=quantity(c.tds_difference),
                single_brews=c.single,
                text=c.text,
            )
        )
    return s.ComparisonsAnswer(pairs=pairs, missing=[setup.letter for setup, _ in found.setups if not sides[setup.id]])


def _yielded(found: MeasuredTrial, setup_id: str):
    runs = [run for run in found.runs_of(setup_id) if found.measured[run.id].yield_in(found.yield_basis)]
    return [(masses_of(run), [r.tds_pct for r in run.readings]) for run in runs]


# --- strength matching -----------------------------------------------------------------------------------------------------


def match(trial_id: str, target_tds_pct: float | None) -> s.MatchingAnswer:
    """Which servers to thin by how much, by setup and before coding."""
    found = results_of(trial_id)
    ready = can_be_matched(found)
    unread = [run_label(found.letter_of(run), run) for run in found.runs if run not in ready]
    policy = found.trial.strength_policy
    m = matching_of(found, target_tds_pct)
    if m is None:
        return s.MatchingAnswer(
            target_tds_pct=None,
            weakest_tds_pct=None,
            apart_tds_pct=0,
            needed=False,
            within_tds_pct=found.matched_within_tds_pct,
            policy=policy,
            servers=[],
            unread=unread,
            step="",
        )
    labels = {run.id: run_label(found.letter_of(run), run) for run in ready}
    strengths = {run.id: found.measured[run.id].strength.tds_pct for run in ready}
    served = [found.served_pct(run) for run in ready]
    return s.MatchingAnswer(
        target_tds_pct=m.target_tds_pct,
        weakest_tds_pct=min(strengths.values()),
        apart_tds_pct=served_apart(served),
        needed=not is_one_strength(found),
        within_tds_pct=found.matched_within_tds_pct,
        policy=policy,
        servers=[
            s.ServerShown(
                run_id=run.id,
                rev=run.rev,
                letter=found.letter_of(run),
                label=labels[run.id],
                beverage_g=run.beverage_g,
                tds_pct=strengths[run.id],
                add_water_g=server.add_water_g,
                final_beverage_g=server.final_beverage_g,
                final_tds_pct=server.final_tds_pct,
                served=shape_served(run, found.measured[run.id]),
            )
            for run, server in zip(ready, m.servers, strict=True)
        ],
        unread=unread,
        step=say_thinning(found, still_to_thin(found)),
    )


# --- one brew's advice -------------------------------------------------------------------------------------------------------


def advise(run_id: str, words: list[str]) -> s.AdvisedAnswer:
    """By the recipe's own windows, the brew's numbers and what it tasted of: one change, drafted."""
    behind = Behind(open_run(run_id))
    run, found = behind.run, behind.advise(words)
    proposal = behind.propose(found.change) if found.change else None
    shaped = shape_advised(found, proposal)
    kept, version = behind.kept or (None, None)
    letter = run.setup.letter
    return s.AdvisedAnswer(
        run_id=run.id,
        label=run_label(letter, run),
        targets=_targets(behind.recipe, behind.results),
        signs=[adviser.SIGN_LABELS[x] for x in found.signs],
        change=shaped.change,
        proposal=shaped.proposal,
        says=said(proposal) if proposal else "",
        others=shaped.others,
        disagreement=shaped.disagreement,
        signpost=shaped.signpost,
        missing=shaped.missing,
        draft=shaped.draft,
        recipe_id=kept.id if kept else None,
        recipe_name=kept.name if kept else "",
        recipe_version=version.number if version else None,
        recipe_rev=kept.rev if kept else None,
        words=[s.Word(code=w, label=adviser.SIGN_LABELS[w]) for w in adviser.TASTE_SIGNS],
    )


def _targets(recipe: CoreRecipe, results: adviser.Results) -> list[s.TargetShown]:
    rows = (
        ("Strength", "% TDS", recipe.tds_pct, results.tds_pct),
        ("Yield", "%", recipe.ey_pct, results.ey_pct),
        ("Total time", "s", recipe.total_time_s, results.total_time_s),
    )
    return [
        s.TargetShown(label=label, unit=unit, low=low, high=high, value=value, state=_state(value, low, high))
        for label, unit, (low, high), value in rows
        if low is not None or high is not None
    ]


def _state(value: float | None, low: float | None, high: float | None) -> str:
    if value is None:
        return "not measured"
    if low is not None and value < low:
        return "below"
    return "above" if high is not None and value > high else "within"


def aim_at(run_id: str, tds_pct: float, ey_pct: float) -> s.AimAnswer:
    """A ghost on the chart, from this brew: what leads there."""
    behind = Behind(open_run(run_id))
    run, now = behind.run, behind.ey
    if now is None or run.brew_water_g is None:
        raise Conflict("", "This brew has no yield to start from.", "Give it a reading, its water and its beverage mass.")
    found = aim(
        yield_basis=behind.yield_basis,
        dose_g=run.dose_g,
        brew_water_g=run.brew_water_g,
        retained_water_ratio=behind.kept_water,
        ey_now_pct=now.value,
        tds_wished_pct=tds_pct,
        ey_wished_pct=ey_pct,
    )
    return s.AimAnswer(**vars(found))


def curve(run_id: str) -> s.CurveAnswer:
    """The scale's curve of a brew beside its plan."""
    run = open_run(run_id)
    recipe = recipe_of(SetupRevision.get_by_id(run.setup_revision_id))
    steps, end = planned_steps(recipe), max(sums(recipe).total_s, run.total_time_s or 0.0)
    plan = [[float(t), round(plan_now_g(steps, t), 1)] for t in range(0, min(3600, int(end)) + 1, 2)]
    return s.CurveAnswer(points=run.curve or [], plan=plan)
