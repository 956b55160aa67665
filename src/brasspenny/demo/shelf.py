"""The demo's kit with its facts, its matched settings and its recipes. Everything is made up."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta

from ..act import Act
from ..core.recipe.reading import read
from ..kit import schemas as kit_s
from ..kit import service as kit
from ..kit import settings
from ..recipes import documents
from ..recipes import schemas as recipes_s
from ..recipes import service as recipes
from . import grinds
from .grinds import BEANS, CAPSTAN, RIDGED, STEEL

COFFEES = {
    "Burundi washed, lot 31": (14, 1000, {"lot": "31", "origin": "Burundi", "process": "washed", "roast": "light", "price_per_kg": 34}),
    "Honduras honey, lot 12": (9, 750, {"lot": "12", "origin": "Honduras", "process": "honey", "roast": "medium_light", "price_per_kg": 29}),
    "Peru washed, lot 7": (6, 500, {"lot": "7", "origin": "Peru", "process": "washed", "roast": "medium", "price_per_kg": 27}),
    "Cask-rested Sumatra, lot 3": (21, 200, {"lot": "3", "origin": "Sumatra", "process": "barrel-aged", "roast": "medium_dark", "may_hold_alcohol": True}),
    BEANS: (30, 1200, {"roast": "medium", "price_per_kg": 18}),
}
SPINDLE = "Spindle single-dose"
GRINDERS = {
    "Windlass mill": {"scale": "dial", "step": 0.1, "rate_g_s": 1.8, "retention_g": 0.6, "purge_g": 1.0, "price": 640, "finest": 1.5, "zero": 0},
    CAPSTAN: {"drive": "hand", "scale": "clicks", "step": 1, "rate_g_s": 0.45, "retention_g": 0.1, "price": 150, "finest": 9, "zero": 0},
    SPINDLE: {"scale": "dial", "direction": "larger_is_finer", "step": 0.5, "rate_g_s": 2.6, "price": 890, "finest": 78, "zero": 90},
}
BURRS = {"ridged plates": {"geometry": "flat, 58 mm"}, "flat steel": {"geometry": "flat, 58 mm, fine teeth", "rate_g_s": 1.4}}
MATCHES = (
    (RIDGED, 7.6, CAPSTAN, 27, "brew_time"),
    (RIDGED, 5.0, SPINDLE, 62.5, "brew_time"),
    (RIDGED, 6.0, SPINDLE, 56.0, "brew_time"),
    (RIDGED, 7.0, SPINDLE, 51.0, "by_eye"),
    (STEEL, 6.0, RIDGED, 5.4, "yield"),
    (STEEL, 7.5, RIDGED, 6.7, "yield"),
)
OTHERS = {
    "filter": {
        "White weave": {"material": "paper", "thickness": "0.19 mm", "size": "flat, 155 mm", "price_each": 0.06},
        "Thick crêpe": {"material": "paper", "thickness": "0.31 mm", "size": "flat, 155 mm", "price_each": 0.09},
        "Steel mesh": {"material": "mesh", "pores": "200 µm", "reusable": True, "rinsed": False, "care": "hot rinse after each brew, weekly soak"},
    },
    "brewer": {
        "Binnacle flat bed, three-hole": {
            "brewer_type": "flat_bed",
            "dose_low_g": 14,
            "dose_high_g": 24,
            "volume_ml": 520,
            "count": 2,
            "outlet": "three holes",
            "price": 38,
        },
        "Foghorn cone": {"brewer_type": "cone", "dose_low_g": 10, "dose_high_g": 22, "volume_ml": 450, "count": 1},
        "Bilge press-pot": {"brewer_type": "press_pot", "dose_low_g": 20, "dose_high_g": 60, "volume_ml": 1000},
    },
    "water": {
        "Quay blend, 68 hardness, 42 alkalinity": {"hardness_mg_l": 68, "alkalinity_mg_l": 42, "minerals_mg_l": 110},
        "Shore main": {"hardness_mg_l": 214, "alkalinity_mg_l": 148, "minerals_mg_l": 290, "note": "scales the kettle"},
        "Rain tank, filtered": {"hardness_mg_l": 14, "alkalinity_mg_l": 9, "minerals_mg_l": 22},
    },
    "kettle": {"Galley kettle": {"volume_ml": 1200, "set_c": 96, "heat_s": 260, "reheat_s": 70}},
    "vessel": {
        "Marked server": {"use": "server", "volume_ml": 400, "room_c": 21, "first_c": 70, "second_c": 58, "after_s": 720},
        "Jacketed server": {"use": "server", "insulated": True, "volume_ml": 500, "room_c": 21, "first_c": 72, "second_c": 69, "after_s": 720},
        "Grey cupping bowl": {"use": "cup", "volume_ml": 200, "room_c": 21, "first_c": 64, "second_c": 50, "after_s": 420},
    },
    "sieve_stack": {
        grinds.STACK: {"apertures_um": list(grinds.STACK_UM), "usual_s": 120},
        "Chart-table pair": {"apertures_um": [400, 900], "usual_s": 90},
    },
    "instrument": {
        "Chart-table scale": {"measures": "mass", "unit": "g", "resolution": 0.1, "accuracy": 0.1, "checked_against": "a 100 g weight"},
        "Refractometer, drawer 2": {"measures": "strength", "unit": "% TDS", "resolution": 0.01, "accuracy": 0.03, "checked_against": "distilled water"},
        "Probe thermometer": {"measures": "temperature", "unit": "°C", "resolution": 0.1, "accuracy": 0.5},
    },
}
RECIPES = {
    "Long watch, three pours": (
        (
            '18 g coffee, 288 g water, 1:16, at 93 °C, in a flat bed, grind 5.8 on "Windlass mill · ridged plates", filter "White weave", rinse the filter, put in the coffee, '
            "level the bed, bloom 45 g for 0:40 in a spiral, pour to 170 g in the centre from 0:40 over 0:20, pour to 288 g in a spiral from 1:20 over 0:25, drips stop, "
            'done between 2:20 and 3:10, target 1.25-1.45 % TDS, too fast "thin, sour", on time "sweet, long", too slow "drying"'
        ),
        "at 93 °C",
        "at 94 °C",
        "the light roast asked for it",
    ),
    "Dog watch, one slow pour": (
        (
            '20 g coffee, 1:16, at 91 °C, in a cone dripper, grind "medium", rinse the filter, put in the coffee, pour to 230 g in the centre over 1:55, drips stop, done by 2:55, '
            "bypass 90 g at 90 °C, stir the server"
        ),
    ),
    "Galley press, skimmed": (
        (
            '32 g coffee, 512 g water, 1:16, at 95 °C, in a press-pot, grind "medium-coarse", preheat, put in the coffee, pour to 512 g over 0:40, wait by 4:00, break the crust, skim, '
            'wait by 8:00 when "grounds have sunk", serve, ends on time, done by 8:30'
        ),
    ),
    "Signal rocket, concentrate": (
        (
            '18 g coffee, 66 g water, at 86 °C, in a piston press, filter "paper", grind "fine", put in the coffee, pour to 66 g over 0:12, stir 10 times, wait by 1:20, lid on, invert, '
            "press gently for 0:25, serve, ends on time, done by 2:10"
        ),
    ),
}
DRAFT = (
    "Sketch from the pilot boat",
    "18 g coffee, 300 g water, 1:16, at 201 °C, bloom 45 g for 0:40, pour to 170 g from 0:50 over 0:20, pour to 288 g from 1:20 over 0:05",
)


def lay_out(act: Callable[[], Act]) -> dict[str, str]:
    """Kit, samples, matches and recipes; the id of each recipe's newest version by its name."""
    ids = _kit(act)
    grinds.lay_out(ids, act)
    for a, a_setting, b, b_setting, match in MATCHES:
        on = (act().now - timedelta(days=20)).date()
        settings.add_pair(kit_s.PairBody(a_id=ids[a], a_setting=a_setting, b_id=ids[b], b_setting=b_setting, match=match, matched_on=on), act())
    return _recipes(act)


def _kit(act: Callable[[], Act]) -> dict[str, str]:
    ids: dict[str, str] = {}

    def add(kind: str, name: str, facts: dict) -> str:
        ids[name] = kit.add_item(kit_s.KitBody.model_validate({"kind": kind, "name": name, kind: facts}), act()).id
        return ids[name]

    for name, (days, grams, facts) in COFFEES.items():
        now = act()
        coffee = add("coffee", name, facts | {"roasted_on": (now.now - timedelta(days=days)).date().isoformat()})
        kit.add_stock(coffee, kit_s.StockBody(mass_g=grams, note="bought"), now)
    for name, facts in GRINDERS.items():
        add("grinder", name, facts)
    for name, facts in BURRS.items():
        ids[f"Windlass mill · {name}"] = add("burr_set", name, facts | {"grinder_id": ids["Windlass mill"]})
    for kind, items in OTHERS.items():
        for name, facts in items.items():
            checked = {"checked_on": (act().now - timedelta(days=11)).date().isoformat()} if kind == "instrument" and "checked_against" in facts else {}
            add(kind, name, facts | checked)
    return ids


def _recipes(act: Callable[[], Act]) -> dict[str, str]:
    newest = {}
    for name, (text, *change) in (RECIPES | {DRAFT[0]: (DRAFT[1],)}).items():
        made = recipes.add_recipe(recipes_s.RecipeBody(name=name, document=_document(text)), act())
        if change:
            before, after, why = change
            body = recipes_s.VersionBody(document=_document(text.replace(before, after)), note=why)
            made = recipes.add_version(made.id, body, made.rev, act())
        newest[name] = made.versions[0].id
    return newest


def _document(text: str) -> recipes_s.RecipeDocument:
    return documents.document_of(read(text).recipe)
