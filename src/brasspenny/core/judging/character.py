"""Which for whom: what each setup is like by attribute and pass, how steady it stays as it cools. docs/formulas.md §10."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from .passes import means_by_pass
from .scores import Score
from .verdict import Judgement

CLEARLY_P = 0.9
LEAST_POINTS = 0.5
STEADY_WITHIN = 0.75


@dataclass(frozen=True)
class Trait:
    """A setup stands out in an attribute: by how much over the nearest other, points, and how surely (probability)."""

    attribute: str
    more: bool
    points: float
    probability: float


@dataclass(frozen=True)
class Character:
    """traits: surest first. by_pass: mean liking as it cools. swing: best pass less worst, None with one pass. text, plain: for whom, and what it is like beside the others; '' where nothing stands out."""

    setup: str
    traits: tuple[Trait, ...]
    by_pass: Mapping[str, float]
    swing: float | None
    steady: bool | None
    text: str
    plain: str


def characters(
    judged: Mapping[str, Judgement], liking: Sequence[Score], names: Mapping[str, str], words: Mapping[str, tuple[str, str, str]]
) -> tuple[Character, ...]:
    """judged: attribute → its judgement (liking left out). words: attribute → (label, low word, high word), for the sentences."""
    setups = sorted({s.setup for s in liking})
    passes = means_by_pass(liking)
    out = []
    for name in setups:
        traits = sorted((t for a, j in judged.items() if (t := _trait(a, name, j)) is not None), key=lambda t: -t.probability)
        mine = passes.get(name, {})
        swing = max(mine.values()) - min(mine.values()) if len(mine) > 1 else None
        steady = None if swing is None else swing <= STEADY_WITHIN
        out.append(
            Character(name, tuple(traits), mine, swing, steady, _text(names.get(name, name), traits, steady, mine, words), _plain(traits, steady, mine, words))
        )
    return tuple(out)


def _trait(attribute: str, name: str, judged: Judgement) -> Trait | None:
    """Above (or below) every other setup: the nearest one decides. One-sided probability from the model's p."""
    leads = []
    for d in judged.differences:
        if name in (d.a, d.b):
            lead = d.estimate if d.a == name else -d.estimate
            leads.append((lead, 1 - d.p_value / 2 if lead > 0 else d.p_value / 2))
    if not leads:
        return None
    up, down = min(leads), max(leads)
    if up[0] >= LEAST_POINTS and up[1] >= CLEARLY_P:
        return Trait(attribute, True, up[0], up[1])
    if -down[0] >= LEAST_POINTS and 1 - down[1] >= CLEARLY_P:
        return Trait(attribute, False, -down[0], 1 - down[1])
    return None


def _plain(traits: Sequence[Trait], steady: bool | None, by_pass: Mapping[str, float], words: Mapping[str, tuple[str, str, str]]) -> str:
    """ "More body, less clarity, at its best cool" """
    said = [f"{'more' if t.more else 'less'} {words[t.attribute][0].lower()}" for t in traits]
    if by_pass and steady is False:
        said.append(f"at its best {max(by_pass, key=by_pass.get)}")
    joined = ", ".join(said)
    return joined[:1].upper() + joined[1:]


def _text(name: str, traits: Sequence[Trait], steady: bool | None, by_pass: Mapping[str, float], words: Mapping[str, tuple[str, str, str]]) -> str:
    wants = [f"{'more' if t.more else 'less'} {words[t.attribute][0].lower()}" for t in traits[:3]]
    *most, last = wants or [""]
    said = [f"want {', '.join(most)} and {last}" if most else f"want {last}"] if wants else []
    if by_pass and steady is False:
        said.append(f"drink it {max(by_pass, key=by_pass.get)}")
    return f"Choose {name} if you {' and '.join(said)}." if said else ""
