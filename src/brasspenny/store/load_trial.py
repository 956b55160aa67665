"""The one loader of a trial as it stands (core/trial/value.py), in a handful of queries however much was brewed and tasted."""

from __future__ import annotations

import json
from collections import defaultdict
from collections.abc import Iterable
from datetime import UTC, datetime
from functools import lru_cache
from typing import Any

from ..core.brewing.observed import Tolerances
from ..core.extraction.uncertainty import Instrument
from ..core.grinding.dials import Dials, Match, Part, RecipeSettings, dial_id, dial_ids, dials_of
from ..core.grinding.doses import Dose, Ground, of_doses
from ..core.grinding.samples import Grind, Sample
from ..core.grinding.sieve import Fraction, apertures_of
from ..core.palate.threshold import Presented, best_tells, panel_tells
from ..core.planning.control import strength_policy_in_force
from ..core.tasting.temperatures import spread_c
from ..core.trial import value as v
from ..core.trial.setups import with_facts_of_now
from . import blind_keys
from .connection import database
from .grinding import SieveSample

HEAD = """
SELECT t.id, t.number, t.rev, t.question, t.factor, t.factor_other, t.further_factors, t.yield_basis AS yield_basis_chosen, t.strength_policy, t.smallest_difference + 0e0 AS smallest_difference, t.judged_pass, t.created_at,
  b.name AS bench_name, b.accuracy_pct + 0e0 AS accuracy_pct, b.resolution_pct + 0e0 AS resolution_pct, b.repeatability_pct + 0e0 AS repeatability_pct,
  b.scale_resolution_g + 0e0 AS scale_resolution_g,
  b.tolerance_g + 0e0 AS tolerance_g, b.tolerance_pct + 0e0 AS tolerance_pct, b.tolerance_s + 0e0 AS tolerance_s, b.tolerance_c + 0e0 AS tolerance_c,
  b.ambient_c + 0e0 AS ambient_c, b.altitude_m, b.kit_lasts_years + 0e0 AS kit_lasts_years, b.cups_a_day + 0e0 AS cups_a_day,
  (SELECT JSON_ARRAYAGG(JSON_ARRAY(e.person_id, x.step, x.`right`, s.method) ORDER BY x.picked_at, x.id) FROM palate_presentation x
    JOIN palate_seat e ON e.id = x.seat_id JOIN palate_session s ON s.id = e.session_id JOIN person w ON w.id = e.person_id
    WHERE s.axis = 'strength' AND s.deleted_at IS NULL AND w.deleted_at IS NULL AND x.`right` IS NOT NULL) AS told_steps,
  (SELECT JSON_OBJECTAGG(d.field, JSON_ARRAY(d.rule, d.reason)) FROM declaration d WHERE d.trial_id = t.id) AS declarations,
  (SELECT JSON_VALUE(s.found, '$.schedule.spread_c') + 0e0 FROM run_sheet s WHERE s.trial_id = t.id AND s.deleted_at IS NULL ORDER BY s.planned_at DESC LIMIT 1) AS sheet_spread_c,
  (SELECT JSON_ARRAYAGG(JSON_ARRAY(c.action, f.number, COALESCE(JSON_VALUE(c.after, '$.verdict'), (SELECT JSON_VALUE(n.after, '$.verdict') FROM `change` n
    WHERE n.entity = 'flight' AND n.entity_id = f.id AND n.action = 'verdict_then' ORDER BY n.at DESC LIMIT 1), '')) ORDER BY c.at, c.id)
    FROM `change` c JOIN flight f ON f.id = c.entity_id WHERE c.trial_id = t.id AND c.entity = 'flight'
    AND (c.action = 'correct_marks' OR (c.action = 'delete' AND f.deleted_at IS NOT NULL AND f.status = 'flipped'))) AS second_thoughts,
  (SELECT JSON_ARRAYAGG(JSON_ARRAY(JSON_EXTRACT(c.before, '$'), COALESCE(JSON_VALUE(c.after, '$.verdict'), '')) ORDER BY c.at, c.id) FROM `change` c
    WHERE c.trial_id = t.id AND c.entity = 'trial' AND c.action = 'judged_again') AS rules_before, t.scatter_from,
  IF(t.brought_in_at IS NULL, NULL, t.brought_in_from) AS brought_in_from,
  (SELECT JSON_ARRAYAGG(JSON_ARRAY(l.passes, l.flights, l.cups, l.log_likelihood) ORDER BY l.passes) FROM learnt_scatter l WHERE l.trial_id = t.id) AS learnt_scatter,
  p.rev AS plan_rev, p.replicates, p.flights, p.tasters, p.blocking, p.block_factor, p.share_drunk + 0e0 AS share_drunk, p.dial_in_brews, p.sieve_samples, p.sieve_sample_g + 0e0 AS sieve_sample_g, p.seed, p.day, p.design, p.drafted
FROM trial t JOIN bench b ON b.id = 1 LEFT JOIN plan p ON p.trial_id = t.id AND p.deleted_at IS NULL WHERE t.id = %s AND t.deleted_at IS NULL
"""
PLAN_NAMES = ("replicates", "flights", "tasters", "blocking", "block_factor", "share_drunk", "dial_in_brews", "sieve_samples", "sieve_sample_g", "seed")
SETUPS = "SELECT id, letter, name, revision_id, rev, brews_given FROM setup WHERE trial_id = %s AND deleted_at IS NULL ORDER BY letter"
REVISIONS = """
SELECT r.id, r.setup_id, r.number, r.coffee, r.grinder, r.grind_setting, r.filter, r.brewer, r.brewer_type, r.water, r.temperature_c + 0e0, r.dose_g + 0e0,
  r.brew_water_g + 0e0, r.bypass_g + 0e0, r.pours, r.other, r.recipe_version_id, r.recipe, r.kit,
  (SELECT JSON_OBJECTAGG(k.id, JSON_EXTRACT(k.facts, '$')) FROM used_kit u JOIN kit_item k ON k.id = u.kit_item_id
    WHERE u.setup_revision_id = r.id AND k.id NOT IN (SELECT unit_id FROM damaged_row WHERE unit_kind = 'kit_item'))
FROM setup_revision r WHERE r.id IN ({marks})
"""
"""By their ids: MariaDB reads the whole table for a union of subselects. The facts of a piece of kit that is set aside as damaged are nobody's facts of now."""
BREWS = """
SELECT r.id, r.rev, r.setup_id, r.setup_revision_id, r.number, r.purpose, r.brewed_at, r.dose_g + 0e0, r.brew_water_g + 0e0, r.bypass_g + 0e0,
  r.beverage_g + 0e0, r.temperature_c + 0e0, r.pour_end_s + 0e0, r.total_time_s + 0e0, r.moisture_pct + 0e0, r.concentrate, r.note, r.observed, r.off_plan,
  r.marked, r.protocol, r.served, r.curve IS NOT NULL,
  EXISTS (SELECT 1 FROM flight f WHERE f.trial_id = r.trial_id AND (f.deleted_at IS NULL OR f.status = 'flipped') AND f.created_at <= r.created_at),
  (SELECT JSON_ARRAYAGG(JSON_ARRAY(x.id, x.tds_pct, x.source, x.rev, JSON_EXTRACT(x.as_read, '$')) ORDER BY x.taken_at, x.id)
   FROM reading x WHERE x.run_id = r.id AND x.deleted_at IS NULL)
FROM run r JOIN setup s ON s.id = r.setup_id WHERE r.trial_id = %s AND r.deleted_at IS NULL AND s.deleted_at IS NULL ORDER BY r.brewed_at, r.number, r.id
"""
FLIGHTS = """
SELECT f.id, f.number, f.blinding, f.status, f.method, f.attributes, f.passes, f.options, f.host_tastes, f.cup_readings,
  s.commitment, s.seen_by_host_at IS NOT NULL, s.broken_at IS NOT NULL, s.nonce,
  (SELECT JSON_ARRAYAGG(JSON_ARRAY(b.run_id, b.mark, b.round_no) ORDER BY b.mark) FROM flight_brew b WHERE b.flight_id = f.id)
FROM flight f LEFT JOIN seal s ON s.flight_id = f.id WHERE f.trial_id = %s AND f.deleted_at IS NULL ORDER BY f.number
"""
SEATS = """
SELECT h.flight_id, h.id, h.person_id, p.name, h.late, h.left_at IS NOT NULL, (SELECT COUNT(*) FROM late_score l WHERE l.sheet_id = h.id)
FROM sheet h JOIN flight f ON f.id = h.flight_id JOIN person p ON p.id = h.person_id WHERE f.trial_id = %s AND f.deleted_at IS NULL ORDER BY h.flight_id, p.name, h.id
"""
ANSWERS = """
SELECT h.flight_id, h.id, (SELECT JSON_ARRAYAGG(JSON_ARRAY(s.cup_id, s.pass_name, s.attribute, s.value + 0e0, s.text)) FROM score s WHERE s.sheet_id = h.id),
  (SELECT JSON_OBJECTAGG(c.cup_id, c.position) FROM sheet_cup c WHERE c.sheet_id = h.id)
FROM flight f JOIN sheet h ON h.flight_id = f.id WHERE f.trial_id = %s AND f.deleted_at IS NULL AND f.status <> 'open'
"""
"""A sheet's answers in one cell: hundreds of rows take longer to read than to find. While a flight is tasted, what was said of it stays where it is."""
DIALS = """
SELECT (SELECT JSON_ARRAYAGG(JSON_ARRAY(id, kind, name, JSON_EXTRACT(facts, '$')) ORDER BY created_at, id) FROM kit_item WHERE kind IN ('grinder', 'burr_set') AND deleted_at IS NULL),
  (SELECT JSON_ARRAYAGG(JSON_ARRAY(id, a_id, a_setting, b_id, b_setting, match_kind, COALESCE(matched_on, ''), JSON_EXTRACT(rests_on, '$')) ORDER BY created_at, id)
   FROM matched_setting WHERE deleted_at IS NULL),
  (SELECT JSON_ARRAYAGG(JSON_ARRAY(r.name, JSON_EXTRACT(v.document, '$.grinds')) ORDER BY r.name, r.id)
   FROM recipe r JOIN recipe_version v ON v.id = r.version_id WHERE r.deleted_at IS NULL AND JSON_EXISTS(v.document, '$.grinds'))
"""


DOSES = """
SELECT dial_id, source = 'simulated', beans_in_g + 0e0, ground_out_g + 0e0, grinding_s + 0e0, knocked_out_g + 0e0, next_in_g + 0e0, next_out_g + 0e0, feeding
FROM grinder_dose WHERE deleted_at IS NULL AND dial_id IN ({marks}) ORDER BY at DESC, id
"""
NEWEST_DOSES = 20


def load_dials() -> Dials:
    """Every dial of the kit, and what is known to match."""
    parts, matches, said = _rows(DIALS)[0]
    return dials_of(
        [Part(*p) for p in json.loads(parts or "[]")],
        [_match(*m) for m in json.loads(matches or "[]")],
        [RecipeSettings(name, tuple((g.get("dial_id", ""), g["setting"]) for g in grinds)) for name, grinds in json.loads(said or "[]")],
    )


def _match(id_: str, a: str, a_setting: float, b: str, b_setting: float, kind: str, on: str, rests_on: dict[str, Any] | None) -> Match:
    spreads = {"sampled": True, "a_spread": rests_on["a_spread"], "b_spread": rests_on["b_spread"]} if rests_on else {}
    return Match(id_, a, a_setting, b, b_setting, kind, on, **spreads)


def _rules_before(changes: list) -> tuple[v.RuleBefore, ...]:
    """changes: (values before, verdict then), oldest first. Return each rule as it stood when the scores became known."""
    first: dict[str, v.RuleBefore] = {}
    for values, verdict in changes:
        for rule, value in values.items():
            first.setdefault(rule, v.RuleBefore(rule, value, verdict))
    return tuple(first.values())


def load(trial_id: str) -> v.Trial | None:
    """The trial, or None when there is none or it was deleted."""
    cursor = database.execute_sql(HEAD, (trial_id,))
    row = cursor.fetchone()
    if row is None:
        return None
    t = dict(zip((column[0] for column in cursor.description), row, strict=True))
    setups, brews = tuple(v.Setup(*row) for row in _rows(SETUPS, trial_id)), _brews(trial_id)
    revisions = _revisions({s.revision_id for s in setups} | {b.setup_revision_id for b in brews})
    declared = {field: v.Declared(*d) for field, d in sorted(json.loads(t["declarations"] or "{}").items())}
    by_sieve = any(d.rule == "sieve_median" for d in declared.values())
    used = {dial for r in revisions.values() if (dial := dial_id(r.kit))}
    return v.Trial(
        **{name: t[name] for name in SAME_NAMES},
        further_factors=(further := tuple(json.loads(t["further_factors"]))),
        strength_policy=strength_policy_in_force((t["factor"], *further), t["strength_policy"]),
        created_at=_utc(t["created_at"]),
        bench=_bench(t),
        learnt_scatter=tuple(v.LearntScatter(*x) for x in json.loads(t["learnt_scatter"] or "[]")),
        setups=setups,
        revisions=revisions,
        declarations=declared,
        brews=brews,
        flights=_flights(trial_id),
        plan=_plan(t) if t["plan_rev"] else None,
        second_thoughts=tuple(v.SecondThought(*x) for x in json.loads(t["second_thoughts"] or "[]")),
        rules_before=_rules_before(json.loads(t["rules_before"] or "[]")),
        dials=load_dials() if by_sieve else None,
        samples=load_samples(i for r in revisions.values() for i in dial_ids(r.kit)) if by_sieve else (),
        ground=load_ground(used),
    )


SAME_NAMES = (
    "id", "number", "rev", "question", "factor", "factor_other", "yield_basis_chosen", "smallest_difference", "judged_pass", "scatter_from",
    "sheet_spread_c", "brought_in_from",
)  # fmt: skip
"""Columns of HEAD that are fields of the trial as they stand."""


def _plan(t: dict[str, Any]) -> v.Plan:
    settings = {name: t[name] for name in PLAN_NAMES} | {"day": json.loads(t["day"])}
    return v.Plan(t["plan_rev"], settings, _document(t["design"]), _document(t["drafted"]))


NEWEST_SAMPLES = 400


def load_samples(of_dials: Iterable[str]) -> tuple[Sample, ...]:
    """The newest sieve samples of these dials, oldest of them first."""
    wanted = SieveSample.deleted_at.is_null() & SieveSample.dial.in_(sorted(set(of_dials)) or [""])
    rows = SieveSample.select().where(wanted).order_by(SieveSample.created_at.desc(), SieveSample.id).limit(NEWEST_SAMPLES)
    return tuple(as_sample(row) for row in rows)[::-1]


def as_sample(row: SieveSample) -> Sample:
    fractions = tuple(Fraction(a, m) for a, m in row.fractions)
    grind = Grind(row.dial_id, row.setting, row.coffee_id or "", apertures_of(fractions), row.source == "simulated")
    return Sample(row.id, grind, row.mass_in_g, fractions, row.scale_step_g, row.sampled_on.isoformat(), row.source == "table")


def load_ground(dial_ids: Iterable[str]) -> dict[str, Ground]:
    """Dial → what its doses say, the newest of them; what was simulated counts only where nothing was measured."""
    wanted = sorted(dial_ids)
    rows = _rows(DOSES.format(marks=",".join(["%s"] * len(wanted))), *wanted) if wanted else []
    by_dial: dict[str, dict[bool, list[Dose]]] = defaultdict(lambda: {True: [], False: []})
    for dial, simulated, *dose in rows:
        by_dial[dial][bool(simulated)].append(Dose(*dose))
    return {dial: of_doses((found[False] or found[True])[:NEWEST_DOSES]) for dial, found in by_dial.items()}


def _bench(t: dict[str, Any]) -> v.BenchSettings:
    instrument = Instrument(t["accuracy_pct"], t["resolution_pct"], t["scale_resolution_g"], t["repeatability_pct"])
    tolerances = Tolerances(t["tolerance_g"], t["tolerance_pct"], t["tolerance_s"], t["tolerance_c"])
    return v.BenchSettings(
        t["bench_name"], instrument, tolerances, t["ambient_c"], t["altitude_m"], t["kit_lasts_years"], t["cups_a_day"], *_tells_pct(t["told_steps"])
    )


@lru_cache(maxsize=8)
def _tells_pct(told: str | None) -> tuple[float | None, float | None]:
    """The step of strength this bench's panel tells apart, and that its best taster may, from every answer to a series of strengths."""
    by_person: dict[str, list[Presented]] = defaultdict(list)
    for person, step, right, method in json.loads(told or "[]"):
        by_person[person].append(Presented(float(step), bool(right), method))
    return panel_tells("strength", (), by_person), best_tells("strength", (), by_person)


def _revisions(ids: set[str]) -> dict[str, v.SetupRevision]:
    rows = _rows(REVISIONS.format(marks=",".join(["%s"] * len(ids))), *sorted(ids)) if ids else []
    return {row[0]: v.SetupRevision(*row[:-3], _document(row[-3]), with_facts_of_now(_document(row[-2]), _document(row[-1]) or {})) for row in rows}


def _brews(trial_id: str) -> tuple[v.Brew, ...]:
    return tuple(_brew(*row) for row in _rows(BREWS, trial_id))


def _brew(*row: Any) -> v.Brew:
    *fixed, observed, off_plan, marked, protocol, served, has_curve, after_tasting, readings = row
    fixed[6], fixed[15] = _utc(fixed[6]), bool(fixed[15])
    taken = tuple(v.Reading(id_, float(tds), source, rev, as_read) for id_, tds, source, rev, as_read in json.loads(readings or "[]"))
    return v.Brew(
        *fixed,
        json.loads(observed),
        tuple(json.loads(off_plan)),
        tuple(json.loads(marked)),
        _document(protocol),
        _document(served),
        bool(has_curve),
        bool(after_tasting),
        taken,
    )


def _flights(trial_id: str) -> tuple[v.Flight, ...]:
    flights = _rows(FLIGHTS, trial_id)
    if not flights:
        return ()
    cups = blind_keys.cups_of_trial(trial_id)
    own = blind_keys.own_sets(trial_id) if any(json.loads(f[7]).get("own_sets") for f in flights) else {}
    seats = _by_first((*row[:4], bool(row[4]), bool(row[5]), row[6], own.get(row[1], ())) for row in _rows(SEATS, trial_id))
    answers = _answers(trial_id) if any(f[3] != "open" for f in flights) else {}
    out = []
    for id_, number, blinding, status, method, attributes, passes, options, host_tastes, readings, commitment, seen, broken, nonce, poured in flights:
        out.append(
            v.Flight(
                id_,
                number,
                blinding,
                status,
                method,
                tuple(json.loads(attributes)),
                tuple(json.loads(passes)),
                json.loads(options),
                bool(host_tastes),
                v.SealState(commitment, bool(seen), bool(broken), nonce) if commitment else None,
                cups.get(id_, ()),
                tuple(v.Poured(*p) for p in json.loads(poured or "[]")),
                tuple(v.Seat(*seat) for seat in seats.get(id_, ())),
                tuple(sorted(answers.get(id_, ()), key=lambda a: (a.sheet_id, a.cup_id, a.pass_name, a.attribute))),
                spread_c([(r["at"], r["cup_c"]) for r in json.loads(readings) if "code" in r]),
            )
        )
    return tuple(out)


def _answers(trial_id: str) -> dict[str, list[v.Answer]]:
    out: dict[str, list[v.Answer]] = defaultdict(list)
    for flight_id, sheet_id, said, order in _rows(ANSWERS, trial_id):
        places = json.loads(order or "{}")
        for cup, pass_name, attribute, value, text in json.loads(said or "[]"):
            out[flight_id].append(v.Answer(sheet_id, cup, pass_name, attribute, None if value is None else float(value), text, places.get(cup, 0)))
    return out


def _rows(sql: str, *values: str) -> list[tuple]:
    return list(database.execute_sql(sql, values).fetchall())


def _by_first(rows: Iterable[tuple], make=tuple) -> dict[str, list[Any]]:
    out: dict[str, list[Any]] = defaultdict(list)
    for first, *row in rows:
        out[first].append(make(row) if make is tuple else make(*row))
    return out


def _document(text: str | None) -> Any:
    return None if text is None else json.loads(text)


def _utc(at: datetime) -> datetime:
    return at.replace(tzinfo=UTC)
