"""The guide: led by the scale, or by the clock and a key; how brews end, and what hangs on the end."""

import numpy as np
import pytest

from brasspenny.core.brewing.along import DoneStep, planned_steps
from brasspenny.core.brewing.curve import read_curve
from brasspenny.core.brewing.follow import follow
from brasspenny.core.brewing.guide import Plan, stand
from brasspenny.core.brewing.scale_log import ScaleLog
from brasspenny.core.recipe.model import ending_of, sums, timeline
from brasspenny.core.recipe.reading import read
from brasspenny.devices.bench import instruments_of
from brasspenny.devices.scale import PlannedPour, SimulatedScale

PULSES = "18 g, 288 g at 93, in a cone dripper, bloom 45 for 40 s, to 170 from 0:40 over 20 s, swirl, to 288 from 1:20 over 25 s, drips stop, done by 2:45"


def plan_of(text):
    recipe = read(text).recipe
    return Plan(planned_steps(recipe), ending_of(recipe))


def weighed(text, at_s, *, seed=4, mistake="", lifted=None, hz=8.0):
    """What a simulated scale has said by then, laid onto the plan."""
    plan = plan_of(text)
    pours = [PlannedPour(s.start_s, s.end_s, s.to_g - s.from_g) for s in plan.steps if s.to_g is not None]
    scale = SimulatedScale(pours, seed, mistake=mistake, lifted_s=lifted)
    t = np.arange(0, at_s, 1 / hz)
    curve = read_curve(ScaleLog(t, np.array([scale.reading_g(x) for x in t]), ()), so_far=True)
    return plan, scale, follow(plan.steps, curve)


# --- the scale leads -----------------------------------------------------------------------------------------------------------------


def test_a_brew_is_led_from_the_first_water_to_the_last_without_one_press():
    at = {}
    for second in range(2, 200, 2):
        plan, scale, seen = weighed(PULSES, second, lifted=172)
        now = stand(plan, elapsed_s=second, seen=seen)
        at.setdefault((now.phase, now.current), []).append(second)
    assert list(at) == [("brew", 0), ("brew", 1), ("brew", 2), ("brew", 3), ("ending", None), ("over", None)]
    assert at["ending", None][0] <= 112 and at["over", None][0] in range(172, 180)
    assert now.ended_s == pytest.approx(172, abs=1.0) and now.ended_by == "scale"
    true = scale.as_poured()
    pours = [m for m in now.made if m.to_g is not None]
    assert [m.by for m in pours] == ["scale"] * 3
    assert [m.to_g for m in pours] == pytest.approx(list(np.cumsum([p.grams for p in true])), abs=1.0)
    assert [m.began_s for m in pours] == pytest.approx([p.start_s for p in true], abs=1.0)


def test_still_to_pour_follows_the_scale_and_says_when_it_is_over():
    plan, _, seen = weighed(PULSES, 52)
    now = stand(plan, elapsed_s=52, seen=seen)
    assert now.current == 1 and now.pouring and 30 < now.rest_g < 100 and now.target_g == now.reads_g == 170
    t = np.arange(0, 62, 0.125)
    too_much = 45 * np.clip(t / 9, 0, 1) + 140 * np.clip((t - 40) / 22, 0, 1)
    now = stand(plan, elapsed_s=62, seen=follow(plan.steps, read_curve(ScaleLog(t, too_much, ()), so_far=True)))
    assert now.pouring and now.current == 1
    assert now.rest_g < -5  # not nought: the kettle is over its mark


def test_a_press_annotates_and_never_lowers_what_the_scale_says():
    plan, scale, seen = weighed(PULSES, 80)
    early = DoneStep(1, 55.0, 150.0)
    now = stand(plan, elapsed_s=80, pressed=[early], seen=seen)
    made = next(m for m in now.made if m.index == 1)
    assert made.by == "scale" and made.to_g == pytest.approx(sum(p.grams for p in scale.as_poured()[:2]), abs=1.0)


def test_a_zeroed_scale_is_told_what_it_will_read():
    for second in (100, 105):
        plan, scale, seen = weighed(PULSES, second, mistake="zeroed")
        now = stand(plan, elapsed_s=second, seen=seen)
    taken = sum(p.grams for p in scale.as_poured() if p.end_s < scale.zeroed_s)
    assert len(seen.zeroed) == 1 and now.target_g == 288
    assert now.reads_g == pytest.approx(288 - taken, abs=1.5)


def test_a_jug_that_ran_short_is_topped_up_with_water():
    plan, scale, seen = weighed(PULSES, 150, mistake="short")
    assert seen.poured_g == pytest.approx(sum(p.grams for p in scale.as_poured()), abs=1.5)
    made = stand(plan, elapsed_s=150, seen=seen).made[-1]
    assert made.index == 3 and made.to_g == pytest.approx(seen.poured_g, abs=0.1)


DECANTED = "15.5 g, in a jug steep, at 94 °C, pour to 105 g over 0:20, wait by 1:00, transfer zeroed empty, pour to 229.5 g reads 245 g from 1:30 over 0:25, drips stop, done by 3:00"


def test_a_brew_stands_on_two_scales_and_each_reading_is_water():
    """Coffee in a dripper that was zeroed empty counts, and the next target carries it."""
    recipe = read(DECANTED).recipe
    plan = plan_of(DECANTED)
    pours = [PlannedPour(s.start_s, s.end_s, s.to_g - s.from_g) for s in plan.steps if s.to_g is not None]
    found = instruments_of(recipe, pours, seed=5)
    t = np.arange(0, 176, 0.125)
    g = np.array([found.scale.reading_g(x) for x in t])

    def at(second):
        seen = follow(plan.steps, read_curve(ScaleLog(t[t < second], g[t < second], ()), so_far=True, moves=1))
        return stand(plan, elapsed_s=second, seen=seen), seen

    now, seen = at(88)
    poured = found.scale.as_poured()
    assert seen.slurry_g == pytest.approx(poured[0].grams + 15.5 - 1.6, abs=1.0) and "expected: 1." in " ".join(now.notes)
    assert now.poured_g == pytest.approx(poured[0].grams, abs=1.0)  # the slurry is no water
    assert now.target_g == 229.5 and now.reads_g == pytest.approx(245, abs=2.5)
    now, _ = at(140)
    assert now.phase == "ending" and now.poured_g == pytest.approx(sum(p.grams for p in poured), abs=1.5)
    between = [now for now, _ in map(at, range(58, 88)) if now.target_g == 229.5]
    assert between and all(240 < now.reads_g < 250 for now in between)  # zeroed, and the slurry not on it yet: the recipe says what it will read
    assert stand(plan, elapsed_s=95).reads_g == 245  # without a scale the recipe knows it as well


def test_pours_run_together_are_parted_at_the_target():
    plan = plan_of("18 g, 240 g at 93, to 120 from 0:00 over 20 s, to 240 from 0:20 over 20 s, drips stop")
    t = np.arange(0, 60, 0.125)
    seen = follow(plan.steps, read_curve(ScaleLog(t, 240 * np.clip(t / 40, 0, 1), ())))
    assert [(p.index, round(p.to_g)) for p in seen.pours] == [(0, 120), (1, 240)]
    assert seen.pours[0].ended_s == pytest.approx(20, abs=1) and seen.pours[1].began_s == seen.pours[0].ended_s


# --- the clock and a key ---------------------------------------------------------------------------------------------------------------


def test_without_a_scale_the_clock_asks_and_one_press_catches_up():
    plan = plan_of(PULSES)
    now = stand(plan, elapsed_s=92)  # nothing was pressed yet, and the last pour is due
    assert (now.phase, now.current) == ("brew", 3) and now.forgotten == ()
    now = stand(plan, elapsed_s=106, pressed=[DoneStep(3, 106, None)])
    assert (now.phase, now.forgotten) == ("ending", (0, 1, 2))
    assert [(m.index, m.by, m.ended_s) for m in now.made] == [(0, "plan", 9.0), (1, "plan", 60), (2, "plan", 65), (3, "press", 106)]
    assert now.begins_in_s == pytest.approx(165 - 106)


def test_a_hand_a_little_late_is_not_hurried_on():
    plan = plan_of(PULSES)
    assert stand(plan, elapsed_s=41, pressed=[]).current == 0
    assert stand(plan, elapsed_s=47, pressed=[]).current == 1
    assert stand(plan, elapsed_s=47, pressed=[DoneStep(0, 12, None)]).current == 1


def test_with_every_press_forgotten_the_end_alone_is_enough():
    plan = plan_of(PULSES)
    now = stand(plan, elapsed_s=170, ended_s=168)
    assert now.phase == "over" and now.forgotten == (0, 1, 2, 3) and now.ended_by == "press"


# --- ends ------------------------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "kind", "at_s"),
    [
        (PULSES, "drips_stop", 165),
        ("18 g, 288 g, in a cone dripper, pour to 288 over 1:40, remove the brewer at 2:50", "lifted", 170),
        ("18 g, 288 g, in a cone dripper, pour to 288 over 1:40, remove the brewer, done by 2:50", "lifted", 170),
        ("18 g, 288 g, in a cone dripper, pour to 288 over 1:40, done by 2:50", "lifted", 170),
        ("15 g, 225 g, in a piston press, pour to 225 over 0:20, wait by 1:40, press gently for 0:30, serve, ends on time, done by 2:30", "pressed", 130),
        ("30 g, 480 g, in a press-pot, pour to 480 over 0:40, wait by 8:00, serve, ends on time, done by 8:30", "poured_off", 510),
        ("18 g, 288 g, in a steep and release, pour to 288 over 0:30, wait by 2:00, open the valve, drain by 2:50, serve", "drips_stop", 170),
    ],
)
def test_how_a_brew_ends_is_a_fact_of_its_recipe_and_its_kind(text, kind, at_s):
    recipe = read(text).recipe
    end = ending_of(recipe)
    assert (end.kind, end.at_s, sums(recipe).total_s) == (kind, at_s, at_s)


def test_what_follows_the_end_hangs_on_it_and_not_on_the_last_pour():
    recipe = read("18 g, 288 g, in a cone dripper, pour to 288 over 1:40, drips stop, tap, stir, settle 2 min, done by 2:50").recipe
    timed = {t.step.kind: t for t in timeline(recipe)}
    assert not read("drips stop, tap, stir, settle 2 min").not_understood
    assert timed["drain"].end_s == 170 and timed["tap"].start_s == 170 and timed["settle"].start_s >= 170
    assert sums(recipe).total_s == 170
    plan = Plan(planned_steps(recipe), ending_of(recipe))
    assert [s.kind for s in plan.drink] == ["tap", "stir", "settle"]
    now = stand(plan, elapsed_s=192, ended_s=190)  # twenty seconds late: the drink waits for it
    assert now.phase == "drink" and plan.steps[-3].index == now.current and now.begins_in_s == pytest.approx(-2)
    now = stand(plan, elapsed_s=210, ended_s=190)
    settle = plan.drink[-1]
    assert now.current == settle.index and now.left_s == pytest.approx(190 + 3 + 10 + 120 - 210)


def test_a_press_is_over_when_it_is_pressed_and_watches_for_no_drip():
    plan = plan_of(
        "15 g, 225 g, in a piston press, pour to 225 over 0:20, stir 5 times, wait by 1:40, press gently for 0:30, serve, ends on time, done by 2:30"
    )
    press = plan.end.by
    now = stand(plan, elapsed_s=131, pressed=[DoneStep(0, 21, 225.0), DoneStep(press, 131, None)])
    assert now.phase == "drink" and now.ended_s == 131 and plan.drink[0].index == now.current
    _, _, seen = weighed("15 g, 225 g, in a piston press, pour to 225 over 0:20, stir 5 times, wait by 1:40, press gently for 0:30, serve", 150)
    assert stand(plan, elapsed_s=150, seen=seen).ended_by == "plan"


def test_lifting_at_a_time_ends_it_at_that_time():
    text = "18 g, 288 g at 93, in a cone dripper, bloom 45 for 40 s, to 288 from 0:40 over 40 s, remove the brewer at 2:50, stir the server"
    plan, _, seen = weighed(text, 178, lifted=170)
    now = stand(plan, elapsed_s=178, seen=seen)
    assert now.ended_s == pytest.approx(170, abs=0.6) and now.ended_by == "scale" and now.phase in ("drink", "over")


def test_hold_the_level_leaves_no_hole_in_the_staircase():
    timed = timeline(read("18 g, 300 g, bloom 45 for 40 s, to 150 over 20 s, hold the level to 300 by 2:30").recipe)
    assert timed[2].start_s == timed[1].end_s and timed[2].end_s == 150


# --- a cue ---------------------------------------------------------------------------------------------------------------------------

CUED = '18 g, 288 g at 93, bloom 45 over 10 s, wait until "the bed is dry" by 0:50, to 170 from 0:50 over 20 s, to 288 from 1:20 over 25 s, drips stop, done by 2:45'


@pytest.mark.parametrize(("seen_s", "begins_s", "end_s"), [(38, 38, 153), (50, 50, 165), (58, 50, 165)])
def test_a_cue_seen_early_moves_the_later_steps_up_and_one_seen_late_moves_nothing(seen_s, begins_s, end_s):
    plan = plan_of(CUED)
    (cued,) = [s for s in plan.steps if s.seen]
    first, second = [s.index for s in plan.steps if s.to_g is not None][1:]
    pressed = [DoneStep(i, 10, None) for i in range(cued.index)] + [DoneStep(cued.index, seen_s, None)]
    now = stand(plan, elapsed_s=seen_s + 1, pressed=pressed)
    assert (now.current, now.begins_in_s) == (first, begins_s - seen_s - 1)
    poured = stand(plan, elapsed_s=begins_s + 21, pressed=[*pressed, DoneStep(first, begins_s + 20, None)])
    assert (poured.current, poured.begins_in_s) == (second, pytest.approx(begins_s + 30 - begins_s - 21))
    over = stand(plan, elapsed_s=140, pressed=[*pressed, DoneStep(first, 80, None), DoneStep(second, 110, None)])
    assert (over.phase, over.left_s) == ("ending", end_s - 140)
