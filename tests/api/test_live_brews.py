"""A brew while it is made: begun once, marked, resumed from another device, finished into a logged run."""

import json
from datetime import timedelta

import pytest

from .host import Host

TEXT = "18 g, 288 g at 93, bloom 45 for 40 s, to 170 from 0:40 over 20 s, to 288 from 1:20 over 25 s, drips stop, done by 2:45"


@pytest.fixture
def live(host):
    trial = host.ask()
    setup = host.call("POST", f"/trials/{trial['id']}/setups", {"recipe_version_id": host.recipe(TEXT)["versions"][0]["id"]})
    return host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": setup["id"], "instrument": "simulated", "speed": 20})


@pytest.fixture
def by_hand(host, live):
    """The same setup, brewed without a scale."""
    return host.call("POST", f"/trials/{live['trial_id']}/live-brews", {"setup_id": live["setup_id"]})


def brewing(host, live):
    return host.get(f"/live-brews/{live['id']}")


def later(app, seconds):
    app.config["CLOCK"].at += timedelta(seconds=seconds)


def on(host, live, what, body=None, **how):
    return host.call("POST", f"/live-brews/{live['id']}/{what}", body, rev=live["rev"], **how)


def test_a_brew_is_made_along_by_hand_and_becomes_a_run(host, by_hand):
    live = by_hand
    assert (live["started_at"], live["elapsed_s"], [s["to_g"] for s in live["steps"]]) == (None, 0, [45, 170, 288])
    on(host, live, "marks", {"kind": "first_drip"}, status=409)
    begun = on(host, live, "start")
    again = brewing(host, live)  # another device, a moment later: the same clock
    assert again["started_at"] == begun["started_at"] and again["elapsed_s"] > begun["elapsed_s"]
    now = begun
    for index, at, grams in ((0, 10, 45.2), (1, 63, 170), (2, 112, 289.1)):
        now = on(host, now, "marks", {"kind": "step_done", "index": index, "at_s": at, "reading_g": grams})
    assert [d["outside"] for d in now["deviations"]] == [False, False, True]  # the last pour ended 7 s late
    assert "Pour to 288 g: 7 s late" in now["deviations_said"]
    now = on(host, now, "marks", {"kind": "ended", "at_s": 168.4})
    done = on(host, now, "finish", {"beverage_g": 251, "tds_readings_pct": [1.4, 1.41, 1.4]})
    run = host.get(f"/trials/{live['trial_id']}/results")["runs"][0]
    assert done["finished"] and done["run_id"] == run["id"]
    assert (run["dose_g"], run["pour_end_s"], run["total_time_s"], run["beverage_g"]) == (18, 112, 168.4, 251)
    assert run["brew_water_g"] == 289.1 and run["extraction_yield"] and [p["by"] for p in run["pours"]] == ["press"] * 3
    on(host, done, "marks", {"kind": "spill"}, status=409)
    assert live["id"] not in {b["id"] for b in host.get(f"/trials/{live['trial_id']}/live-brews")["brews"]}


def test_the_first_water_counts_once_and_a_stale_mark_is_refused(host, live):
    begun = on(host, live, "start")
    assert on(host, begun, "start")["started_at"] == begun["started_at"]
    marked = on(host, begun, "marks", {"kind": "first_drip"})
    on(host, begun, "marks", {"kind": "first_drip"}, status=409)
    assert len(host.get(f"/live-brews/{live['id']}")["marks"]) == len(marked["marks"]) == 1


def test_bad_input_is_answered_at_its_field_and_a_bad_finish_loses_nothing(host, live):
    begun = on(host, live, "start")
    assert on(host, begun, "marks", {"kind": "sneeze"}, status=422)["errors"][0]["field"] == "kind"
    assert on(host, begun, "marks", {"kind": "note", "at_s": -1}, status=422)["errors"][0]["field"] == "at_s"
    assert on(host, begun, "finish", {"beverage_g": 900}, status=422)["errors"][0]["field"] == "beverage_g"
    assert on(host, begun, "finish", {"tds_readings_pct": [40]}, status=422)["errors"][0]["field"].startswith("tds_readings_pct")
    still = host.get(f"/live-brews/{live['id']}")
    assert not still["finished"] and host.get(f"/trials/{live['trial_id']}/results")["runs"] == []
    other = host.ask("Another?")
    host.call("POST", f"/trials/{other['id']}/live-brews", {"setup_id": live["setup_id"]}, status=422)


def test_the_scale_streams_its_readings_and_says_that_it_is_simulated(host, live):
    on(host, live, "start")
    stream = host.client.get(f"/api/v1/live-brews/{live['id']}/readings")
    events = []
    for chunk in stream.response:
        if "data:" in (text := chunk.decode() if isinstance(chunk, bytes) else chunk):
            events.append(json.loads(text.split("data: ")[1]))
        if len(events) == 4:
            break
    stream.close()
    assert stream.mimetype == "text/event-stream" and {e["source"] for e in events} == {"simulated"}
    times, grams = [e["elapsed_s"] for e in events], [e["scale_g"] for e in events]
    assert times == sorted(times) and times[-1] > times[0] and max(grams) > 160 and events[-1]["begun"]
    assert events[1]["now"]["made"] and events[1]["now"]["made"][0]["by"] == "scale"
    assert events[-1]["plan_g"] >= events[0]["plan_g"] >= 0


def test_without_a_scale_the_plan_is_streamed_alone_and_ends_with_the_brew(host, live):
    bare = host.call("POST", f"/trials/{live['trial_id']}/live-brews", {"setup_id": live["setup_id"], "speed": 60})
    assert bare["speed"] == 1  # the clock runs faster for a simulated scale only
    text = host.client.get(f"/api/v1/live-brews/{bare['id']}/readings").get_data(as_text=True)
    (event,) = [json.loads(line.removeprefix("data: ")) for line in text.splitlines() if line.startswith("data: ")]
    now = event.pop("now")
    assert event == {"elapsed_s": 0.0, "plan_g": 0.0, "scale_g": None, "slurry_c": None, "kettle_c": None, "press_kg": None, "source": "none", "begun": False}
    assert (now["phase"], now["current"], now["target_g"], now["poured_g"]) == ("before", 0, 45, None)


def test_marks_that_cannot_be_together_are_refused_at_the_end_and_mended_by_marking_again(host, live, by_hand):
    now = on(host, by_hand, "start")
    now = on(host, now, "marks", {"kind": "ended", "at_s": 90})
    now = on(host, now, "marks", {"kind": "step_done", "index": 2, "at_s": 110})
    refused = on(host, now, "finish", {"beverage_g": 250}, status=422)
    assert refused["errors"][0]["field"] == "total_time_s" and refused["errors"][0]["remedy"]
    now = on(host, now, "marks", {"kind": "ended", "at_s": 165})
    on(host, now, "finish", {"beverage_g": 250})
    assert host.get(f"/trials/{live['trial_id']}/results")["runs"][0]["total_time_s"] == 165


def test_a_brew_given_up_can_come_back(host, live):
    change = host.call("DELETE", f"/live-brews/{live['id']}")["change_id"]
    host.get(f"/live-brews/{live['id']}", status=404)
    host.call("POST", f"/changes/{change}/undo")
    assert host.get(f"/live-brews/{live['id']}")["id"] == live["id"]


def test_the_minutes_from_grinding_run_from_one_touch_to_the_first_water(host, live):
    ground = on(host, live, "marks", {"kind": "ground"})
    again = on(host, ground, "marks", {"kind": "ground"})
    assert [m["kind"] for m in again["marks"]] == ["ground"]
    now = on(host, again, "start")
    on(host, now, "marks", {"kind": "ground"}, status=409)
    for index, at in ((0, 10), (1, 63), (2, 112)):
        now = on(host, now, "marks", {"kind": "step_done", "index": index, "at_s": at})
    for kind, more in (("first_drip", {}), ("spill", {}), ("cue", {"text": "bed shines"}), ("ended", {})):
        now = on(host, now, "marks", {"kind": kind, "at_s": 168} | more)
    assert (now["observed"]["mishaps"], now["observed"]["cue"], now["observed"]["first_drip_s"]) == (["spill"], "bed shines", 168)
    on(host, now, "finish", {"beverage_g": 251, "observed": {"sediment_left": True, "mishaps": ["late", "spill"]}})
    seen = host.get(f"/trials/{live['trial_id']}/results")["runs"][0]["observed"]
    assert seen["mishaps"] == ["late", "spill"] and (seen["cue"], seen["first_drip_s"]) == ("bed shines", 168)
    assert 0 <= seen["ground_min"] < 1 and seen["sediment_left"] and seen["simulated"]


def test_a_setup_without_pours_says_so_and_no_made_up_plan_is_held_against_it(host):
    trial = host.ask("Which filter?", "filter")
    setup = host.setup(trial["id"])
    live = host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": setup["id"]})
    assert live["deviations_said"] == "", "what no plan gave cannot be on it"
    assert "no pours to follow" in live["no_steps"] and [(s["kind"], s["to_g"]) for s in live["steps"] if s["to_g"]] == [("pour", 290)]
    live = host.call("POST", f"/live-brews/{live['id']}/start", {}, rev=live["rev"])
    mark = {"kind": "step_done", "index": live["steps"][0]["index"], "at_s": 300, "reading_g": 290}
    live = host.call("POST", f"/live-brews/{live['id']}/marks", mark, rev=live["rev"])
    assert live["deviations"] == []
    done = host.call("POST", f"/live-brews/{live['id']}/finish", {"beverage_g": 250, "total_time_s": 400}, rev=live["rev"])
    run = next(r for r in host.get(f"/trials/{trial['id']}/results")["runs"] if r["id"] == done["run_id"])
    assert run["off_plan"] == [] and run["pour_end_s"] == 300


def test_a_setup_with_pours_is_led_step_by_step(host):
    trial = host.ask("Which filter?", "filter")
    setup = host.setup(trial["id"], pours="bloom 45 for 40 s, to 290 by 1:40")
    live = host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": setup["id"]})
    assert live["no_steps"] == "" and [s["to_g"] for s in live["steps"] if s["to_g"]] == [45, 290]


def test_a_clock_set_back_while_a_brew_is_made_is_no_500(app):
    """Between grinding, starting, a mark and the end: no negative time, and the brew can be logged."""
    host = Host(app.test_client())
    trial, (setup, _), _ = host.two_setups_brewed(1)
    made = host.call("POST", f"/trials/{trial['id']}/live-brews", {"setup_id": setup["id"], "instrument": "none"})

    def back():
        app.config["CLOCK"].at -= timedelta(hours=1)

    made = host.call("POST", f"/live-brews/{made['id']}/marks", {"kind": "ground"}, rev=made["rev"])
    back()
    made = host.call("POST", f"/live-brews/{made['id']}/start", rev=made["rev"])
    back()
    made = host.call("POST", f"/live-brews/{made['id']}/marks", {"kind": "first_drip"}, rev=made["rev"])
    assert made["elapsed_s"] == 0 and all(m["at_s"] >= 0 for m in made["marks"])
    back()
    done = host.call("POST", f"/live-brews/{made['id']}/finish", {"beverage_g": 250}, rev=made["rev"])
    assert done["finished"]


# --- the scale leads ------------------------------------------------------------------------------------------------------------------


def test_a_brew_is_led_by_the_scale_without_one_press(host, app, live):
    """It begins by itself, moves on by itself, ends when the brewer leaves the scale, and is logged by its settled readings."""
    body = {"setup_id": live["setup_id"], "instrument": "simulated", "begins_after_s": 6}
    brew = host.call("POST", f"/trials/{live['trial_id']}/live-brews", body)
    assert brew["started_at"] is None
    phases = []
    for _ in range(30):
        later(app, 6)
        brew = brewing(host, brew)
        phases.append((brew["now"]["phase"], brew["now"]["current"]))
    assert list(dict.fromkeys(phases)) == [("brew", 0), ("brew", 1), ("brew", 2), ("ending", None), ("over", None)]
    assert brew["now"]["ended_by"] == "scale" and brew["marks"] == [] and {p["by"] for p in brew["pours"]} == {"scale"}
    done = on(host, brew, "finish", {"beverage_g": 250})
    run = host.get(f"/trials/{live['trial_id']}/results")["runs"][0]
    assert run["id"] == done["run_id"] and run["off_plan"] == []
    assert run["brew_water_g"] == pytest.approx(brew["now"]["poured_g"], abs=0.1) and run["total_time_s"] == pytest.approx(brew["now"]["ended_s"], abs=0.1)
    assert all(p["reading_g"] == pytest.approx(p["plan_to_g"], rel=0.02) for p in run["pours"])


def test_a_bench_without_a_scale_says_the_same_however_often_it_is_asked(host):
    """Only connections are counted: what another device asked for changes no answer here."""
    said = [host.client.get("/api/v1/scale/lines").data for _ in range(15)]
    assert len(set(said)) == 1 and b"no address of a scale" in said[0]


def test_what_was_poured_is_the_settled_reading_and_not_the_reading_at_the_press(host, app, live):
    brew = on(host, host.call("POST", f"/trials/{live['trial_id']}/live-brews", {"setup_id": live["setup_id"], "instrument": "simulated"}), "start")
    later(app, 101)  # the last pour still goes on
    brew = on(host, brewing(host, brew), "marks", {"kind": "step_done", "index": 2})
    early = brew["marks"][-1]["reading_g"]
    later(app, 40)
    brew = on(host, brewing(host, brew), "marks", {"kind": "ended"})
    on(host, brew, "finish", {"beverage_g": 250})
    run = host.get(f"/trials/{live['trial_id']}/results")["runs"][0]
    assert early < 280 < 284 < run["brew_water_g"] < 293


def test_every_press_forgotten_and_no_scale(host, app, by_hand):
    """The clock asks, one press catches up, and the times nobody said are the recipe's: said to be, and mended in the form that ends it."""
    brew = on(host, by_hand, "start")
    later(app, 98)
    brew = brewing(host, brew)
    assert brew["now"]["current"] == 2
    brew = on(host, brew, "marks", {"kind": "step_done", "index": 2, "at_s": 106})
    assert brew["now"]["forgotten"] == [0, 1] and [p["by"] for p in brew["pours"]] == ["plan", "plan", "press"]
    brew = on(host, brew, "marks", {"kind": "ended", "at_s": 166})
    pours = [{"index": 0, "began_s": 0, "ended_s": 11, "reading_g": 46}, {"index": 1, "began_s": 41, "ended_s": 62, "reading_g": 171}]
    on(host, brew, "finish", {"beverage_g": 250, "pours": [*pours, {"index": 2, "ended_s": 106, "reading_g": 288}]})
    run = host.get(f"/trials/{by_hand['trial_id']}/results")["runs"][0]
    assert [(p["by"], p["began_s"]) for p in run["pours"]] == [("typed", 0), ("typed", 41), ("typed", None)]
    assert (run["brew_water_g"], run["pour_end_s"], run["off_plan"]) == (288, 106, [])


def test_the_last_press_can_be_taken_back(host, app, by_hand):
    brew = on(host, by_hand, "start")
    later(app, 12)
    brew = on(host, brew, "marks", {"kind": "step_done", "index": 0})
    brew = on(host, brew, "marks", {"kind": "step_done", "index": 1})  # once too often
    back = host.call("DELETE", f"/live-brews/{brew['id']}/marks/last", rev=brew["rev"])
    assert [m["index"] for m in back["marks"]] == [0] and back["now"]["current"] == 1
    back = host.call("DELETE", f"/live-brews/{brew['id']}/marks/last", rev=back["rev"])
    host.call("DELETE", f"/live-brews/{brew['id']}/marks/last", rev=back["rev"], status=409)


def test_a_correction_clears_the_doubt_it_cures(host, by_hand):
    brew = on(host, by_hand, "start")
    for index, at, grams in ((0, 9, 45), (1, 60, 170), (2, 140, 268)):
        brew = on(host, brew, "marks", {"kind": "step_done", "index": index, "at_s": at, "reading_g": grams})
    brew = on(host, brew, "marks", {"kind": "ended", "at_s": 165})
    on(host, brew, "finish", {"beverage_g": 250, "observed": {"mishaps": ["spill"]}})
    results = f"/trials/{by_hand['trial_id']}/results"
    run = host.get(results)["runs"][0]
    assert {"spill", "water 20.0 g under"} <= set(run["off_plan"]) and any("Pour to 288 g" in x for x in run["off_plan"])
    pours = [{"index": p["index"], "began_s": p["began_s"], "ended_s": p["ended_s"], "reading_g": p["reading_g"]} for p in run["pours"]]
    pours[2] |= {"ended_s": 106, "reading_g": 288}
    host.call("PATCH", f"/runs/{run['id']}", {"pours": pours, "observed": {}}, rev=run["rev"])
    run = host.get(results)["runs"][0]
    assert run["off_plan"] == [] and (run["brew_water_g"], run["pour_end_s"]) == (288, 106)
    assert [p["by"] for p in run["pours"]] == ["press", "press", "typed"]
    bad = [{"index": 0, "ended_s": 20, "reading_g": 50}, {"index": 1, "ended_s": 10, "reading_g": 60}]
    refused = host.call("PATCH", f"/runs/{run['id']}", {"pours": bad}, rev=run["rev"], status=422)
    assert refused["errors"][0]["field"] == "pours.1.ended_s"


def test_a_typed_brew_can_say_all_that_a_guided_one_can(host, live):
    pours = [
        {"index": 0, "began_s": 0, "ended_s": 9, "reading_g": 45},
        {"index": 1, "ended_s": 61, "reading_g": 171},
        {"index": 2, "ended_s": 118, "reading_g": 289},
    ]
    seen = {"first_drip_s": 31, "press_kg": 11, "press_with": "bathroom scale", "topped_up_g": 12, "mishaps": ["stuck_plunger"], "bed": ["flat"]}
    host.call(
        "POST",
        f"/trials/{live['trial_id']}/runs",
        {"setup_id": live["setup_id"], "dose_g": 18, "beverage_g": 250, "total_time_s": 170, "pours": pours, "observed": seen},
    )
    run = host.get(f"/trials/{live['trial_id']}/results")["runs"][0]
    assert (run["brew_water_g"], run["pour_end_s"]) == (289, 118) and [p["reading_g"] for p in run["pours"]] == [45, 171, 289]
    assert "Pour to 288 g: 13 s late" in " ".join(run["off_plan"]) and "plunger stuck" in run["off_plan"]
    assert (run["observed"]["press_with"], run["observed"]["topped_up_g"]) == ("bathroom scale", 12)


@pytest.mark.parametrize("at_once", [1, 2], ids=["one line a moment", "two lines in one piece"])
def test_a_real_scale_on_a_wire_starts_the_clock_and_leads(host, app, live, at_once):
    brew = host.call("POST", f"/trials/{live['trial_id']}/live-brews", {"setup_id": live["setup_id"], "instrument": "wire"})

    def say(*readings):
        lines = [{"ago_s": ago, "text": text} for ago, text in readings for _ in range(at_once)]
        return host.call("POST", f"/live-brews/{brew['id']}/weigh", {"lines": lines})

    still = say(*((3 - i / 4, "0.0 g") for i in range(12)))
    assert still["started_at"] is None and still["now"]["phase"] == "before"
    later(app, 10)
    told = say(*((10 - i / 4, f"{min(45, 5 * max(0, i / 4 - 1)):.1f} g") for i in range(40)), (0.1, "Err"))
    assert told["started_at"] and told["rev"] > brew["rev"] and set(told["unread"]) == {"Err"} and told["scale_g"] == pytest.approx(45, abs=6)
    later(app, 5)
    told = say(*((4 - i / 4, "45.1") for i in range(16)))
    assert told["now"]["current"] == 1 and told["now"]["made"][0]["to_g"] == pytest.approx(45, abs=0.5) and told["now"]["rest_g"] == pytest.approx(125, abs=1)
    host.call("POST", f"/live-brews/{live['id']}/weigh", {"lines": []}, status=409)
