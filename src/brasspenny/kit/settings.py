"""Matched settings, and translating a setting from one grinder and burr set to another; blending waters of the kit."""

from __future__ import annotations

from ..act import Act
from ..core.errors import PennyError
from ..core.grinding.settings import MATCH_LABELS, GrinderScale, Translated, contradictions
from ..core.kit import waters
from ..core.vocabulary import MATCH_KINDS
from ..history import service as history
from ..refusals import Conflict, NotFound, Unprocessable
from ..store.load_trial import load_dials
from ..store.models import MatchedSetting
from ..store.writing import use_case
from . import schemas as s
from . import service

MOST_FAULTS_SHOWN = 20
SAMPLED = frozenset(m.code for m in MATCH_KINDS if m.sampled)
"""Kinds of match that samples must stand behind."""


def read_settings() -> s.SettingsAnswer:
    m = load_dials()
    faults = contradictions(m.pairs, m.scales)
    rows = list(MatchedSetting.select().where(MatchedSetting.deleted_at.is_null()).order_by(MatchedSetting.created_at, MatchedSetting.id))
    at_fault = {p.id for fault in faults for p in fault.pairs}
    by_name: dict[str, set[float]] = {name: set() for name in m.scales}
    for p in m.pairs:
        by_name[p.a].add(p.a_setting)
        by_name[p.b].add(p.b_setting)
    return s.SettingsAnswer(
        scales=[_shape_scale(item_id, m.scales[m.names[item_id]], sorted(by_name[m.names[item_id]])) for item_id in m.sides],
        pairs=[_shape_pair(row, m.names, row.id in at_fault) for row in rows],
        said=[s.SaidAnswer(recipe=recipe, text=pair.words()) for recipe, pair in m.said_pairs],
        faults=[f.reason for f in faults[:MOST_FAULTS_SHOWN]],
        match_kinds=dict(MATCH_LABELS),
    )


def _shape_scale(item_id: str, scale: GrinderScale, matched: list[float]) -> s.GrinderScaleAnswer:
    return s.GrinderScaleAnswer(
        id=item_id, name=scale.name, scale=scale.kind, direction=scale.direction, step=scale.grain, finest=scale.finest, matched=matched
    )


def _shape_pair(row: MatchedSetting, names: dict[str, str], at_fault: bool) -> s.PairAnswer:
    return s.PairAnswer(
        id=row.id,
        a_id=row.a_id,
        a_name=names.get(row.a_id, "?"),
        a_setting=row.a_setting,
        b_id=row.b_id,
        b_name=names.get(row.b_id, "?"),
        b_setting=row.b_setting,
        match=row.match_kind,
        match_label=MATCH_LABELS[row.match_kind],
        matched_on=row.matched_on,
        note=row.note,
        samples=len(row.rests_on["a"]) + len(row.rests_on["b"]) if row.rests_on else 0,
        rev=row.rev,
        at_fault=at_fault,
    )


@use_case
def add_pair(sent: s.PairBody, act: Act) -> s.SettingsAnswer:
    if sent.match in SAMPLED:
        raise Unprocessable("match", "A match by sieve median is made from two samples.", "Make it in the Grind room, or choose how it was matched.")
    row = MatchedSetting(id=act.new_id(), created_at=act.now, **_columns(sent))
    history.add(row, act=act, trial_id=None)
    return read_settings()


@use_case
def edit_pair(pair_id: str, sent: s.PairBody, rev: int, act: Act) -> s.SettingsAnswer:
    row, values = _open_pair(pair_id), _columns(sent)
    here = (row.a_id, row.a_setting, row.b_id, row.b_setting, row.match_kind)
    if row.rests_on and here != (values["a"], values["a_setting"], values["b"], values["b_setting"], values["match_kind"]):
        raise Conflict("", "Sieve samples stand behind this match.", "Take it out, and make it again from other samples in the Grind room.")
    if sent.match in SAMPLED and row.match_kind not in SAMPLED:
        raise Unprocessable("match", "A match by sieve median is made from two samples.", "Make it in the Grind room, or choose how it was matched.")
    history.edit(row, values, rev=rev, act=act, trial_id=None)
    return read_settings()


@use_case
def remove_pair(pair_id: str, act: Act) -> str:
    return history.remove(_open_pair(pair_id), act=act, trial_id=None)


def _open_pair(pair_id: str) -> MatchedSetting:
    row = MatchedSetting.get_or_none((MatchedSetting.id == pair_id) & MatchedSetting.deleted_at.is_null())
    if row is None:
        raise NotFound("matched setting")
    return row


def _columns(sent: s.PairBody) -> dict:
    sides = load_dials().sides
    for field, value in (("a_id", sent.a_id), ("b_id", sent.b_id)):
        if value not in sides:
            raise Unprocessable(field, "That is not a grinder with its burrs.", "Choose a burr set, or a grinder that has none.")
    if sent.a_id == sent.b_id:
        raise Unprocessable("b_id", "A grinder matches itself.", "Choose another grinder or burr set.")
    return {
        "a": sent.a_id,
        "a_setting": round(sent.a_setting, 3),
        "b": sent.b_id,
        "b_setting": round(sent.b_setting, 3),
        "match_kind": sent.match,
        "matched_on": sent.matched_on,
        "note": sent.note,
    }


def translate_setting(sent: s.TranslateBody) -> s.TranslationAnswer:
    m = load_dials()
    for field, value in (("from_id", sent.from_id), ("to_id", sent.to_id)):
        if value not in m.sides:
            raise Unprocessable(field, "That is not a grinder with its burrs.", "Choose a burr set, or a grinder that has none.")
    return shape_translation(m.translate(sent.setting, sent.from_id, sent.to_id))


def shape_translation(t: Translated) -> s.TranslationAnswer:
    return s.TranslationAnswer(
        setting=t.setting,
        nearest=t.nearest,
        low=t.low,
        high=t.high,
        matches=[MATCH_LABELS[k] for k in t.matches],
        through=t.through,
        evidence=[p.words() for p in t.evidence],
        warnings=list(t.warnings),
    )


def blend_waters(sent: s.BlendBody) -> s.BlendAnswer:
    first, second = (_water(field, item_id) for field, item_id in (("first_id", sent.first_id), ("second_id", sent.second_id)))
    target = {q: getattr(sent, q) for q in waters.QUALITIES}
    try:
        found = waters.blend(first, second, target)
    except PennyError as error:
        raise error.at(_as_sent(error.field)) from error
    return s.BlendAnswer(first_share=found.first_share, got=found.got, off=found.off, reached=found.reached, notes=list(found.notes))


def _as_sent(field: str) -> str:
    """The core speaks of first, second and target; what was sent are ids and the target's own qualities."""
    side, _, quality = field.partition(".")
    return {"first": "first_id", "second": "second_id"}.get(side, quality or next(iter(waters.QUALITIES)))


def _water(field: str, item_id: str) -> dict:
    item = service.open_item(item_id)
    if item.kind != "water":
        raise Unprocessable(field, "That is not a water.", "Choose a water of the kit.")
    return item.facts
