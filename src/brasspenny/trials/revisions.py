"""What a setup is made of, from one revision to the next: a revision is never changed, brews point at the one they were brewed to."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

from ..act import Act
from ..core import figures
from ..core.errors import PennyError
from ..core.recipe.document import from_document, to_document
from ..core.recipe.fitting import fitted
from ..core.recipe.model import SLACK_G, is_whole_water, sums
from ..core.recipe.pours import pours_as_recipe
from ..core.recipe.writing import pattern
from ..core.trial.setups import VARIABLE_NAMES
from ..kit import service as kit
from ..recipes import service as recipes
from ..refusals import Unprocessable
from ..store.models import KitItem, Setup, SetupRevision, UsedKit

AMOUNTS = ("dose_g", "brew_water_g", "bypass_g", "temperature_c")


def blank() -> dict[str, Any]:
    return dict.fromkeys(VARIABLE_NAMES, "") | {"brewer_type": None, "temperature_c": None, "dose_g": None, "brew_water_g": None, "bypass_g": 0.0}


def variables_of(revision: SetupRevision) -> dict[str, Any]:
    return {name: getattr(revision, name) for name in VARIABLE_NAMES}


def current(setup: Setup) -> SetupRevision:
    return SetupRevision.get_by_id(setup.revision_id)


@dataclass(frozen=True)
class State:
    """What a revision holds: the variables, and the recipe's steps if it brews to one."""

    variables: dict[str, Any]
    recipe_version_id: str | None = None
    recipe: dict[str, Any] | None = None

    @classmethod
    def of(cls, revision: SetupRevision) -> State:
        return cls(variables_of(revision), revision.recipe_version_id, revision.recipe)

    def changed(self, changes: dict[str, Any]) -> State:
        """Amounts bend the recipe's steps; pours typed by hand take their place."""
        after = replace(self, variables=_changed(self.variables, changes))
        if "brew_water_g" in changes:
            after._refuse_bypass_twice(changes["brew_water_g"])
        if changes.get("pours", self.variables["pours"]) != self.variables["pours"]:
            return replace(after, recipe=_poured_as(after.variables), recipe_version_id=None)
        if self.recipe is None:
            return after
        same = all(changes.get(name, self.variables[name]) == self.variables[name] for name in AMOUNTS)
        if same or any(after.variables[name] is None for name in ("dose_g", "brew_water_g")):
            return after
        return after._bent()

    def _refuse_bypass_twice(self, brew_water_g: float | None) -> None:
        """The recipe's whole water, typed as brew water beside the bypass that is in it already."""
        total = sums(from_document(self.recipe)) if self.recipe else None
        if (
            brew_water_g is not None
            and total is not None
            and is_whole_water(total, brew_water_g)
            and abs(self.variables["bypass_g"] - total.bypass_g) <= SLACK_G
        ):
            water, bypass, poured = (figures.grams(x) for x in (total.water_g, total.bypass_g, total.poured_g))
            raise Unprocessable(
                "variables.brew_water_g",
                f"{water} g is all the water of this recipe, its {bypass} g of bypass included.",
                f"Give {poured} g: brew water is what meets the coffee.",
            )

    def _bent(self) -> State:
        amounts = {name: self.variables[name] for name in AMOUNTS}
        recipe = fitted(from_document(self.recipe), **amounts)
        return replace(self, recipe=to_document(recipe), variables=self.variables | {"pours": pattern(recipe)[:300]})


def _poured_as(variables: dict[str, Any]) -> dict[str, Any] | None:
    """Typed pours as a recipe's document; refused at their field."""
    try:
        recipe = pours_as_recipe(variables["pours"], variables)
    except PennyError as error:
        raise error.at(f"variables.{error.field}") from None
    return to_document(recipe) if recipe else None


def to_recipe(state: State, version_id: str) -> State:
    """The version's amounts and steps; what a recipe does not say (coffee, grinder, …) stays. A draft is refused."""
    version = recipes.brewable_version(version_id)
    recipe = from_document(version.document)
    total = sums(recipe)
    if not total.poured_g:
        raise Unprocessable("recipe_version_id", "This recipe does not say how much water it takes.", "Give its pours before it is put in a run.")
    said = {"dose_g": recipe.dose_g, "brew_water_g": round(total.poured_g, 3), "bypass_g": round(total.bypass_g, 3), "pours": pattern(recipe)[:300]}
    if recipe.temperature_c:
        said["temperature_c"] = recipe.temperature_c
    # A recipe's words for filter and water are a link only where they name a piece of kit; else they stay words in the recipe.
    said |= {kind: text for kind, text in (("filter", recipe.filter), ("water", recipe.water)) if text and kit.item_named(kind, text)}
    if recipe.brewer_type and not state.variables["brewer"]:
        said["brewer_type"] = recipe.brewer_type
    return State(state.variables | said, version.id, version.document)


def new_revision(
    setup: Setup,
    changes: dict[str, Any],
    act: Act,
    *,
    recipe_version_id: str | None = None,
    steps: dict[str, Any] | None = None,
    new_kit: Sequence[str] = (),
) -> dict[str, Any]:
    """The setup's new revision_id when anything differs: a revision is never changed, runs point at the one they brewed. steps: of another
    setup, bent to this one's amounts."""
    before = State.of(current(setup))
    if steps is not None:
        after = replace(before, recipe=steps)._bent()
    else:
        after = (to_recipe(before, recipe_version_id) if recipe_version_id else before).changed(changes)
    if after == before:
        return {}
    return {"revision_id": insert_revision(setup, after, act, new_kit).id}


def _changed(before: dict[str, Any], changes: dict[str, Any]) -> dict[str, Any]:
    """Another brewer does not keep the old one's kind: its own comes with it, or from the kit."""
    if "brewer" in changes and "brewer_type" not in changes and changes["brewer"] != before["brewer"]:
        changes = {**changes, "brewer_type": None}
    return before | changes


def revise(setup: Setup, state: State, act: Act, new_kit: Sequence[str] = ()) -> None:
    revision = insert_revision(setup, state, act, new_kit)
    Setup.update(revision_id=revision.id).where(Setup.id == setup.id).execute()


def insert_revision(setup: Setup, state: State, act: Act, new_kit: Sequence[str] = ()) -> SetupRevision:
    for name in ("dose_g", "brew_water_g"):
        if state.variables[name] is None:
            raise Unprocessable(f"variables.{name}", "A setup needs its dose and its brew water.", "Give both, in g.")
    variables, used = kit.remember(state.variables, new_kit, act)
    return _insert(setup, replace(state, variables=variables), kit.snapshot(used), act)


def with_kit_of_now(setup: Setup, revision: SetupRevision, item: KitItem, act: Act) -> SetupRevision:
    """The same setup, knowing one piece of its kit as the kit has it today; the others stay as they were."""
    known = {part: x | {"facts": item.facts} if x["id"] == item.id else x for part, x in (revision.kit or {}).items()}
    return _insert(setup, State.of(revision), known, act)


def _insert(setup: Setup, state: State, known: dict[str, Any], act: Act) -> SetupRevision:
    """known: the facts of its kit, by part."""
    revision = SetupRevision.create(
        id=act.new_id(),
        setup=setup.id,
        number=SetupRevision.select().where(SetupRevision.setup == setup.id).count() + 1,
        created_at=act.now,
        recipe_version_id=state.recipe_version_id,
        recipe=state.recipe,
        kit=known,
        **state.variables,
    )
    for item_id in {item["id"] for item in known.values()}:
        UsedKit.create(setup_revision=revision.id, kit_item=item_id)
    return revision
