"""Reading a table of a panel's scores, showing the flights it becomes, and writing all of it or nothing."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field, replace

from ..act import Act
from ..core import figures
from ..core.importing.columns import SCORE_TARGET, SCORE_TARGETS, UNITS, guess_scores
from ..core.importing.rows import Fault
from ..core.importing.scores import Gathered, ReadFlight, ScoreReader, TableFacts, gather
from ..refusals import Conflict, Unprocessable
from ..store.models import Bench, Flight, Score, Sheet, Trial, instrument_of
from ..store.writing import use_case
from ..trials import service as trials
from ..trials.schemas import TrialBody
from . import schemas as s
from .score_writing import people_by_name, uuids_of, write_flights
from .understanding import Columns, refuse_faulty, remember, shape, understand
from .writing import KIT_KINDS, known_names

TASTED = {"blind": "told_blind", "labelled": "told_open"}
NEEDS = ({"taster"}, {"setup", "liking_of"}, {"score", "liking_of", *(t.code for t in SCORE_TARGETS if t.kind == "scale")})


@dataclass(frozen=True)
class ReadTable:
    """fresh: flights that are not on the bench yet; here: how many are, in which trial (None: in none)."""

    columns: Columns
    gathered: Gathered
    faults: tuple[Fault, ...]
    fresh: tuple[ReadFlight, ...] = ()
    here: int = 0
    trial: Trial | None = None
    missing: tuple[str, ...] = field(default_factory=tuple)


def look_at(sent: s.ScoreTableBody) -> s.ScoreTableAnswer:
    found = _here(_read(sent), sent.question)
    known_people, known_kit = people_by_name(), known_names()
    tasters = dict.fromkeys(name for f in found.fresh for name in f.tasters)
    named = {(k, v) for setup in found.gathered.setups for k, v in setup.values.items() if k in KIT_KINDS and v}
    scored = Counter(t.setup for f in found.gathered.flights for t in f.tastings for _ in t.scores)
    brews = Counter(p.setup for f in found.gathered.flights for p in f.poured)
    first = {p.setup: p.brew for f in reversed(found.gathered.flights) for p in reversed(f.poured)}
    return s.ScoreTableAnswer(
        **shape(found.columns, found.faults),
        ready=sum(f.scores for f in found.fresh),
        here=found.here,
        flights=[_flight(f) for f in found.fresh],
        setups=[
            s.SetupOfScores(
                letter=x.letter,
                name=x.name,
                dose_g=first[x.name].dose_g if x.name in first else None,
                brew_water_g=first[x.name].brew_water_g if x.name in first else None,
                brews=brews[x.name],
                scores=scored[x.name],
            )
            for x in found.gathered.setups
        ],
        new_people=[name for name in tasters if name.casefold() not in known_people],
        new_kit=sorted({name for kind, name in named if (kind, name.casefold()) not in known_kit}),
        missing=list(found.missing),
        amounts_needed=[SCORE_TARGET[code].label.lower() for code in found.gathered.missing],
        adds_to=found.trial.number if found.trial else None,
    )


def bring_in(sent: s.ScoreTableWrite, act: Act) -> s.BroughtInScoresAnswer:
    """The table is read before anything is held; what is on the bench already is looked for once it is."""
    found = _read(sent)
    if found.missing:
        raise Unprocessable("meanings", f"No column gives {' or '.join(found.missing)}.", "Choose the column.")
    if lacking := found.gathered.missing:
        raise Unprocessable(lacking[0], f"Some brews tell no {SCORE_TARGET[lacking[0]].label.lower()}.", "Give it for all of them, in g.")
    refuse_faulty(found.faults, leave_out=sent.leave_out_faulty)
    return _write(sent, found, act)


@use_case
def _write(sent: s.ScoreTableWrite, found: ReadTable, act: Act) -> s.BroughtInScoresAnswer:
    found = _here(found, sent.question)
    refuse_faulty(found.faults, leave_out=sent.leave_out_faulty)
    if not found.fresh:
        raise Conflict("data", "There is nothing to import: every flight that can be read is already on this bench.", "Choose another table.")
    trial = trials.locked(found.trial.id) if found.trial else _begun(sent, found, act)
    written = write_flights(trial, found.gathered.setups, found.fresh, TASTED[sent.tasted], act)
    remember(found.columns, act)
    return s.BroughtInScoresAnswer(
        trial_id=trial.id,
        trial_number=trial.number,
        flights=written.flights,
        brews=written.brews,
        scores=written.scores,
        left_out=len({f.row for f in found.faults}),
        here=found.here,
    )


def _begun(sent: s.ScoreTableWrite, found: ReadTable, act: Act) -> Trial:
    trial = trials.begin(
        TrialBody(question=sent.question, factor=sent.factor, factor_other=sent.factor_other, strength_policy="as_brewed").model_dump()
        | {"note": _note(found)},
        act,
    )
    return trials.locked(trial.id)


def _note(found: ReadTable) -> str:
    """What a table was told in, where that is not what stands here."""
    scales = {(SCORE_TARGET[m.target].label.lower(), m.unit) for m in found.columns.meanings if m.target and m.unit in UNITS["scale"] and m.unit != "own"}
    said = [f"{label} was given from {unit.replace('_', ' to ')}, and is told here in proportion" for label, unit in sorted(scales)]
    return f"From a table of scores.{''.join(f' {x[:1].upper()}{x[1:]}.' for x in said)}"


# --- understanding ---------------------------------------------------------------------------------------------------


def _read(sent: s.ScoreTableBody) -> ReadTable:
    """Rows that contradict one another are faults of the later one; what is left is gathered without it."""
    columns = understand(sent, "scores", SCORE_TARGETS, guess_scores)
    missing = _missing(columns)
    reader = ScoreReader(columns.cells, columns.table.headers)
    tastings, faults = [], []
    for number, cells in columns.table.rows:
        some, wrong = reader.read(number, cells)
        tastings += some
        faults += [f for f in wrong if f.column is not None or not missing]  # what no column gives is said once, not at every row
    told = TableFacts(sent.factor, sent.dose_g, sent.brew_water_g)
    instrument = instrument_of(Bench.get_by_id(1))
    gathered = gather(tastings, told, instrument)
    while gathered.faults and tastings:
        faults += gathered.faults
        bad = {f.row for f in gathered.faults}
        tastings = [t for t in tastings if t.row not in bad]
        gathered = gather(tastings, told, instrument)
    return ReadTable(columns, gathered, tuple(sorted(faults, key=lambda f: f.row)), missing=missing)


def _missing(columns: Columns) -> tuple[str, ...]:
    there = {m.target for m in columns.meanings}
    labels = ("taster", "setup", "a score")
    return tuple(label for label, any_of in zip(labels, NEEDS, strict=True) if not there & any_of)


def _here(found: ReadTable, question: str) -> ReadTable:
    """A flight whose scores are all on the bench is left out; one of which only some are contradicts it."""
    ids = [set(uuids_of(question, f).values()) for f in found.gathered.flights]
    where = _trials_of({x for own in ids for x in own})
    fresh, here, trial_ids, faults = [], 0, [], []
    for flight, own in zip(found.gathered.flights, ids, strict=True):
        there = [where[x] for x in own if x in where]
        trial_ids += there
        if own and len(there) == len(own):
            here += 1
        elif there:
            reason = f"{figures.counted(len(there), 'score')} of this flight's {len(own)} are already on the bench; the others differ or are new."
            faults.append(Fault(flight.tastings[0].row, None, "", reason, "Correct them there, or give the flight another name."))
        elif flight.poured or found.gathered.missing:  # what it lacks is asked for
            fresh.append(flight)
    trial = Trial.get_by_id(trial_ids[0]) if trial_ids else None
    return replace(found, fresh=tuple(fresh), here=here, trial=trial, faults=(*found.faults, *faults))


def _trials_of(uuids: set[str]) -> dict[str, str]:
    """Score id → the live trial it stands in, of those that are on the bench."""
    if not uuids:
        return {}
    rows = (
        Score.select(Score.uuid, Flight.trial)
        .join(Sheet)
        .join(Flight)
        .join(Trial)
        .where(Score.uuid.in_(uuids) & Flight.blinding.in_(tuple(TASTED.values())) & Flight.deleted_at.is_null() & Trial.deleted_at.is_null())
    )
    return dict(rows.tuples())


def _flight(f: ReadFlight) -> s.FlightOfScores:
    return s.FlightOfScores(
        name=f.name,
        day=f.day.date() if f.day else None,
        tasters=len(f.tasters),
        setups=len({p.setup for p in f.poured}),
        cups=sum(len(p.cups) for p in f.poured),
        scores=f.scores,
    )
