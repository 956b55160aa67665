"""Recipes handed from bench to bench: as a JSON file, or as a link whose part after the # holds the whole recipe, so that no server sees it."""

from __future__ import annotations

import base64
import binascii
import json
import zlib
from typing import Any

from pydantic import ValidationError

from ..act import Act
from ..core.recipe.document import from_document
from ..core.recipe.model import Recipe as CoreRecipe
from ..core.recipe.writing import write
from ..refusals import Unprocessable
from ..store.models import Recipe, RecipeVersion
from ..store.writing import use_case
from . import documents, service
from . import schemas as s

FORMAT, VERSION = "brass-penny-recipes", 1
MARK = "#r="
MOST_UNPACKED = 2_000_000


def as_file(ids: list[str]) -> str:
    """The newest versions as one JSON document; of all recipes where none is named."""
    rows = Recipe.select(Recipe.name, RecipeVersion.document).join(RecipeVersion, on=(RecipeVersion.id == Recipe.version_id)).where(Recipe.deleted_at.is_null())
    if ids:
        rows = rows.where(Recipe.id.in_(ids))
    handed = [_plain(name, document) for name, document in rows.order_by(Recipe.name, Recipe.id).tuples()]
    return json.dumps({"format": FORMAT, "version": VERSION, "recipes": handed}, indent=1, ensure_ascii=False)


def link(recipe_id: str, base: str) -> str:
    """An address of this bench that holds the recipe; pasted into another it opens there."""
    recipe = service.open_recipe(recipe_id)
    handed = {"format": FORMAT, "version": VERSION, "recipes": [_plain(recipe.name, service.open_version(recipe, None).document)]}
    packed = zlib.compress(json.dumps(handed, ensure_ascii=False, separators=(",", ":")).encode(), 9)
    return f"{base}/recipes/handed{MARK}{base64.urlsafe_b64encode(packed).decode().rstrip('=')}"


def _plain(name: str, document: dict[str, Any]) -> dict[str, Any]:
    """Without what is this bench's alone: its dials."""
    shown = documents.document_of(from_document(document)).model_dump(mode="json", exclude_none=True)
    shown["grinds"] = [{**g, "dial_id": ""} for g in shown.get("grinds", [])]
    return {"name": name, "document": {k: v for k, v in shown.items() if v not in ("", [], None)}}


def read(text: str) -> list[tuple[str, CoreRecipe]]:
    """Names and recipes of a file's text, a link, or the part of one after the mark. Raises Unprocessable."""
    raw = _unpacked(text.rsplit(MARK, 1)[1]) if MARK in text else text
    try:
        handed = json.loads(raw)
    except (ValueError, RecursionError):
        raise Unprocessable("text", "There is no recipe in it.", "Paste a recipe's link whole, or choose a file of recipes.") from None
    if not isinstance(handed, dict) or handed.get("format") != FORMAT or not isinstance(handed.get("recipes"), list):
        raise Unprocessable("text", "This is no file of recipes.", "Choose one that a bench has written.")
    if handed.get("version", 0) != VERSION:
        raise Unprocessable("text", "A newer program wrote this.", "Bring this one up to date, then read it in.")
    return [_recipe(each, i) for i, each in enumerate(handed["recipes"][: s.MOST_HANDED], start=1)]


def _unpacked(code: str) -> str:
    tidy = "".join(code.split())
    try:
        packed = base64.urlsafe_b64decode(tidy + "=" * (-len(tidy) % 4))
        worked = zlib.decompressobj()
        raw = worked.decompress(packed, MOST_UNPACKED)
        if worked.unconsumed_tail or not worked.eof:
            raise ValueError
        return raw.decode()
    except (binascii.Error, zlib.error, ValueError):
        raise Unprocessable("text", "The link is not whole.", "Copy all of it, to the last letter.") from None


def _recipe(each: Any, number: int) -> tuple[str, CoreRecipe]:
    try:
        body = s.RecipeBody.model_validate({"name": each["name"], "document": each["document"]})
    except (KeyError, TypeError, ValidationError):
        raise Unprocessable("text", f"Recipe {number} in it is not one.", "Ask for it again, or paste its text.") from None
    return body.name, documents.core_recipe(body.document)


def look(sent: s.HandedBody) -> s.HandedAnswer:
    here = _here()
    found = [s.HandedShown(name=name, text=write(core), here=(name.casefold(), write(core)) in here) for name, core in read(sent.text)]
    return s.HandedAnswer(recipes=found)


@use_case
def bring_in(sent: s.HandedBody, act: Act) -> s.HandedAnswer:
    """Those that are not here yet under the same name with the same steps."""
    here, found = _here(), []
    for name, core in read(sent.text):
        known = (name.casefold(), write(core)) in here
        if not known:
            service.add_recipe(s.RecipeBody(name=name, document=documents.document_of(core)), act)
            here.add((name.casefold(), write(core)))
        found.append(s.HandedShown(name=name, text=write(core), here=known))
    return s.HandedAnswer(recipes=found)


def _here() -> set[tuple[str, str]]:
    rows = Recipe.select(Recipe.name, RecipeVersion.document).join(RecipeVersion, on=(RecipeVersion.recipe == Recipe.id)).where(Recipe.deleted_at.is_null())
    return {(name.casefold(), write(from_document(_without_dials(document)))) for name, document in rows.tuples()}


def _without_dials(document: dict[str, Any]) -> dict[str, Any]:
    return {**document, "grinds": [{**g, "dial_id": ""} for g in document.get("grinds") or []]} if document.get("grinds") else document
