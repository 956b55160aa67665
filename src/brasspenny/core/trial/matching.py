"""Bringing the cups of a trial to one strength: what was served of each setup, and what is still to be stirred in before any cup gets a code."""

from __future__ import annotations

from dataclasses import dataclass
from statistics import fmean

from .. import figures
from ..extraction.dilution import Matching, Server, dilute_to, match_strengths, one_strength
from .measured import MeasuredTrial
from .value import Brew


@dataclass(frozen=True)
class Served:
    """Means over the brews of a setup as they were served: % TDS, and water stirred in, g."""

    tds_pct: float
    added_water_g: float


def served_of(m: MeasuredTrial, setup_id: str) -> Served | None:
    """None where none of the setup's brews was thinned, or none was read."""
    runs = m.runs_of(setup_id)
    read = [pct for run in runs if (pct := m.served_pct(run)) is not None]
    added = [run.served["added_water_g"] if run.served else 0.0 for run in runs]
    return Served(fmean(read), fmean(added)) if read and any(added) else None


def can_be_matched(m: MeasuredTrial) -> tuple[Brew, ...]:
    """Brews with a strength and a weighed drink."""
    return tuple(run for run in m.runs if m.measured[run.id].strength and run.beverage_g is not None)


def matching_of(m: MeasuredTrial, target_tds_pct: float | None = None) -> Matching | None:
    """Of those brews, in their order; None with fewer than two. Raises Inconsistent for a target above the weakest."""
    ready = can_be_matched(m)
    if len(ready) < 2:
        return None
    servers = [Server(m.label_of(run), run.beverage_g, m.measured[run.id].strength.tds_pct) for run in ready]
    return match_strengths(servers, target_tds_pct=target_tds_pct)


def is_one_strength(m: MeasuredTrial) -> bool:
    """Whether all cups as they are served now count as one strength."""
    return one_strength([m.served_pct(run) for run in can_be_matched(m)], m.matched_within_tds_pct)


LEAST_WATER_G = 0.5
"""Less is not worth stirring in: a kitchen scale does not show it."""


LEAST_TDS_PCT = 0.1
"""Below it a reading is of water, and nothing is thinned down to that."""


def still_to_thin(m: MeasuredTrial) -> dict[str, float]:
    """Brew id → g of water to stir in before it is poured, where a trial is to be matched and is not yet; {} elsewhere. To the weakest; of one that was thinned already, what it still takes."""
    if m.trial.strength_policy != "matched" or is_one_strength(m):
        return {}
    now = {run.id: m.served_pct(run) for run in can_be_matched(m)}
    weakest = min(now.values())
    if weakest < LEAST_TDS_PCT:
        return {}
    water = {
        run.id: dilute_to(
            beverage_g=run.beverage_g + (run.served["added_water_g"] if run.served else 0.0), tds_pct=now[run.id], target_tds_pct=weakest
        ).add_water_g
        for run in can_be_matched(m)
    }
    return {id_: g for id_, g in water.items() if g >= LEAST_WATER_G}


def say_thinning(m: MeasuredTrial, water: dict[str, float]) -> str:
    """ "Stir in water before any cup gets a code: A1 21.3 g, A2 19.8 g." """
    brews = [f"{m.label_of(run)} {figures.grams_fine(water[run.id])} g" for run in m.runs if run.id in water]
    return f"Stir in water before any cup gets a code: {', '.join(brews)}." if brews else ""


def say_matching(m: MeasuredTrial) -> str:
    """How strong the cups were beside one another, for the report."""
    served = [pct for run in can_be_matched(m) if (pct := m.served_pct(run)) is not None]
    ends = f"{figures.tds(min(served))} to {figures.tds(max(served))} % TDS as served" if len(served) > 1 else "hardly read"
    if m.trial.strength_policy != "matched":
        return f"Cups were tasted as brewed ({ends})"
    return f"Cups were matched in strength ({ends})" if is_one_strength(m) else f"Strengths were to be matched before tasting, and were not ({ends})"


READING_APART_TDS_PCT = 0.06
"""A second reading farther than this from what the masses give is no scatter of a refractometer."""


def doubt_of_served(run: Brew, *, as_brewed_pct: float | None) -> str:
    """Where the water noted cannot give the second reading: which of the two is asked about; '' where they agree."""
    if not run.served or run.served["tds_pct"] is None or as_brewed_pct is None or run.beverage_g is None:
        return ""
    added, read = run.served["added_water_g"], run.served["tds_pct"]
    by_masses = as_brewed_pct * run.beverage_g / (run.beverage_g + added)
    if abs(read - by_masses) <= READING_APART_TDS_PCT:
        return ""
    needed = run.beverage_g * (as_brewed_pct / read - 1)
    would = f"{figures.grams_fine(needed)} g would" if needed >= 0 else "no water could"
    gives = f"{figures.grams_fine(added)} g of water gives {figures.tds(by_masses)} %, and {figures.tds(read)} % was read"
    return f"{gives}: {would}. Check the water, stir, and read again."
