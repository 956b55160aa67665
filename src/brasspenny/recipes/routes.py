"""Recipes, their versions, and what is worked out from them."""

from __future__ import annotations

import io

import segno
from flask import Response, current_app

from ..http import Done, IdPath, RevHeader, act, blueprint, file_of, reply
from . import card, documents, handing, service
from . import schemas as s

bp = blueprint("recipes", __name__)


@bp.get("/recipes", responses={200: s.RecipesAnswer})
def read_recipes():
    """Every recipe by name, with its newest version in short."""
    return reply(service.all_recipes())


@bp.post("/recipes", responses={201: s.RecipeAnswer})
def add_recipe(body: s.RecipeBody):
    """A new recipe; with errors it is kept as a draft."""
    return reply(service.add_recipe(body, act()), 201)


@bp.get("/recipes-export.json", responses={200: file_of("application/json", "recipes for another bench")})
def export_recipes(query: s.ExportQuery):
    """Recipes as one JSON file for another bench: those named, or all."""
    text = handing.as_file([i for i in query.ids.split(",") if i])
    return Response(text, content_type="application/json", headers={"Content-Disposition": 'attachment; filename="recipes.json"'})


@bp.post("/recipes-handed", responses={200: s.HandedAnswer})
def look_at_handed(body: s.HandedBody):
    """What recipes a file or a link holds; nothing is stored."""
    return reply(handing.look(body))


@bp.post("/recipes-import", responses={200: s.HandedAnswer})
def import_recipes(body: s.HandedBody):
    """Keep the recipes of a file or a link; those that are here already are left as they are."""
    return reply(handing.bring_in(body, act()))


@bp.get("/recipes/<id>/link", responses={200: s.HandedLink})
def read_recipe_link(path: IdPath):
    """A link that holds the whole recipe after its #."""
    return reply(s.HandedLink(link=handing.link(path.id, current_app.config["LINK_BASE"]())))


@bp.get("/recipes/<id>/link.svg", responses={200: file_of("image/svg+xml", "the link as a code for the camera")})
def read_recipe_link_qr(path: IdPath):
    """The same as a QR code."""
    out = io.BytesIO()
    segno.make(handing.link(path.id, current_app.config["LINK_BASE"]()), error="l").save(out, kind="svg", scale=4, border=2)
    return Response(out.getvalue(), mimetype="image/svg+xml")


@bp.get("/recipes/<id>", responses={200: s.RecipeAnswer})
def read_recipe(path: IdPath, query: s.VersionQuery):
    """A recipe: one version's steps with all that is worked out, and the list of its versions."""
    return reply(service.read_recipe(path.id, query.version))


@bp.post("/recipes/<id>/versions", responses={201: s.RecipeAnswer})
def add_recipe_version(path: IdPath, header: RevHeader, body: s.VersionBody):
    """Save: a new version when anything differs."""
    return reply(service.add_version(path.id, body, header.if_match, act()), 201)


@bp.patch("/recipes/<id>", responses={200: s.RecipeAnswer})
def rename_recipe(path: IdPath, header: RevHeader, body: s.RecipePatch):
    """Another name."""
    return reply(service.rename_recipe(path.id, body, header.if_match, act()))


@bp.delete("/recipes/<id>", responses={200: Done})
def remove_recipe(path: IdPath):
    """Delete a recipe; setups made from it keep their steps."""
    return reply(Done(change_id=service.remove_recipe(path.id, act())))


@bp.get("/recipes/<id>/card", responses={200: s.CardAnswer})
def read_recipe_card(path: IdPath, query: s.CardQuery):
    """The card: steps, ratio in every form, settings the translator vouches for, cautions."""
    return reply(card.read_card(path.id, query))


@bp.post("/recipe-check", responses={200: s.CheckedAnswer})
def check_recipe(body: s.CheckBody):
    """Findings, timeline, sums and outlook of a document being written; nothing is stored."""
    return reply(documents.check(body))


@bp.post("/recipe-scale", responses={200: s.ScaledAnswer})
def scale_recipe(body: s.ScaleBody):
    """The same recipe for another dose, cup count or vessel."""
    return reply(service.scale(body))


@bp.post("/recipe-diff", responses={200: s.DiffAnswer})
def diff_recipes(body: s.DiffBody):
    """What differs between two documents, in words."""
    return reply(service.diff(body))


@bp.get("/recipe-starters", responses={200: s.StartersAnswer})
def read_starters():
    """One recipe for each main way of brewing, to start from."""
    return reply(service.starters())


@bp.get("/recipes/<id>/last-brewed", responses={200: s.LastBrewedAnswer})
def read_last_brewed(path: IdPath):
    """What a recipe was brewed with last."""
    return reply(service.last_brewed(path.id))
