"""Recipes: every save is a new version, and a version never changes."""

from __future__ import annotations

from ..act import Act
from ..core.recipe import changes, model, reading, scaling
from ..core.recipe.document import from_document
from ..core.recipe.lint import blocks_a_run, lint
from ..core.recipe.outlook import is_concentrate
from ..core.recipe.starters import STARTERS
from ..history import service as history
from ..kit import service as kit
from ..refusals import NotFound, Unprocessable
from ..store import queries
from ..store.load_trial import load_dials
from ..store.models import Recipe, RecipeVersion, SetupRevision
from ..store.writing import use_case
from . import documents
from . import schemas as s


def open_recipe(recipe_id: str) -> Recipe:
    recipe = Recipe.get_or_none((Recipe.id == recipe_id) & Recipe.deleted_at.is_null())
    if recipe is None:
        raise NotFound("recipe")
    return recipe


def open_version(recipe: Recipe, number: int | None) -> RecipeVersion:
    wanted = RecipeVersion.id == recipe.version_id if number is None else RecipeVersion.number == number
    version = RecipeVersion.get_or_none((RecipeVersion.recipe == recipe.id) & wanted)
    if version is None:
        raise NotFound("version of this recipe")
    return version


def brewable_version(version_id: str) -> RecipeVersion:
    """The version, refused while it is a draft: errors are checked afresh, for the place may have changed. Raises Unprocessable, NotFound."""
    version = RecipeVersion.get_or_none(RecipeVersion.id == version_id)
    if version is None:
        raise NotFound("version of a recipe")
    found = lint(from_document(version.document), documents.surroundings(from_document(version.document))[0])
    if blocks_a_run(found):
        first = found[0]
        raise Unprocessable("version_id", f"Version {version.number} is a draft: {first.text}", "Mend it in the recipes room first.")
    return version


# --- writing ---------------------------------------------------------------------------------------------------------


@use_case
def add_recipe(sent: s.RecipeBody, act: Act) -> s.RecipeAnswer:
    recipe = Recipe(id=act.new_id(), name=sent.name, created_at=act.now, created_by=act.who)
    history.add(recipe, act=act, trial_id=None)
    version = _insert(recipe, documents.linked(documents.core_recipe(sent.document)), sent.note, act)
    Recipe.update(version_id=version.id).where(Recipe.id == recipe.id).execute()
    return read_recipe(recipe.id, None)


@use_case
def add_version(recipe_id: str, sent: s.VersionBody, rev: int, act: Act) -> s.RecipeAnswer:
    """A new version when anything differs from the newest; `rev` guards against two people writing one at once."""
    recipe = open_recipe(recipe_id)
    keep_version(recipe, documents.linked(documents.core_recipe(sent.document)), sent.note, rev, act)
    return read_recipe(recipe.id, None)


def keep_version(recipe: Recipe, core: model.Recipe, note: str, rev: int, act: Act) -> str:
    """Inside the caller's transaction; the newest version's id, a new one where anything differs."""
    newest = open_version(recipe, None)
    if from_document(newest.document) == core:
        return newest.id
    made = _insert(recipe, core, note, act).id
    history.edit(recipe, {"version_id": made}, rev=rev, act=act, trial_id=None)
    return made


def _insert(recipe: Recipe, core: model.Recipe, note: str, act: Act) -> RecipeVersion:
    found = lint(core, documents.surroundings(core)[0])
    number = RecipeVersion.select().where(RecipeVersion.recipe == recipe.id).count() + 1
    return RecipeVersion.create(
        id=act.new_id(),
        recipe=recipe.id,
        number=number,
        document=documents.document_of(core).model_dump(exclude_unset=True),
        errors=sum(f.severity == "error" for f in found),
        note=note,
        created_at=act.now,
        created_by=act.who,
    )


@use_case
def rename_recipe(recipe_id: str, sent: s.RecipePatch, rev: int, act: Act) -> s.RecipeAnswer:
    recipe = open_recipe(recipe_id)
    history.edit(recipe, {"name": sent.name}, rev=rev, act=act, trial_id=None)
    return read_recipe(recipe.id, None)


@use_case
def remove_recipe(recipe_id: str, act: Act) -> str:
    """Soft: setups keep their own copy of the steps."""
    return history.remove(open_recipe(recipe_id), act=act, trial_id=None)


# --- reading ---------------------------------------------------------------------------------------------------------


def all_recipes() -> s.RecipesAnswer:
    rows = (
        Recipe.select(Recipe, RecipeVersion)
        .join(RecipeVersion, on=(RecipeVersion.id == Recipe.version_id), attr="version")
        .where(Recipe.deleted_at.is_null())
        .order_by(Recipe.name)
    )
    older = _older()
    return s.RecipesAnswer(recipes=[_listed(r, r.version, [v for v in older.get(r.id, []) if v.id != r.version_id]) for r in rows])


def _older() -> dict[str, list[s.OlderVersion]]:
    """Recipe → its versions without errors, newest first."""
    out: dict[str, list[s.OlderVersion]] = {}
    rows = RecipeVersion.select(RecipeVersion.recipe, RecipeVersion.id, RecipeVersion.number).where(RecipeVersion.errors == 0)
    for recipe_id, version_id, number in rows.order_by(RecipeVersion.number.desc()).tuples():
        out.setdefault(recipe_id, []).append(s.OlderVersion(id=version_id, number=number))
    return out


def last_brewed(recipe_id: str) -> s.LastBrewedAnswer:
    """The kit a recipe was brewed with last, to begin the next brew with; never brewed, the first of its own settings."""
    recipe = open_recipe(recipe_id)
    newest = (
        SetupRevision.select()
        .join(RecipeVersion, on=(RecipeVersion.id == SetupRevision.recipe_version_id))
        .where(RecipeVersion.recipe == recipe.id)
        .order_by(SetupRevision.created_at.desc(), SetupRevision.id)
        .first()
    )
    if newest:
        return s.LastBrewedAnswer(**{name: getattr(newest, name) for name in s.LastBrewedAnswer.model_fields})
    core, dials = from_document(open_version(recipe, None).document), load_dials()
    given = next(((dial, g.setting) for g in core.grinds if (dial := dials.current(g.dial_id))), None)
    return s.LastBrewedAnswer(grinder=dials.names[given[0]], grind_setting=given[1]) if given else s.LastBrewedAnswer()


def _listed(recipe: Recipe, version: RecipeVersion, older: list[s.OlderVersion]) -> s.RecipeListed:
    core = from_document(version.document)
    total = model.sums(core)
    return s.RecipeListed(
        id=recipe.id,
        name=recipe.name,
        rev=recipe.rev,
        version_id=version.id,
        version=version.number,
        draft=version.errors > 0,
        dose_g=core.dose_g,
        water_g=total.water_g,
        brew_ratio=total.brew_ratio,
        temperature_c=core.temperature_c,
        total_s=total.total_s,
        brewer_type=core.brewer_type,
        brewer_label=documents.brewer_words(core),
        concentrate=is_concentrate(core),
        pours=[t.to_g for t in model.timeline(core) if t.step.kind in model.ON_COFFEE and t.to_g],
        older=older,
    )


def read_recipe(recipe_id: str, number: int | None) -> s.RecipeAnswer:
    recipe = open_recipe(recipe_id)
    version = open_version(recipe, number)
    core = from_document(version.document)
    return s.RecipeAnswer(
        id=recipe.id,
        name=recipe.name,
        rev=recipe.rev,
        version=version.number,
        document=documents.document_of(core),
        checked=documents.checked(core, *documents.surroundings(core)),
        versions=_versions(recipe),
    )


def _versions(recipe: Recipe) -> list[s.VersionListed]:
    rows = list(RecipeVersion.select().where(RecipeVersion.recipe == recipe.id).order_by(RecipeVersion.number))
    used = queries.setups_by_recipe_version([r.id for r in rows])
    out, before = [], None
    for row in rows:
        core = from_document(row.document)
        said = changes.in_words(changes.differences(before, core)) if before else "first version"
        out.append(
            s.VersionListed(id=row.id, number=row.number, note=row.note, errors=row.errors, created_at=row.created_at, changes=said, setups=used.get(row.id, 0))
        )
        before = core
    return out[::-1]


def read_text(sent: s.ReadBody) -> s.ReadAnswer:
    found = reading.read(sent.text)

    def shape(spans):
        return [s.SpanAnswer(start=x.start, end=x.end, text=x.text, meaning=x.meaning) for x in spans]

    return s.ReadAnswer(document=documents.document_of(found.recipe), understood=shape(found.understood), not_understood=shape(found.not_understood))


def scale(sent: s.ScaleBody) -> s.ScaledAnswer:
    core = documents.core_recipe(sent.document)
    item = kit.item_named("brewer", sent.brewer) if sent.brewer else None
    facts = item.facts if item else {}
    low, high = facts.get("dose_low_g"), facts.get("dose_high_g")
    around = documents.surroundings(core, brewer=sent.brewer)[1]
    found = scaling.scale(
        core,
        dose_g=sent.dose_g,
        cups=sent.cups,
        cup_g=sent.cup_g,
        vessel_ml=sent.vessel_ml,
        retained_water_ratio=around.retained_water_ratio if around else scaling.USUAL_RETAINED,
        dose_range_g=(low, high) if low and high else None,
        volume_ml=facts.get("volume_ml"),
        round_to_g=sent.round_to_g,
    )
    return s.ScaledAnswer(document=documents.document_of(found.recipe), warnings=list(found.warnings))


def starters() -> s.StartersAnswer:
    return s.StartersAnswer(
        starters=[s.StarterAnswer(code=x.code, name=x.name, about=x.about, text=x.text, document=documents.document_of(x.recipe)) for x in STARTERS],
        step_labels=dict(model.STEP_LABELS),
    )


def diff(sent: s.DiffBody) -> s.DiffAnswer:
    found = changes.differences(documents.core_recipe(sent.before), documents.core_recipe(sent.after))
    return s.DiffAnswer(headline=changes.in_words(found), changes=[s.ChangeShown(what=c.what, before=c.before, after=c.after) for c in found])
