"""The recipe card: one page to hand to someone else, with settings only where the translator can vouch for them."""

from __future__ import annotations

import re

from ..core.errors import PennyError
from ..core.grinding.settings import MATCH_LABELS
from ..core.recipe.document import from_document
from ..kit.settings import Matches
from . import documents, service
from . import schemas as s

NUMBER = re.compile(r"-?\d{1,4}(?:\.\d{1,3})?")


def read_card(recipe_id: str, asked: s.CardQuery) -> s.CardAnswer:
    recipe = service.open_recipe(recipe_id)
    version = service.open_version(recipe, asked.version)
    core = from_document(version.document)
    settings, not_vouched = _settings(core.grind, asked)
    return s.CardAnswer(
        name=recipe.name,
        version=version.number,
        brewer=documents.brewer_words(core),
        document=documents.document_of(core),
        checked=documents.checked(core, *documents.surroundings(core)),
        settings=settings,
        not_vouched=not_vouched,
        water=core.water,
    )


def _settings(grind: str, asked: s.CardQuery) -> tuple[list[s.CardSetting], list[str]]:
    """The known grinder's own setting, and every other grinder's that matched pairs lead to."""
    matches = Matches()
    name, setting = asked.grinder, asked.setting
    if not name:  # a recipe may say "Tidewheel · flat steel 5.8" itself
        name = next((n for n in matches.scales if n in grind), "")
        found = NUMBER.findall(grind.replace(name, "")) if name else []
        setting = float(found[-1]) if found else None
    if name not in matches.scales or setting is None:
        return [], sorted(matches.scales)
    out, missing = [s.CardSetting(grinder=name, setting=f"{setting:g}", spread="", matches=[])], []
    for other in sorted(matches.scales):
        if other == name:
            continue
        try:
            t = matches.translate(setting, name, other)
        except PennyError:
            missing.append(other)
            continue
        spread = f"{t.low:.3g} to {t.high:.3g}"
        out.append(s.CardSetting(grinder=other, setting=f"{t.nearest:g}", spread=spread, matches=[MATCH_LABELS[k] for k in t.matches]))
    return out, missing
