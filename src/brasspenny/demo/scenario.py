"""The demo bench: kit and recipes, two finished trials, one being tasted, one being measured, one planned; laid out through the rooms' own use cases.

The finished one's story: with labels in sight the steel mesh wins; blind it is dropped, and the two papers are not
settled between them. tests/api/test_commands.py holds the story.
"""

from __future__ import annotations

import random
import uuid
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np

from ..act import Act
from ..brewing import readings
from ..brewing import schemas as brewing_s
from ..brewing import service as brewing
from ..people import schemas as people_s
from ..people import service as people
from ..planning import design, plans, run_sheet
from ..planning import schemas as planning_s
from ..store.connection import database
from ..store.dump import MIGRATIONS_TABLE
from ..store.grinding import GRINDING
from ..store.models import ALL, Bench, RecipeVersion
from ..store.palate import PALATE
from ..store.tables import delete_rows, filled_tables
from ..tasting import schemas as tasting_s
from ..tasting import service as tasting
from ..tasting import sheet_schemas as sheet_s
from ..tasting import sheets
from ..trials import schemas as trials_s
from ..trials import service as trials
from ..verdicts import page
from . import model, palate, shelf

SEED = 48
BENCH_NAME = "Lightship Nine, tasting bench"
TASTERS = ("Odile", "Marek", "Thandi", "Iwan", "Saskia", "Bo")
VISITORS = ("Imke", "Wessel")
"""Aboard for one flight."""

SHARED = {
    "grinder": shelf.RIDGED,
    "brewer": "Binnacle flat bed, three-hole",
    "brewer_type": "flat_bed",
    "water": "Quay blend, 68 hardness, 42 alkalinity",
    "temperature_c": 93.0,
    "dose_g": 18.0,
    "brew_water_g": 290.0,
    "pours": "bloom 45 for 40 s, to 170, to 290 by 1:40",
}


@dataclass(frozen=True)
class Filter:
    """A filter of the finished trial: what it does to the brew, and to the palate blind and sighted (points of 9)."""

    name: str
    grind_setting: str
    ey_pct: float
    retained: float
    drawdown_s: float
    blind: float
    sighted: float
    attributes: dict[str, float]
    by_pass: dict[str, float]
    words: tuple[str, ...]


FILTERS = (
    Filter(
        "White weave",
        "5.5",
        19.8,
        2.10,
        62,
        6.7,
        6.3,
        {"acidity": 6.2, "sweetness": 5.8, "body": 3.8},
        {"hot": 0.5, "cool": -0.4},
        ("lemon", "black tea", "honey"),
    ),
    Filter(
        "Thick crêpe",
        "6.0",
        19.9,
        2.22,
        66,
        7.0,
        6.1,
        {"acidity": 5.6, "sweetness": 6.4, "body": 3.4},
        {"hot": -0.4, "cool": 0.3},
        ("honey", "apricot", "jasmine"),
    ),
    Filter(
        "Steel mesh", "6.5", 20.2, 1.96, 59, 4.7, 7.6, {"acidity": 4.6, "sweetness": 4.9, "body": 7.4}, {"hot": 0.2, "cool": -0.6}, ("cocoa", "harsh", "walnut")
    ),
)
LADDER_WATER_G = (243.0, 261.0, 279.0, 297.0, 315.0, 333.0)
TASTED_WATER_G, BEST_RATIO = (234.0, 252.0, 270.0, 288.0, 306.0), 15.1


class _Clock:
    """Steps on by minutes, so that the demo's history reads like an afternoon."""

    def __init__(self, start: datetime, seed: int = SEED) -> None:
        self.at, self.rng = start, random.Random(seed)

    def act(self, who: str | None = None, minutes: float = 1) -> Act:
        self.at += timedelta(minutes=minutes)
        return Act(who, self.at, self.rng)


def bench_is_empty() -> bool:
    """Nobody has written anything into it yet, so that laying out the demo takes nothing away: not a row in any table, nor a setting."""
    return Bench.get_by_id(1).rev == 1 and not filled_tables(t._meta.table_name for t in (*GRINDING, *PALATE, *ALL) if t is not Bench)


def load(links: tasting.LinkMaker, now: datetime | None = None) -> None:
    """Empty the bench and lay it out anew. now: the demo's present."""
    with database.atomic():
        wipe()
        lay_out(links, now)


def lay_out(links: tasting.LinkMaker, now: datetime | None = None) -> None:
    """Lay it out on a bench that holds nothing yet."""
    now = now or datetime.now(UTC)
    with database.atomic():
        Bench.update(name=BENCH_NAME, altitude_m=2, ambient_c=21, made_up=True).where(Bench.id == 1).execute()
        clock = _Clock(now - timedelta(days=3))
        tasters = {name: people.add_person(people_s.PersonBody(name=name), clock.act()).id for name in TASTERS}
        recipes = shelf.lay_out(lambda: clock.act(tasters["Odile"]))
        clock.at = now - timedelta(days=12)
        _which_mill(clock, tasters, links)
        clock.at = now - timedelta(days=9)
        _tasted_ladder(clock, tasters, links)
        clock.at = now - timedelta(days=6)
        _two_kinds(clock, tasters, links)
        clock.at = now - timedelta(days=5)
        _bean_or_water(clock, tasters, links)
        clock.at = now - timedelta(days=3)
        _finished_trial(clock, tasters, links)
        _loose(clock, tasters["Odile"], recipes["Long watch, three pours"], now)
        clock.at = now - timedelta(hours=3)
        _ladder(clock, tasters["Odile"])
        clock.at = now - timedelta(hours=1, minutes=30)
        _being_tasted(clock, tasters, links)
        clock.at = now - timedelta(minutes=50)
        _planned(clock, tasters["Odile"], recipes["Long watch, three pours"])
        clock.at = now - timedelta(minutes=10)
        _just_asked(clock, tasters["Odile"])
        evening = _Clock(now - timedelta(days=2), SEED + 1)
        palate.lay_out(lambda later: evening.act(tasters["Odile"], later.total_seconds() / 60), tasters, links)


def wipe() -> None:
    """Delete every row but the bench's own."""
    delete_rows(filled_tables(set(database.get_tables()) - {Bench._meta.table_name, MIGRATIONS_TABLE}))
    Bench.update(made_up=False).execute()


# --- the finished trial ------------------------------------------------------------------------------------------------


def _finished_trial(clock: _Clock, tasters: dict[str, str], links: tasting.LinkMaker) -> None:
    host, rng = tasters["Odile"], np.random.default_rng(SEED)
    asked = trials_s.TrialBody(question="Which filter for the flat bed?", factor="filter", strength_policy="matched")
    trial = trials.ask(asked, clock.act(host))
    setups = _filter_setups(trial.id, clock, host)
    trials.declare(trial.id, trials_s.DeclareBody(field="grind_setting", rule="brew_time"), clock.act(host))
    clock.at += timedelta(hours=1)
    rounds = [[_brew_filter(trial.id, setup_id, f, rng, clock, host) for setup_id, f in zip(setups, FILTERS, strict=True)] for _ in range(3)]
    palate = model.Palate.draw(rng, list(TASTERS), [f.name for f in FILTERS], taster_sd=0.7, leaning_sd=0.45, noise=0.85)
    clock.at += timedelta(hours=1)
    scored = _Flight(trial.id, list(tasters), tasters, links)
    _taste(replace(scored, names=list(tasters)[:3], blinding="open"), rounds[0], _filter_truth(sighted=True), palate, rng, clock)
    for number, brews in enumerate(rounds):
        clock.at += timedelta(minutes=25)
        asked_for = {"passes": ["hot", "warm", "cool"] if number else ["warm"], "cups": "lidded", "guess": number == 2}
        twice = [brews[1]] if number == 2 else []
        _taste(replace(scored, asked=asked_for | {"duplicate_run_ids": twice}), brews, _filter_truth(sighted=False), palate, rng, clock)
    page.read_verdict(trial.id, clock.act(host))


def _filter_setups(trial_id: str, clock: _Clock, host: str) -> list[str]:
    first, *rest = FILTERS
    variables = SHARED | {"coffee": "Burundi washed, lot 31", "filter": first.name, "grind_setting": first.grind_setting}
    made = [trials.add_setup(trial_id, trials_s.SetupBody(variables=trials_s.VariablesPatch(**variables)), clock.act(host)).id]
    for f in rest:
        patch = trials_s.VariablesPatch(filter=f.name, grind_setting=f.grind_setting)
        made.append(trials.add_setup(trial_id, trials_s.SetupBody(copy_of=made[0], variables=patch), clock.act(host)).id)
    return made


def _brew_filter(trial_id: str, setup_id: str, f: Filter, rng: np.random.Generator, clock: _Clock, host: str) -> str:
    cup = model.brew(rng, dose_g=18, brew_water_g=290, ey_pct=f.ey_pct, retained=f.retained, drawdown_s=f.drawdown_s, readings=3)
    return _log(trial_id, setup_id, cup, clock, host)


def _log(trial_id: str, setup_id: str, cup: model.BrewedCup, clock: _Clock, host: str, purpose: brewing_s.Purpose = "evidence") -> str:
    body = brewing_s.RunBody(
        setup_id=setup_id,
        dose_g=cup.dose_g,
        brew_water_g=cup.brew_water_g,
        beverage_g=cup.beverage_g,
        temperature_c=93.0,
        pour_end_s=cup.pour_end_s,
        total_time_s=cup.total_time_s,
        purpose=purpose,
        tds_readings_pct=list(cup.readings_pct),
    )
    return brewing.log_run(trial_id, body, clock.act(host, minutes=6)).id


# --- tasting -------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class _Flight:
    """Who tastes what, and how it is asked."""

    trial_id: str
    names: list[str]
    tasters: dict[str, str]
    links: tasting.LinkMaker
    blinding: str = "shuffle"
    asked: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class _Truth:
    """What a setup is to the palate: its key in the palate's leanings, liking and attributes (points), shifts by pass, words."""

    key: str
    liking: float
    attributes: dict[str, float]
    by_pass: dict[str, float] = field(default_factory=dict)
    words: tuple[str, ...] = ()
    leanings: dict[str, float] = field(default_factory=dict)


def _filter_truth(*, sighted: bool) -> dict[str, _Truth]:
    return {letter: _Truth(f.name, f.sighted if sighted else f.blind, f.attributes, f.by_pass, f.words) for letter, f in zip("ABC", FILTERS, strict=True)}


def _taste(how: _Flight, runs: list[str], truth: dict[str, _Truth], palate: model.Palate, rng: np.random.Generator, clock: _Clock) -> None:
    host = how.tasters["Odile"]
    people_asked = [how.tasters[n] for n in how.names]
    body = tasting_s.FlightBody(run_ids=runs, taster_ids=people_asked, blinding=how.blinding, cup_temperature_c=52.0, **how.asked)
    flight = tasting.make_flight(how.trial_id, body, how.links, clock.act(host))
    under = _shuffled_marks(flight, rng) if how.blinding == "shuffle" else {}
    for sheet in flight.sheets:
        _score(sheet, flight, under, truth, palate, rng, clock)
    tasting.close_flight(flight.id, how.links, clock.act(host, minutes=10))
    if under:
        marks = [tasting_s.MarkEntry(code=code, mark=mark) for code, mark in under.items()]
        tasting.flip(flight.id, tasting_s.FlipBody(marks=marks), how.links, clock.act(host))


def _shuffled_marks(flight: tasting_s.FlightAnswer, rng: np.random.Generator) -> dict[str, int]:
    """What happens out of sight: which marked server came to stand behind which code card."""
    return dict(zip([c.code for c in flight.cups], (int(m) + 1 for m in rng.permutation(len(flight.cups))), strict=True))


def _score(
    sheet: tasting_s.SheetShown,
    flight: tasting_s.FlightAnswer,
    under: dict[str, int],
    truth: dict[str, _Truth],
    palate: model.Palate,
    rng: np.random.Generator,
    clock: _Clock,
) -> None:
    letter_of_mark = {m.mark: m.letter for m in flight.marks}
    touches: list[dict[str, Any]] = []
    for cup in flight.cups:
        letter = cup.letter or letter_of_mark[under[cup.code]]
        t = truth[letter]
        for pass_name in (p.name for p in flight.passes if p.asked):
            liking = palate.score(rng, sheet.name, t.key, t.liking + t.by_pass.get(pass_name, 0.0) + t.leanings.get(sheet.name, 0.0), low=1, high=9)
            values = {"liking": liking} | {a: palate.score(rng, sheet.name, t.key, centre, low=0, high=10) for a, centre in t.attributes.items()}
            touches += [{"code": cup.code, "attribute": a, "pass_name": pass_name, "value": v} for a, v in values.items()]
        if t.words and rng.random() < 0.6:
            touches.append({"code": cup.code, "attribute": "words", "text": ", ".join(rng.choice(t.words, size=2, replace=False))})
        if flight.options.guess:
            touches.append({"code": cup.code, "attribute": "guess", "text": str(rng.choice(list(truth)))})
    _send(sheet, touches, clock)


def _send(sheet: tasting_s.SheetShown, touches: list[dict[str, Any]], clock: _Clock) -> None:
    scores = [sheet_s.ScoreBody(uuid=str(uuid.UUID(int=clock.rng.getrandbits(128))), seq=i, **t) for i, t in enumerate(touches, start=1)]
    sheets.score(sheet.link.rsplit("/", 1)[-1], sheet_s.ScoresBody(scores=scores), clock.act(sheet.person_id, minutes=0.5))


def _tasted_ladder(clock: _Clock, tasters: dict[str, str], links: tasting.LinkMaker) -> None:
    """Five ratios, brewed afresh for two flights, liked best in the middle."""
    rng, host = np.random.default_rng(SEED + 4), tasters["Odile"]
    trial = trials.ask(trials_s.TrialBody(question="Which ratio for the Peru?", factor="ratio"), clock.act(host))
    shared = SHARED | {"coffee": "Peru washed, lot 7", "filter": "White weave", "grind_setting": "5.7", "pours": "bloom 45 for 40 s, to 140, to 234 by 1:45"}
    made: list[str] = []
    for water in TASTED_WATER_G:
        patch = trials_s.VariablesPatch(**({"brew_water_g": water} if made else shared | {"brew_water_g": water}))
        made.append(trials.add_setup(trial.id, trials_s.SetupBody(copy_of=made[0] if made else None, variables=patch), clock.act(host)).id)
    ratios = dict(zip("ABCDE", (water / 18 for water in TASTED_WATER_G), strict=True))
    truth = {
        letter: _Truth(
            letter, 7.3 - 0.75 * (r - BEST_RATIO) ** 2, {"acidity": 5 + 0.2 * (r - 15), "sweetness": 6.2 - 0.5 * abs(r - 15), "body": 5.5 - 0.8 * (r - 15)}
        )
        for letter, r in ratios.items()
    }
    palate = model.Palate.draw(rng, list(TASTERS), list(ratios), taster_sd=0.7, leaning_sd=0.35, noise=0.8)
    for _ in range(2):
        clock.at += timedelta(days=1)
        brews = []
        for setup_id, water in zip(made, TASTED_WATER_G, strict=True):
            cup = model.brew(rng, dose_g=18, brew_water_g=water, ey_pct=17.6 + 0.6 * (water / 18 - 13), retained=2.1, drawdown_s=40 + water / 10, readings=3)
            brews.append(_log(trial.id, setup_id, cup, clock, host))
        _taste(_Flight(trial.id, list(tasters), tasters, links, asked={"cups": "dark"}), brews, truth, palate, rng, clock)
    page.read_verdict(trial.id, clock.act(host))


def _which_mill(clock: _Clock, tasters: dict[str, str], links: tasting.LinkMaker) -> None:
    """The motor mill against the hand mill, at settings that sieve alike: four times the price is faster, and not clearly better in the cup."""
    rng, host = np.random.default_rng(SEED + 8), tasters["Odile"]
    trial = trials.ask(trials_s.TrialBody(question="Is the motor mill worth it?", factor="grinder", strength_policy="matched"), clock.act(host))
    variables = SHARED | {"coffee": "Burundi washed, lot 31", "filter": "White weave", "grind_setting": "5.8"}
    first = trials.add_setup(trial.id, trials_s.SetupBody(variables=trials_s.VariablesPatch(**variables)), clock.act(host)).id
    patch = trials_s.VariablesPatch(grinder=shelf.CAPSTAN, grind_setting="20")
    second = trials.add_setup(trial.id, trials_s.SetupBody(copy_of=first, variables=patch), clock.act(host)).id
    trials.declare(trial.id, trials_s.DeclareBody(field="grind_setting", rule="sieve_median"), clock.act(host))
    brews = [_brewed(trial.id, setup_id, rng, clock, host, ey_pct=19.9) for _ in range(2) for setup_id in (first, second)]
    truth = {
        "A": _Truth("A", 6.5, {"clarity": 6.2, "body": 4.9}, words=("lemon", "honey")),
        "B": _Truth("B", 6.2, {"clarity": 5.8, "body": 5.3}, words=("honey", "cocoa")),
    }
    palate = model.Palate.draw(rng, list(tasters), list(truth), taster_sd=0.6, leaning_sd=0.5, noise=0.8)
    _taste(_Flight(trial.id, list(tasters), tasters, links, asked={"cups": "dark", "attributes": ["clarity", "body"]}), brews, truth, palate, rng, clock)


def _two_kinds(clock: _Clock, tasters: dict[str, str], links: tasting.LinkMaker) -> None:
    """Three coffees for the wardroom: half the table wants the first, half the last, and the one between is safest for a mixed table."""
    rng, host = np.random.default_rng(SEED + 6), tasters["Odile"]
    table = tasters | {name: people.add_person(people_s.PersonBody(name=name), clock.act(host)).id for name in VISITORS}
    trial = trials.ask(trials_s.TrialBody(question="Which coffee for the wardroom?", factor="coffee"), clock.act(host))
    made = _setups(trial.id, [{"coffee": c} for c in ("Peru washed, lot 7", "Honduras honey, lot 12", "Burundi washed, lot 31")], clock, host)
    brews = [_brewed(trial.id, setup_id, rng, clock, host, ey_pct=ey) for setup_id, ey in zip(made, (19.2, 20.1, 21.2), strict=True) for _ in range(2)]
    swing = {name: 1.0 if i % 2 else -1.0 for i, name in enumerate(table)}
    truth = {
        "A": _Truth("A", 5.4, {"acidity": 4.4, "body": 6.2}, words=("cocoa", "walnut", "caramel"), leanings={n: -2.1 * s for n, s in swing.items()}),
        "B": _Truth("B", 5.9, {"acidity": 5.4, "body": 5.2}, words=("honey", "apricot", "caramel")),
        "C": _Truth("C", 5.4, {"acidity": 7.2, "body": 3.6}, words=("lime", "jasmine", "black tea"), leanings={n: 2.1 * s for n, s in swing.items()}),
    }
    palate = model.Palate.draw(rng, list(table), list(truth), taster_sd=0.5, leaning_sd=0.2, noise=0.6)
    _taste(_Flight(trial.id, list(table), table, links, asked={"cups": "dark", "attributes": ["acidity", "body"]}), brews, truth, palate, rng, clock)


def _bean_or_water(clock: _Clock, tasters: dict[str, str], links: tasting.LinkMaker) -> None:
    """Two coffees in two waters, every combination: the bean is worth more than the water."""
    rng, host = np.random.default_rng(SEED + 7), tasters["Odile"]
    asked = trials_s.TrialBody(question="Is it the bean or the water?", factor="coffee", further_factors=["water"])
    trial = trials.ask(asked, clock.act(host))
    combinations = [{"coffee": c, "water": w} for c in ("Burundi washed, lot 31", "Honduras honey, lot 12") for w in (SHARED["water"], "Shore main")]
    made = _setups(trial.id, combinations, clock, host)
    brews = [_brewed(trial.id, setup_id, rng, clock, host, ey_pct=19.8) for setup_id in made for _ in range(2)]
    truth = {letter: _Truth(letter, liking, {}) for letter, liking in zip("ABCD", (7.4, 6.9, 5.4, 5.2), strict=True)}
    palate = model.Palate.draw(rng, list(tasters), list(truth), taster_sd=0.6, leaning_sd=0.3, noise=0.7)
    _taste(_Flight(trial.id, list(tasters), tasters, links, asked={"cups": "dark", "attributes": []}), brews, truth, palate, rng, clock)


def _setups(trial_id: str, changes: list[dict[str, Any]], clock: _Clock, host: str) -> list[str]:
    """The first described whole, the others copied with their change; their ids."""
    shared = SHARED | {"filter": "White weave", "grind_setting": "5.7"}
    made: list[str] = []
    for change in changes:
        patch = trials_s.VariablesPatch(**(change if made else shared | change))
        made.append(trials.add_setup(trial_id, trials_s.SetupBody(copy_of=made[0] if made else None, variables=patch), clock.act(host)).id)
    return made


def _brewed(trial_id: str, setup_id: str, rng: np.random.Generator, clock: _Clock, host: str, *, ey_pct: float) -> str:
    cup = model.brew(rng, dose_g=18, brew_water_g=290, ey_pct=ey_pct, retained=2.1, drawdown_s=64, readings=3)
    return _log(trial_id, setup_id, cup, clock, host)


def _being_tasted(clock: _Clock, tasters: dict[str, str], links: tasting.LinkMaker) -> None:
    """Two waters, poured by a runner as triangles: two of four tasters have answered."""
    rng, host = np.random.default_rng(SEED + 5), tasters["Odile"]
    asked = trials_s.TrialBody(question="Can anybody tell the two waters apart?", factor="water", strength_policy="matched")
    trial = trials.ask(asked, clock.act(host))
    variables = SHARED | {"coffee": "Burundi washed, lot 31", "filter": "White weave", "grind_setting": "5.5"}
    first = trials.add_setup(trial.id, trials_s.SetupBody(variables=trials_s.VariablesPatch(**variables)), clock.act(host)).id
    patch = trials_s.VariablesPatch(water="Shore main")
    second = trials.add_setup(trial.id, trials_s.SetupBody(copy_of=first, variables=patch), clock.act(host)).id
    brews = []
    for setup_id, drawdown in ((first, 62), (second, 64), (first, 61), (second, 63)):
        cup = model.brew(rng, dose_g=18, brew_water_g=290, ey_pct=19.8, retained=2.1, drawdown_s=drawdown, readings=3)
        brews.append(_log(trial.id, setup_id, cup, clock, host))
    names = ["Odile", "Marek", "Thandi", "Iwan"]
    body = tasting_s.FlightBody(
        run_ids=brews, taster_ids=[tasters[n] for n in names], blinding="runner", method="triangle", rounds=2, cups="lidded", host_tastes=True
    )
    flight = tasting.make_flight(trial.id, body, links, clock.act(host))
    for sheet in [x for x in flight.sheets if x.name in ("Marek", "Thandi")]:
        _send(
            sheet, [{"code": r.cell, "attribute": "pick", "text": r.codes[1]} for r in sheets.read_sheet(sheet.link.rsplit("/", 1)[-1], clock.at).rounds], clock
        )


# --- the other two -----------------------------------------------------------------------------------------------------


def _ladder(clock: _Clock, host: str) -> None:
    """Six ratios by moving the water; brewed once each, the last not read yet."""
    rng = np.random.default_rng(SEED + 1)
    trial = trials.ask(trials_s.TrialBody(question="How far can the ratio stretch?", factor="ratio"), clock.act(host))
    shared = SHARED | {
        "coffee": "Honduras honey, lot 12",
        "filter": "White weave",
        "grind_setting": "5.8",
        "pours": "bloom 45 for 40 s, to 144, to 243 by 1:50",
    }
    made: list[str] = []
    for water in LADDER_WATER_G:
        if made:
            body = trials_s.SetupBody(copy_of=made[0], variables=trials_s.VariablesPatch(brew_water_g=water))
        else:
            body = trials_s.SetupBody(variables=trials_s.VariablesPatch(**(shared | {"brew_water_g": water})))
        made.append(trials.add_setup(trial.id, body, clock.act(host)).id)
    for setup_id, water in zip(made, LADDER_WATER_G, strict=True):
        ratio = water / 18
        cup = model.brew(
            rng,
            dose_g=18,
            brew_water_g=water,
            ey_pct=18.1 + 0.55 * (ratio - 13.5),
            retained=2.08,
            drawdown_s=50 + 4 * ratio,
            readings=0 if water == LADDER_WATER_G[-1] else 3,
        )
        _log(trial.id, setup_id, cup, clock, host)


LOOSE = (  # days ago, version, coffee, water g, yield %, drawdown s, what was seen
    (12.0, 1, "Peru washed, lot 7", 288, 18.6, 52, {"bed": ["channels"], "clouding": "clear", "ground_min": 1}),
    (10.9, 1, "Peru washed, lot 7", 288, 18.9, 55, {"bed": ["flat"], "clouding": "clear", "first_drip_s": 19}),
    (9.1, 1, "Honduras honey, lot 12", 288, 19.2, 58, {"bed": ["dome"], "clouding": "clear", "ground_min": 3}),
    (6.9, 2, "Peru washed, lot 7", 288, 19.6, 61, {"bed": ["flat"], "clouding": "clear", "first_drip_s": 21}),
    (5.0, 2, "Honduras honey, lot 12", 294, 19.9, 63, {"bed": ["flat"], "mishaps": ["spill"]}),
    (4.1, 2, "Peru washed, lot 7", 288, 19.8, 64, {"bed": ["flat"], "clouding": "hazy", "stopped_first_s": 184}),
    (2.2, 2, "Cask-rested Sumatra, lot 3", 288, 20.4, 72, {"bed": ["muddy"], "clouding": "cloudy"}),
    (1.1, 2, "Peru washed, lot 7", 288, 20.0, 63, {"bed": ["flat"], "clouding": "clear", "first_drip_s": 20}),
)


def _loose(clock: _Clock, host: str, newest_version_id: str, now: datetime) -> None:
    """The daily cup of a fortnight: no trial, two versions of one recipe; and the refractometer checked half-way."""
    rng = np.random.default_rng(SEED + 3)
    recipe = RecipeVersion.get_by_id(newest_version_id).recipe_id
    versions = dict(RecipeVersion.select(RecipeVersion.number, RecipeVersion.id).where(RecipeVersion.recipe == recipe).tuples())
    clock.at = now - timedelta(days=8)
    readings.log_check(brewing_s.InstrumentCheckBody(read_pct=0, note="distilled water, after a clean"), clock.act(host))
    for days, version, coffee, water, ey, drawdown, seen in LOOSE:
        clock.at = now - timedelta(days=days)
        cup = model.brew(rng, dose_g=18, brew_water_g=water, ey_pct=ey, retained=2.1, drawdown_s=drawdown, readings=3)
        body = brewing_s.LooseRunBody(
            name="Daily cup",
            recipe_version_id=versions[version],
            variables=trials_s.VariablesPatch(coffee=coffee, grinder=shelf.RIDGED, grind_setting="5.8", brewer=SHARED["brewer"]),
            brewed_at=clock.at,
            dose_g=cup.dose_g,
            brew_water_g=cup.brew_water_g,
            beverage_g=cup.beverage_g,
            pour_end_s=cup.pour_end_s,
            total_time_s=cup.total_time_s,
            observed=brewing_s.Observed.model_validate(seen),
            tds_readings_pct=list(cup.readings_pct),
        )
        brewing.log_loose_run(body, clock.act(host))


def _planned(clock: _Clock, host: str, recipe_version_id: str) -> None:
    """Two coffees in two grinders, every combination: designed, two setups dialled in, the day timed."""
    asked = trials_s.TrialBody(question="Does the bean or the grinder matter more?", factor="coffee", further_factors=["grinder"], strength_policy="as_brewed")
    trial = trials.ask(asked, clock.act(host))
    variables = SHARED | {"coffee": "Burundi washed, lot 31", "filter": "White weave", "grind_setting": "5.8"}
    del variables["temperature_c"], variables["dose_g"], variables["brew_water_g"], variables["pours"]
    body = trials_s.SetupBody(recipe_version_id=recipe_version_id, variables=trials_s.VariablesPatch(**variables))
    trials.add_setup(trial.id, body, clock.act(host))
    factors = [
        planning_s.FactorLevels(factor="coffee", levels=["Burundi washed, lot 31", "Honduras honey, lot 12"]),
        planning_s.FactorLevels(factor="grinder", levels=[shelf.RIDGED, shelf.CAPSTAN]),
    ]
    plan = design.lay_out(trial.id, planning_s.DesignBody(kind="factorial", factors=factors), 0, clock.act(host))
    settings = plan.settings.model_copy(update={"replicates": 2, "tasters": 6, "share_drunk": 0.5, "sieve_samples": 1, "seed": SEED})
    plans.save_plan(trial.id, settings, plan.rev, clock.act(host))
    rng = np.random.default_rng(SEED + 2)
    for setup, drawdown in zip(plan.setups[:2], (66, 112), strict=True):
        cup = model.brew(rng, dose_g=18, brew_water_g=288, ey_pct=19.9, retained=2.1, drawdown_s=drawdown, readings=3)
        _log(trial.id, setup.setup_id, cup, clock, host, purpose="dial_in")
    run_sheet.make_sheet(trial.id, planning_s.SheetAsked(), clock.act(host))


def _just_asked(clock: _Clock, host: str) -> None:
    trials.ask(trials_s.TrialBody(question="Does the Peru want hotter water?", factor="temperature"), clock.act(host))
