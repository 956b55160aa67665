"""Which for whom: what each setup is like by attribute and pass, how steady it stays as it cools. docs/formulas.md §10.

Many attributes and setups are looked at, so a trait is said only where it stands after Holm's adjustment over all of them together; so is a change while it cools, over all setups and pairs of
passes. Of panels to which all cups are alike at most one in twenty is told anything of character, and one in twenty anything of temperature (benchmarks/character_study.py).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from .. import figures
from .multiplicity import holm
from .passes import Cooling, cooling, means_by_pass
from .scores import Score
from .verdict import Judgement

SHOWN_P = 0.05
LEAST_POINTS = 0.5
STEADY_WITHIN = 0.75


@dataclass(frozen=True)
class Trait:
    """A setup stands out in an attribute: by how much over the nearest other, points; p_adjusted: over all attributes and setups."""

    attribute: str
    more: bool
    points: float
    p_adjusted: float


@dataclass(frozen=True)
class Character:
    """traits: surest first. by_pass: mean liking as it cools. cooled: its largest change between two passes, None with one pass or one taster; steady: False where that is shown, True where no
    change can be larger than STEADY_WITHIN, None where neither is known; as_it_cools says which. text, plain: for whom, and what it is like beside the others; '' where nothing stands out."""

    setup: str
    traits: tuple[Trait, ...]
    by_pass: Mapping[str, float]
    cooled: Cooling | None
    steady: bool | None
    text: str
    plain: str
    as_it_cools: str


def characters(
    judged: Mapping[str, Judgement], liking: Sequence[Score], names: Mapping[str, str], words: Mapping[str, tuple[str, str, str]]
) -> tuple[Character, ...]:
    """judged: attribute → its judgement (liking left out). words: attribute → (label, low word, high word), for the sentences."""
    setups = sorted({s.setup for s in liking})
    passes, changes = means_by_pass(liking), cooling(liking)
    found = _traits(judged, setups)
    out = []
    for name in setups:
        traits = sorted(found.get(name, ()), key=lambda t: (t.p_adjusted, t.attribute))
        mine, changed = passes.get(name, {}), changes.get(name, ())
        cooled = max(changed, key=lambda c: (c.shown, c.change), default=None)
        steady = _steady(changed)
        hot = cooled.better if cooled and steady is False else ""
        text, plain = _text(names.get(name, name), traits, hot, words), _plain(traits, hot, words)
        out.append(Character(name, tuple(traits), mine, cooled, steady, text, plain, say_as_it_cools(mine, cooled, steady)))
    return tuple(out)


def say_as_it_cools(by_pass: Mapping[str, float], cooled: Cooling | None, steady: bool | None) -> str:
    """How a setup changed while it cooled: never a change that may be the tasters' scatter.

    >>> say_as_it_cools({"hot": 7, "cool": 5.75}, Cooling("hot", "cool", 1.25, (0.5, 2.0), 0.01, True), False)
    'Changes as it cools: 1.3 points better hot than cool (0.5 to 2.0).'
    >>> say_as_it_cools({"hot": 7, "cool": 5.75}, Cooling("hot", "cool", 0.4, (-0.6, 1.4), 0.4, False), None)
    'No change is shown as it cools, all setups and passes taken together: hot 7.0, cool 5.8.'
    >>> say_as_it_cools({"hot": 7}, None, None)
    'Tasted in one pass: how it cools is not known.'
    """
    means = ", ".join(f"{name} {figures.points(mean)}" for name, mean in by_pass.items())
    if len(by_pass) < 2:
        return "Tasted in one pass: how it cools is not known."
    if cooled is None:
        return f"Too few scored it twice to say how it cools: {means}."
    if steady is False:
        low, high = (figures.points(x).replace("-", "−") for x in cooled.interval)
        return f"Changes as it cools: {figures.points(cooled.change)} points better {cooled.better} than {cooled.worse} ({low} to {high})."
    return f"{'Steady as it cools' if steady else 'No change is shown as it cools, all setups and passes taken together'}: {means}."


def _steady(changes: Sequence[Cooling]) -> bool | None:
    if any(c.shown for c in changes):
        return False
    return True if changes and all(max(map(abs, c.interval)) <= STEADY_WITHIN for c in changes) else None


def _traits(judged: Mapping[str, Judgement], setups: Sequence[str]) -> dict[str, list[Trait]]:
    """Setup → where it stands out. A setup is above (or below) all others only as surely as it is above the nearest of them; with two setups both say one thing."""
    asked = [(a, name, t) for a, j in judged.items() for name in (setups[:1] if len(setups) == 2 else setups) if (t := _nearest(name, j)) is not None]
    adjusted = holm([p for _, _, (_, _, p) in asked])
    out: dict[str, list[Trait]] = {}
    for (attribute, name, (more, points, _)), p in zip(asked, adjusted, strict=True):
        if p <= SHOWN_P and points >= LEAST_POINTS:
            out.setdefault(name, []).append(Trait(attribute, more, points, p))
            if len(setups) == 2:
                out.setdefault(setups[1], []).append(Trait(attribute, not more, points, p))
    return out


def _nearest(name: str, judged: Judgement) -> tuple[bool, float, float] | None:
    """(above all others, by how much over the nearest, its two-sided p-value); None where it lies among them."""
    leads = [(d.estimate if d.a == name else -d.estimate, d.p_value) for d in judged.differences if name in (d.a, d.b)]
    if not leads:
        return None
    above = all(lead > 0 for lead, _ in leads)
    if not above and not all(lead < 0 for lead, _ in leads):
        return False, 0.0, 1.0
    return above, min(abs(lead) for lead, _ in leads), max(p for _, p in leads)


def _plain(traits: Sequence[Trait], best_at: str, words: Mapping[str, tuple[str, str, str]]) -> str:
    """ "More body, less clarity, at its best cool" """
    said = [f"{'more' if t.more else 'less'} {words[t.attribute][0].lower()}" for t in traits]
    if best_at:
        said.append(f"at its best {best_at}")
    joined = ", ".join(said)
    return joined[:1].upper() + joined[1:]


def _text(name: str, traits: Sequence[Trait], best_at: str, words: Mapping[str, tuple[str, str, str]]) -> str:
    wants = [f"{'more' if t.more else 'less'} {words[t.attribute][0].lower()}" for t in traits[:3]]
    said = [f"want {figures.joined(wants)}"] if wants else []
    if best_at:
        said.append(f"drink it {best_at}")
    return f"Choose {name} if you {' and '.join(said)}." if said else ""
