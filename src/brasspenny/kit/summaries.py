"""One line about a piece of kit, for the lists."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from typing import Any

from ..core import figures
from ..core.extraction.yields import BREWER_LABELS
from ..core.grinding.settings import SCALE_LABELS
from ..store.models import KitItem
from .facts import VesselFacts, fitted_tau_s

DIRECTIONS = {"larger_is_coarser": "larger is coarser", "larger_is_finer": "larger is finer"}


def summary(item: KitItem, *, today: date, stock_g: float | None) -> str:
    """ "washed · 9 days off roast · 412 g left"; empty while nothing is known."""
    return " · ".join(part for part in SAYS[item.kind](item.facts, today, stock_g) if part)


def days_off_roast(facts: dict[str, Any], today: date) -> int | None:
    roasted = facts.get("roasted_on")
    return (today - date.fromisoformat(roasted)).days if roasted else None


def _coffee(facts: dict[str, Any], today: date, stock_g: float | None) -> Iterator[str]:
    yield facts.get("process", "")
    if (days := days_off_roast(facts, today)) is not None:
        yield f"{days} days off roast" if days >= 0 else "roasted in the future"
    if stock_g is not None:
        yield f"{figures.bag(stock_g)} left" if stock_g > 0 else "none left"


def _grinder(facts: dict[str, Any], *_) -> Iterator[str]:
    if "scale" in facts:
        yield SCALE_LABELS[facts["scale"]]
    yield DIRECTIONS[facts.get("direction", "larger_is_coarser")]
    if facts.get("rate_g_s"):
        yield f"{facts['rate_g_s']:g} g/s"


def _burr_set(facts: dict[str, Any], *_) -> Iterator[str]:
    yield facts.get("geometry", "")


def _filter(facts: dict[str, Any], *_) -> Iterator[str]:
    yield facts.get("material", "")
    yield facts.get("thickness", "")
    yield facts.get("size", "")
    yield "reusable" if facts.get("reusable") else ""


def _brewer(facts: dict[str, Any], *_) -> Iterator[str]:
    yield BREWER_LABELS.get(facts.get("brewer_type"), "")
    low, high = facts.get("dose_low_g"), facts.get("dose_high_g")
    if low and high:
        yield f"{low:g} to {high:g} g"
    if facts.get("count", 1) > 1:
        yield f"{facts['count']} of them"


def _water(facts: dict[str, Any], *_) -> Iterator[str]:
    for name, label in (("hardness_mg_l", "hardness"), ("alkalinity_mg_l", "alkalinity")):
        if facts.get(name) is not None:
            yield f"{label} {facts[name]:g}"
    yield "mg/L as CaCO₃" if facts.get("hardness_mg_l") is not None or facts.get("alkalinity_mg_l") is not None else ""


def _kettle(facts: dict[str, Any], *_) -> Iterator[str]:
    if facts.get("set_c"):
        yield f"set to {figures.heat(facts['set_c'])}"
    if facts.get("volume_ml"):
        yield f"{facts['volume_ml']:g} mL"


def _vessel(facts: dict[str, Any], *_) -> Iterator[str]:
    yield facts.get("use", "server")
    yield "insulated" if facts.get("insulated") else ""
    if (tau := fitted_tau_s(VesselFacts.model_validate(facts))) is not None:
        yield f"time constant {figures.minutes_fine(tau / 60)} min"


def _sieve_stack(facts: dict[str, Any], *_) -> Iterator[str]:
    yield ", ".join(f"{a:g}" for a in facts["apertures_um"]) + " µm"
    yield "shaken by a machine" if facts.get("shaking") == "machine" else ""


def _instrument(facts: dict[str, Any], *_) -> Iterator[str]:
    yield facts.get("measures", "mass").replace("_", " ")
    if facts.get("resolution"):
        unit = facts.get("unit", "g")
        steps = facts["resolution"]
        yield f"steps of {figures.heat_apart(steps)}" if unit == "°C" else f"steps of {steps:g} {unit}"


SAYS = {
    "coffee": _coffee, "grinder": _grinder, "burr_set": _burr_set, "filter": _filter, "brewer": _brewer, "water": _water,
    "kettle": _kettle, "vessel": _vessel, "sieve_stack": _sieve_stack, "instrument": _instrument,
}  # fmt: skip
