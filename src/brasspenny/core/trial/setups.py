"""What the setups of a trial are called and show: values as the control bars show them, names, the bars, the yield basis in force."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from .. import figures
from ..extraction.yields import BREWER_LABELS, yield_basis_of
from ..grinding.dials import dial_id
from ..planning.control import FACTOR_LABELS, MATCHING_LABELS, TESTED_FIELD, Bar, brew_ratio_shown, control_bars
from ..recipe.document import from_document
from ..recipe.fitting import plain_pour
from ..recipe.model import Recipe
from ..recipe.writing import pattern, same_pours
from ..vocabulary import FACTS_OF_NOW, KITS, VARIABLES, Factor, KitFact, YieldBasis
from .value import Declared, Setup, SetupRevision, Trial

VARIABLE_NAMES: tuple[str, ...] = (
    "coffee", "grinder", "grind_setting", "filter", "brewer", "brewer_type", "water", "temperature_c", "dose_g", "brew_water_g", "bypass_g", "pours", "other",
)  # fmt: skip
"""What a setup is made of, as columns."""

Rows = Sequence[tuple[Setup, SetupRevision]]


def shown_values(revision: SetupRevision) -> dict[str, str]:
    """Each variable of a setup as the bars show it; '' when it is not given."""
    values = {name: _number_or_text(getattr(revision, name)) for name in VARIABLE_NAMES if name != "brewer_type"}
    if revision.brewer_type:
        values["brewer"] = f"{revision.brewer} · {BREWER_LABELS[revision.brewer_type]}" if revision.brewer else BREWER_LABELS[revision.brewer_type]
    if values["bypass_g"] == "0":
        values["bypass_g"] = ""
    values["brew_ratio"] = brew_ratio_shown(revision.dose_g, revision.brew_water_g, revision.bypass_g)
    return values


def _number_or_text(value: Any) -> str:
    return "" if value is None else f"{value:g}" if isinstance(value, float) else str(value)


LONGEST_NAME = 80


def display_names(factors: Iterable[Factor], rows: Rows) -> dict[str, str]:
    """Setup id → the name to show: as given, else the tested values, else its letter. Short enough for a line or two beside a coin."""
    fields = [TESTED_FIELD[f] for f in factors]
    units = {v.field: v.unit for v in VARIABLES}
    out = {}
    for setup, revision in rows:
        shown = shown_values(revision) | {"brewer": revision.brewer}
        values = (figures.with_unit(shown.get(f, ""), units.get(f, "")) for f in fields)
        said = " · ".join(v for v in values if v)
        out[setup.id] = setup.name or (f"{said[: LONGEST_NAME - 1].rstrip()}…" if len(said) > LONGEST_NAME else said) or f"Setup {setup.letter}"
    return out


def held_in_all(rows: Rows) -> dict[str, Any]:
    """The variables that every setup of a trial has alike and that say something."""
    if not rows:
        return {}
    first, *others = [revision for _, revision in rows]
    values = {name: getattr(first, name) for name in VARIABLE_NAMES}
    return {name: value for name, value in values.items() if value and all(getattr(other, name) == value for other in others)}


def factor_words(factors: Iterable[Factor], factor_other: str) -> str:
    """What is asked about, in words: "coffee × grinder"."""
    return " × ".join(factor_other if f == "other" else FACTOR_LABELS[f] for f in factors)


def yield_basis_in_force(chosen: YieldBasis | None, rows: Rows) -> YieldBasis:
    """As chosen, else that of the first setup's brewer, else in-cup."""
    if chosen:
        return chosen
    return next((yield_basis_of(revision.brewer_type) for _, revision in rows if revision.brewer_type), "in_cup")


def bars_of(factors: Sequence[Factor], factor_other: str, declarations: Mapping[str, Declared], rows: Rows) -> tuple[Bar, ...]:
    """The control bars of these setups."""
    if not rows:
        return ()
    return control_bars(
        [setup.letter for setup, _ in rows],
        _comparable([revision for _, revision in rows]),
        factors=factors,
        declared={field: MATCHING_LABELS[d.rule] for field, d in declarations.items()},
        reasons={field: d.reason for field, d in declarations.items()},
        other_label=factor_other,
        apart={"grind_setting": OWN_DIAL} if _on_different_dials([revision for _, revision in rows]) else {},
    )


OWN_DIAL = "each on its own dial"


def _on_different_dials(revisions: Sequence[SetupRevision]) -> bool:
    """A number on one dial says nothing of the same number on another."""
    return any(r.grind_setting for r in revisions) and len({(dial_id(r.kit) or r.grinder).casefold() for r in revisions}) > 1


def _comparable(revisions: Sequence[SetupRevision]) -> list[dict[str, str]]:
    """What the bars hold against each other: pours in the words given while they are the same, else by their shape. Scaled to another
    water the same pours read otherwise, and are still the same pours. A setting is one of its dial: "Shop mill 8"."""
    values = [shown_values(revision) for revision in revisions]
    if _on_different_dials(revisions):
        for own, revision in zip(values, revisions, strict=True):
            own["grind_setting"] = ground_on(revision) if revision.grind_setting else f"{revision.grinder}, no setting yet".lstrip(", ")
    if len({shown["pours"] for shown in values}) == 1:
        return values
    recipes = [from_document(r.recipe) if r.recipe else None for r in revisions]
    for i, mine in enumerate(recipes):
        alike = next((recipe for recipe in recipes[:i] if mine and recipe and same_pours(recipe, mine)), mine)
        values[i] |= {"pours": pattern(alike)} if alike else {}
    return values


def bars_of_trial(trial: Trial) -> tuple[Bar, ...]:
    return bars_of(trial.factors, trial.factor_other, trial.declarations, trial.rows)


def recipe_of(revision: SetupRevision) -> Recipe:
    """What a setup brews to: its recipe's steps, else one plain pour of its amounts."""
    return from_document(revision.recipe) if revision.recipe else plain_pour(revision.dose_g, revision.brew_water_g, revision.bypass_g, revision.temperature_c)


def ground_on(revision: SetupRevision) -> str:
    """Where and how fine it is ground, as it stands wherever coffee is ground: "Shop mill 8"; the recipe's words where no setting is known; '' without either.

    >>> ground_on(SetupRevision("r", "s", 1, "", "Shop mill", "8", "", "", None, "", 93.0, 18.0, 290.0, 0.0, "", "", None, None, None))
    'Shop mill 8'
    """
    if revision.grinder or revision.grind_setting:
        return " ".join(filter(None, (revision.grinder, revision.grind_setting)))
    return recipe_of(revision).grind


def with_facts_of_now(kit: dict[str, Any] | None, now: Mapping[str, Mapping[str, Any]]) -> dict[str, Any] | None:
    """A setup's record of its kit with prices, speeds and notes as they stand today: they are facts of now, and entered late they count at once. All else is a fact of then: what a brew was made
    on. now: facts by id of the item.

    >>> with_facts_of_now({"coffee": {"id": "x", "name": "Peru", "facts": {"roast": "light", "price_per_kg": 20}}}, {"x": {"roast": "dark", "price_per_kg": 24}})
    {'coffee': {'id': 'x', 'name': 'Peru', 'facts': {'roast': 'light', 'price_per_kg': 24}}}
    """
    if not kit:
        return kit
    return {part: item | {"facts": _as_of_now(item["facts"], now[item["id"]])} if item.get("id") in now else item for part, item in kit.items()}


def _as_of_now(then: Mapping[str, Any], now: Mapping[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in then.items() if name not in FACTS_OF_NOW} | {name: value for name, value in now.items() if name in FACTS_OF_NOW}


def facts_changed(kind: str, then: Mapping[str, Any], now: Mapping[str, Any]) -> list[str]:
    """What a setup was made on and the kit says otherwise since; what counts as it stands today is left out, and so are how to care for it, and a
    brewer's kind, which the setup says itself.

    >>> facts_changed("coffee", {"roast": "light", "lot": ""}, {"roast": "medium", "price_per_kg": 20, "lot": "7"})
    ['Lot: not given, now 7', 'Roast: Light, now Medium']
    >>> facts_changed("water", {"hardness_mg_l": 148}, {"hardness_mg_l": 42})
    ['Total hardness: 148 mg/L, now 42 mg/L']
    """
    facts = [f for f in KITS[kind].facts if f.name not in FACTS_OF_NOW and f.name not in ("care", "brewer_type", "grinder_id")]
    return [f"{f.label}: {_fact_shown(f, then)}, now {_fact_shown(f, now)}" for f in facts if _fact_shown(f, then) != _fact_shown(f, now)]


def _fact_shown(fact: KitFact, facts: Mapping[str, Any]) -> str:
    value = facts.get(fact.name, fact.default)
    if value is None or value == "":
        return "not given"
    if fact.form == "yes":
        return "yes" if value else "no"
    if isinstance(value, list):
        return ", ".join(f"{x:g}" for x in value)
    if isinstance(value, int | float):
        return figures.with_unit(f"{value:g}", "" if fact.unit[:1].isdigit() else fact.unit)
    return dict(fact.options).get(value, str(value))


def facts_of(revision: SetupRevision, kind: str) -> dict[str, Any]:
    """The kit's facts as they were when the setup was made; {} when there are none."""
    return ((revision.kit or {}).get(kind) or {}).get("facts", {})


def grinder_facts_of(revision: SetupRevision) -> dict[str, Any]:
    """The grinder's, with what its burrs say over them."""
    return facts_of(revision, "grinder") | {name: value for name, value in facts_of(revision, "burr_set").items() if value is not None}


def grind_rate_of(trial: Trial, revision: SetupRevision) -> float | None:
    """g/s: as its doses were timed, else as somebody entered it."""
    measured = trial.ground.get(dial_id(revision.kit) or "")
    return measured.rate_g_s.value if measured and measured.rate_g_s else grinder_facts_of(revision).get("rate_g_s")


def purge_g_of(trial: Trial, revision: SetupRevision) -> float:
    """Thrown away before a dose: as its doses were weighed, else as somebody entered it."""
    measured = trial.ground.get(dial_id(revision.kit) or "")
    return measured.purge_g if measured and measured.purge_g is not None else grinder_facts_of(revision).get("purge_g") or 0.0


LASTING = ("grinder", "burr_set", "brewer")


def lasting_kit_of(revision: SetupRevision) -> dict[str, float | None]:
    """Name → price of what a setup uses and does not use up; None where it is not known. Burrs without a price of their own came with their grinder."""
    out: dict[str, float | None] = {}
    for kind in LASTING:
        named = (revision.kit or {}).get(kind)
        price = ((named or {}).get("facts") or {}).get("price")
        if named and (price is not None or kind != "burr_set"):
            out[named["name"]] = price
    paper = (revision.kit or {}).get("filter")
    if paper and (paper.get("facts") or {}).get("reusable"):
        out[paper["name"]] = paper["facts"].get("price_each")
    return out
