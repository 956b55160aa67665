"""Judging a trial's flipped flights. A judgement is stored by a hash of all it rests on, and never overwritten."""

from __future__ import annotations

from dataclasses import asdict

from ..act import Act
from ..core.judging import Score as CoreScore
from ..core.judging import judge, taster_means
from ..measuring.service import TrialResults, pooled_quantity, results_of
from ..store import queries
from ..store.connection import database
from ..store.models import Flight, StoredVerdict
from . import beside
from . import schemas as s
from .cache import fingerprint
from .tasted import Tasted, tasted


def read_verdict(trial_id: str, act: Act) -> s.VerdictAnswer:
    """Liking first; attributes, pairing, value and next steps have addresses of their own and arrive as they are worked out."""
    results, flights = results_of(trial_id), queries.live_flights(trial_id)
    blind, sighted = (tasted(results, flights, sighted=x) for x in (False, True))
    main = verdict_of(results, flights, act, blind, sighted)
    return beside.with_more(main, results, flights, blind if blind.touches else sighted, act)


def verdict_of(results: TrialResults, flights: list[Flight], act: Act, blind: Tasted | None = None, sighted: Tasted | None = None) -> s.VerdictAnswer:
    """Blind and sighted liking, from the store when nothing they rest on has changed."""
    trial_id = results.trial.id
    blind = tasted(results, flights, sighted=False) if blind is None else blind
    sighted = tasted(results, flights, sighted=True) if sighted is None else sighted
    judged = [_judged(results, scores, is_sighted, act) for scores, is_sighted in ((blind, False), (sighted, True))]
    current = {j.judged_at for j in judged if j}
    earlier = (
        StoredVerdict.select(StoredVerdict.judged_at, StoredVerdict.sighted, StoredVerdict.headline)
        .where(StoredVerdict.trial == trial_id)
        .order_by(StoredVerdict.judged_at.desc())
    )
    return s.VerdictAnswer(
        blind=judged[0],
        sighted=judged[1],
        flights_open=sum(f.status == "open" for f in flights),
        flights_to_flip=sum(f.status == "closed" for f in flights),
        earlier=[s.EarlierVerdict(judged_at=v.judged_at, sighted=bool(v.sighted), headline=v.headline) for v in earlier if v.judged_at not in current],
        names={setup.letter: results.names[setup.id] for setup, _ in results.setups},
        told_apart=[], preferred=None, ranked=None, repeats=[], guessed=None, positions=[], words=[], just_right=[], segments=None, attributes=[],
    )  # fmt: skip


def _judged(results: TrialResults, found: Tasted, sighted: bool, act: Act) -> s.JudgedAnswer | None:
    scores = found.scores()
    if not scores:
        return None
    tasters = {x.taster: found.tasters[x.taster] for x in scores}
    paired = _paired(results)
    rests_on = [results.trial.smallest_difference, sorted(tuple(vars(x).values()) for x in scores), sorted(tasters.items()), paired]
    wanted = fingerprint(rests_on)
    stored = StoredVerdict.get_or_none((StoredVerdict.trial == results.trial.id) & (StoredVerdict.sighted == sighted) & (StoredVerdict.data_hash == wanted))
    if stored is None:
        stored = _store(results.trial.id, sighted, wanted, _judge(results, scores, tasters, paired), act)
    return s.JudgedAnswer.model_validate({**stored.payload, "judged_at": stored.judged_at})


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


def _judge(results: TrialResults, scores: list[CoreScore], tasters: dict[str, str], paired: dict) -> dict:
    delta = results.trial.smallest_difference
    judgement = judge(scores, smallest_difference=delta, names={letter: p["name"] for letter, p in paired.items()})
    found = asdict(judgement)
    found["pass_name"] = found.pop("pass_")
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
def _store(trial_id: str, sighted: bool, wanted: str, payload: dict, act: Act) -> StoredVerdict:
    """Two processes may judge the same data at once; the first one's row stands."""
    StoredVerdict.insert(
        id=act.new_id(), trial=trial_id, sighted=sighted, data_hash=wanted, headline=payload["verdict"]["headline"], payload=payload, judged_at=act.now
    ).on_conflict_ignore().execute()
    return StoredVerdict.get((StoredVerdict.trial == trial_id) & (StoredVerdict.sighted == sighted) & (StoredVerdict.data_hash == wanted))
