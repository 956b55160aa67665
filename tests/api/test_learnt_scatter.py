"""A verdict by this bench's own scatter: learnt from earlier blind panels alone, kept as it was when the trial was first judged, both judgements always in sight."""

import pytest

from brasspenny.store.connection import database
from brasspenny.store.models import Bench, LearntScatter

STEADY = ((0, 0.5, 0, -0.5), (0.5, 0, 0, 0), (0, 0, -0.5, 0.5))
"""Points about the middle, by taster and mark: a bench that repeats itself."""


@pytest.fixture
def people(host):
    return [host.person(name) for name in ("Odile", "Bram", "Ines")]


def panel(host, people, lead=0.0, **asked):
    """Two setups, two brews each, everybody scores; A leads."""
    trial, _, runs = host.two_setups_brewed()
    host.taste(host.flight(trial["id"], runs, people, **asked), lambda mark, i: 6 + (lead if mark <= 2 else 0) + STEADY[i % 3][mark - 1])
    return trial["id"]


def verdict(host, trial):
    return host.get(f"/trials/{trial}/verdict")


def width(found):
    low, high = found["blind"]["differences"][0]["interval"]
    return high - low


def test_earlier_flights_speak_and_the_other_scatter_is_always_told(host, people):
    first = panel(host, people)
    assert verdict(host, first)["scatter"] is None
    for _ in range(3):
        panel(host, people)
    new = panel(host, people, lead=1.5)
    by_own = verdict(host, new)
    assert by_own["scatter"]["text"].startswith("Judged with scatter learnt from 4 earlier flights, 48 cups. By the usual scatter it ")
    method = host.get(f"/trials/{new}/report")["method"]
    assert by_own["scatter"]["text"] in method and any(line.startswith("Scored: 3 tasters, 4 brews, 1 flight;") for line in method)
    liking = host.get(f"/trials/{new}/verdict/attribute?attribute=liking")["passes"][0]
    assert liking["differences"][0]["interval"] == by_own["blind"]["differences"][0]["interval"]
    host.call("PATCH", f"/trials/{new}", {"scatter_from": "usual"}, rev=host.get(f"/trials/{new}")["rev"])
    by_usual = verdict(host, new)
    assert by_usual["scatter"]["text"].startswith("Judged by the usual scatter. With scatter learnt from 4 earlier flights, 48 cups it ")
    assert width(by_own) < width(by_usual)
    assert by_usual["earlier"] == []  # nothing was corrected
    host.call("PATCH", f"/trials/{new}", {"scatter_from": "a hunch"}, rev=host.get(f"/trials/{new}")["rev"], status=422)


def test_the_other_scatters_headline_is_the_one_it_would_print(host, people):
    """Where the two disagree, the sentence names exactly what the switch then shows."""
    for _ in range(4):
        panel(host, people)
    new = panel(host, people, lead=0.5)
    by_own = verdict(host, new)
    host.call("PATCH", f"/trials/{new}", {"scatter_from": "usual"}, rev=host.get(f"/trials/{new}")["rev"])
    by_usual = verdict(host, new)
    assert by_own["answer"]["headline"] != by_usual["answer"]["headline"]
    assert by_own["scatter"]["text"].endswith(f"it would say: {by_usual['answer']['headline']}.")
    assert by_usual["scatter"]["text"].endswith(f"it would say: {by_own['answer']['headline']}.")
    assert [t["headline"] for t in host.get("/trials")["trials"]][0] == by_usual["answer"]["headline"]


def test_what_is_done_to_an_earlier_trial_afterwards_changes_nothing(host, people):
    old = panel(host, people)
    new = panel(host, people, lead=1.5)
    before = verdict(host, new)
    host.call("DELETE", f"/trials/{old}")
    later = panel(host, people)
    after = verdict(host, new)
    assert after["scatter"] == before["scatter"] and after["blind"] == before["blind"] and after["earlier"] == []
    assert verdict(host, later)["scatter"]["flights"] == 1  # the deleted one speaks to nobody new


def test_another_flight_of_a_trial_is_judged_by_the_scatter_it_began_with(host, people):
    panel(host, people)
    trial, _, runs = host.two_setups_brewed()
    taste = lambda: host.taste(host.flight(trial["id"], runs, people), lambda mark, i: 6 + (mark <= 2) + STEADY[i][mark - 1])  # noqa: E731
    taste()
    began = verdict(host, trial["id"])["scatter"]
    panel(host, people)
    taste()
    now = verdict(host, trial["id"])
    assert (now["scatter"]["flights"], now["scatter"]["cups"]) == (began["flights"], began["cups"]) == (1, 12) and now["blind"]["flights"] == 2
    assert host.get(f"/trials/{trial['id']}/verdict/next")["spent"].startswith("Spent: 2 flights, 4 brews, 72 g, ")


def sighted(host, people):
    trial, _, runs = host.two_setups_brewed()
    flight = host.flight(trial["id"], runs, people, blinding="open")
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(c["code"], value=6) for c in flight["cups"]))
    host.call("POST", f"/flights/{flight['id']}/close")


def other_passes(host, people):
    trial, _, runs = host.two_setups_brewed()
    flight = host.flight(trial["id"], runs, people, passes=["hot", "cool"])
    marks = [{"code": c["code"], "mark": i} for i, c in enumerate(flight["cups"], 1)]
    for sheet in flight["sheets"]:
        host.score(sheet, *(host.touch(m["code"], value=6) | {"pass_name": p} for m in marks for p in ("hot", "cool")))
    host.call("POST", f"/flights/{flight['id']}/close")
    host.call("POST", f"/flights/{flight['id']}/flip", {"marks": marks})


def simulated(host, people):
    panel(host, people)
    with database.connection_context():
        database.execute_sql("UPDATE run SET observed = '{\"simulated\": true}'")


def made_up(host, people):
    panel(host, people)
    with database.connection_context():
        Bench.update(made_up=True).execute()


@pytest.mark.parametrize("unfit", [sighted, other_passes, simulated, made_up, lambda host, people: panel(host, people[:1])])
def test_what_says_nothing_of_this_scatter_is_left_out(host, people, unfit):
    unfit(host, people)
    new = panel(host, people, lead=1)
    assert verdict(host, new)["scatter"] is None
    with database.connection_context():
        assert LearntScatter.get(LearntScatter.trial == new).flights == 0


def test_what_was_tasted_later_is_left_out(host, people):
    """However late the verdict is asked for."""
    new = panel(host, people, lead=1)
    panel(host, people)
    assert verdict(host, new)["scatter"] is None
