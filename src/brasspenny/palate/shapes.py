"""How sessions, tasters and panels are shown."""

from __future__ import annotations

from collections import defaultdict

from ..core.judging.scores import Score
from ..core.palate import series
from ..core.palate.scoring import Scoring, scoring
from ..core.palate.series import AXES
from ..core.palate.threshold import NO_ANSWER, Belief, belief_of, panel, stand_ins, threshold
from ..links import LinkMaker
from ..store import blind_keys
from ..store.models import Flight, Person, Trial
from ..store.palate import PalatePresentation, PalateSeat, PalateSession
from . import known
from . import schemas as s
from .known import Answered

CURVE_POINTS = 40
FULL_PRESENTATIONS = 12


def question(session: PalateSession) -> str:
    return f"Which cup is {AXES[session.axis].more}?" if session.method == "two_afc" else "Which cup is the odd one?"


def _server(session: PalateSession, step: float) -> str:
    """How a server is marked."""
    if not step:
        return "Brew" if session.axis == "strength" else "Plain"
    return f"Step {sorted(session.steps).index(step) + 1}"


def prepared(session: PalateSession) -> list[s.PreparedShown]:
    """Water and coffee for each server of strength; on other axes the host prepares, and the step says what."""
    if session.axis == "strength":
        rows = series.prepared(session.steps, serve_g=session.serve_g, tds_pct=session.tds_pct)
    else:
        rows = series.named(session.steps, serve_g=session.serve_g)
    return [s.PreparedShown(step=p.step, name=_server(session, p.step), tds_pct=p.tds_pct, coffee_g=p.coffee_g, water_g=p.water_g) for p in rows]


def session(row: PalateSession, links: LinkMaker) -> s.SeriesShown:
    seats = list(PalateSeat.select(PalateSeat, Person).join(Person).where(PalateSeat.session == row.id).order_by(Person.name))
    done = defaultdict(int)
    for (seat_id,) in PalatePresentation.select(PalatePresentation.seat).join(PalateSeat).where(
        (PalateSeat.session == row.id) & PalatePresentation.right.is_null(False)
    ).tuples():  # fmt: skip
        done[seat_id] += 1
    waits = row.way == "helper" and row.device_hash is None and row.closed_at is None
    host_tastes = row.created_by in {seat.person_id for seat in seats}
    return s.SeriesShown(
        id=row.id,
        rev=row.rev,
        axis=row.axis,
        method=row.method,
        choice=row.choice,
        way=row.way,
        served=row.served,
        tds_pct=row.tds_pct,
        serve_g=row.serve_g,
        cup_g=row.cup_g,
        steps=row.steps,
        unit=AXES[row.axis].unit,
        question=question(row),
        prepared=prepared(row),
        brew_g=series.brew_needed_g(FULL_PRESENTATIONS * len(seats), cup_g=row.cup_g, method=row.method),
        seats=[
            s.SeatShown(
                id=seat.id, person_id=seat.person_id, name=seat.person.name, answered=done[seat.id], link=None if row.closed_at else links.palate_link(seat.id)
            )
            for seat in seats
        ],
        helper_link=links.helper_link(row.id) if waits and not host_tastes else None,
        helper_waits=waits,
        made_at=row.created_at,
        closed_at=row.closed_at,
    )


# --- before a taster, before a helper --------------------------------------------------------------------------------


def before_taster(session_: PalateSession, row: PalatePresentation) -> s.PresentationShown:
    pour = _in_words(session_, row) if session_.way == "shuffled" else None
    return s.PresentationShown(number=row.number, codes=row.codes, pour=pour, picked=row.picked)


def _in_words(session_: PalateSession, row: PalatePresentation) -> str:
    """What somebody who shuffles for themselves pours: which servers and how many cups of each, nothing of where they come to stand."""
    found, other = (_server(session_, step) for step in series.servers_of(session_.axis, row.step, found_is_more=row.odd_is_more))
    if session_.method == "triangle":
        return f"one cup of {found} and two of {other}"
    return f"{_server(session_, 0)} and {_server(session_, row.step)}"


def to_pour(session_: PalateSession, row: PalatePresentation) -> s.ToPour:
    """What goes into each cup."""
    found, other = series.servers_of(session_.axis, row.step, found_is_more=row.odd_is_more)
    cups = [s.CupToPour(code=code, server=_server(session_, found if i == row.place else other)) for i, code in enumerate(row.codes)]
    return s.ToPour(name=row.seat.person.name, number=row.number, cups=cups)


def own_answer(seat: PalateSeat) -> s.TasterThresholdAnswer:
    answers = known.answers_of(seat.person_id, seat.session.axis)
    found = threshold(seat.session.axis, known.steps_of(seat.session.axis, seat.session.steps), [a.presented for a in answers], tds_pct=seat.session.tds_pct)
    here = PalatePresentation.select().where((PalatePresentation.seat == seat.id) & PalatePresentation.right.is_null(False))
    return s.TasterThresholdAnswer(text=found.text, more=found.more, right=sum(bool(p.right) for p in here), of=len(here))


# --- what they can tell ----------------------------------------------------------------------------------------------


def tasters(answers: list[Answered]) -> list[s.TasterThreshold]:
    """By name within each axis: never a ranking."""
    groups = known.by_taster(answers)
    return [_taster(mine) for _, mine in sorted(groups.items(), key=lambda g: (g[0][1], g[1][0].name))]


def _taster(mine: list[Answered]) -> s.TasterThreshold:
    axis = mine[0].axis
    offered = known.steps_of(axis, sorted({a.presented.step for a in mine}))
    tds = next((a.tds_pct for a in reversed(mine) if a.tds_pct), None)
    found = threshold(axis, offered, [a.presented for a in mine], tds_pct=tds)
    enough = found.standing not in NO_ANSWER
    at: dict[float, list[bool]] = defaultdict(list)
    for a in mine:
        at[a.presented.step].append(a.presented.right)
    low, high = min(at) / 2, max(at) * 1.5
    steps = [low * (high / low) ** (i / (CURVE_POINTS - 1)) for i in range(CURVE_POINTS)]
    belief = belief_of(axis, offered, [a.presented for a in mine])
    return s.TasterThreshold(
        person_id=mine[0].person_id,
        name=mine[0].name,
        axis=axis,
        unit=AXES[axis].unit,
        answers=len(mine),
        standing=found.standing,
        told=found.told if enough else None,
        interval=list(found.interval) if enough else None,
        d_prime_1=found.d_prime_1 if enough else None,
        d_prime_1_interval=list(found.d_prime_1_interval) if enough else None,
        tds=list(found.tds) if enough and found.tds else None,
        text=found.text,
        more=found.more,
        at_steps=[s.AnswersAt(step=step, right=sum(r), of=len(r)) for step, r in sorted(at.items())],
        curve=[s.ThresholdPoint(step=x, share=share, low=a, high=b) for x, share, a, b in belief.curve(steps, mine[-1].presented.method)],
        months=_months(mine, offered),
        last_at=mine[-1].at,
    )


def _months(mine: list[Answered], offered: list[float]) -> list[s.ThresholdMonth]:
    """Each by its own answers alone: what was told then, not what has been learnt since."""
    groups: dict[str, list[Answered]] = defaultdict(list)
    for a in mine:
        groups[f"{a.at:%Y-%m}"].append(a)
    out = []
    for month, answers in sorted(groups.items()):
        found = threshold(mine[0].axis, offered, [a.presented for a in answers], outlook=False)
        if found.standing not in NO_ANSWER:
            out.append(s.ThresholdMonth(month=month, told=found.told, interval=list(found.interval), answers=len(answers)))
    return out


def panels(answers: list[Answered]) -> list[s.PanelThreshold]:
    groups: dict[str, dict[tuple[str, str], list[Answered]]] = defaultdict(dict)
    for (person, axis), mine in known.by_taster(answers).items():
        groups[axis][person, mine[0].name] = mine
    out = []
    for axis, by in sorted(groups.items()):
        steps = known.steps_of(axis)
        told = {who: threshold(axis, steps, [a.presented for a in mine], outlook=False) for who, mine in by.items()}
        tds = next((a.tds_pct for mine in by.values() for a in reversed(mine) if a.tds_pct), None)
        found = panel(axis, list(told.values()), tds)
        if found is None:
            continue
        beliefs: dict[str, Belief] = {
            name: belief_of(axis, steps, [a.presented for a in mine]) for (person, name), mine in by.items() if told[person, name].standing == "narrow"
        }
        pairs = [f"{a} and {b} tell about as much: one may stand in for the other." for a, b, _ in stand_ins(beliefs)]
        out.append(
            s.PanelThreshold(axis=axis, unit=AXES[axis].unit, middle=found.middle, spread=found.spread, tasters=found.tasters, text=found.text, stand_ins=pairs)
        )
    return out


LOOKED_AT = 40
"""Of the newest judged trials, from which tasters' scoring is told: the room is looked at every few seconds."""


def scoring_shown() -> list[s.TasterScoring]:
    """From flipped blind flights: use of the scale, agreement, hidden duplicates."""
    newest = Trial.select(Trial.id).join(Flight).where((Flight.status == "flipped") & Trial.deleted_at.is_null()).group_by(Trial.id)
    trials = [t.id for t in newest.order_by(Trial.number.desc()).limit(LOOKED_AT)]
    names = {p.id: p.name for p in Person.select().where(Person.deleted_at.is_null())}
    by_trial: dict[str, list[Score]] = defaultdict(list)
    for trial_id, *row in blind_keys.blind_likings(trials):
        by_trial[trial_id].append(Score(*row))
    return sorted((_scoring(r, names[r.taster]) for r in scoring(by_trial) if r.taster in names), key=lambda r: (r.name, r.person_id))


def _scoring(r: Scoring, name: str) -> s.TasterScoring:
    again = r.repeat
    return s.TasterScoring(
        person_id=r.taster,
        name=name,
        scores=r.scores,
        used=_ends(r.used),
        panel_used=_ends(r.panel_used),
        agreement=r.agreement,
        agreement_interval=_ends(r.agreement_interval),
        repeat_sd=again.repeat_sd if again else None,
        repeat_interval=_ends(again.interval) if again else None,
        duplicates=again.duplicates if again else 0,
        text=r.text,
    )


def _ends(interval: tuple[float, float] | None) -> list[float] | None:
    return None if interval is None else list(interval)
