"""Judging a trial's flipped flights. A judgement is stored by a hash of all it rests on, and never overwritten."""

from __future__ import annotations

import hashlib
import json
from dataclasses import asdict

from ..act import Act
from ..core import CORE_VERSION
from ..core.judging import Score as CoreScore
from ..core.judging import judge, taster_means
from ..measuring.service import TrialResults, pooled_quantity, results_of
from ..store import queries
from ..store.connection import database
from ..store.models import Flight, FlightCup, Person, Run, Score, Sheet, StoredVerdict
from ..tasting.schemas import SIGHTED
from . import schemas as s


def read_verdict(trial_id: str, act: Act) -> s.VerdictAnswer:
    return verdict_of(results_of(trial_id), queries.live_flights(trial_id), act)


def verdict_of(results: TrialResults, flights: list[Flight], act: Act) -> s.VerdictAnswer:
    """Blind and sighted, from the store when nothing they rest on has changed."""
    trial_id = results.trial.id
    blind, sighted = (_judged(results, flights, is_sighted, act) for is_sighted in (False, True))
    current = {j.judged_at for j in (blind, sighted) if j}
    earlier = (
        StoredVerdict.select(StoredVerdict.judged_at, StoredVerdict.sighted, StoredVerdict.headline)
        .where(StoredVerdict.trial == trial_id)
        .order_by(StoredVerdict.judged_at.desc())
    )
    return s.VerdictAnswer(
        blind=blind,
        sighted=sighted,
        flights_open=sum(f.status == "open" for f in flights),
        flights_to_flip=sum(f.status == "closed" for f in flights),
        earlier=[s.EarlierVerdict(judged_at=v.judged_at, sighted=bool(v.sighted), headline=v.headline) for v in earlier if v.judged_at not in current],
    )


def _judged(results: TrialResults, flights: list[Flight], sighted: bool, act: Act) -> s.JudgedAnswer | None:
    ids = [f.id for f in flights if f.status == "flipped" and (f.blinding in SIGHTED) == sighted]
    scores, tasters = _scores(results, ids)
    if not scores:
        return None
    paired = _paired(results)
    fingerprint = _fingerprint(results, scores, tasters, paired)
    stored = StoredVerdict.get_or_none(
        (StoredVerdict.trial == results.trial.id) & (StoredVerdict.sighted == sighted) & (StoredVerdict.data_hash == fingerprint)
    )
    if stored is None:
        payload = _judge(results, scores, tasters, paired, act)
        stored = _store(results.trial.id, sighted, fingerprint, payload, act)
    return s.JudgedAnswer.model_validate({**stored.payload, "judged_at": stored.judged_at})


def _scores(results: TrialResults, flight_ids: list[str]) -> tuple[list[CoreScore], dict[str, str]]:
    """Liking of cups whose brew is known and not deleted; and the tasters' names by id."""
    if not flight_ids:
        return [], {}
    letters = {setup.id: setup.letter for setup, _ in results.setups}
    rows = (
        Score.select(Sheet.flight, Sheet.person, Person.name, Run.setup, Run.id, Score.value)
        .join(Sheet)
        .join(Person)
        .switch(Score)
        .join(FlightCup)
        .join(Run)
        .where(Sheet.flight.in_(flight_ids) & (Score.attribute == "liking") & Score.value.is_null(False))
        .order_by(Sheet.flight, Sheet.person, Run.id)
        .tuples()
    )
    kept = [row for row in rows if row[3] in letters]
    return [CoreScore(f, person, letters[setup], run, "", float(value)) for f, person, _, setup, run, value in kept], {row[1]: row[2] for row in kept}


def _paired(results: TrialResults) -> dict[str, dict]:
    """Letter → what was measured of that setup."""
    out = {}
    for setup, _ in results.setups:
        pooled = results.pooled[setup.id]
        tds, ey = pooled_quantity(pooled.tds), pooled_quantity(pooled.extraction_yield)
        out[setup.letter] = {
            "name": results.names[setup.id],
            "brew_ratio": pooled.brew_ratio,
            "tds": tds.model_dump() if tds else None,
            "extraction_yield": ey.model_dump() if ey else None,
            "total_time_s": pooled.total_time_s,
        }
    return out


def _fingerprint(results: TrialResults, scores: list[CoreScore], tasters: dict[str, str], paired: dict) -> str:
    rests_on = [CORE_VERSION, results.trial.smallest_difference, sorted(tuple(vars(x).values()) for x in scores), sorted(tasters.items()), paired]
    return hashlib.sha256(json.dumps(rests_on, sort_keys=True).encode()).hexdigest()


def _judge(results: TrialResults, scores: list[CoreScore], tasters: dict[str, str], paired: dict, act: Act) -> dict:
    delta = results.trial.smallest_difference
    judgement = judge(scores, smallest_difference=delta, names={letter: p["name"] for letter, p in paired.items()})
    found = asdict(judgement)
    found["setups"] = sorted(({**x, **paired[x["setup"]]} for x in found["setups"]), key=lambda x: -x["mean"])
    by_taster = [{"taster": tasters[t], "means": means} for t, means in taster_means(scores).items()]
    return {
        **found,
        "flights": len({x.flight for x in scores}),
        "tasters": len(tasters),
        "brews": len({x.brew for x in scores}),
        "smallest_difference": delta,
        "by_taster": sorted(by_taster, key=lambda row: row["taster"]),
    }


@database.atomic()
def _store(trial_id: str, sighted: bool, fingerprint: str, payload: dict, act: Act) -> StoredVerdict:
    """Two processes may judge the same data at once; the first one's row stands."""
    StoredVerdict.insert(
        id=act.new_id(), trial=trial_id, sighted=sighted, data_hash=fingerprint, headline=payload["verdict"]["headline"], payload=payload, judged_at=act.now
    ).on_conflict_ignore().execute()
    return StoredVerdict.get((StoredVerdict.trial == trial_id) & (StoredVerdict.sighted == sighted) & (StoredVerdict.data_hash == fingerprint))
