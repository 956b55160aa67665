"""One field that finds whatever has a name."""

from __future__ import annotations

from collections.abc import Iterable

from ..act import Act
from ..core.vocabulary import KIT_KINDS
from ..kit import service as kit
from ..progress import schemas as progress_s
from ..progress import service as progress
from ..store.models import Person, Recipe
from . import schemas as s

MOST_OF_A_KIND = 8
KIND_WORDS = {k.code: k.label for k in KIT_KINDS}


def find(text: str, act: Act) -> s.FoundAnswer:
    """What the words stand in, best known first: trials (archived ones last), recipes, kit, people. Nothing typed finds the newest."""
    words = text.casefold().split()
    return s.FoundAnswer(found=[*_trials(text, act), *_recipes(words), *_kit(words), *_people(words)])


def _trials(text: str, act: Act) -> Iterable[s.Found]:
    asked = progress_s.PageQuery(text=text, limit=MOST_OF_A_KIND)
    shown = progress.read_trials(asked, act).trials
    if len(shown) < MOST_OF_A_KIND and text.strip():
        shown += progress.read_trials(asked.model_copy(update={"shown": "archived", "limit": MOST_OF_A_KIND - len(shown)}), act).trials
    for t in shown:
        yield s.Found(kind="trial", id=t.id, label=t.question, hint=f"trial {t.number} · {t.headline or t.next_action}", kit="", station=t.next_station)


def _all_in(words: list[str], name: str) -> bool:
    return all(word in name.casefold() for word in words)


def _recipes(words: list[str]) -> Iterable[s.Found]:
    rows = Recipe.select().where(Recipe.deleted_at.is_null(), *(Recipe.name.contains(word) for word in words))
    for r in rows.order_by(Recipe.created_at.desc()).limit(MOST_OF_A_KIND):
        yield s.Found(kind="recipe", id=r.id, label=r.name, hint="recipe", kit="", station="")


def _kit(words: list[str]) -> Iterable[s.Found]:
    items = kit.live_items()
    names = kit.full_names(items)
    found = [k for k in items if not k.retired_at and _all_in(words, names[k.id])]
    for k in found[:MOST_OF_A_KIND]:
        yield s.Found(kind="kit", id=k.id, label=names[k.id], hint=KIND_WORDS[k.kind].lower(), kit=k.kind, station="")


def _people(words: list[str]) -> Iterable[s.Found]:
    rows = Person.select().where(Person.deleted_at.is_null(), *(Person.name.contains(word) for word in words))
    for p in rows.order_by(Person.name).limit(MOST_OF_A_KIND):
        yield s.Found(kind="person", id=p.id, label=p.name, hint="person", kit="", station="")
