"""The simulator taught by this bench's brews: a brewer's runs along recipes, what the model predicted, what is left over. Reads only."""

from __future__ import annotations

from ..brewing.runs import instrument
from ..core.errors import PennyError
from ..core.recipe.model import sums
from ..core.simulator.brews import USUAL_GRIND, brew_of
from ..core.simulator.fitting import LEARNT, Observed, fit
from ..core.simulator.model import USUAL
from ..core.trial.measured import measure_run, run_label
from ..core.trial.setups import recipe_of
from ..grinding.known import KnownGrinds
from ..kit import service as kit
from ..refusals import Conflict, Unprocessable
from ..store import queries
from ..store.models import Run, Setup, SetupRevision, UsedKit
from . import schemas as s

MOST_BREWS = 40
LONGEST_S = 3_600
"""A brew that steeps overnight is simulated second by second for minutes: it is left out."""
WORDS = {
    "soluble": ("what could dissolve", "share of the dose"),
    "bed_s": ("resistance of the bed", "s"),
    "held_g_g": ("liquid the bed keeps", "g/g"),
}


def learn(item_id: str) -> s.LearntAnswer:
    """Simulated brews teach nothing, so they are left out."""
    item = kit.open_item(item_id)
    if item.kind != "brewer":
        raise Unprocessable("id", "The simulator learns from a brewer's brews.", "Choose a brewer.")
    runs = [run for run in _runs_with(item_id) if not run.observed.get("simulated")]
    taken, own = queries.readings_of(run.id for run in runs), instrument()
    grinds = KnownGrinds()
    labels, brews, seen = [], [], []
    for run in runs:
        m = measure_run(run, taken.get(run.id, []), own, run.setup_revision)
        observed = Observed(m.strength.tds_pct if m.strength else None, run.beverage_g, run.total_time_s)
        try:
            brew = brew_of(recipe_of(run.setup_revision), grind=grinds.ground_to(run.setup_revision) or USUAL_GRIND, dose_g=run.dose_g)
        except PennyError:
            continue
        if observed != Observed() and _lasts_s(run) <= LONGEST_S:
            labels.append(_label(run))
            brews.append(brew)
            seen.append(observed)
    if len(brews) < 3:
        raise Conflict("", f"{len(brews)} brews are too few to learn from.", "Log three or more with a strength, a mass or a time.")
    found = fit(brews, seen)
    return s.LearntAnswer(
        brews=len(brews),
        parameters=[
            s.LearntParameter(
                code=name, label=WORDS[name][0], unit=WORDS[name][1], usual=getattr(USUAL, name), learnt=round(getattr(found.parameters, name), 4)
            )
            for name in LEARNT
        ],
        before=found.before,
        after=found.after,
        residuals=[s.ResidualShown(label=label, **vars(r)) for label, r in zip(labels, found.residuals, strict=True)],
    )


def _runs_with(item_id: str) -> list[Run]:
    return list(
        Run.select(Run, Setup, SetupRevision)
        .join(Setup)
        .switch(Run)
        .join(SetupRevision)
        .join(UsedKit, on=(UsedKit.setup_revision == SetupRevision.id))
        .where((UsedKit.kit_item == item_id) & Run.deleted_at.is_null())
        .order_by(Run.brewed_at.desc())
        .limit(MOST_BREWS)
    )


def _lasts_s(run: Run) -> float:
    return max(run.total_time_s or 0.0, sums(recipe_of(run.setup_revision)).total_s)


def _label(run: Run) -> str:
    return f"{run_label(run.setup.letter, run)}, {run.brewed_at:%d %b}"
