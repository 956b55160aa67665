"""How a flight is laid out and asked: methods, rounds of cups, what fits the question, what it costs a taster. docs/formulas.md §9, §10."""

from __future__ import annotations

import random
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from types import MappingProxyType
from typing import assert_never

from .. import figures
from ..errors import Inconsistent, OutOfDomain
from ..judging.discrimination import GUESS_RATE, trials_to_show
from ..planning.budget import AT_ONCE_MG, CAFFEINE_MG_PER_G, sipped_share
from ..vocabulary import FACTOR_KINDS, METHODS, TEST_METHODS, Factor, FlightMethod, RoundMethod

DISCRIMINATION: frozenset[FlightMethod] = frozenset(m.code for m in TEST_METHODS if m.in_flights and m.guess_rate is not None)
IN_ROUNDS: frozenset[FlightMethod] = frozenset(m.code for m in TEST_METHODS if m.in_flights and m.layout == "rounds")
METHOD_NAMES: dict[FlightMethod, str] = {m.code: m.label for m in TEST_METHODS if m.in_flights}
METHOD_ABOUT: dict[FlightMethod, str] = {m.code: m.about for m in TEST_METHODS if m.in_flights}
MOST_CUPS = 12
LADDER_FACTORS: frozenset[Factor] = frozenset(f.code for f in FACTOR_KINDS if f.ladder)
"""Factors whose levels are numbers, so that three or more setups of one of them make a ladder."""
TIRING_CUPS = 8


@dataclass(frozen=True)
class Round:
    """One thing to decide. brews: run ids, one a cup (the same run twice: two cups of it); reference: an uncoded cup, duo-trio only."""

    brews: tuple[str, ...]
    reference: str | None = None


def usual_brews(brews: Mapping[str, Sequence[str]], tasted: Collection[str] = ()) -> tuple[str, ...]:
    """What to pour unless told otherwise: every brew nobody has tasted yet, equally many of each setup, as far as a palate goes in one flight; nothing where fewer than two
    setups have one left, for what was drunk is gone.

    brews: setup → its runs, oldest first; tasted: runs that stand in a flight. The newest are taken where not all fit.

    >>> usual_brews({"A": ["a1", "a2", "a3"], "B": ["b1", "b2"]}), usual_brews({"A": ["a1", "a2"], "B": ["b1", "b2"]}, tasted={"a1", "b1"})
    (('a2', 'a3', 'b1', 'b2'), ('a2', 'b2'))
    >>> usual_brews({"A": ["a1"], "B": ["b1"]}, tasted={"a1", "b1"})
    ()
    """
    fresh = {setup: [run for run in runs if run not in tasted] for setup, runs in brews.items()}
    pool = {setup: runs for setup, runs in fresh.items() if runs}
    if len(pool) < 2:
        return ()
    each = max(1, min(*(len(runs) for runs in pool.values()), TIRING_CUPS // len(pool)))
    return tuple(run for runs in pool.values() for run in runs[-each:])[:MOST_CUPS]


def lay_rounds(
    method: FlightMethod, brews: Mapping[str, Sequence[str]], *, rounds: int, duplicates: Collection[str], rng: random.Random, own_sets: bool = False
) -> tuple[Round, ...]:
    """brews: setup → its runs. Scores and ranking have one round of every run and its blind duplicates; the others have `rounds`
    rounds of few cups, taking replicate brews in turn. own_sets: of a triangle two cups of each brew are poured, and each taster gets three of the four: whichever is left
    out, one of the three is odd, so that the odd cup differs over the table and nobody needs the key to lay it. Raises Inconsistent or OutOfDomain at the field in question."""
    if method not in IN_ROUNDS:
        if method == "ranking" and duplicates:
            raise Inconsistent("duplicate_run_ids", "a ranking has no room for the same brew twice.", "Use scores, or leave the duplicate out.", None)
        every = [run for runs in brews.values() for run in runs]
        laid = (Round(tuple(run for run in every for _ in range(2 if run in duplicates else 1))),)
    elif duplicates:
        raise Inconsistent("duplicate_run_ids", "these methods pour brews twice by themselves.", "Leave the duplicate out.", None)
    elif method == "paired":
        pairs = list(combinations(brews, 2)) * rounds
        laid = tuple(Round((brews[a][i % len(brews[a])], brews[b][i % len(brews[b])])) for i, (a, b) in enumerate(pairs))
    else:
        laid = _discrimination(method, brews, rounds, rng, own_sets)
    cups = sum(len(r.brews) for r in laid)
    if cups > MOST_CUPS:
        raise OutOfDomain("rounds" if method in IN_ROUNDS else "run_ids", f"that makes {cups} cups.", f"At most {MOST_CUPS}: pour two flights.", cups)
    return laid


def _discrimination(method: RoundMethod, brews: Mapping[str, Sequence[str]], rounds: int, rng: random.Random, own_sets: bool) -> tuple[Round, ...]:
    if own_sets and method != OWN_SETS_OF:
        raise Inconsistent("own_sets", f"a {METHOD_NAMES[method].lower()} has one set for all.", "Choose a triangle, or pour one set.", None)
    if len(brews) != 2:
        raise Inconsistent("run_ids", f"a {METHOD_NAMES[method].lower()} compares two setups, not {len(brews)}.", "Choose brews of two setups.", None)
    first, second = brews.values()
    doubled = [i % 2 for i in range(rounds)]
    rng.shuffle(doubled)
    out = []
    for i, other in enumerate(doubled):
        a, b = first[i % len(first)], second[i % len(second)]
        match method:
            case "triangle":
                out.append(Round((a, a, b, b) if own_sets else (a, b, b) if other else (a, a, b)))
            case "tetrad":
                out.append(Round((a, a, b, b)))
            case "duo_trio":
                out.append(Round((a, b), reference=b if other else a))
            case "two_afc":
                out.append(Round((a, b)))
            case _:
                assert_never(method)
    return tuple(out)


OWN_SETS_OF: FlightMethod = "triangle"
OWN_SETS_FROM = 4
"""From so many tasters on every cup is the odd one for somebody."""


def own_set(codes: Sequence[str], seat: int, turn: int) -> tuple[str, ...]:
    """Three of a triangle's four codes: another one is left out for each taster in turn, so that over four tasters every cup is odd once. seat: of the taster, from 0; turn: where the round begins.

    >>> [own_set(("1", "2", "3", "4"), seat, 1) for seat in range(2)]
    [('1', '3', '4'), ('1', '2', '4')]
    """
    left_out = codes[(seat + turn) % len(codes)]
    return tuple(code for code in codes if code != left_out)


def is_right(method: RoundMethod, picked: Sequence[str], brews: Mapping[str, str], *, reference: str | None = None, stronger: str | None = None) -> bool:
    """Whether a discrimination answer is right. picked: codes; brews: code → run, of this round; stronger: the run expected to have more.

    >>> is_right("triangle", ["418"], {"418": "b", "736": "a", "295": "a"}), is_right("tetrad", ["1", "2"], {"1": "a", "2": "a", "3": "b", "4": "b"})
    (True, True)
    """
    runs = [brews[code] for code in picked]
    match method:
        case "triangle":
            return list(brews.values()).count(runs[0]) == 1
        case "tetrad":
            return runs[0] == runs[1]
        case "duo_trio":
            return runs[0] == reference
        case "two_afc":
            return runs[0] == stronger
        case _:
            assert_never(method)


def picks_wanted(method: FlightMethod) -> int:
    """How many codes an answer names."""
    return METHODS[method].picks


# --- what it asks of a taster ----------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Load:
    """touches: on the sheet; minutes: with rests; caffeine_mg: (low, high) if all is swallowed, None without doses. notes: what to mind."""

    touches: int
    minutes: float
    caffeine_mg: tuple[float, float] | None
    notes: tuple[str, ...]


SIP_G, SIPS_A_CUP, SECONDS_A_TOUCH, SECONDS_A_CUP = 10.0, 2, 3.0, 20.0


def load(
    method: FlightMethod,
    *,
    cups: int,
    rounds: int,
    tasters: int,
    attributes: int = 0,
    passes: int = 1,
    jar: int = 0,
    guess: bool = False,
    sip_temperature: bool = False,
    rest_s: float = 30,
    doses: Sequence[tuple[float, float]] = (),
    drinks: Mapping[str, tuple[float, int]] = MappingProxyType({}),
    balanced_by: int = 1,
) -> Load:
    """doses: (dose g, drink g) of each cup's brew; drinks: brew → (drink g, cups poured from it for each taster). balanced_by: the number of tasters that balances the order. Words are left out of the count.

    >>> load("scores", cups=4, rounds=1, tasters=4, attributes=3, balanced_by=4).touches
    20
    """
    if method in IN_ROUNDS:
        touches = rounds * (picks_wanted(method) + 1)
    elif method == "ranking":
        touches = 2 * cups + (cups if guess else 0)
    else:
        touches = cups * (2 + attributes + jar + sip_temperature) * passes + (cups if guess else 0)
    tastings = cups * passes
    minutes = (touches * SECONDS_A_TOUCH + tastings * SECONDS_A_CUP + max(0, tastings - 1) * rest_s) / 60
    caffeine = _caffeine(doses, passes, tasters) if doses else None
    notes = [*_cup_notes(cups, passes), *_order_notes(method, tasters, balanced_by)]
    if caffeine and caffeine[1] > AT_ONCE_MG:
        notes.append(
            f"Up to {figures.milligrams(caffeine[1])} mg of caffeine each if all is swallowed, over the public guidance of {AT_ONCE_MG} mg at once: have spit cups."
        )
    notes += _short_of_drink(drinks, passes, tasters)
    if method in DISCRIMINATION:
        answers = tasters * rounds
        need = trials_to_show(method)
        if answers < need:
            notes.append(f"{answers} answers prove nothing even if all are right: it takes {need}.")
        elif rounds > 1:
            notes.append("Answers of one taster are not independent: the result speaks of these tasters.")
    return Load(touches, round(minutes, 1), caffeine, tuple(notes))


def _caffeine(doses: Sequence[tuple[float, float]], passes: int, tasters: int) -> tuple[float, float]:
    """Arabica at the share of each drink that is sipped, never more than a taster's part of the drink there is."""
    grams = sum(dose * sipped_share(SIP_G * SIPS_A_CUP * passes, drink, tasters) for dose, drink in doses)
    low, high = CAFFEINE_MG_PER_G["arabica"]
    return grams * low, grams * high


def suggests_own_sets(method: FlightMethod, tasters: int, drinks: Mapping[str, tuple[float, int]]) -> bool:
    """A set for each taster, where every cup can be odd and there is drink enough. drinks: brew → (drink g, cups poured from it with sets of their own)."""
    return method == OWN_SETS_OF and tasters >= OWN_SETS_FROM and not _short_of_drink(drinks, 1, tasters)


def _short_of_drink(drinks: Mapping[str, tuple[float, int]], passes: int, tasters: int) -> list[str]:
    """Brews that do not fill the cups this flight pours from them."""
    out = []
    for label, (drink_g, cups) in drinks.items():
        needed_g = SIP_G * SIPS_A_CUP * passes * cups * tasters
        if needed_g > drink_g:
            out.append(
                f"{label} gives {figures.grams(drink_g)} g of drink; {tasters} tasters sip {figures.grams(needed_g)} g of it: brew larger, ask fewer passes, or taste in two flights."
            )
    return out


def _cup_notes(cups: int, passes: int):
    if cups > TIRING_CUPS:
        yield f"{cups} cups in one flight: palates tire after six to eight cups."
    if passes > 1:
        yield f"{cups} cups in {passes} passes are {cups * passes} tastings each."


def _order_notes(method: FlightMethod, tasters: int, balanced_by: int):
    if method in ("scores", "ranking") and tasters % balanced_by:
        yield f"With {figures.counted(tasters, 'taster')} not every cup follows every other equally often; {balanced_by} would balance it."


# --- which method fits ---------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Proposal:
    method: FlightMethod
    why: str


ALIKE_TDS_PCT, ALIKE_EY_PCT = 0.05, 0.5


def propose(*, setups: int, ladder: bool, tds_gap_pct: float | None, ey_gap_pct: float | None, told_apart: bool | None) -> Proposal:
    """The method that fits the question. told_apart: what an earlier discrimination flight showed, None without one; gaps: between two setups."""
    if ladder:
        return Proposal("scores", "A ladder looks for the best point, and only scores have one.")
    if setups == 2 and told_apart is None and _alike(tds_gap_pct, ey_gap_pct):
        guess = f"1 in {round(1 / GUESS_RATE['triangle'])}"
        return Proposal("triangle", f"The two measure alike. First ask whether anybody can tell them apart ({guess} by guessing).")
    if setups == 2 and told_apart is False:
        return Proposal("paired", "Nobody was shown to tell them apart: a quick preference is enough, or take the cheaper.")
    if setups >= 6:
        return Proposal("ranking", f"{setups} setups: ranking sorts them quickly; score the best few afterwards.")
    return Proposal("scores", "Scores say how much better, in what, and which to keep.")


def _alike(tds_gap_pct: float | None, ey_gap_pct: float | None) -> bool:
    return tds_gap_pct is not None and ey_gap_pct is not None and abs(tds_gap_pct) <= ALIKE_TDS_PCT and abs(ey_gap_pct) <= ALIKE_EY_PCT


# --- what happened ---------------------------------------------------------------------------------------------------------


def balanced_by(cups: int) -> int:
    """Tasters that make whole Williams squares of so many cups."""
    return cups if cups % 2 == 0 or cups < 2 else 2 * cups


def costs(*, cups: int, finished: int, joined_late: Sequence[str], left: Mapping[str, int], late_scores: int) -> tuple[str, ...]:
    """What late joiners, leavers and unequal numbers cost this flight, in words. left: name → cups they had scored."""
    out = [f"{name} joined late, with their own random order beside the balanced ones." for name in joined_late]
    for name, done in left.items():
        rest = f"after {done} of {cups} cups: what was scored counts, the rest is missing" if done else "before scoring: nothing of theirs counts"
        out.append(f"{name} left {rest}.")
    if finished % balanced_by(cups) and (left or joined_late):
        out.append(f"{finished} whole sheets of {cups} cups: the order is not fully balanced.")
    if late_scores:
        out.append(f"{late_scores} score{' came' if late_scores == 1 else 's came'} after the lock: shown apart, never judged.")
    return tuple(out)
