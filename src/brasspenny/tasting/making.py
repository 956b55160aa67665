"""Making a flight: brews into rounds of coded cups, each taster's own order, links, and the runner's sealed key."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping

from ..act import Act
from ..brewing.runs import open_run
from ..core.errors import PennyError
from ..core.recipe.outlook import expected_drink_g
from ..core.tasting.codes import draw_codes, taster_orders
from ..core.tasting.flights import (
    LADDER_FACTORS,
    METHOD_ABOUT,
    METHOD_NAMES,
    OWN_SETS_OF,
    Load,
    Round,
    balanced_by,
    lay_rounds,
    load,
    own_set,
    propose,
    suggests_own_sets,
    usual_brews,
)
from ..core.trial.measured import MeasuredTrial, run_label
from ..core.trial.tasted import told_apart
from ..core.trial.value import ELSEWHERE
from ..core.trial.value import Trial as FrozenTrial
from ..core.vocabulary import PASSES
from ..history import service as history
from ..links import LinkMaker, token_of
from ..measuring.service import results_of
from ..people import service as people
from ..refusals import Unprocessable
from ..store import blind_keys, queries
from ..store.models import Flight, FlightBrew, FlightCup, Person, Run, Setup, Sheet, SheetCup
from ..store.seen_devices import hash_of_token
from ..store.writing import use_case
from ..trials import service as trials
from . import cooling, seals
from . import schemas as s

OPTION_NAMES = tuple(s.FlightOptions.model_fields)


@use_case
def make_flight(trial_id: str, sent: s.FlightBody, links: LinkMaker, act: Act) -> Flight:
    trial = trials.open_trial(trial_id)
    runs = _runs_of(trial.id, sent)
    rounds = _rounds(trial.id, sent, runs, act)
    tasters = [people.open_person(p) for p in _once(sent.taster_ids, "taster_ids", "taster")]
    options = {name: getattr(sent, name) for name in OPTION_NAMES}
    options["references"] = {str(n): r.reference for n, r in enumerate(rounds, start=1) if r.reference}
    flight = Flight(
        id=act.new_id(),
        trial=trial.id,
        number=Flight.select().where(Flight.trial == trial.id).count() + 1,
        blinding=sent.blinding,
        status="open",
        method=sent.method,
        attributes=list(dict.fromkeys(sent.attributes)) if sent.method == "scores" else [],
        passes=_in_order_of_cooling(sent.passes) if sent.method == "scores" else [_in_order_of_cooling(sent.passes)[0]],
        options=options,
        host_tastes=sent.host_tastes or act.who in sent.taster_ids,
        cup_temperature_c=sent.cup_temperature_c,
        cup_readings=cooling.with_reading([], sent.cup_temperature_c, act),
        created_at=act.now,
        created_by=act.who,
    )
    history.add(flight, act=act, trial_id=trial.id)
    brews, cups = _lay_cups(flight, rounds, act)
    if sent.blinding == "runner":
        seals.seal(flight, cups, brews, links, act)
    for person, order in zip(tasters, _orders(cups, len(tasters), act, own_sets=sent.own_sets), strict=True):
        lay_sheet(flight, person, order, cups, links, act)
    return flight


def _in_order_of_cooling(passes: list[str]) -> list[str]:
    return [p.code for p in PASSES if p.code in passes]


def _once(ids: list[str], field: str, what: str) -> list[str]:
    if len(set(ids)) < len(ids):
        raise Unprocessable(field, f"The same {what} is in it twice.", "Name each once.")
    return ids


def _runs_of(trial_id: str, sent: s.FlightBody) -> list[Run]:
    """The brews by letter and number, whatever order they were named in."""
    runs = [open_run(run_id) for run_id in _once(sent.run_ids, "run_ids", "brew")]
    if any(run.trial_id != trial_id for run in runs):
        raise Unprocessable("run_ids", "One of the brews is of another trial.", "Choose brews of this trial.")
    if any(run.purpose == "dial_in" for run in runs):
        raise Unprocessable("run_ids", "A dial-in brew is not evidence.", "Pour brews that were logged to count.")
    if len({run.setup_id for run in runs}) < 2:
        raise Unprocessable("run_ids", "All the brews are of one setup, so nothing is compared.", "Add a brew of another setup.")
    for field, ids in (("duplicate_run_ids", sent.duplicate_run_ids), ("stronger_run_id", [sent.stronger_run_id] if sent.stronger_run_id else [])):
        if set(_once(ids, field, "brew")) - set(sent.run_ids):
            raise Unprocessable(field, "That brew is not in this flight.", "Choose one of the brews to taste.")
    letters = {setup.id: setup.letter for setup, _ in queries.setups_with_revisions(trial_id)}
    if any(run.setup_id not in letters for run in runs):
        raise Unprocessable("run_ids", "One of the brews is of a deleted setup.", "Bring the setup back, or choose other brews.")
    return sorted(runs, key=lambda run: (letters[run.setup_id], run.number))


def _rounds(trial_id: str, sent: s.FlightBody, runs: list[Run], act: Act) -> tuple[Round, ...]:
    if sent.method == "two_afc":
        if sent.named_attribute is None:
            raise Unprocessable("named_attribute", "A 2-AFC asks for more of one named attribute.", "Name it.")
        if sent.stronger_run_id is None:
            raise Unprocessable("stronger_run_id", "It is right or wrong only if one brew is expected to have more.", "Say which.")
    brews: dict[str, list[str]] = defaultdict(list)
    for run in runs:
        brews[run.setup_id].append(run.id)
    return lay_rounds(sent.method, brews, rounds=sent.rounds, duplicates=sent.duplicate_run_ids, rng=act.rng, own_sets=sent.own_sets)


def _lay_cups(flight: Flight, rounds: tuple[Round, ...], act: Act) -> tuple[list[FlightBrew], list[FlightCup]]:
    """Marks for the brews, codes for the cups. In a blind flight codes belong to no brew yet; in an open one to the brews in turn."""
    used = {c.code for c in FlightCup.select(FlightCup.code).join(Flight).where((Flight.trial == flight.trial_id) & Flight.blinding.not_in(ELSEWHERE))}
    codes = iter(draw_codes(sum(len(r.brews) for r in rounds), act.rng, used=used))
    brews, cups = [], []
    for number, laid in enumerate(rounds, start=1):
        for run in laid.brews:
            brews.append(FlightBrew.create(id=act.new_id(), flight=flight.id, run=run, mark=len(brews) + 1, round_no=number))
            cups.append(FlightCup.create(id=act.new_id(), flight=flight.id, code=next(codes), round_no=number))
    if flight.blinding == "open":
        blind_keys.write({cup.id: (brew.run_id, None) for cup, brew in zip(cups, brews, strict=True)})
    return brews, cups


def _orders(cups: list[FlightCup], tasters: int, act: Act, *, own_sets: bool = False) -> list[list[str]]:
    """Each taster's cups, round after round, each round in their own balanced order; with sets of their own, all but one."""
    out: list[list[str]] = [[] for _ in range(tasters)]
    for number in sorted({c.round_no for c in cups}):
        codes = sorted(c.code for c in cups if c.round_no == number)
        turn = act.rng.randrange(len(codes))
        for seat, (mine, more) in enumerate(zip(out, taster_orders(codes, tasters, act.rng), strict=True)):
            theirs = own_set(codes, seat, turn) if own_sets else codes
            mine.extend(code for code in more if code in theirs)
    return out


def late_order(flight: Flight, cups: list[FlightCup], act: Act) -> list[str]:
    return _orders(cups, 1, act, own_sets=flight.options.get("own_sets", False))[0]


def lay_sheet(flight: Flight, person: Person, order: list[str], cups: list[FlightCup], links: LinkMaker, act: Act, *, late: bool = False) -> Sheet:
    sheet_id, by_code = act.new_id(), {c.code: c for c in cups}
    token = token_of(links.secret, sheet_id, 1)
    sheet = Sheet.create(id=sheet_id, flight=flight.id, person=person.id, issue=1, token_hash=hash_of_token(token), late=late, created_at=act.now)
    for position, code in enumerate(order, start=1):
        SheetCup.create(id=act.new_id(), sheet=sheet.id, cup=by_code[code].id, position=position)
    return sheet


# --- before it is made -------------------------------------------------------------------------------------------------


def outlook(trial_id: str, sent: s.FlightBody, act: Act) -> s.FlightLoadAnswer:
    """What a flight as asked would take of each taster. Makes nothing."""
    trial = trials.open_trial(trial_id)
    runs = {run.id: run for run in _runs_of(trial.id, sent)}
    rounds = _rounds(trial.id, sent, list(runs.values()), act)
    poured = [runs[r] for laid in rounds for r in laid.brews]
    found = load_of(sent, sent.method, poured, len(rounds), len(sent.taster_ids), len(sent.attributes), len(sent.passes), _drinks(poured))
    return s.FlightLoadAnswer(
        cups=sum(len(r.brews) for r in rounds),
        touches=found.touches,
        minutes=found.minutes,
        caffeine_mg=list(found.caffeine_mg) if found.caffeine_mg else None,
        notes=[*found.notes, *_setting_notes(sent)],
        own_sets=_own_sets_suggested(trial.id, sent, runs, act),
    )


def _own_sets_suggested(trial_id: str, sent: s.FlightBody, runs: Mapping[str, Run], act: Act) -> bool:
    """By what would be poured for them, whatever is chosen now."""
    if sent.method != OWN_SETS_OF:
        return False
    try:
        rounds = _rounds(trial_id, sent.model_copy(update={"own_sets": True}), list(runs.values()), act)
    except PennyError:  # more cups than a flight holds
        return False
    return suggests_own_sets(sent.method, len(sent.taster_ids), _drinks([runs[r] for laid in rounds for r in laid.brews]))


def load_of(
    options: s.FlightOptions,
    method: s.FlightMethod,
    runs: list[Run],
    rounds: int,
    tasters: int,
    attributes: int,
    passes: int,
    drinks: Mapping[str, tuple[float, int]] | None = None,
) -> Load:
    """runs: the brew in each cup; drinks: see core.tasting.flights.load, while the flight is planned."""
    per_round = len(runs) // max(1, rounds)
    share = (per_round - 1) / per_round if options.own_sets else 1  # of what is poured, what one taster gets
    return load(
        method,
        cups=round(len(runs) * share),
        rounds=rounds,
        tasters=tasters,
        attributes=attributes,
        passes=passes,
        jar=len(options.jar),
        guess=options.guess,
        sip_temperature=options.sip_temperature,
        rest_s=options.rest_s,
        doses=[(run.dose_g * share, _drink_g(run)) for run in runs],
        drinks=drinks or {},
        balanced_by=balanced_by(per_round),
    )


def _drinks(runs: list[Run]) -> dict[str, tuple[float, int]]:
    """A brew's label → (its drink, g; how many of the cups are poured from it)."""
    letters = {s.id: s.letter for s in Setup.select(Setup.id, Setup.letter).where(Setup.id.in_({r.setup_id for r in runs} or {""}))}
    poured = Counter(run.id for run in runs)
    return {run_label(letters[run.setup_id], run): (_drink_g(run), poured[run.id]) for run in {r.id: r for r in runs}.values()}


def _drink_g(run: Run) -> float:
    """As weighed and served, else as forecast of any brewer."""
    if run.beverage_g:
        return run.beverage_g + (run.served or {}).get("added_water_g", 0.0)
    if not run.brew_water_g:
        return 1.0
    return expected_drink_g(dose_g=run.dose_g, brew_water_g=run.brew_water_g, bypass_g=run.bypass_g) or 1.0


def _setting_notes(sent: s.FlightBody):
    if sent.blinding != "open" and sent.cups in (None, "clear"):
        yield "Colour, haze and sediment give cups away: use dark or lidded cups."
    if not sent.cleanser:
        yield "Without water or a plain cracker between cups, one cup is tasted in the next."
    if sent.blinding == "open":
        yield "With labels in sight people routinely guess wrong afterwards: these scores are kept apart."


def read_method(trial_id: str) -> s.MethodAnswer:
    """The method that fits the question as it stands, and all others."""
    results = results_of(trial_id)
    tds_gap, ey_gap = _gaps(results)
    ladder = len(results.setups) >= 3 and _is_ladder(results.trial)
    found = propose(setups=len(results.setups), ladder=ladder, tds_gap_pct=tds_gap, ey_gap_pct=ey_gap, told_apart=told_apart(results.trial))
    poured = {p.run_id for f in results.trial.flights for p in f.brews}
    usual = usual_brews({letter: [r.id for r in results.runs_of(i)] for i, letter in results.trial.letters.items()}, poured)
    methods = [s.MethodShown(code=code, label=METHOD_NAMES[code], about=about) for code, about in METHOD_ABOUT.items()]
    return s.MethodAnswer(proposed=found.method, why=found.why, methods=methods, run_ids=list(usual))


def _is_ladder(trial: FrozenTrial) -> bool:
    return len(trial.factors) == 1 and trial.factor in LADDER_FACTORS


def _gaps(results: MeasuredTrial) -> tuple[float | None, float | None]:
    """Between two setups that are both measured: % TDS and % EY."""
    pooled = [results.pooled[setup.id] for setup, _ in results.setups]
    if len(pooled) != 2 or any(p.tds is None or p.extraction_yield is None for p in pooled):
        return None, None
    a, b = pooled
    return a.tds.estimate.value - b.tds.estimate.value, a.extraction_yield.estimate.value - b.extraction_yield.estimate.value
