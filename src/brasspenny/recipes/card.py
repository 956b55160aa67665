"""The recipe card: one page to hand to someone else, with settings only where the translator can vouch for them."""

from __future__ import annotations

import re
from collections.abc import Iterable

from ..core.errors import PennyError
from ..core.grinding.settings import MATCH_LABELS
from ..core.recipe.document import from_document
from ..store.frozen import load_dials
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
    dials = load_dials()
    by_name = {name: i for i, name in dials.names.items() if i in dials.sides}
    name, setting = asked.grinder, asked.setting
    if not name:  # a recipe may say "Tidewheel · flat steel 5.8" itself
        name = named_in(grind, by_name)
        found = NUMBER.findall(grind.replace(name, "")) if name else []
        setting = float(found[-1]) if found else None
    if name not in by_name or setting is None:
        return [], sorted(by_name)
    out, missing = [s.CardSetting(grinder=name, setting=f"{setting:g}", spread="", matches=[])], []
    for other in sorted(by_name):
        if other == name:
            continue
        try:
            t = dials.translate(setting, by_name[name], by_name[other])
        except PennyError:
            missing.append(other)
            continue
        spread = f"{t.low:.3g} to {t.high:.3g}"
        out.append(s.CardSetting(grinder=other, setting=f"{t.nearest:g}", spread=spread, matches=[MATCH_LABELS[k] for k in t.matches]))
    return out, missing


def named_in(text: str, names: Iterable[str]) -> str:
    """The one dial a recipe's words name whole: "Tide" is not named by "Tidewheel". '' when none is, or several are.

    >>> named_in("Tidewheel 5.8", ["Tide", "Tidewheel"]), named_in("mill 3", ["Tide"])
    ('Tidewheel', '')
    """
    said = [name for name in names if re.search(rf"(?<!\w){re.escape(name)}(?!\w)", text)]
    whole = [name for name in said if not any(name != other and name in other for other in said)]
    return whole[0] if len(whole) == 1 else ""
