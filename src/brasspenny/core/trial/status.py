"""Where a trial stands, what could mislead, and how good its design is: the progress, the margin and the grade as functions of the frozen trial."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean

from ..brewing.dial_in import UNSAMPLED, DialInBrew, DialInState, Matched, RuleCheck, check_rule, dial_in_state, missed_windows
from ..errors import PennyError
from ..extraction.measure import DOUBTFUL_CODES
from ..grinding.dials import dial_id
from ..judging.evidence import Grade, grade
from ..palate.use import step_not_told
from ..planning.control import Bar
from ..recipe.document import from_document
from ..recipe.outlook import USUAL_EY_PCT, expected_drink_g
from ..tasting.codes import order_is_balanced
from ..tasting.flights import IN_ROUNDS
from ..tasting.sheets import FIRST_SIP
from ..vocabulary import PASSES
from . import caveats as c
from .measured import MeasuredTrial, unfiltered
from .setups import bars_of_trial, facts_of
from .sieved import NO_SAMPLES, SieveCheck, check_by_samples
from .slots import drafted_left
from .stations import Counts, Stop, next_action, progress
from .tasted import left_unfinished, spoke_of_sight
from .value import Flight, Trial


@dataclass(frozen=True)
class JudgedFacts:
    """What the margin needs of a verdict. caveats: (code, text, cure) of the blind one; blind and sighted: letters, best first, with the
    sighted favourite's name and mean; tasters: of the verdict that counts; pass_missed: nothing was scored in the pass it asks about."""

    caveats: tuple[tuple[str, str, str], ...] = ()
    blind: tuple[str, ...] = ()
    sighted: tuple[str, ...] = ()
    sighted_name: str = ""
    sighted_mean: float = 0.0
    tasters: int = 0
    pass_missed: bool = False


@dataclass(frozen=True)
class Standing:
    stops: tuple[Stop, ...]
    caveats: tuple[c.MarginCaveat, ...]
    next_station: c.Station
    next_action: str
    grade: Grade | None
    so_far: bool


def stand(m: MeasuredTrial, judged: JudgedFacts | None) -> Standing:
    """judged: None until a flight is flipped and scored."""
    trial, bars = m.trial, bars_of_trial(m.trial)
    counts = counts_of(m, cracks=sum(bar.kind == "crack" for bar in bars))
    station, action = next_action(counts)
    found = (
        c.margin(_facts(m, bars, judged))
        + _not_ready(m)
        + (c.sighted_favourite(judged.sighted[0], judged.sighted_name, judged.sighted_mean, judged.blind) if judged and judged.blind and judged.sighted else ())
        + _moved_on(m)
        + _as_brewed(m)
        + _as_meant(m)
        + c.at_table(at_table(trial.flights))
        + c.unfinished_flights(left_unfinished(trial))
        + c.second_thoughts(*([(x.flight, x.before) for x in trial.second_thoughts if x.kind == kind] for kind in ("correct_marks", "delete")))
        + (
            c.rules_changed_late(trial.judged_pass, trial.smallest_difference, trial.rules_before) + c.pass_missed(trial.judged_pass, judged.pass_missed)
            if judged
            else ()
        )
        + (c.uneven_cups(trial.sheet_spread_c) if trial.flights and trial.sheet_spread_c is not None else ())
    )
    found = tuple(sorted(found, key=lambda x: c.SHAPES.index(x.shape)))
    return Standing(progress(counts), found, station, action, _grade(m, judged, [x.code for x in found]), not (judged or counts.flights_flipped))


def counts_of(m: MeasuredTrial, cracks: int = 0) -> Counts:
    flights = Counter(f.status for f in m.trial.flights)
    left, unpoured = _drafted(m)
    return Counts(
        setups=len(m.setups),
        brewed=len({run.setup_id for run in m.runs}),
        runs=len(m.runs),
        read=sum(bool(run.readings) for run in m.runs),
        flights_open=flights["open"],
        flights_closed=flights["closed"],
        flights_flipped=flights["flipped"],
        cracks=cracks,
        drafted=left,
        drafted_unpoured=0 if left else unpoured,
    )


def _drafted(m: MeasuredTrial) -> tuple[int, int]:
    """Drafted brews not made yet, and of their setups the brews that were poured in no flight."""
    brews = (m.trial.plan.drafted or {}).get("brews", {}) if m.trial.plan else {}
    poured = {p.run_id for flight in m.trial.flights for p in flight.brews}
    left = drafted_left(brews, Counter(run.setup_id for run in m.runs), m.trial.letters)
    return left, sum(run.setup_id in brews and run.id not in poured for run in m.runs)


def _grade(m: MeasuredTrial, judged: JudgedFacts | None, codes: Sequence[str]) -> Grade | None:
    """Of the design: blind evidence where there is any; labels in sight cap it only where there is nothing else. None before anything is
    poured. Brews that count are those that stand in flights: a brew nobody tastes is no evidence."""
    flights = m.trial.flights
    if not flights:
        return None
    blind = [f for f in flights if not f.sighted]
    counted = [code for code in codes if code != "sighted" or not blind]
    tasters = judged.tasters if judged and judged.tasters else people_seated(blind or flights)
    return grade(counted, tasters=tasters, fewest_brews=fewest_poured(m, blind or flights))


def people_seated(flights: Sequence[Flight]) -> int:
    """Different tasters of these flights, planned or done."""
    return len({seat.person_id for f in flights for seat in f.seats})


def fewest_poured(m: MeasuredTrial, flights: Sequence[Flight]) -> int:
    """Brews in these flights of the setup that has fewest in them; setups in none of them are not part of the comparison."""
    poured = {p.run_id for f in flights for p in f.brews}
    each = Counter(run.setup_id for run in m.runs if run.id in poured)
    return min(each.values(), default=0)


def _facts(m: MeasuredTrial, bars: Sequence[Bar], judged: JudgedFacts | None) -> c.TrialFacts:
    flights = m.trial.flights
    blind = [f for f in flights if not f.sighted]
    said_already = {"single_brews", "few_tasters"}
    return c.TrialFacts(
        factors=m.trial.factors,
        yield_basis=m.yield_basis,
        strength_policy=m.trial.strength_policy,
        bars=bars,
        setups=[_setup_facts(m, setup.id, setup.letter, revision.brewer_type) for setup, revision in m.setups],
        blind_flights=len(blind),
        sighted_flights=len(flights) - len(blind),
        told_flights=sum(f.elsewhere for f in blind),
        brought_in_from=m.trial.brought_in_from,
        blind_tasters=judged.tasters if judged and judged.blind else people_seated(blind),
        most_cups=max((len(f.cups) for f in flights), default=0),
        balanced=all(f.method in IN_ROUNDS or order_is_balanced(len(f.cups), len(f.seats)) for f in blind if not f.elsewhere),
        judged=[x for x in judged.caveats if x[0] not in said_already] if judged else [],
        within_tds_pct=m.matched_within_tds_pct,
        step_told=step_told(m),
    )


def _setup_facts(m: MeasuredTrial, setup_id: str, letter: str, brewer_type) -> c.SetupFacts:
    runs = m.runs_of(setup_id)
    measured = [(run, m.measured[run.id]) for run in runs]
    return c.SetupFacts(
        letter=letter,
        name=m.names[setup_id],
        brewer_type=brewer_type,
        brews=len(runs),
        unread_brews=sum(x.yield_in(m.yield_basis) is None for _, x in measured),
        served=tuple((m.label_of(run), pct) for run in runs if (pct := m.served_pct(run)) is not None),
        warned_brews=tuple(f"{letter}{run.number}" for run, x in measured if any(w.code in DOUBTFUL_CODES for w in x.warnings)),
    )


def _as_brewed(m: MeasuredTrial) -> tuple[c.MarginCaveat, ...]:
    """Brews off plan, made up, or read in a hurry."""
    labelled = [(m.label_of(run), run) for run in m.runs]
    off = [(label, what) for label, run in labelled if (what := m.off_plan(run))]
    made_up = [label for label, run in labelled if run.observed.get("simulated")]
    return c.simulated(made_up) + c.off_plan(off) + c.hurried_readings([(label, what) for label, run in labelled if (what := m.skipped(run))])


def _as_meant(m: MeasuredTrial) -> tuple[c.MarginCaveat, ...]:
    """Brews that count against their recipe's windows, doses against their brewer's range, samples against the protocol."""
    off, unfiltered_ = [], []
    for run in m.runs:
        revision = m.revision_of(run)
        if revision.recipe and (missed := missed_windows(from_document(revision.recipe), _dial_in(m, run))):
            off.append((m.label_of(run), missed))
        if unfiltered(revision) and run.readings and "filtered" not in (run.protocol or {}).get("done", ()):
            unfiltered_.append(m.label_of(run))
    doses = [(s.letter, r.dose_g, low, high) for s, r in m.setups for low, high in [_dose_range(r)] if (low and r.dose_g < low) or (high and r.dose_g > high)]
    return c.off_windows(off) + c.dose_range(doses) + c.unfiltered_samples(unfiltered_)


def _dose_range(revision) -> tuple[float | None, float | None]:
    facts = facts_of(revision, "brewer")
    return facts.get("dose_low_g"), facts.get("dose_high_g")


def _moved_on(m: MeasuredTrial) -> tuple[c.MarginCaveat, ...]:
    now = {setup.id: setup.revision_id for setup, _ in m.setups}
    return c.setup_changed([m.label_of(r) for r in m.runs if r.setup_revision_id != now[r.setup_id]])


# --- readiness -------------------------------------------------------------------------------------------------------------------


def dial_in_of(m: MeasuredTrial, setup_id: str) -> DialInState:
    """A setup's newest dial-in brew against its recipe's windows, or all its brews; of those that were logged before anything was tasted."""
    revision = next(r for s, r in m.setups if s.id == setup_id)
    recipe = from_document(revision.recipe) if revision.recipe else None
    before, late = ([_dial_in(m, run) for run in m.dial_ins if run.setup_id == setup_id and run.after_tasting is late] for late in (False, True))
    brews = [_dial_in(m, run) for run in m.runs if run.setup_id == setup_id and not run.after_tasting]
    return dial_in_state(recipe, before, brews=brews, late=late)


def _dial_in(m: MeasuredTrial, run) -> DialInBrew:
    x = m.measured[run.id]
    got = x.yield_in(m.yield_basis)
    return DialInBrew(
        label=m.label_of(run),
        total_time_s=run.total_time_s,
        pour_end_s=run.pour_end_s,
        tds_pct=x.strength.tds_pct if x.strength else None,
        ey_pct=got.value if got else None,
        beverage_g=run.beverage_g,
    )


def rule_checks(m: MeasuredTrial) -> list[RuleCheck]:
    """Every declared rule against what was measured so far."""
    setups = [_matched(m, setup.id, setup.letter) for setup, _ in m.setups]
    return [
        check_rule(f, d.rule, setups, sieve=_by_sieve(m.trial) if d.rule == "sieve_median" else NO_SAMPLES, strength_within_tds_pct=m.matched_within_tds_pct)
        for f, d in m.trial.declarations.items()
    ]


def step_told(m: MeasuredTrial) -> str:
    """Of a trial of ratios tasted as brewed: where neighbours lie closer in strength than this panel tells apart, else ""."""
    if "ratio" not in m.trial.factors or m.trial.strength_policy == "matched":
        return ""
    rungs = []
    for setup, r in m.setups:
        read = [x for run in m.runs_of(setup.id) if (x := m.served_pct(run)) is not None]
        drink = expected_drink_g(dose_g=r.dose_g, brew_water_g=r.brew_water_g, bypass_g=r.bypass_g, yield_basis=m.yield_basis)
        if read or drink:
            rungs.append(((r.brew_water_g + r.bypass_g) / r.dose_g, fmean(read) if read else USUAL_EY_PCT * r.dose_g / drink))
    return step_not_told(rungs, m.trial.bench.tells_pct)


def _matched(m: MeasuredTrial, setup_id: str, letter: str) -> Matched:
    runs = [r for r in (*m.runs, *m.dial_ins) if r.setup_id == setup_id]
    measured = [m.measured[r.id] for r in runs]

    def mean(values):
        known = [v for v in values if v is not None]
        return sum(known) / len(known) if known else None

    yields = [x.yield_in(m.yield_basis) for x in measured]
    return Matched(
        letter,
        total_time_s=mean([r.total_time_s for r in runs]),
        tds_pct=mean([x.strength.tds_pct if x.strength else None for x in measured]),
        ey_pct=mean([y.value if y else None for y in yields]),
    )


def _by_sieve(trial: Trial) -> SieveCheck:
    """By matches made from sieve samples, where they join the dials in use; else by samples at exactly these settings."""
    joined = _by_matches(trial)
    if joined is None:
        return check_by_samples(trial)
    if joined:
        return SieveCheck(True, "Sieve samples stand behind these settings.")
    exact = check_by_samples(trial)
    return exact if exact.holds else SieveCheck(False, "The settings in use are not the ones matched by sieve samples.")


def _by_matches(trial: Trial) -> bool | None:
    """Whether matches made from sieve samples lead from the first setup's setting to every other's, within their spread; None where there are none."""
    dials, first = trial.dials.only_sampled, trial.rows[0][1]
    mine = dials.current(dial_id(first.kit) or "")
    said: list[bool] = []
    for _, revision in trial.rows[1:]:
        other = dials.current(dial_id(revision.kit) or "")
        if other == mine:
            continue
        if not any({dials.current(m.a), dials.current(m.b)} == {mine, other} for m in dials.matches):
            return None
        try:
            here, there = (dials.scales[dials.names[i]] for i in (mine, other))
            found = dials.translate(here.read(first.grind_setting), mine, other)
            said.append(found.low - 1e-9 <= there.read(revision.grind_setting) <= found.high + 1e-9)
        except (TypeError, KeyError, PennyError):
            said.append(False)
    return all(said) if said else None


def _not_ready(m: MeasuredTrial) -> tuple[c.MarginCaveat, ...]:
    if len(m.setups) < 2:
        return ()
    undialled = [s.letter for s, _ in m.setups if dial_in_of(m, s.id).state not in ("dialled_in", "no_windows")]
    rules = rule_checks(m)
    broken = [(x.field, x.text) for x in rules if x.holds is False]
    unsampled = [x.field for x in rules if x.rule == "sieve_median" and (x.holds, x.text) == UNSAMPLED]
    return c.not_ready(m.trial.factors, undialled, broken, unsampled)


# --- at the table ------------------------------------------------------------------------------------------------------------------


def at_table(flights: Sequence[Flight]) -> c.AtTable:
    """What happened in closed flights; while one is tasted, nothing of it is said that a taster should not hear."""
    done = [f for f in flights if f.status != "open"]
    blind = [f for f in done if not f.sighted]
    spread, cold = _first_sips(blind)
    return c.AtTable(
        by_eye=sorted({name for f in blind for name in spoke_of_sight(f)}),
        clear_cups=any(f.options.get("cups") == "clear" for f in blind),
        no_cleanser=any(f.options.get("cleanser") is False for f in blind),
        host_saw_key=any(f.seal.seen_by_host for f in blind if f.seal),
        broken=any(f.seal.broken for f in done if f.seal),
        sip_spread_c=spread,
        cup_spread_c=max((f.cup_spread_c for f in blind if f.cup_spread_c is not None), default=None),
        cold_c=cold,
        late=sum(s.late_scores for f in blind for s in f.seats),
        left=sorted({s.person for f in blind for s in f.seats if s.left}),
    )


def _first_sips(flights: Sequence[Flight]) -> tuple[float | None, float | None]:
    """The widest spread within one taster's pass, and the coldest sip that was below its pass; °C."""
    sips: dict[tuple[str, str], list[float]] = defaultdict(list)
    for flight in flights:
        for a in flight.answers:
            if a.attribute == FIRST_SIP and a.value is not None:
                sips[a.sheet_id, a.pass_name].append(a.value)
    lowest = {p.code: p.to_c for p in PASSES}
    cold = [x for (_, pass_name), found in sips.items() for x in found if x < lowest.get(pass_name, 0)]
    return max((max(x) - min(x) for x in sips.values()), default=None), min(cold, default=None)
