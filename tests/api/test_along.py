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


def on(host, live, what, body=None, **how):
    return host.call("POST", f"/live-brews/{live['id']}/{what}", body, rev=live["rev"], **how)


def test_a_brew_is_made_along_and_becomes_a_run(host, live):
    assert (live["started_at"], live["elapsed_s"], [s["to_g"] for s in live["steps"]]) == (None, 0, [45, 170, 288])
    on(host, live, "marks", {"kind": "first_drip"}, status=409)
    begun = on(host, live, "start")
    again = host.get(f"/live-brews/{live['id']}")  # another device, a moment later: the same clock
    assert again["started_at"] == begun["started_at"] and again["elapsed_s"] > begun["elapsed_s"]
    now = begun
    for index, at in ((0, 10), (1, 63), (2, 112)):
        now = on(host, now, "marks", {"kind": "step_done", "index": index, "at_s": at})
    assert [d["outside"] for d in now["deviations"]] == [False, False, True]  # the last pour ended 7 s late
    assert "Step 3: 7 s late" in now["deviations_said"]
    assert all(abs(m["reading_g"] / t - 1) < 0.03 for m, t in zip(now["marks"], (45, 170, 288), strict=True))
    now = on(host, now, "marks", {"kind": "drips_stopped", "at_s": 168.4})
    done = on(host, now, "finish", {"beverage_g": 251, "tds_readings_pct": [1.4, 1.41, 1.4]})
    run = host.get(f"/trials/{live['trial_id']}/results")["runs"][0]
    assert done["finished"] and done["run_id"] == run["id"]
    assert (run["dose_g"], run["pour_end_s"], run["total_time_s"], run["beverage_g"]) == (18, 112, 168.4, 251)
    assert run["brew_water_g"] == now["marks"][2]["reading_g"] and run["extraction_yield"]
    on(host, done, "marks", {"kind": "spill"}, status=409)
    assert host.get(f"/trials/{live['trial_id']}/live-brews")["brews"] == []


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
    assert times == sorted(times) and times[-1] > times[0] and grams[-1] >= grams[0]
    assert events[-1]["plan_g"] >= events[0]["plan_g"] >= 0


def test_without_a_scale_the_plan_is_streamed_alone_and_ends_with_the_brew(host, live):
    bare = host.call("POST", f"/trials/{live['trial_id']}/live-brews", {"setup_id": live["setup_id"], "speed": 60})
    assert bare["speed"] == 1  # the clock runs faster for a simulated scale only
    text = host.client.get(f"/api/v1/live-brews/{bare['id']}/readings").get_data(as_text=True)
    (event,) = [json.loads(line.removeprefix("data: ")) for line in text.splitlines() if line.startswith("data: ")]
    assert event == {"elapsed_s": 0.0, "plan_g": 0.0, "scale_g": None, "slurry_c": None, "kettle_c": None, "press_kg": None, "source": "none"}


def test_marks_that_cannot_be_together_are_refused_at_the_end_and_mended_by_marking_again(host, live):
    now = on(host, live, "start")
    now = on(host, now, "marks", {"kind": "drips_stopped", "at_s": 90})
    now = on(host, now, "marks", {"kind": "step_done", "index": 2, "at_s": 110})
    refused = on(host, now, "finish", {"beverage_g": 250}, status=422)
    assert refused["errors"][0]["field"] == "total_time_s" and refused["errors"][0]["remedy"]
    now = on(host, now, "marks", {"kind": "drips_stopped", "at_s": 165})
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
    for kind, more in (("first_drip", {}), ("spill", {}), ("cue", {"text": "bed shines"}), ("drips_stopped", {})):
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
