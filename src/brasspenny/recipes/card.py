"""The recipe card: one page to hand to someone else, with settings only where the translator can vouch for them."""

from __future__ import annotations

from dataclasses import replace

from ..core import figures
from ..core.grinding.dials import Dials
from ..core.grinding.settings import MATCH_LABELS
from ..core.recipe.describe import card_lines
from ..core.recipe.document import from_document
from ..core.recipe.model import Recipe
from ..store.load_trial import load_dials
from ..store.models import KitItem
from . import documents, service
from . import schemas as s

COFFEE_FACTS = ("origin", "variety", "process", "roast", "note")


def read_card(recipe_id: str, asked: s.CardQuery) -> s.CardAnswer:
    """Temperatures in the unit asked for: whoever it is handed to may think in another than the bench."""
    told = figures.units()
    with figures.told_in(replace(told, heat=asked.heat or told.heat)):
        return _card(recipe_id, asked)


def _card(recipe_id: str, asked: s.CardQuery) -> s.CardAnswer:
    recipe = service.open_recipe(recipe_id)
    version = service.open_version(recipe, asked.version)
    core = from_document(version.document)
    dials = load_dials()
    coffee = KitItem.get_or_none((KitItem.id == asked.coffee) & (KitItem.kind == "coffee") & KitItem.deleted_at.is_null()) if asked.coffee else None
    settings, not_vouched = _settings(core, asked, dials)
    return s.CardAnswer(
        name=recipe.name,
        version=version.number,
        brewer=documents.brewer_words(core),
        document=documents.document_of(core),
        checked=documents.checked(core, *documents.surroundings(core)),
        lines=[s.CardLineShown(at_s=line.at_s, text=line.text, steps=list(line.steps)) for line in card_lines(core)],
        settings=settings,
        not_vouched=not_vouched,
        not_linked=[s.GrindSettingDocument(**vars(g)) for g in core.grinds if not dials.current(g.dial_id)],
        water=core.water,
        heat="" if core.temperature_c is None else figures.heat(core.temperature_c),
        coffee=coffee.name if coffee else "",
        coffee_words=_words(coffee) if coffee else "",
    )


def _words(coffee: KitItem) -> str:
    """What the kit knows of a coffee, in one line, and its own note."""
    return " · ".join(str(coffee.facts[name]).replace("_", " ") for name in COFFEE_FACTS if coffee.facts.get(name))


def _settings(recipe: Recipe, asked: s.CardQuery, dials: Dials) -> tuple[list[s.CardSetting], list[str]]:
    """The settings given, and every other dial's that matched pairs lead to: by the narrowest way, where there are several."""
    given = [(asked.dial_id, asked.setting)] if asked.dial_id else [(g.dial_id, g.setting) for g in recipe.grinds]
    given = [(now, text) for i, text in given if (now := dials.current(i)) and text]
    out = [s.CardSetting(dial_id=i, grinder=dials.names[i], setting=text, spread="", matches=[]) for i, text in given]
    missing = []
    for other in sorted(set(dials.sides) - {i for i, _ in given}, key=dials.names.get):
        ways = [way for i, text in given if (way := dials.carried(text, i, other)).matches]
        if not ways:
            missing.append(dials.names[other])
            continue
        best = min(ways, key=lambda way: way.width)
        matches = [MATCH_LABELS[k] for k in best.matches]
        out.append(s.CardSetting(dial_id=other, grinder=dials.names[other], setting=best.setting, spread=best.span, matches=matches))
    return out, missing
