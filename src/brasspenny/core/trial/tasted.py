"""The answers of a trial's flipped flights as judging takes them: letters for setups, run ids for brews, blind and sighted apart."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

from ..judging.discrimination import Discriminated, discriminate
from ..judging.guesses import Guess
from ..judging.scores import Score
from ..tasting.flights import DISCRIMINATION, is_right
from ..tasting.sheets import ATTRIBUTE_CODES, BY_EYE, GUESS, JAR_PREFIX, LIKING, NO_PREFERENCE, PICK, RANK, SCALES, WORDS
from ..vocabulary import USUAL_JUDGED_PASS, JudgedPass
from .value import Flight, Seat, Trial


class Touch(NamedTuple):
    """One answer on one cup whose brew is known. cup: its code; position: in the taster's own order."""

    flight: str
    taster: str
    letter: str
    run: str
    cup: str
    pass_name: str
    attribute: str
    value: float | None
    text: str
    position: int


@dataclass(frozen=True)
class Tasted:
    """Answers in a fixed order. tasters: names by id; judged_pass: by which the trial is judged; unfinished: ids of flights of several passes in one of which nobody scored anything."""

    touches: tuple[Touch, ...]
    tasters: tuple[tuple[str, str], ...]
    judged_pass: JudgedPass = USUAL_JUDGED_PASS
    unfinished: tuple[str, ...] = ()

    @property
    def names(self) -> dict[str, str]:
        return dict(self.tasters)

    def of_attributes(self, keep: Callable[[str], bool]) -> Tasted:
        """Those about some attributes: what a layer that looks at nothing else rests on."""
        touches = tuple(t for t in self.touches if keep(t.attribute))
        who = {t.taster for t in touches}
        return replace(self, touches=touches, tasters=tuple(x for x in self.tasters if x[0] in who))

    def scores(self, attribute: str = LIKING) -> list[Score]:
        """All there are, in every pass."""
        return [score_of(t) for t in self.touches if t.attribute == attribute and t.value is not None]

    def counting(self, attribute: str = LIKING) -> list[Score]:
        """Those of the pass the trial is judged by: whatever decides anything decides by these. All of them where nothing was scored in that pass. Where all passes count alike, a
        flight that was left unfinished has no mean over them, and stays out."""
        scores = self.scores(attribute)
        if self.judged_pass == USUAL_JUDGED_PASS:
            return [s for s in scores if s.flight not in self.unfinished] or scores
        return [s for s in scores if s.pass_ == self.judged_pass] or scores

    @property
    def pass_missed(self) -> bool:
        """The pass it was to be judged by was never scored."""
        passes = {s.pass_ for s in self.scores()}
        return self.judged_pass != USUAL_JUDGED_PASS and bool(passes) and self.judged_pass not in passes

    def attributes(self) -> list[str]:
        """Scored attributes beside liking, in the order of the sheet."""
        there = {t.attribute for t in self.touches if t.value is not None}
        return [a for a in ATTRIBUTE_CODES if a in there]

    def ranks(self) -> list[Score]:
        return self.scores(RANK)

    def placed(self) -> list[tuple[Score, int]]:
        """Likings whose place in the taster's order is known."""
        return [(score_of(t), t.position) for t in self.touches if t.attribute == LIKING and t.value is not None and t.position]

    def words(self) -> dict[tuple[str, str], list[str]]:
        """(letter, pass) → what was written."""
        out: dict[tuple[str, str], list[str]] = defaultdict(list)
        for t in self.touches:
            if t.attribute == WORDS and t.text:
                out[t.letter, t.pass_name].append(t.text)
        return out

    def jar(self) -> list[tuple[str, str, float, float | None]]:
        """(letter, attribute, step, liking of the same tasting)."""
        liking = {(t.flight, t.cup, t.taster, t.pass_name): t.value for t in self.touches if t.attribute == LIKING}
        return [
            (t.letter, t.attribute.removeprefix(JAR_PREFIX), t.value, liking.get((t.flight, t.cup, t.taster, t.pass_name)))
            for t in self.touches
            if t.attribute.startswith(JAR_PREFIX) and t.value is not None
        ]

    def guesses(self) -> list[Guess]:
        """By sitting: one taster in one flight lays setups onto cups."""
        return [Guess(f"{t.flight} {t.taster}", t.text, t.letter) for t in self.touches if t.attribute == GUESS and t.text]


def score_of(t: Touch) -> Score:
    return Score(t.flight, t.taster, t.letter, t.run, t.pass_name, float(t.value))


def scale_of(attribute: str) -> tuple[float, float]:
    return SCALES[attribute].low, SCALES[attribute].high


def tasted(trial: Trial, *, sighted: bool) -> Tasted:
    """Answers of flipped flights, blind or sighted, on brews that are not deleted."""
    setup_of = {b.id: b.setup_id for b in trial.brews}
    touches, names = [], {}
    for flight in trial.flights:
        if flight.status != "flipped" or flight.sighted != sighted:
            continue
        cups = {c.id: c for c in flight.cups if c.run_id in setup_of}
        seats = {s.id: s for s in flight.seats}
        for a in flight.answers:
            if a.cup_id in cups:
                cup, seat = cups[a.cup_id], seats[a.sheet_id]
                letter = trial.letters[setup_of[cup.run_id]]
                names[seat.person_id] = seat.person
                touches.append(Touch(flight.id, seat.person_id, letter, cup.run_id, cup.code, a.pass_name, a.attribute, a.value, a.text, a.position))
    touches.sort(key=lambda t: (t.flight, t.taster, t.run, t.cup, t.pass_name, t.attribute))
    return Tasted(tuple(touches), tuple(sorted(names.items())), trial.judged_pass, tuple(f.id for f in trial.flights if _is_unfinished(f)))


def _is_unfinished(flight: Flight) -> bool:
    scored = {a.pass_name for a in flight.answers if a.attribute == LIKING and a.value is not None}
    return bool(scored) and not set(flight.passes) <= scored


def left_unfinished(trial: Trial) -> tuple[int, ...]:
    """Numbers of blind flights that stay out of the mean over the passes because one of theirs was never scored."""
    if trial.judged_pass != USUAL_JUDGED_PASS:
        return ()
    found = tasted(trial, sighted=False)
    out = {f for f in found.unfinished if f not in {s.flight for s in found.counting()}}
    return tuple(f.number for f in trial.flights if f.id in out and f.status == "flipped" and not f.sighted)


def gathered(trial: Trial) -> Tasted:
    """Blind answers; sighted ones only where nothing blind was scored."""
    blind = tasted(trial, sighted=False)
    return blind if blind.touches else tasted(trial, sighted=True)


# --- methods in rounds ---------------------------------------------------------------------------------------------------------


class Picked(NamedTuple):
    """One taster's answer in one round. codes: picked; letters: code → setup of the round's cups ('' of a deleted brew); right: None
    where there is no right or wrong; tie: no preference."""

    flight: str
    method: str
    sighted: bool
    taster: str
    codes: tuple[str, ...]
    letters: tuple[tuple[str, str], ...]
    right: bool | None
    tie: bool

    @property
    def said(self) -> str:
        """To the taster, after the flip: "You chose cup 418: right." """
        if self.tie:
            return "You had no preference."
        cups = f"cup{'s' if len(self.codes) > 1 else ''} {' and '.join(self.codes)}"
        return f"You preferred {cups}." if self.right is None else f"You chose {cups}: {'right' if self.right else 'wrong'}."


def picks(trial: Trial) -> tuple[Picked, ...]:
    """All answers in rounds of flipped flights, in a fixed order."""
    setup_of = {b.id: b.setup_id for b in trial.brews}
    out = []
    for flight in trial.flights:
        if flight.status != "flipped":
            continue
        seats = {s.id: s for s in flight.seats}
        cups = {c.id: c for c in flight.cups}
        rows = [a for a in flight.answers if a.attribute == PICK and a.text and a.cup_id in cups]
        for a in sorted(rows, key=lambda a: (seats[a.sheet_id].person, a.sheet_id, cups[a.cup_id].round_no)):
            out.append(_picked(flight, seats[a.sheet_id], cups[a.cup_id].round_no, a.text, setup_of, trial.letters))
    return tuple(out)


def _picked(flight: Flight, seat: Seat, number: int, text: str, setup_of: dict[str, str], letters: dict[str, str]) -> Picked:
    tie = text == NO_PREFERENCE
    codes = () if tie else tuple(text.split(","))
    runs = {c.code: c.run_id for c in flight.cups if c.round_no == number and c.run_id and c.code in (seat.own_set or (c.code,))}
    right = None
    if flight.method in DISCRIMINATION:
        reference = flight.options.get("references", {}).get(str(number))
        stronger = _same_setup_in(runs, flight.options.get("stronger_run_id"), setup_of) if flight.method == "two_afc" else None
        right = is_right(flight.method, codes, runs, reference=reference, stronger=stronger)
    known = tuple((code, letters.get(setup_of.get(run, ""), "")) for code, run in runs.items())
    return Picked(flight.id, flight.method, flight.sighted, seat.person_id, codes, known, right, tie)


def panel_right(found: Sequence[Picked]) -> str:
    """How the panel did in these rounds, '' where there is no right or wrong."""
    rows = [p.right for p in found if p.right is not None]
    return f"{sum(rows)} of the panel's {len(rows)} answers were right." if rows else ""


def _same_setup_in(runs: dict[str, str], expected: str | None, setup_of: dict[str, str]) -> str | None:
    """The brew of the round whose setup is expected to have more: replicate brews take their turn in rounds."""
    return next((run for run in runs.values() if setup_of.get(run) == setup_of.get(expected)), None)


@dataclass(frozen=True)
class ToldApart:
    """The answers of one method, sighted or blind, pooled over flights. tasters: how many people gave them."""

    method: str
    sighted: bool
    flights: int
    tasters: int
    correct: int
    n: int
    found: Discriminated


def tell_apart(found: Collection[Picked]) -> list[ToldApart]:
    """Per method, blind first; replicate answers of one taster are counted and said, not hidden."""
    grouped: dict[tuple[bool, str], list[Picked]] = defaultdict(list)
    for one in found:
        if one.right is not None:
            grouped[one.sighted, one.method].append(one)
    out = []
    for (sighted, method), rows in sorted(grouped.items()):
        right = sum(r.right for r in rows)
        flights, tasters = len({r.flight for r in rows}), len({r.taster for r in rows})
        out.append(ToldApart(method, sighted, flights, tasters, right, len(rows), discriminate(method, len(rows), right)))
    return out


def told_apart(trial: Trial) -> bool | None:
    """Whether a blind discrimination flight of the trial showed a difference; None without answers."""
    found = [t for t in tell_apart(picks(trial)) if not t.sighted]
    return None if not found else any(t.found.p_value <= 0.05 for t in found)


def spoke_of_sight(flight: Flight) -> list[str]:
    """Names of tasters who could tell a cup by its look."""
    names = {s.id: s.person for s in flight.seats}
    return sorted({names[a.sheet_id] for a in flight.answers if a.attribute == BY_EYE and a.value is not None})
