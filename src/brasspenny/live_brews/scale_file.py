"""A real scale's file onto a logged brew."""

from __future__ import annotations

from dataclasses import asdict, replace

from ..act import Act
from ..brewing.runs import open_run, tolerances
from ..core.brewing import along, scale_log
from ..core.brewing.curve import read_curve
from ..core.brewing.follow import Followed, follow
from ..core.extraction.measure import check_masses, check_times
from ..core.trial.measured import masses_of, off_plan_of
from ..core.trial.setups import recipe_of
from ..history import service as history
from ..refusals import Unprocessable
from ..store.models import SetupRevision
from ..store.writing import use_case
from . import schemas as s

MOST_KEPT = 600


@use_case
def take_log(run_id: str, sent: s.ScaleLogBody, rev: int, act: Act) -> s.ScaleLogAnswer:
    """Its pours beside the plan's, its settled water and times taken over, its curve kept. Time zero is where its first pour begins; a brewer lifted
    off the scale ends the brew, where no end was given."""
    run = open_run(run_id)
    log = scale_log.read_log(sent.text)
    revision = SetupRevision.get_by_id(run.setup_revision_id)
    steps = along.planned_steps(recipe_of(revision))
    curve = read_curve(log, moves=sum(step.slurry_g is not None for step in steps))
    if not curve.pours:
        raise Unprocessable("text", "No pour was found in this file.", "Give the whole brew, from an empty bed on, at one reading a second or more.")
    zero = curve.pours[0].start_s
    seen = follow(steps, curve, zero)
    wet = [step for step in steps if step.to_g is not None]
    made = [along.MadeStep(p.index, round(p.began_s, 1), round(p.ended_s, 1), round(p.to_g, 1), "scale") for p in seen.pours if p.ended_s is not None]
    every = max(1, len(log.t_s) // MOST_KEPT)
    last = curve.pours[-1]
    values = {
        "curve": [[round(float(t) - zero, 1), round(float(g), 1)] for t, g in zip(log.t_s[::every], log.mass_g[::every], strict=True)],
        "off_plan": _uneven(seen, len(wet), len(curve.pours)),
        "brew_water_g": round(seen.poured_g, 1),
        "pour_end_s": round(last.end_s - zero, 1),
        "marked": [asdict(m) for m in along.marked_steps(steps, made)],
        "total_time_s": run.total_time_s if run.total_time_s is not None or seen.lifted_s is None else round(seen.lifted_s, 1),
    }
    check_times(pour_end_s=values["pour_end_s"], total_time_s=values["total_time_s"])
    check_masses(replace(masses_of(run), brew_water_g=values["brew_water_g"]))
    history.edit(run, values, rev=rev, act=act, trial_id=run.trial_id)
    planned = {p.index: next(w.to_g for w in wet if w.index == p.index) for p in seen.pours}
    by_end = {round(p.ended_s, 1): planned[p.index] for p in seen.pours if p.ended_s is not None}
    return s.ScaleLogAnswer(
        run_id=run.id,
        rev=run.rev,
        pours=[
            s.LoggedPour(
                start_s=round(p.start_s - zero, 1),
                end_s=round(p.end_s - zero, 1),
                added_g=round(p.added_g, 1),
                to_g=round(p.to_g, 1),
                rate_g_s=round(p.rate_g_s, 1),
                planned_to_g=by_end.get(round(p.end_s - zero, 1)),
            )
            for p in curve.pours
        ],
        gaps=[[round(g.start_s - zero, 1), round(g.end_s - zero, 1)] for g in curve.gaps],
        notes=list(curve.notes),
        off_plan=list(off_plan_of(run, revision, tolerances())),
    )


def _uneven(seen: Followed, planned: int, found: int) -> list[str]:
    return [f"{found} pours in the scale's file, {planned} in the recipe"] if len(seen.pours) != planned else []
