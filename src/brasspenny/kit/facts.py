"""The facts of each kind of kit, as they are sent, stored and shown: models made from the vocabulary's records. All may be left unknown."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, create_model

from ..core.kit.heat import fit_cooling
from ..core.vocabulary import KIT_KINDS, KITS, BrewerType, KitFact, KitKind
from ..http import Body, Day, line
from ..refusals import Unprocessable


def _type(fact: KitFact) -> Any:
    """A fact's type with its limits, as the API checks and documents them."""
    match fact.form:
        case "text":
            return line(fact.longest)
        case "grinder":
            return Annotated[str, Field(min_length=1, max_length=fact.longest)]
        case "date":
            return Day
        case "yes":
            return bool
        case "brewer_type":
            return BrewerType
        case "apertures":
            size = Annotated[float, Field(ge=fact.low, le=fact.high, description="µm")]
            return Annotated[list[size], Field(min_length=2, max_length=19, description="µm, two or more, rising")]
        case "choice":
            return Literal[tuple(code for code, _ in fact.options)]
    low = {"gt": fact.low} if fact.above else {"ge": fact.low}
    number = int if fact.form == "whole" else float
    return Annotated[number, Field(le=fact.high, description=f"{fact.label}, {fact.unit}".rstrip(", "), **low)]


def _field(fact: KitFact) -> tuple[Any, Any]:
    if fact.needed:
        return _type(fact), ...
    return (_type(fact) | None, None) if fact.default is None else (_type(fact), fact.default)


def _model(kind: KitKind) -> type[Body]:
    name = "".join(part.capitalize() for part in kind.code.split("_")) + "Facts"
    return create_model(name, __base__=Body, __doc__=f"{kind.label}: what is known of one.", **{f.name: _field(f) for f in kind.facts})


FACTS: dict[str, type[Body]] = {kind.code: _model(kind) for kind in KIT_KINDS}
(
    CoffeeFacts, GrinderFacts, BurrSetFacts, FilterFacts, BrewerFacts, WaterFacts, KettleFacts, VesselFacts, SieveStackFacts, InstrumentFacts,
) = FACTS.values()  # fmt: skip


Setting = _type(next(f for f in KITS["grinder"].facts if f.name == "finest"))
"""A place on a grinder's dial."""


def fitted_tau_s(facts: VesselFacts) -> float | None:
    """τ from the two readings, s; None while they are incomplete. Raises Unprocessable when they do not cool."""
    given = (facts.room_c, facts.first_c, facts.second_c, facts.after_s)
    if None in given:
        return None
    room_c, first_c, second_c, after_s = given
    if not room_c < second_c < first_c:
        raise Unprocessable("vessel.second_c", "These readings do not cool towards the room.", "Check the room and both readings.")
    return fit_cooling(ambient_c=room_c, first=(0.0, first_c), second=(after_s, second_c), elapsed_s=0.0).tau_s
