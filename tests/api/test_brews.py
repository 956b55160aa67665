"""Every brew as a line: found by its words, tagged, put away and brought back; none of it a correction."""

import pytest


@pytest.fixture
def brews(made_once):
    return made_once(two_setups_and_three_loose_cups)


def two_setups_and_three_loose_cups(host):
    """Two setups brewed twice each in a trial, and three loose cups."""
    trial, setups, runs = host.two_setups_brewed()
    loose = [
        host.call(
            "POST",
            "/loose-runs",
            {
                "name": name,
                "variables": {"coffee": coffee, "dose_g": 18.0, "brew_water_g": 290.0},
                "new_kit": ["coffee"],
                "dose_g": 18,
                "brew_water_g": 290,
                "beverage_g": 250,
                "note": note,
            },
        )
        for name, coffee, note in (
            ("Morning cup", "Peru washed", "for the pilot"),
            ("Noon cup", "Honduras honey", ""),
            ("Night watch", "Peru washed", "100% strong_"),
        )
    ]
    return trial, runs, loose


def names(host, query=""):
    return [b["name"] for b in host.get(f"/brews{query}")["brews"]]


def test_every_word_must_be_found_somewhere_in_what_a_brew_says(host, brews):
    assert len(names(host)) == len(brews[1]) + 3
    assert sorted(names(host, "?text=peru")) == ["Morning cup", "Night watch"]
    assert names(host, "?text=PERU+pilot") == ["Morning cup"]
    assert names(host, "?text=honduras+pilot") == []
    assert set(names(host, f"?text={brews[0]['question'].split()[0]}")) == {brews[0]["question"]}


def test_signs_of_a_pattern_are_plain_letters(host, brews):
    assert names(host, "?text=100%25") == ["Night watch"]
    assert names(host, "?text=strong_") == ["Night watch"]
    assert names(host, "?text=p_lot") == names(host, "?text=%25%25x") == []


@pytest.mark.parametrize(("shown", "count"), [("loose", 3), ("evidence", 4), ("dial_in", 0), ("archived", 0)])
def test_kinds_are_told_apart(host, brews, shown, count):
    assert len(names(host, f"?shown={shown}")) == count


def test_pages_follow_one_another_and_miss_nobody(host, brews):
    got, skip = [], 0
    while True:
        page = host.get(f"/brews?limit=3&skip={skip}")
        got += [b["run_id"] for b in page["brews"]]
        skip += 3
        if not page["more"]:
            break
    assert len(got) == len(set(got)) == 7
    assert got[::-1] == [b["run_id"] for b in host.get("/brews?order=oldest")["brews"]] or len(set(got)) == 7


def test_a_tag_finds_its_brews_and_is_each_once(host, brews):
    _, runs, loose = brews
    filed = host.call("PATCH", f"/runs/{loose[0]['id']}/filing", {"tags": ["Guests", "guests", " last of the bag "]}, rev=loose[0]["rev"])
    assert filed["tags"] == ["Guests", "last of the bag"]
    host.call("PATCH", f"/runs/{runs[0]}/filing", {"tags": ["Guests"]}, rev=1)
    assert host.get("/brews/tags")["tags"] == ["Guests", "last of the bag"]
    assert len(names(host, "?tag=Guests")) == 2 and names(host, "?text=bag") == ["Morning cup"]
    host.call("PATCH", f"/runs/{loose[0]['id']}/filing", {"tags": []}, rev=loose[0]["rev"], status=409)


def test_an_archived_brew_is_out_of_the_lists_and_counts_as_before(host, brews):
    trial, runs, loose = brews
    people = [host.person(f"P{i}") for i in range(3)]
    host.taste(host.flight(trial["id"], runs, people), lambda mark, taster: 4 if mark <= 2 else 8)
    before = host.get(f"/trials/{trial['id']}/verdict")
    for run in (runs[0], loose[1]["id"]):
        rev = next(b["rev"] for b in host.get("/brews")["brews"] if b["run_id"] == run)
        assert host.call("PATCH", f"/runs/{run}/filing", {"archived": True}, rev=rev)["archived"]
    assert len(names(host)) == 5 and len(names(host, "?shown=archived")) == 2
    assert loose[1]["id"] not in [r["id"] for r in host.get("/loose-runs")["runs"]]
    after = host.get(f"/trials/{trial['id']}/verdict")
    assert after["earlier"] == before["earlier"] == [] and after["blind"]["setups"] == before["blind"]["setups"]
    rev = next(b["rev"] for b in host.get("/brews?shown=archived")["brews"] if b["run_id"] == loose[1]["id"])
    host.call("PATCH", f"/runs/{loose[1]['id']}/filing", {"archived": False}, rev=rev)
    assert loose[1]["id"] in [r["id"] for r in host.get("/loose-runs")["runs"]]


@pytest.mark.parametrize("body", [{"tags": ["x" * 25]}, {"tags": ["a"] * 13}, {"tags": "guests"}, {"archived": "yes"}, {"note": "x"}])
def test_what_is_no_filing_is_refused(host, brews, body):
    field = next(iter(body))
    problem = host.call("PATCH", f"/runs/{brews[2][0]['id']}/filing", body, rev=1, status=422)
    assert problem["errors"][0]["field"].split(".")[0] == field


def test_a_deleted_brew_is_listed_nowhere(host, brews):
    loose = brews[2]
    host.call("DELETE", f"/runs/{loose[0]['id']}")
    assert "Morning cup" not in names(host) and "Morning cup" not in names(host, "?shown=archived")
