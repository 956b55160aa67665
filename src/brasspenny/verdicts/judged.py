"""The judgements of liking of a trial: what each rests on, and how it is worked out. Kept by verdicts/service.py."""

from __future__ import annotations

from dataclasses import asdict, dataclass, replace
from typing import Literal

from ..core.judging import DIFFERENCES_NOTE, Score, judge, taster_means
from ..core.trial.status import JudgedFacts
from ..core.trial.tasted import Tasted
from ..core.trial.value import LearntScatter
from ..measuring.service import pooled_quantity, shape_served_mean
from . import schemas as s
from .verdict_cache import Layer
from .view import View, prior_of


@dataclass(frozen=True)
class LikingPart:
    """All a judgement of liking rests on."""

    scores: tuple[Score, ...]
    smallest_difference: float
    names: tuple[tuple[str, str], ...]
    learnt: LearntScatter | None = None


@dataclass(frozen=True)
class VerdictPart:
    """All a stored verdict rests on: the liking, and what was measured of each setup beside it."""

    liking: LikingPart
    measured: dict[str, dict]
    tasters: tuple[tuple[str, str], ...]
    sighted: bool


@dataclass(frozen=True)
class Judged:
    """The two judgements of liking; None where nothing was scored that way. pass_missed: the pass that was asked about was never scored.
    by_other: what the blind one is headed by the other scatter, the usual or this bench's own; '' where nothing was learnt."""

    blind: s.JudgedAnswer | None
    sighted: s.JudgedAnswer | None
    pass_missed: bool = False
    by_other: str = ""

    @property
    def main(self) -> s.JudgedAnswer | None:
        return self.blind or self.sighted

    @property
    def facts(self) -> JudgedFacts | None:
        """What the margin needs of it."""
        if self.main is None:
            return None
        sighted = self.sighted.setups if self.sighted else []
        return JudgedFacts(
            caveats=tuple((c.code, c.text, c.cure) for c in self.blind.caveats) if self.blind else (),
            blind=tuple(x.setup for x in self.blind.setups) if self.blind else (),
            sighted=tuple(x.setup for x in sighted),
            sighted_name=sighted[0].name if sighted else "",
            sighted_mean=sighted[0].mean if sighted else 0.0,
            tasters=self.main.tasters,
            pass_missed=self.pass_missed,
        )


Which = Literal["blind", "sighted", "other"]


def parts_of(view: View) -> dict[Which, VerdictPart]:
    """What each judgement rests on; nothing where nothing was scored that way."""
    measured = _measured(view)
    parts = {which: _part(view, found, measured) for which, found in (("blind", view.blind), ("sighted", view.sighted))}
    parts = {which: part for which, part in parts.items() if part}
    if view.learnt:
        parts["other"] = parts["blind"]
        parts["blind" if view.own_scatter else "other"] = _with(parts["blind"], view.learnt)
    return parts


def _with(part: VerdictPart, learnt: LearntScatter) -> VerdictPart:
    return replace(part, liking=replace(part.liking, learnt=learnt))


def work_out(view: View, part: VerdictPart) -> dict:
    """The judgement as plain values, as it is stored."""
    return _shape(view.keeper.of(LIKING[part.sighted, part.liking.learnt is not None], part.liking), part)


def _part(view: View, found: Tasted, measured: dict[str, dict]) -> VerdictPart | None:
    scores = found.counting()
    if not scores:
        return None
    liking = LikingPart(tuple(scores), view.trial.smallest_difference, tuple(sorted(view.names.items())))
    return VerdictPart(liking, measured, found.tasters, found is view.sighted)


def _judge(part: LikingPart) -> dict:
    """Pure: plain values of the judgement, setups best first."""
    found = asdict(judge(part.scores, smallest_difference=part.smallest_difference, names=dict(part.names), learnt=prior_of(part.learnt)))
    found["pass_name"] = found.pop("pass_")
    found["setups"] = sorted(found["setups"], key=lambda x: -x["mean"])
    return {
        **found,
        "differences_note": DIFFERENCES_NOTE,
        "flights": len({x.flight for x in part.scores}),
        "brews": len({x.brew for x in part.scores}),
        "smallest_difference": part.smallest_difference,
        "by_taster": taster_means(part.scores),
    }


LIKING: dict[tuple[bool, bool], Layer] = {
    (sighted, own): Layer(f"liking {'sighted' if sighted else 'blind'}{' own scatter' if own else ''}", _judge)
    for sighted, own in ((False, False), (False, True), (True, False))
}
"""By whether it is sighted, and whether the scatter is this bench's own."""


def _shape(judged: dict, part: VerdictPart) -> dict:
    """The judgement beside what was measured of each setup, and with the tasters' names."""
    names = dict(part.tasters)
    by_taster = [{"taster": names[t], "means": means} for t, means in judged["by_taster"].items()]
    return {
        **judged,
        "setups": [{**x, **part.measured[x["setup"]]} for x in judged["setups"]],
        "tasters": len(by_taster),
        "by_taster": sorted(by_taster, key=lambda row: row["taster"]),
    }


def _measured(view: View) -> dict[str, dict]:
    """Letter → what was measured of that setup."""
    out = {}
    for setup, _ in view.trial.rows:
        pooled = view.measured.pooled[setup.id]
        out[setup.letter] = {
            "name": view.names[setup.letter],
            "brew_ratio": pooled.brew_ratio,
            "tds": _plain(pooled_quantity(pooled.tds)),
            "extraction_yield": _plain(pooled_quantity(pooled.extraction_yield)),
            "total_time_s": pooled.total_time_s,
            "served": _plain(shape_served_mean(view.measured, setup.id)),
        }
    return out


def _plain(shown) -> dict | None:
    return None if shown is None else shown.model_dump()
