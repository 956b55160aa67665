"""Extraction arithmetic: the two yield bases, and what a recipe will give. docs/formulas.md §3.

In-cup yield counts only solids that reached the cup (percolation). Full-liquor yield counts the solids in the
liquid held back by the grounds too, at the drink's strength (immersion). They are never mixed in one comparison.
Where it stops being true: full-liquor assumes the held-back liquid is as strong as the drink, which a drained
percolation bed is not; retained water is taken as proportional to the dose.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import Inconsistent, NotEnoughKnowns
from ..limits import check, check_tds
from ..vocabulary import BREWER_KINDS, BREWERS, YIELD_BASES, BrewerType, YieldBasis

YIELD_BASIS_LABELS: dict[YieldBasis, str] = {m.code: m.label for m in YIELD_BASES}
BREWER_TYPES: tuple[BrewerType, ...] = tuple(BREWERS)
BREWER_LABELS: dict[BrewerType, str] = {k.code: k.label for k in BREWER_KINDS}
TYPICAL_RETAINED_WATER_RATIO = 2.1
RETAINED_RANGE = (1.2, 3.5)
CONCENTRATE_RETAINED_RANGE = (0.7, 3.5)
"""A short brew leaves the bed pressed or drained of most of its water: 0.98 g/g is no mistake there."""


def yield_basis_of(brewer_type: BrewerType) -> YieldBasis:
    """The basis a brewer's yields are quoted on unless the trial says otherwise: hybrids count in the cup.

    >>> yield_basis_of("press_pot"), yield_basis_of("steep_and_release")
    ('full_liquor', 'in_cup')
    """
    return BREWERS[brewer_type].yield_basis


def in_cup_yield_pct(*, tds_pct: float, beverage_g: float, dose_g: float) -> float:
    """Solids in the cup over the dose, E = c·B / D, in % of the dose. Bypass does not change it.

    tds_pct: % by mass, 0 to 25; beverage_g > 0, bypass included; dose_g > 0. Raises OutOfDomain. Source: docs/formulas.md §3.

    >>> in_cup_yield_pct(tds_pct=1.4, beverage_g=250, dose_g=20)
    17.5
    """
    check(concentrate_tds_pct=tds_pct, beverage_g=beverage_g, dose_g=dose_g)
    return tds_pct * beverage_g / dose_g


def full_liquor_yield_pct(*, tds_undiluted_pct: float, brew_water_g: float, dose_g: float) -> float:
    """Solids in all the liquor over the dose, E = c₀·W / ((1 − c₀)·D), in % of the dose.

    tds_undiluted_pct: strength before bypass, 0 to 25; brew_water_g > 0: water through or on the coffee only.
    Raises OutOfDomain. Source: docs/formulas.md §3.

    >>> round(full_liquor_yield_pct(tds_undiluted_pct=1.31, brew_water_g=240, dose_g=16), 2)
    19.91
    """
    check(concentrate_tds_pct=tds_undiluted_pct, brew_water_g=brew_water_g, dose_g=dose_g)
    c = tds_undiluted_pct / 100
    return 100 * c * brew_water_g / ((1 - c) * dose_g)


def undiluted_tds_pct(*, tds_pct: float, beverage_g: float, bypass_g: float) -> float:
    """Strength before bypass was added, c₀ = c·B / (B − Y), in %. Raises Inconsistent when Y ≥ B. Source: docs/formulas.md §3.

    >>> round(undiluted_tds_pct(tds_pct=1.35, beverage_g=230, bypass_g=80), 2)
    2.07
    """
    check(concentrate_tds_pct=tds_pct, beverage_g=beverage_g, bypass_g=bypass_g)
    if bypass_g >= beverage_g:
        raise Inconsistent("bypass_g", "the bypass water weighs as much as the whole drink.", "Give bypass below the beverage mass.", bypass_g)
    return tds_pct * beverage_g / (beverage_g - bypass_g)


def retained_water_ratio(*, brew_water_g: float, beverage_g: float, bypass_g: float, tds_undiluted_pct: float, dose_g: float) -> float:
    """Water left in the grounds (and filter) per gram of dose, ρ = (W − (B−Y)(1 − c₀)) / D, g/g.

    Raises OutOfDomain. Typical 1.8 to 2.6; outside 1.2 to 3.5 something was spilt or misweighed. Source: docs/formulas.md §3.

    >>> round(retained_water_ratio(brew_water_g=290, beverage_g=248, bypass_g=0, tds_undiluted_pct=1.42, dose_g=18), 2)
    2.53
    """
    check(brew_water_g=brew_water_g, beverage_g=beverage_g, bypass_g=bypass_g, dose_g=dose_g)
    return (brew_water_g - (beverage_g - bypass_g) * (1 - tds_undiluted_pct / 100)) / dose_g


def dry_basis_yield_pct(yield_pct: float, *, moisture_pct: float) -> float:
    """A yield on the dry mass of the dose: E / (1 − moisture). moisture_pct: 0 to 15. Source: docs/formulas.md §3.

    >>> dry_basis_yield_pct(19.4, moisture_pct=3)
    20.0
    """
    check(moisture_pct=moisture_pct)
    return yield_pct / (1 - moisture_pct / 100)


def ratio_line_tds_pct(*, yield_basis: YieldBasis, brew_ratio: float, ey_pct: float, retained_water_ratio: float) -> float:
    """Strength in % along a line of equal brew ratio 1:R (no bypass): where a cup of that yield stands on the chart.

    In-cup E/(R − ρ + E), full-liquor E/(R + E), with E as a fraction. Raises Inconsistent when the bed would keep
    all the water (R ≤ ρ). Source: docs/formulas.md §3.

    >>> round(ratio_line_tds_pct(yield_basis="in_cup", brew_ratio=16, ey_pct=20, retained_water_ratio=2.1), 3)
    1.418
    """
    check(brew_ratio=brew_ratio, ey_pct=ey_pct, retained_water_ratio=retained_water_ratio)
    _water_must_leave(brew_ratio, retained_water_ratio)
    e = ey_pct / 100
    held = retained_water_ratio if yield_basis == "in_cup" else 0
    return 100 * e / (brew_ratio - held + e)


def predict_beverage_g(*, yield_basis: YieldBasis, dose_g: float, brew_water_g: float, ey_pct: float, retained_water_ratio: float) -> float:
    """Drink that will run out before bypass, g: in-cup W − ρD + E·D; full-liquor (W − ρD)/(1 − c).

    Raises Inconsistent when the bed would keep all the water. Source: docs/formulas.md §3.

    >>> round(predict_beverage_g(yield_basis="in_cup", dose_g=18, brew_water_g=290, ey_pct=20, retained_water_ratio=2.1), 1)
    255.8
    """
    check(dose_g=dose_g, brew_water_g=brew_water_g, ey_pct=ey_pct, retained_water_ratio=retained_water_ratio)
    _water_must_leave(brew_water_g / dose_g, retained_water_ratio)
    free_g = brew_water_g - retained_water_ratio * dose_g
    if yield_basis == "in_cup":
        return free_g + ey_pct / 100 * dose_g
    tds = ratio_line_tds_pct(yield_basis=yield_basis, brew_ratio=brew_water_g / dose_g, ey_pct=ey_pct, retained_water_ratio=retained_water_ratio)
    return free_g / (1 - tds / 100)


def _water_must_leave(brew_ratio: float, retained: float) -> None:
    if brew_ratio <= retained:
        raise Inconsistent(
            "brew_ratio",
            f"at 1:{brew_ratio:.4g} the grounds keep all the water ({retained:g} g/g).",
            f"Use more than {retained:g} g of water per gram of coffee.",
            brew_ratio,
        )


# --- solving -----------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Solved:
    """A recipe without bypass, all quantities tied to one another on one yield basis."""

    yield_basis: YieldBasis
    tds_pct: float
    ey_pct: float
    dose_g: float
    brew_water_g: float
    brew_ratio: float
    retained_water_ratio: float
    beverage_g: float


def solve(
    *,
    yield_basis: YieldBasis = "in_cup",
    tds_pct: float | None = None,
    ey_pct: float | None = None,
    dose_g: float | None = None,
    brew_water_g: float | None = None,
    brew_ratio: float | None = None,
    retained_water_ratio: float = TYPICAL_RETAINED_WATER_RATIO,
) -> Solved:
    """The rest of a recipe from any enough knowns (no bypass).

    Two ties hold: R = W/D, and the basis's ratio line between c, E and R. So two of (D, W, R), or two of (c, E, R),
    give the third; three independent knowns with at least one mass give all. More than enough must agree to 0.5 %.
    Raises NotEnoughKnowns (says which would help), Inconsistent (says which clash), OutOfDomain. Source: docs/formulas.md §3.

    >>> round(solve(tds_pct=1.30, ey_pct=20.5, brew_water_g=260).dose_g, 2)
    14.72
    """
    check(ey_pct=ey_pct, dose_g=dose_g, brew_water_g=brew_water_g, brew_ratio=brew_ratio, retained_water_ratio=retained_water_ratio)
    if tds_pct is not None:
        check(target_tds_pct=tds_pct)
        check_tds("tds_pct", tds_pct, concentrate=True)
    held = retained_water_ratio if yield_basis == "in_cup" else 0
    known = {"tds_pct": tds_pct, "ey_pct": ey_pct, "dose_g": dose_g, "brew_water_g": brew_water_g, "brew_ratio": brew_ratio}
    known = {name: value for name, value in known.items() if value is not None}
    given = set(known)
    for _ in range(2):  # the ratio found from the cup may free the masses, and the other way round
        _spread_masses(known)
        _spread_cup(known, held, retained_water_ratio)
    _say_what_is_missing(known)
    _refuse_clash(known, given, held)
    beverage_g = predict_beverage_g(
        yield_basis=yield_basis, dose_g=known["dose_g"], brew_water_g=known["brew_water_g"], ey_pct=known["ey_pct"], retained_water_ratio=retained_water_ratio
    )
    return Solved(yield_basis=yield_basis, retained_water_ratio=retained_water_ratio, beverage_g=beverage_g, **known)


def _spread_masses(known: dict[str, float]) -> None:
    match sorted(name for name in ("brew_ratio", "brew_water_g", "dose_g") if name in known):
        case ["brew_water_g", "dose_g"]:
            known["brew_ratio"] = known["brew_water_g"] / known["dose_g"]
        case ["brew_ratio", "dose_g"]:
            known["brew_water_g"] = known["brew_ratio"] * known["dose_g"]
        case ["brew_ratio", "brew_water_g"]:
            known["dose_g"] = known["brew_water_g"] / known["brew_ratio"]
        case _:
            pass


def _spread_cup(known: dict[str, float], held: float, retained: float) -> None:
    if "brew_ratio" in known:
        _water_must_leave(known["brew_ratio"], retained)
    match sorted(name for name in ("brew_ratio", "ey_pct", "tds_pct") if name in known):
        case ["ey_pct", "tds_pct"]:
            e, c = known["ey_pct"] / 100, known["tds_pct"] / 100
            known["brew_ratio"] = e * (1 - c) / c + held
        case ["brew_ratio", "tds_pct"]:
            c = known["tds_pct"] / 100
            known["ey_pct"] = 100 * c * (known["brew_ratio"] - held) / (1 - c)
            check(ey_pct=known["ey_pct"])
        case ["brew_ratio", "ey_pct"]:
            e = known["ey_pct"] / 100
            known["tds_pct"] = 100 * e / (known["brew_ratio"] - held + e)
        case _:
            pass


def _say_what_is_missing(known: dict[str, float]) -> None:
    if len(known) == 5:
        return
    masses_done = {"dose_g", "brew_water_g", "brew_ratio"} <= set(known)
    cup_done = {"tds_pct", "ey_pct"} <= set(known)
    if masses_done:
        raise NotEnoughKnowns("tds_pct", "dose, water and ratio do not fix the cup.", "Give tds_pct or ey_pct too.")
    if cup_done:
        raise NotEnoughKnowns("dose_g", "strength and yield fix the ratio, not the amounts.", "Give dose_g or brew_water_g too.")
    missing = [name for name in ("tds_pct", "ey_pct", "dose_g", "brew_water_g", "brew_ratio") if name not in known]
    raise NotEnoughKnowns(
        missing[0], f"too little is known: {', '.join(sorted(known)) or 'nothing'}.", f"Give more of {', '.join(missing)}, with at least one mass."
    )


def _refuse_clash(known: dict[str, float], given: set[str], held: float) -> None:
    def off(a: float, b: float) -> bool:
        return abs(a - b) > 0.005 * max(abs(a), abs(b))

    if {"dose_g", "brew_water_g", "brew_ratio"} <= given and off(known["brew_water_g"] / known["dose_g"], known["brew_ratio"]):
        ratio = known["brew_water_g"] / known["dose_g"]
        raise Inconsistent("brew_ratio", f"dose_g and brew_water_g make 1:{ratio:.4g}, not 1:{known['brew_ratio']:.4g}.", "Leave one of the three out.")
    e = known["ey_pct"] / 100
    tds = 100 * e / (known["brew_ratio"] - held + e)
    if off(tds, known["tds_pct"]):
        clash = [name for name in ("tds_pct", "ey_pct", "dose_g", "brew_water_g", "brew_ratio") if name in given]
        raise Inconsistent(
            "tds_pct",
            f"{', '.join(clash)} cannot all be true: this yield and ratio make {tds:.3g} % TDS, not {known['tds_pct']:.3g}.",
            "Leave one of them out.",
        )
