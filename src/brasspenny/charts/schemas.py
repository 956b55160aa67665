"""HTTP shapes of the charts."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from ..core.vocabulary import YieldBasis
from ..http import Answer, Day
from ..measuring.schemas import LadderShown, OverlayShown, RatioLineShown, WindowShown

Name = Annotated[str, Field(max_length=120)]


class ChartQuery(BaseModel):
    """Names as the setups have them; days in UTC, both ends counted."""

    yield_basis: YieldBasis = "in_cup"
    coffee: Name = ""
    grinder: Name = ""
    brewer: Name = ""
    recipe: Annotated[str, Field(max_length=40, description="id of a recipe")] = ""
    purpose: Literal["", "evidence", "dial_in", "loose"] = ""
    since: Day | None = None
    until: Day | None = None
    limit: Annotated[int, Field(ge=1, le=5000)] = 5000


NOT_SAID = -1
CODED = ("label", "letter", "purpose", "trial_id", "coffee", "grinder", "brewer", "recipe_id", "name")


class ChartColumns(Answer):
    """The brews that have a strength and a yield, a list for each thing that is told of them, all in one order. What repeats is told by its place in
    texts, -1 where it is not said. brewed_at_s: whole seconds of UTC since 1970 began; simulated: the places of those that are. Strength and yield in %,
    each with its 95 % half-width; liking: sighted, 1 to 9."""

    texts: list[str]
    run_id: list[str]
    rev: list[int]
    label: list[int]
    letter: list[int]
    purpose: list[int]
    trial_id: list[int]
    trial_number: list[int | None]
    coffee: list[int]
    grinder: list[int]
    brewer: list[int]
    recipe_id: list[int]
    recipe_version: list[int | None]
    name: list[int]
    brewed_at_s: list[int]
    brew_ratio: list[float | None]
    total_time_s: list[float | None]
    simulated: list[int]
    liking: list[float | None]
    tds_pct: list[float]
    tds_half_pct: list[float]
    ey_pct: list[float]
    ey_half_pct: list[float]


class BrewsQuery(BaseModel):
    """skip: so many lines were shown before."""

    yield_basis: YieldBasis = "in_cup"
    text: Annotated[str, Field(max_length=200, description="words of the note, a tag, the kit, the recipe or the question")] = ""
    shown: Literal["all", "evidence", "dial_in", "loose", "archived"] = "all"
    tag: Annotated[str, Field(max_length=24)] = ""
    order: Literal["newest", "oldest"] = "newest"
    skip: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    limit: Annotated[int, Field(ge=1, le=200)] = 60


class BrewListed(Answer):
    run_id: str
    rev: int
    label: str
    letter: str
    purpose: str
    trial_id: str | None
    trial_number: int | None
    name: str
    coffee: str
    brewer: str
    recipe: str
    brewed_at: datetime
    brew_ratio: float | None
    tds_pct: float | None
    ey_pct: float | None
    ey_half_pct: float | None
    liking: float | None
    simulated: bool
    note: str
    tags: list[str]
    archived: bool


class BrewsAnswer(Answer):
    """more: there are further ones after these."""

    brews: list[BrewListed]
    more: bool


class BrewTagsAnswer(Answer):
    tags: list[str]


class Facet(Answer):
    name: str
    label: str
    count: int


class TrailShown(Answer):
    """Versions of one recipe in order, each at the mean of its brews."""

    recipe_id: str
    name: str
    versions: list[int]
    points: list[list[float]]


class ChartsAnswer(Answer):
    """points: newest first, at most `limit`; matching: how many brews fit the filter, read or not; unread: of those shown, without strength or yield."""

    yield_basis: YieldBasis
    yield_basis_label: str
    retained_water_ratio: float
    matching: int
    unread: int
    points: ChartColumns
    coffees: list[Facet]
    grinders: list[Facet]
    brewers: list[Facet]
    recipes: list[Facet]
    trails: list[TrailShown]
    ratio_lines: list[RatioLineShown]
    windows: list[WindowShown]
    overlays: list[OverlayShown]
    tds_ladder: LadderShown | None
    ey_ladder: LadderShown | None
    ey_axis_pct: list[float]
    tds_axis_pct: list[float]
