"""The demo's Grind room: two mills sampled at three settings each, timed and weighed; two papers tested for flow. Everything is made up."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from ..act import Act
from ..core.grinding.sieve import Weibull
from ..devices import sieves
from ..grinding import flows, matches
from ..grinding import schemas as s
from ..grinding import service as grinding

RIDGED, STEEL, CAPSTAN = "Windlass mill · ridged plates", "Windlass mill · flat steel", "Capstan hand mill"
STACK, STACK_UM = "Ward-room stack", (300.0, 500.0, 800.0, 1100.0, 1400.0)
BEANS = "Sieving beans, house roast"
MASS_IN_G = 25.0
SHAKEN = {"shaken_s": 120.0, "shaken_how": "by hand, flat circles, a tap every 20 s"}
MEDIANS: Mapping[str, Callable[[float], float]] = {
    RIDGED: lambda setting: 250 + 70 * setting,
    CAPSTAN: lambda setting: 302 + 17.6 * setting,
    STEEL: lambda setting: 264 + 60.7 * setting,
}
"""Made-up truth, µm."""
EVENNESS = {RIDGED: 2.30, CAPSTAN: 2.24, STEEL: 2.55}
SAMPLED = ((RIDGED, (5.0, 5.8, 6.5), 3), (CAPSTAN, (17.0, 20.0, 23.0), 2), (STEEL, (6.0, 7.5), 2))
MATCHED = ((RIDGED, 5.0, CAPSTAN, 17.0), (RIDGED, 5.8, CAPSTAN, 20.0), (RIDGED, 6.5, CAPSTAN, 23.0))
BODIES = {
    RIDGED: (sieves.GrinderBody(1.8, 0.6, 0.6), 5.8, 2),
    CAPSTAN: (sieves.GrinderBody(0.45, 0.15, 0.5), 20.0, 1),
    STEEL: (sieves.GrinderBody(1.4, 0.7, 0.6), 6.5, 2),
}
"""The mill, at which setting, how messy."""
FLOWS = (("White weave", (20.1, 19.8, 20.4)), ("Thick crêpe", (25.2, 24.7, 25.3)))
SEED = 4
HEAD_MM, WATER_G = 60.0, 200.0


def lay_out(ids: Mapping[str, str], act: Callable[[], Act]) -> None:
    """ids: kit by name, the stack and the beans among them."""
    first: dict[tuple[str, float], str] = {}
    for name, settings, replicates in SAMPLED:
        for setting in settings:
            for replicate in range(replicates):
                made = grinding.add_sample(_sample(ids, name, setting, replicate), act())
                first.setdefault((name, setting), made)
    for a, x, b, y in MATCHED:
        matches.make_match(s.CompareBody(first_id=first[a, x], second_id=first[b, y]), act())
    for name, (body, setting, mess) in BODIES.items():
        for turn in range(3):
            dose = sieves.grind(body, 18.0, seed=31 + turn)
            chaff = 3 if name == RIDGED else 2
            flows.add_dose(s.DoseBody(dial_id=ids[name], setting=setting, beans_in_g=18.0, chaff=chaff, mess=mess, **vars(dose)), act())
    for name, times in FLOWS:
        for seconds in times:
            body = s.FilterTestBody(filter_id=ids[name], push="head", size=HEAD_MM, water_g=WATER_G, seconds=seconds, dry_g=1.4, wet_g=4.1, sediment=1)
            flows.add_test(body, act())


def _sample(ids: Mapping[str, str], name: str, setting: float, replicate: int) -> s.SampleBody:
    evenness = EVENNESS[name]
    truth = Weibull(MEDIANS[name](setting) / Weibull(1.0, evenness, 0.0).median_um, evenness, 0.0)
    fractions = sieves.shake(truth, STACK_UM, MASS_IN_G, seed=SEED + 100 * len(name) + round(10 * setting) + 7 * replicate)
    return s.SampleBody(
        dial_id=ids[name],
        setting=setting,
        coffee_id=ids[BEANS],
        stack_id=ids[STACK],
        mass_in_g=MASS_IN_G,
        fractions=[s.FractionIn(aperture_um=f.aperture_um, mass_g=f.mass_g) for f in fractions],
        sampled_on=None,
        **SHAKEN,
    )
