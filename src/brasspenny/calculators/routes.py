"""POST /calc/… : parse, work out, answer."""

from __future__ import annotations

from ..brewing.advice import DialInAnswer
from ..grinding.schemas import SieveAnswer
from ..http import blueprint, reply
from ..recipes.schemas import ReadAnswer
from . import brew_schemas as b
from . import brew_service as brewed
from . import grind_schemas as g
from . import grind_service as grinding
from . import plan_schemas as p
from . import plan_service as planning
from . import schemas as s
from . import service
from . import taste_schemas as t
from . import taste_service as tasting

bp = blueprint("calculators", __name__)


@bp.post("/calc/extraction", responses={200: s.ExtractionAnswer})
def calc_extraction(body: s.ExtractionBody):
    """Strength, both yields with intervals, ratios and retained water of one brew."""
    return reply(service.extract(body))


@bp.post("/calc/dilution", responses={200: s.DilutionAnswer})
def calc_dilution(body: s.DilutionBody):
    """Water to add to bring a drink down to a strength."""
    return reply(service.dilute(body))


@bp.post("/calc/solve", responses={200: s.SolveAnswer})
def calc_solve(body: s.SolveBody):
    """The rest of a recipe from any enough knowns."""
    return reply(service.solve(body))


@bp.post("/calc/convert", responses={200: s.ConvertAnswer})
def calc_convert(body: s.ConvertBody):
    """The same quantity in another unit."""
    return reply(service.convert(body))


@bp.post("/calc/boiling-point", responses={200: s.BoilingPointAnswer})
def calc_boiling_point(body: s.BoilingPointBody):
    """Boiling point of water at an altitude."""
    return reply(service.boil(body))


@bp.post("/calc/cooling", responses={200: s.CoolingAnswer})
def calc_cooling(body: s.CoolingBody):
    """Temperature of a cooling cup, from its time constant or from two readings."""
    return reply(service.cool(body))


@bp.post("/calc/duration", responses={200: s.DurationAnswer})
def calc_duration(body: s.DurationBody):
    """Seconds from 1:35, 95, 95s or 1m35, and how we show it back."""
    return reply(service.read_duration(body))


@bp.post("/calc/drying", responses={200: s.DryingAnswer})
def calc_drying(body: s.DryingBody):
    """Strength by the oven method."""
    return reply(service.dry(body))


@bp.post("/calc/recipe-lint", responses={200: p.RecipeLintAnswer})
def calc_recipe_lint(body: p.RecipeLintBody):
    """Every finding of a recipe, with where, why and its mends."""
    return reply(planning.lint_recipe(body))


@bp.post("/calc/recipe-parse", responses={200: ReadAnswer})
def calc_recipe_parse(body: p.RecipeParseBody):
    """A recipe from plain text: its steps, what was understood and what was not."""
    return reply(planning.parse_recipe(body))


@bp.post("/calc/setting-translate", responses={200: p.SettingTranslateAnswer})
def calc_setting_translate(body: p.SettingTranslateBody):
    """A grind setting on another grinder, from matched pairs."""
    return reply(planning.translate_setting(body))


@bp.post("/calc/water-blend", responses={200: p.WaterBlendAnswer})
def calc_water_blend(body: p.WaterBlendBody):
    """The mix of two waters nearest a target."""
    return reply(planning.blend_waters(body))


@bp.post("/calc/schedule", responses={200: p.ScheduleAnswer})
def calc_schedule(body: p.ScheduleBody):
    """Brews placed in time so that all cups are tasted at one temperature."""
    return reply(planning.schedule(body))


@bp.post("/calc/power", responses={200: p.PowerAnswer})
def calc_power(body: p.PowerBody):
    """What a planned panel can and cannot see, and what would help."""
    return reply(planning.power(body))


@bp.post("/calc/power-curve", responses={200: p.PowerCurveAnswer})
def calc_power_curve(body: p.PowerCurveBody):
    """Detectable leads against the number of tasters."""
    return reply(planning.power_curve(body))


@bp.post("/calc/compare-yields", responses={200: b.CompareYieldsAnswer})
def calc_compare_yields(body: b.CompareYieldsBody):
    """Whether two setups' yields differ, with the one instrument's shared error handled as such."""
    return reply(brewed.compare(body))


@bp.post("/calc/strength-match", responses={200: b.StrengthMatchAnswer})
def calc_strength_match(body: b.StrengthMatchBody):
    """Water for each server, so that all cups are of one strength."""
    return reply(brewed.match(body))


@bp.post("/calc/dial-in", responses={200: DialInAnswer})
def calc_dial_in(body: b.DialInBody):
    """Exactly one change for the next brew, and the recipe with it."""
    return reply(brewed.advise(body))


@bp.post("/calc/pour-segments", responses={200: b.PourSegmentsAnswer})
def calc_pour_segments(body: b.PourSegmentsBody):
    """A scale's log cut into pours."""
    return reply(brewed.cut_into_pours(body))


@bp.post("/calc/simulate", responses={200: b.SimulateAnswer})
def calc_simulate(body: b.SimulateBody):
    """What a recipe would give, by the stated model: mass, strength, yields, first drip, drawdown. Simulated."""
    return reply(brewed.simulate(body))


@bp.post("/calc/sieve", responses={200: SieveAnswer})
def calc_sieve(body: g.SieveBody):
    """How fine and how even a grind is, by a shaken stack of sieves."""
    return reply(grinding.shake(body))


@bp.post("/calc/two-sieves", responses={200: g.TwoSievesAnswer})
def calc_two_sieves(body: g.TwoSievesBody):
    """Two shaken stacks against each other: points and per cent, and whether their medians agree."""
    return reply(grinding.compare_two(body))


@bp.post("/calc/particle-table", responses={200: g.ParticleTableAnswer})
def calc_particle_table(body: g.ParticleTableBody):
    """A table of particle sizes, as instruments export it, read and measured."""
    return reply(grinding.read_particle_table(body))


@bp.post("/calc/discrimination", responses={200: t.DiscriminationAnswer})
def calc_discrimination(body: t.DiscriminationBody):
    """Whether there is any difference: exact p, how many can tell, how far apart."""
    return reply(tasting.judge(body))


@bp.post("/calc/discrimination-plan", responses={200: t.DiscriminationPlanAnswer})
def calc_discrimination_plan(body: t.DiscriminationPlanBody):
    """How many trials a discrimination test needs, for a difference and for similarity."""
    return reply(tasting.how_many(body))
