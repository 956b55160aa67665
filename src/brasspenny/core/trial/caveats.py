"""What keeps a trial from being as good as it could be: the margin. docs/formulas.md §8–§10.

A caveat is one object holding where it arises, what is wrong and what would cure it; screen, verdict and export read
the same one. Its shape says how bad: a crack (could fake the answer), a doubt (widens it), a note (worth knowing).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal, get_args

from .. import figures
from ..brewing.dial_in import CHECKED
from ..extraction.dilution import MATCHED_WITHIN_TDS_PCT, one_strength
from ..extraction.yields import BREWER_LABELS, YIELD_BASIS_LABELS, yield_basis_of
from ..planning.control import EQUIPMENT_FACTORS, MATCHING_LABELS, Bar, StrengthPolicy
from ..tasting.temperatures import MOST_SPREAD_C
from ..vocabulary import FACTOR_KINDS, JUDGED_AS, BrewerType, Factor, JudgedPass, YieldBasis
from .value import RuleBefore

Shape = Literal["crack", "doubt", "note"]
SHAPES: tuple[Shape, ...] = get_args(Shape)
"""Worst first."""
Station = Literal["ask", "set_up", "brew", "measure", "taste", "verdict"]


JUDGED_TITLES = {"segments": "Different kinds of drinkers", "leader_changes": "The leader changes as it cools"}
"""Of caveats the judging gives, where their code is no title."""


@dataclass(frozen=True)
class MarginCaveat:
    """station: where the cure is done; field: the control bar it concerns, if any; letters: of the setups it is about, where it names some."""

    code: str
    shape: Shape
    station: Station
    title: str
    text: str
    cure: str
    field: str = ""
    letters: tuple[str, ...] = ()

    @property
    def unfair(self) -> bool:
        """Whether one setup may have the better of another for something else than what is asked about."""
        return self.shape == "crack" or self.code in UNFAIR


UNFAIR = frozenset(
    {
        "off_strength",
        "propose_matching",
        "not_dialled_in",
        "rule_broken",
        "mixed_yield_bases",
        "setup_changed",
        "off_windows",
        "dose_range",
        "off_plan",
        "spread_temperature",
    }
)
"""Doubts about fairness; the others are about how much can be known."""


@dataclass(frozen=True)
class SetupFacts:
    """What the margin needs of one setup. served: (brew, % TDS of its cups as they are poured) of those read."""

    letter: str
    name: str
    brewer_type: BrewerType | None
    brews: int
    unread_brews: int
    served: tuple[tuple[str, float], ...] = ()
    warned_brews: tuple[str, ...] = ()


@dataclass(frozen=True)
class TrialFacts:
    """blind_tasters: whose blind scores count, else who is seated in blind flights; 0 before any flight. told_flights: blind ones
    that were tasted elsewhere. brought_in_from: the bench whose file the trial came in by, None for one of this bench. within_tds_pct: what counts as one strength; step_told: where
    steps of a ladder are smaller than this panel tells, else empty."""

    factors: Sequence[Factor]
    yield_basis: YieldBasis
    strength_policy: StrengthPolicy
    bars: Sequence[Bar]
    setups: Sequence[SetupFacts]
    blind_flights: int = 0
    sighted_flights: int = 0
    told_flights: int = 0
    brought_in_from: str | None = None
    blind_tasters: int = 0
    most_cups: int = 0
    balanced: bool = True
    judged: Sequence[tuple[str, str, str]] = field(default_factory=tuple)
    within_tds_pct: float = MATCHED_WITHIN_TDS_PCT
    step_told: str = ""


DIALLED_FACTORS: frozenset[Factor] = frozenset(f.code for f in FACTOR_KINDS if f.dialled)
"""Questions whose setups each need their own dial-in; where grind, ratio or heat is the question, equal settings are the point."""
FEW_TASTERS = 4
MOST_CUPS = 8


CHECKABLE = frozenset(MATCHING_LABELS[rule] for rule in (*CHECKED, "sieve_median"))
"""Declared matches that a measurement can confirm; the plan says the same of each."""


def margin(facts: TrialFacts) -> tuple[MarginCaveat, ...]:
    """All caveats of a trial as it stands, worst first, each once."""
    found = [*_control(facts), *_yield_basis(facts), *_brews(facts), *_strengths(facts), *_flights(facts)]
    found += [
        MarginCaveat(code, "doubt", "verdict", JUDGED_TITLES.get(code, code.replace("_", " ").capitalize()), text, cure) for code, text, cure in facts.judged
    ]
    seen: set[tuple[str, str]] = set()
    kept = [c for c in found if not ((c.code, c.field) in seen or seen.add((c.code, c.field)))]
    return tuple(sorted(kept, key=lambda c: SHAPES.index(c.shape)))


def _control(facts: TrialFacts):
    for bar in facts.bars:
        if bar.kind == "crack":
            values = ", ".join(f"{'/'.join(s.letters)} {figures.with_unit(s.value, bar.unit) or 'not given'}" for s in bar.segments)
            yield MarginCaveat(
                "confound", "crack", "set_up", f"{bar.label} differs", f"{values}. This could get the credit for what the setups are compared on.",
                f"Hold it equal to {bar.hold_letter}, or declare it." if bar.hold_letter else "Declare how the settings were matched.", bar.field,
            )  # fmt: skip
        elif bar.kind == "declared":
            yield MarginCaveat(
                "declared",
                "note",
                "set_up",
                f"{bar.label}: {bar.note}",
                f"{bar.reason.rstrip('.')}{'. ' if bar.reason else ''}Declared, not equal: it may explain part of any difference.",
                "Check the match with a dial-in brew each." if bar.note in CHECKABLE else "Taken on trust: nothing measured can confirm it.",
                bar.field,
            )
        elif bar.kind == "untested" and len(facts.setups) > 1:
            yield MarginCaveat(
                "nothing_tested",
                "crack",
                "set_up",
                f"{bar.label} is the same in all",
                "It is what the question asks about.",
                "Give each setup its own.",
                bar.field,
            )


def _yield_basis(facts: TrialFacts):
    yield_bases = {yield_basis_of(s.brewer_type) for s in facts.setups if s.brewer_type}
    if len(yield_bases) > 1:
        yield MarginCaveat(
            "mixed_yield_bases", "doubt", "ask", "Two yield methods", f"These brewers are usually quoted in different yields. All are shown as {YIELD_BASIS_LABELS[facts.yield_basis]}.",
            "Compare strengths, or choose the yield method on purpose.",
        )  # fmt: skip
    elif yield_bases and facts.yield_basis not in yield_bases:
        kinds = ", ".join(sorted({BREWER_LABELS[s.brewer_type] for s in facts.setups if s.brewer_type}))
        yield MarginCaveat(
            "unusual_yield_basis",
            "note",
            "ask",
            f"Shown as {YIELD_BASIS_LABELS[facts.yield_basis]}",
            f"Yields of a {kinds} are usually quoted the other way.",
            "Do not set these beside yields by the other method.",
        )


def _brews(facts: TrialFacts):
    brewed = [s for s in facts.setups if s.brews]
    if not brewed:
        return
    single = [s.letter for s in brewed if s.brews == 1]
    if single:
        yield MarginCaveat(
            "single_brews", "doubt", "brew", f"Single brews: {', '.join(single)}", "One brew cannot tell the setup from the pour; brew-to-brew scatter is unknown.",
            "Brew each setup at least twice.",
        )  # fmt: skip
    unbrewed = [s.letter for s in facts.setups if not s.brews]
    if unbrewed:
        yield MarginCaveat("unbrewed", "note", "brew", f"Not brewed yet: {', '.join(unbrewed)}", "No brew is logged.", "Log a brew of each.")
    unread = [s.letter for s in brewed if s.unread_brews]
    if unread:
        yield MarginCaveat(
            "no_readings",
            "doubt",
            "measure",
            f"No yield for some brews: {', '.join(unread)}",
            "Without a TDS reading and a beverage mass, strength or yield is unknown.",
            "Read three samples, weigh the drink.",
        )
    warned = sorted({w for s in brewed for w in s.warned_brews})
    if warned:
        yield MarginCaveat(
            "doubtful_brews",
            "doubt",
            "measure",
            f"Look again at {', '.join(warned)}",
            "A mass or a reading is outside what is plausible.",
            "Open the brew: its warning says what to check.",
        )


WIDEN = "Widen the step, or ask about yield and not strength."


def _strengths(facts: TrialFacts):
    if facts.step_told:
        yield MarginCaveat(
            "step_not_told",
            "doubt",
            "set_up",
            "Steps too small to taste",
            facts.step_told,
            WIDEN,
        )
    read = [(pct, brew) for s in facts.setups for brew, pct in s.served]
    if one_strength([pct for pct, _ in read], facts.within_tds_pct) or sum(bool(s.served) for s in facts.setups) < 2:
        return
    low, high = min(read), max(read)
    text = f"{high[1]} {figures.tds(high[0])} % against {low[1]} {figures.tds(low[0])} % TDS. A stronger cup may win for its strength."
    if facts.strength_policy == "matched":
        yield MarginCaveat(
            "off_strength",
            "doubt",
            "measure",
            "Strengths differ",
            text,
            f"Dilute each to {figures.tds(low[0])} % with water of the same temperature before coding.",
        )
    elif EQUIPMENT_FACTORS & set(facts.factors):
        yield MarginCaveat(
            "propose_matching", "doubt", "ask", "Tasted as brewed, strengths differ", text, "Match strengths when the question is about equipment."
        )


def _flights(facts: TrialFacts):
    said_sharper = {code for code, _, _ in facts.judged} & {"anecdote", "one_taster"}
    if facts.blind_flights and facts.blind_tasters < FEW_TASTERS and not said_sharper:
        n = facts.blind_tasters
        yield MarginCaveat(
            "too_few_tasters",
            "doubt",
            "taste",
            figures.counted(n, "taster"),
            "With so few tasters, the interval rests on an assumed spread.",
            "Ask more people, or gather more flights.",
        )
    if facts.sighted_flights:
        yield MarginCaveat(
            "sighted", "note" if facts.blind_flights else "doubt", "taste", "Tasted with labels in sight", "People routinely guess wrong once the labels are gone. Sighted scores are kept apart from blind ones.",
            "Read them side by side." if facts.blind_flights else "Pour a blind flight.",
        )  # fmt: skip
    if facts.told_flights:
        yield MarginCaveat(
            "told_blind",
            "note",
            "taste",
            "Tasted elsewhere",
            "That labels were hidden is known by word only, and the order of the cups was not set here.",
            "Pour a flight here; both are judged together.",
        )
    if facts.brought_in_from is not None and facts.blind_flights:
        yield MarginCaveat(
            "brought_in",
            "note",
            "taste",
            "From another bench",
            f"This trial came in by a file{f' of {facts.brought_in_from}' if facts.brought_in_from else ''}. Its parts fit together; that it was tasted so is known by the file only.",
            "Pour a flight here; both are judged together.",
        )
    if facts.most_cups > MOST_CUPS:
        yield MarginCaveat(
            "many_cups", "doubt", "taste", f"{facts.most_cups} cups in one flight", "Palates tire after six to eight cups.", "Split the brews over two flights."
        )
    if facts.blind_flights and not facts.balanced:
        yield MarginCaveat(
            "unbalanced_order",
            "note",
            "taste",
            "Order not fully balanced",
            "With this many tasters not every cup follows every other equally often.",
            "Each taster still has their own random order; add tasters to balance it.",
        )


@dataclass(frozen=True)
class AtTable:
    """What happened in a trial's blind flights. by_eye: tasters who could tell by eye; coldest_c: lowest cup reading in a hot or warm
    pass; sip_spread_c: widest spread of first sips within one taster's pass; cup_spread_c: the most cups were
    read apart at one moment; late: scores after the lock; left: names."""

    by_eye: Sequence[str] = ()
    clear_cups: bool = False
    no_cleanser: bool = False
    host_saw_key: bool = False
    broken: bool = False
    sip_spread_c: float | None = None
    cup_spread_c: float | None = None
    cold_c: float | None = None
    late: int = 0
    left: Sequence[str] = ()


def at_table(t: AtTable) -> tuple[MarginCaveat, ...]:
    """Each with how it could change the answer and what would cure it. docs/formulas.md §9, §10."""

    def doubt(code: str, title: str, text: str, cure: str, shape: Shape = "doubt") -> MarginCaveat:
        return MarginCaveat(code, shape, "taste", title, text, cure)

    out = []
    if t.broken:
        text = "The key came into sight while it was tasted, so that flight counts as sighted: expectation may speak louder than taste."
        out.append(doubt("blindness_broken", "A seal was broken", text, "Pour another blind flight.", "crack"))
    if t.by_eye:
        who = figures.counted(len(t.by_eye), "taster")
        text = f"{', '.join(t.by_eye)} could tell a cup by its look: for them it was not blind."
        out.append(doubt("told_by_eye", f"{who} could tell by eye", text, "Use lids or dark cups next time."))
    elif t.clear_cups:
        out.append(doubt("clear_cups", "Cups in sight", "Colour, haze and sediment can give a cup away.", "Use lids or dark cups next time.", "note"))
    if t.host_saw_key:
        text = "Anyone who knows the key may give it away."
        out.append(doubt("host_saw_key", "The host opened the pour sheet", text, "Let a runner pour, out of sight.", "note"))
    if t.sip_spread_c is not None and t.sip_spread_c > MOST_SPREAD_C:
        text = f"First sips were up to {figures.heat_apart_whole(t.sip_spread_c)} apart: a hotter cup tastes of less."
        out.append(doubt("unequal_first_sip", "Cups met at different temperatures", text, "Pour together, or wait for the pass."))
    elif t.cup_spread_c is not None and t.cup_spread_c > MOST_SPREAD_C:
        text = f"Cups were read up to {figures.heat_apart_whole(t.cup_spread_c)} apart: a hotter cup tastes of less."
        out.append(doubt("unequal_first_sip", "Cups met at different temperatures", text, "Pour together, or wait for the pass."))
    if t.cold_c is not None:
        text = f"A cup was tasted at {figures.heat_whole(t.cold_c)}, below its pass."
        out.append(doubt("cold_cups", "Cold cups", text, "Taste within the pass; cups change as they cool."))
    if t.no_cleanser:
        text = "One cup is tasted in the next; the order decides part of it."
        out.append(doubt("no_cleanser", "No cleanser", text, "Water or a plain cracker, and half a minute between cups."))
    if t.left:
        text = f"{', '.join(t.left)} left before the end: their missing cups widen the answer."
        out.append(doubt("taster_left", "A taster left", text, "Fewer cups a flight, or another flight.", "note"))
    if t.late:
        text = f"{t.late} arrived after the lock. They are shown apart and never judged."
        out.append(doubt("late_scores", "Late scores", text, "Wait for every phone before closing.", "note"))
    return tuple(out)


def second_thoughts(marked_again: Sequence[tuple[int, str]], deleted: Sequence[tuple[int, str]]) -> tuple[MarginCaveat, ...]:
    """(flight, what the verdict said before) for flights whose marks were entered again, and for those deleted, after the flip."""
    out = []
    if marked_again:
        text = f"{_of_flights(marked_again)[0]} got other marks after the flip, when the scores were known.{_said_before(marked_again)}"
        out.append(
            MarginCaveat("marks_corrected", "doubt", "taste", "Marks entered again", text, "The history keeps both keys: look whether the first was a slip.")
        )
    if deleted:
        flights, was, its = _of_flights(deleted)
        text = f"{flights} {was} deleted after the flip, when {its} scores were known.{_said_before(deleted)}"
        out.append(
            MarginCaveat("flipped_flight_deleted", "doubt", "taste", "A flipped flight was deleted", text, "Bring it back from the history, or taste again.")
        )
    return tuple(out)


def rules_changed_late(judged_pass: JudgedPass, smallest_difference: float, before: Sequence[RuleBefore]) -> tuple[MarginCaveat, ...]:
    """The rules of the verdict that are others now than when the scores became known: the pass it is judged by, and what counts as a tie."""
    out = []
    for rule, was, verdict in before:
        said = _said_before([(0, verdict)])
        if rule == "judged_pass" and was != judged_pass:
            text = f"It is judged by {JUDGED_AS[judged_pass]}, chosen when the scores were known; until then by {JUDGED_AS[was]}.{said}"
            cure = "Name the pass in Ask, before anything is tasted."
            out.append(MarginCaveat("pass_chosen_after", "doubt", "verdict", "The pass was chosen after the flip", text, cure))
        if rule == "smallest_difference" and was != smallest_difference:
            now, then = figures.points(smallest_difference), figures.points(float(was))
            text = f"Leads under {now} count as ties, chosen when the scores were known; until then leads under {then}.{said}"
            cure = "Set the smallest difference that matters in Ask, before anything is tasted."
            out.append(MarginCaveat("difference_chosen_after", "doubt", "verdict", "What counts as a tie was changed after the flip", text, cure))
    return tuple(out)


def pass_missed(chosen: JudgedPass, missed: bool) -> tuple[MarginCaveat, ...]:
    """A trial whose deciding pass nobody tasted."""
    if not missed:
        return ()
    text = f"Nothing was scored in {JUDGED_AS[chosen]}, so all passes are judged alike."
    cure = "Pour a flight with that pass, or choose another in Ask."
    return (MarginCaveat("pass_missed", "doubt", "taste", "The pass it asks about was not tasted", text, cure),)


def unfinished_flights(numbers: Sequence[int]) -> tuple[MarginCaveat, ...]:
    """Flights in one of whose passes nobody scored anything, where all passes count alike."""
    if not numbers:
        return ()
    one = len(numbers) == 1
    which = f"{'Flight' if one else 'Flights'} {figures.joined([str(n) for n in numbers])}"
    text = f"{which} {'was' if one else 'were'} not scored in every pass, so {'it is' if one else 'they are'} left out of the mean over the passes."
    cure = "Judge by a pass that was tasted, or taste the cups again in every pass."
    return (MarginCaveat("unfinished_flight", "doubt", "taste", f"{which} {'stays' if one else 'stay'} out of the verdict", text, cure),)


def _of_flights(thoughts: Sequence[tuple[int, str]]) -> tuple[str, str, str]:
    """("Flights 1, 2", "were", "their"), each once."""
    numbers = [str(n) for n in dict.fromkeys(n for n, _ in thoughts)]
    return (f"Flights {', '.join(numbers)}", "were", "their") if len(numbers) > 1 else (f"Flight {numbers[0]}", "was", "its")


def _said_before(thoughts: Sequence[tuple[int, str]]) -> str:
    before = thoughts[0][1]
    return f" Until then the verdict was: {before.rstrip('.')}." if before else ""


def uneven_cups(spread_c: float) -> tuple[MarginCaveat, ...]:
    """spread_c: between the warmest and the coolest cup at tasting, as the run sheet foresees it."""
    if spread_c <= MOST_SPREAD_C:
        return ()
    text = f"By the run sheet the cups end {figures.heat_apart(spread_c)} apart: a hotter cup tastes of less."
    return (MarginCaveat("spread_temperature", "doubt", "set_up", "Cups not equally hot", text, "Time the day again: insulated servers, or two flights."),)


def sighted_favourite(letter: str, name: str, mean: float, blind_order: Sequence[str]) -> tuple[MarginCaveat, ...]:
    """When the setup liked best with labels in sight is not the blind favourite. blind_order: letters, best first."""
    if blind_order[0] == letter:
        return ()
    place = list(blind_order).index(letter) + 1 if letter in blind_order else 0
    blind = "" if not place else " Blind, it came last." if place == len(blind_order) else f" Blind, it came number {place}."
    text = f"With labels in sight {name} was liked best ({figures.points(mean)}).{blind}"
    return (MarginCaveat("sighted_favourite", "note", "verdict", f"Sighted favourite was {letter}", text, "Trust the blind cups; the two are never pooled."),)


def not_ready(
    factors: Sequence[Factor], undialled: Sequence[str], broken: Sequence[tuple[str, str]], unsampled: Sequence[str] = ()
) -> tuple[MarginCaveat, ...]:
    """undialled: letters of setups without a dial-in brew within its windows; broken: (field, sentence) of matching rules that do not hold; unsampled: fields declared
    matched by sieve median with no sample behind it."""
    out = [
        MarginCaveat(
            "unsampled",
            "crack",
            "set_up",
            "Matched by sieve, without samples",
            "No sieve samples stand behind it.",
            "Take two samples in the Grind room, or declare what is true.",
            name,
        )
        for name in unsampled
    ]
    out += [
        MarginCaveat("rule_broken", "doubt", "set_up", "A declared match does not hold", text, "Dial it in again, or declare what is true.", name)
        for name, text in broken
    ]
    if undialled and DIALLED_FACTORS & set(factors):
        text = "Each setup deserves its own dial-in: one that runs badly loses for its setting, not for what is asked about."
        cure = "Log a dial-in brew of each and check that it meets its recipe's targets."
        out.append(MarginCaveat("not_dialled_in", "doubt", "set_up", f"Not dialled in: {', '.join(undialled)}", text, cure, letters=tuple(undialled)))
    return tuple(out)


def off_plan(brews: Sequence[tuple[str, Sequence[str]]]) -> tuple[MarginCaveat, ...]:
    """Brews outside the tolerances: ("A1", what was off). Said, never silent."""
    if not brews:
        return ()
    text = " ".join(f"{label}: {', '.join(what).rstrip('.')}." for label, what in brews)
    cure = "Brew again, or keep it knowing that the pour may be what is tasted."
    return (MarginCaveat("off_plan", "doubt", "brew", f"Off plan: {', '.join(label for label, _ in brews)}", text, cure),)


def simulated(brews: Sequence[str]) -> tuple[MarginCaveat, ...]:
    """Brews made with simulated instruments ("A1")."""
    if not brews:
        return ()
    text = "Their numbers come from a model. They show what the program does, and nothing about this coffee."
    return (MarginCaveat("simulated", "crack", "brew", f"Simulated: {', '.join(brews)}", text, "Brew them for real, and delete these."),)


def hurried_readings(brews: Sequence[tuple[str, Sequence[str]]]) -> tuple[MarginCaveat, ...]:
    """Brews whose readings skipped a step of the protocol."""
    if not brews:
        return ()
    text = " ".join(f"{label}: {', '.join(what)}." for label, what in brews)
    return (MarginCaveat("reading_protocol", "doubt", "measure", "Readings not taken in full", text, "Read again with every step, three fresh samples."),)


def setup_changed(brews: Sequence[str]) -> tuple[MarginCaveat, ...]:
    """Brews ("A1") made to an earlier description of their setup."""
    if not brews:
        return ()
    text = f"{', '.join(brews)} {'was' if len(brews) == 1 else 'were'} brewed before the setup was changed."
    cure = "Brew again as it is described now, or change the description back."
    return (MarginCaveat("setup_changed", "doubt", "brew", "Setup changed after brewing", text, cure),)


def off_windows(brews: Sequence[tuple[str, Sequence[str]]]) -> tuple[MarginCaveat, ...]:
    """Brews that count and missed what their own recipe says they should be: ("A1", what was missed)."""
    if not brews:
        return ()
    text = " ".join(f"{label}: {', '.join(what)}." for label, what in brews)
    cure = "Dial the setup in again and brew once more, or correct the recipe's targets if they are not meant for this coffee."
    return (MarginCaveat("off_windows", "doubt", "brew", f"Off its recipe's targets: {', '.join(label for label, _ in brews)}", text, cure),)


def dose_range(setups: Sequence[tuple[str, float, float | None, float | None]]) -> tuple[MarginCaveat, ...]:
    """Setups whose dose is outside what their brewer works in: (letter, dose g, smallest g, largest g)."""
    if not setups:
        return ()
    text = " ".join(f"{letter}: {dose:g} g, where the brewer works with {_between(low, high)}." for letter, dose, low, high in setups)
    cure = "Use a dose within the range, or another brewer; correct the range in Kit if it is wrong."
    return (MarginCaveat("dose_range", "doubt", "set_up", f"Dose outside the brewer's range: {', '.join(s[0] for s in setups)}", text, cure, "dose_g"),)


def _between(low: float | None, high: float | None) -> str:
    return f"{low:g} to {high:g} g" if low and high else f"{low:g} g and more" if low else f"up to {high:g} g"


def unfiltered_samples(brews: Sequence[str]) -> tuple[MarginCaveat, ...]:
    """Brews ("A1") with fines in the drink that were read without filtering the sample."""
    if not brews:
        return ()
    text = "Fines pass through a mesh, a metal filter or a press, and read as strength with more scatter."
    cure = "Read a filtered sample, and tick the step in the reading protocol."
    return (MarginCaveat("unfiltered_samples", "note", "measure", f"Samples not filtered: {', '.join(brews)}", text, cure),)
