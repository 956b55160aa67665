"""Judging a trial's flipped flights. A judgement is stored by a hash of all it rests on, and never overwritten."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass

from ..core.judging import DIFFERENCES_NOTE, Score, judge, taster_means
from ..core.trial.standing import JudgedFacts
from ..core.trial.tasted import Tasted
from ..core.trial.value import fingerprint
from ..measuring.service import pooled_quantity
from ..store import queries
from ..store.connection import database
from ..store.models import StoredVerdict
from . import schemas as s
from .kept import Layer
from .view import View


@dataclass(frozen=True)
class LikingPart:
    """All a judgement of liking rests on."""

    scores: tuple[Score, ...]
    smallest_difference: float
    names: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class VerdictPart:
    """All a stored verdict rests on: the liking, and what was measured of each setup beside it."""

    liking: LikingPart
    measured: dict[str, dict]
    tasters: tuple[tuple[str, str], ...]
    sighted: bool


@dataclass(frozen=True)
class Judged:
    """The two judgements of liking; None where nothing was scored that way."""

    blind: s.JudgedAnswer | None
    sighted: s.JudgedAnswer | None

    @property
    def main(self) -> s.JudgedAnswer | None:
        return self.blind or self.sighted

    @property
    def facts(self) -> JudgedFacts | None:
        """What the margin needs of it."""
        if self.main is None:
            return None
        sighted = self.sighted.setups if self.sighted else []
        return JudgedFacts(
            caveats=tuple((c.code, c.text, c.cure) for c in self.blind.caveats) if self.blind else (),
            blind=tuple(x.setup for x in self.blind.setups) if self.blind else (),
            sighted=tuple(x.setup for x in sighted),
            sighted_name=sighted[0].name if sighted else "",
            sighted_mean=sighted[0].mean if sighted else 0.0,
            tasters=self.main.tasters,
        )


def judged(view: View) -> Judged:
    return judged_of(view)[0]


def judged_of(view: View) -> tuple[Judged, list[s.EarlierVerdict]]:
    """Both judgements, from the store when nothing they rest on has changed, and what was said before a correction."""
    measured = _measured(view)
    parts = {sighted: _part(view, found, measured, sighted) for sighted, found in ((False, view.blind), (True, view.sighted))}
    hashes = {sighted: fingerprint(part) for sighted, part in parts.items() if part}
    rows = _stored(view.trial.id, sorted(hashes.values()))
    current: dict[bool, s.JudgedAnswer] = {}
    for sighted, wanted in hashes.items():
        row = next((r for r in rows if r.data_hash == wanted), None) or _store(view, wanted, parts[sighted])
        current[sighted] = s.JudgedAnswer.model_validate({**row.payload, "judged_at": row.judged_at})
    earlier = [s.EarlierVerdict(judged_at=r.judged_at, sighted=bool(r.sighted), headline=r.headline) for r in rows if r.data_hash not in hashes.values()]
    return Judged(current.get(False), current.get(True)), earlier


def _part(view: View, found: Tasted, measured: dict[str, dict], sighted: bool) -> VerdictPart | None:
    scores = found.scores()
    if not scores:
        return None
    liking = LikingPart(tuple(scores), view.trial.smallest_difference, tuple(sorted(view.names.items())))
    return VerdictPart(liking, measured, found.tasters, sighted)


def _stored(trial_id: str, wanted: Sequence[str]) -> list[StoredVerdict]:
    """Newest first; the payload only of those asked for."""
    payload = queries.payload_if(StoredVerdict, wanted)
    columns = (StoredVerdict.sighted, StoredVerdict.data_hash, StoredVerdict.headline, StoredVerdict.judged_at, payload)
    return list(StoredVerdict.select(*columns).where(StoredVerdict.trial == trial_id).order_by(StoredVerdict.judged_at.desc()))


def _judge(part: LikingPart) -> dict:
    """Pure: plain values of the judgement, setups best first."""
    found = asdict(judge(part.scores, smallest_difference=part.smallest_difference, names=dict(part.names)))
    found["pass_name"] = found.pop("pass_")
    found["setups"] = sorted(found["setups"], key=lambda x: -x["mean"])
    return {
        **found,
        "differences_note": DIFFERENCES_NOTE,
        "flights": len({x.flight for x in part.scores}),
        "brews": len({x.brew for x in part.scores}),
        "smallest_difference": part.smallest_difference,
        "by_taster": taster_means(part.scores),
    }


LIKING: dict[bool, Layer] = {sighted: Layer(f"liking {'sighted' if sighted else 'blind'}", _judge) for sighted in (False, True)}


def _shape(judged: dict, part: VerdictPart) -> dict:
    """The judgement beside what was measured of each setup, and with the tasters' names."""
    names = dict(part.tasters)
    by_taster = [{"taster": names[t], "means": means} for t, means in judged["by_taster"].items()]
    return {
        **judged,
        "setups": [{**x, **part.measured[x["setup"]]} for x in judged["setups"]],
        "tasters": len(by_taster),
        "by_taster": sorted(by_taster, key=lambda row: row["taster"]),
    }


def _measured(view: View) -> dict[str, dict]:
    """Letter → what was measured of that setup."""
    out = {}
    for setup, _ in view.trial.rows:
        pooled = view.measured.pooled[setup.id]
        out[setup.letter] = {
            "name": view.names[setup.letter],
            "brew_ratio": pooled.brew_ratio,
            "tds": _plain(pooled_quantity(pooled.tds)),
            "extraction_yield": _plain(pooled_quantity(pooled.extraction_yield)),
            "total_time_s": pooled.total_time_s,
        }
    return out


def _plain(shown) -> dict | None:
    return None if shown is None else shown.model_dump()


@database.atomic()
def _store(view: View, wanted: str, part: VerdictPart) -> StoredVerdict:
    """Two processes may judge the same data at once; the first one's row stands."""
    act, payload = view.keeper.act, _shape(view.keeper.of(LIKING[part.sighted], part.liking), part)
    StoredVerdict.insert(
        id=act.new_id(),
        trial=view.trial.id,
        sighted=part.sighted,
        data_hash=wanted,
        headline=payload["verdict"]["headline"],
        payload=payload,
        judged_at=act.now,
    ).on_conflict_ignore().execute()
    return StoredVerdict.get((StoredVerdict.trial == view.trial.id) & (StoredVerdict.sighted == part.sighted) & (StoredVerdict.data_hash == wanted))
