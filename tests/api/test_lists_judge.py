"""A list never waits for all that an update made out of date."""

from brasspenny.verdicts import lists


def test_a_list_says_what_is_being_judged_and_goes_on_when_it_is_asked_again(demo, monkeypatch):
    judged = {t["number"]: t["headline"] for t in demo.call("GET", "/trials")["trials"]}
    assert sum(text is not None for text in judged.values()) > 3
    monkeypatch.setattr(lists, "CORE_VERSION", "another")
    monkeypatch.setattr(lists, "LIST_S", 0.0)
    first = demo.call("GET", "/trials")["trials"]
    assert any(t["judging"] and t["headline"] is None for t in first)
    monkeypatch.undo()
    monkeypatch.setattr(lists, "CORE_VERSION", "another")
    for _ in range(30):  # on a busy machine one call does not judge them all
        trials = demo.call("GET", "/trials")["trials"]
        if not any(t["judging"] for t in trials):
            break
    assert {t["number"]: t["headline"] for t in trials} == judged
