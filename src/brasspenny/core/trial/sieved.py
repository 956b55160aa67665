"""What sieve samples taken at exactly the settings of a trial say of them: whether they are matched, and what two sieves can tell. docs/formulas.md §5."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import NamedTuple

from .. import figures
from ..brewing.dial_in import UNSAMPLED
from ..grinding.dials import Dials, dial_id
from ..grinding.samples import Change, Sample, Sampled, compare, taken_together, telling, usual_band
from .value import Trial


@dataclass(frozen=True)
class SampledSetups:
    """grinds: by setup letter, of those whose setting was sampled. band_um: between the apertures all their stacks have, None where they have no two in common."""

    grinds: Mapping[str, Sampled]
    band_um: tuple[float, float] | None


def sampled_setups(trial: Trial, samples: Sequence[Sample], dials: Dials) -> SampledSetups:
    """What was weighed at the settings in use; what was simulated is left out. samples: of the dials in use, or more; others count for how far replicates of a stack lie apart."""
    wanted = {}
    for setup, revision in trial.rows:
        dial = dials.current(dial_id(revision.kit) or "")
        setting = dials.read(dial, revision.grind_setting)
        if setting is not None:
            wanted[setup.letter] = (dial, setting)
    weighed = [replace(x, grind=replace(x.grind, dial_id=dials.current(x.grind.dial_id))) for x in samples if not x.grind.simulated]
    stacks = [set(x.grind.apertures_um) for x in weighed if any(_is_at(x, at) for at in wanted.values())]
    common = sorted(set.intersection(*stacks)) if stacks else []
    band = usual_band(common) if len(common) >= 2 else None
    groups = telling(taken_together(weighed, band or usual_band(weighed[0].grind.apertures_um))) if weighed else []
    return SampledSetups({letter: g for letter, at in wanted.items() for g in groups if _is_at(g.samples[0], at)}, band)


def _is_at(sample: Sample, at: tuple[str, float]) -> bool:
    return sample.grind.dial_id == at[0] and abs(sample.grind.setting - at[1]) < 1e-6


class SieveCheck(NamedTuple):
    """holds: whether the settings grind alike; None where nothing was sampled, or the sieves cannot tell. said: with what."""

    holds: bool | None
    said: str


NO_SAMPLES = SieveCheck(*UNSAMPLED)


WORST_FIRST = (False, None, True)


def check_by_samples(trial: Trial) -> SieveCheck:
    """Every two setups of unlike dials against each other, by samples at exactly their settings."""
    if trial.dials is None:
        return NO_SAMPLES
    found = sampled_setups(trial, trial.samples, trial.dials)
    dials = {setup.letter: trial.dials.current(dial_id(revision.kit) or "") for setup, revision in trial.rows}
    pairs = [(a, b) for a, b in combinations(sorted(dials), 2) if dials[a] != dials[b]]
    if not pairs or any(letter not in found.grinds for pair in pairs for letter in pair):
        return NO_SAMPLES
    said = [_two(a, b, found) for a, b in pairs]
    return min(said, key=lambda x: WORST_FIRST.index(x.holds))


def _two(a: str, b: str, found: SampledSetups) -> SieveCheck:
    result = compare(found.grinds[a], found.grinds[b])
    if result.median is not None:
        off = f"{figures.um(abs(result.median.points.value))} µm"
        if result.matched:
            return SieveCheck(True, f"By sieve samples at these settings the medians of {a} and {b} agree within their interval, {off} apart.")
        return SieveCheck(
            False, f"By sieve samples at these settings {b} is {off} {'coarser' if result.median.points.value > 0 else 'finer'} than {a} at the median."
        )
    if found.band_um is None or not {"fines", "coarse"} <= result.changes.keys():
        return SieveCheck(None, f"{a} and {b} were sampled on sieves without two apertures in common: whether they are matched cannot be told.")
    return _by_two_sieves(a, b, found.band_um, result.changes["fines"], result.changes["coarse"])


def _by_two_sieves(a: str, b: str, band_um: tuple[float, float], fines: Change, coarse: Change) -> SieveCheck:
    """A stack that only bounds a median still has a share finer than each of its sieves."""
    low, high = (figures.um(x) for x in band_um)
    finer = {low: fines.points, high: coarse.points}
    less = {um: (x.interval[0] > 0, x.interval[1] < 0) if um == low else (x.interval[1] < 0, x.interval[0] > 0) for um, x in finer.items()}
    for word, at in (("finer", 0), ("coarser", 1)):
        if all(told[at] for told in less.values()):
            return SieveCheck(False, f"{b} is {word} than {a} at both sieves ({low} and {high} µm): part of the gain of either may be the setting.")
    told = [um for um, way in less.items() if any(way)]
    if told:
        return SieveCheck(
            None, f"{a} and {b} differ at the {figures.joined(told)} µm sieve alone. Two sieves cannot tell a setting from an evenness: a third would."
        )
    return SieveCheck(None, f"{a} and {b} are alike at both sieves ({low} and {high} µm), as far as two can tell: a third would locate the median.")
