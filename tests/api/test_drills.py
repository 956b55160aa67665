"""Drills through the API: declared, set out, answered before they are turned over, counted; each taster's for themselves."""

import pytest

CUPS = [{"name": f"{n} g/L", "made": "sugar in water"} for n in (0, 1, 2, 4, 8)]


@pytest.fixture
def odile(host):
    return host.person("Odile")


def make(host, person, kind="order", cups=CUPS, **how):
    return host.call("POST", "/drills", {"person_id": person, "kind": kind, "cups": cups}, **how)


def a_round(host, drill, answer, marks):
    number = host.call("POST", f"/drills/{drill}/round")["now"]["number"]
    host.call("PUT", f"/drills/{drill}/answer", {"number": number, "answer": answer})
    return host.call("PUT", f"/drills/{drill}/turned", {"number": number, "marks": marks})


def test_cups_in_order_over_two_rounds(host, odile):
    drill = make(host, odile)
    assert [c["mark"] for c in drill["cups"]] == list("ABCDE") and drill["text"] == "No round is finished yet."
    first = a_round(host, drill["id"], [4, 3, 2, 1, 0], list("EDCBA"))
    assert (first["last"]["right"], first["last"]["of"], first["now"]) == (10, 10, None)
    second = a_round(host, drill["id"], [0, 1, 2, 3, 4], list("BACDE"))
    assert second["rounds"] == 2 and second["last"]["right"] == 9
    assert second["text"].startswith("19 of 20 pairs in order; guessing gives 10.0.") and second["interval"][0] > second["guessed"] == pytest.approx(0.5)
    listed = host.get(f"/drills?person_id={odile}")
    assert (listed["weeks"], listed["sittings"], [d["id"] for d in listed["drills"]]) == (1, 1, [drill["id"]]) and "cocoa" in listed["shelf"]
    assert host.get(f"/drills?person_id={host.person('Bram')}")["drills"] == []


def test_an_answer_stands_before_the_cups_are_turned_over_and_neither_changes(host, odile):
    drill = make(host, odile, "odd", CUPS[:2])["id"]
    began = host.call("POST", f"/drills/{drill}/round")
    cups = began["now"]["set_out"]
    assert len(cups) == 3 and host.call("POST", f"/drills/{drill}/round")["now"] == began["now"]  # taken up again where it was left
    turned = {"number": 1, "marks": cups}
    assert host.call("PUT", f"/drills/{drill}/turned", turned, status=409)["title"] == "The cups are turned over after the answer."
    odd = next(i for i, m in enumerate(cups) if cups.count(m) == 1)
    host.call("PUT", f"/drills/{drill}/answer", {"number": 1, "answer": [odd]})
    host.call("PUT", f"/drills/{drill}/answer", {"number": 1, "answer": [odd]})
    host.call("PUT", f"/drills/{drill}/answer", {"number": 1, "answer": [(odd + 1) % 3]}, status=409)
    done = host.call("PUT", f"/drills/{drill}/turned", turned)
    assert done["last"]["right"] == 1 and host.call("PUT", f"/drills/{drill}/turned", turned)["rounds"] == 1
    host.call("PUT", f"/drills/{drill}/turned", {"number": 1, "marks": cups[::-1] if cups[::-1] != cups else cups[1:] + cups[:1]}, status=409)


@pytest.mark.parametrize(
    "kind, cups, field",
    [("stronger", CUPS[:1], "cups"), ("match", [CUPS[0]] * 3, "cups"), ("order", [{"name": ""}] * 3, "cups.0.name"), ("juggle", CUPS, "kind")],
)
def test_a_drill_that_cannot_be_is_refused_at_its_field(host, odile, kind, cups, field):
    assert make(host, odile, kind, cups, status=422)["errors"][0]["field"] == field


def test_bad_rounds_are_refused_and_leave_nothing(host, odile):
    drill = make(host, odile, "match", CUPS[:3])["id"]
    host.call("PUT", f"/drills/{drill}/answer", {"number": 1, "answer": [0, 1, 2]}, status=422)
    host.call("POST", f"/drills/{drill}/round")
    assert host.call("PUT", f"/drills/{drill}/answer", {"number": 1, "answer": [0, 0, 1]}, status=422)["errors"][0]["field"] == "answer"
    host.call("PUT", f"/drills/{drill}/answer", {"number": 1, "answer": [2, 0, 1]})
    assert host.call("PUT", f"/drills/{drill}/turned", {"number": 1, "marks": ["A", "B", "D"]}, status=422)["errors"][0]["field"] == "marks"
    assert host.get(f"/drills/{drill}")["rounds"] == 0
    make(host, "nobody", status=422)
    host.get("/drills/nothere12345", status=404)


def test_a_deleted_drill_comes_back_with_its_rounds(host, odile):
    drill = make(host, odile, "stronger", CUPS[:2])["id"]
    a_round(host, drill, [1], ["A", "B"])
    change = host.call("DELETE", f"/drills/{drill}")["change_id"]
    host.get(f"/drills/{drill}", status=404)
    assert host.get(f"/drills?person_id={odile}")["sittings"] == 0
    host.call("POST", f"/changes/{change}/undo")
    assert host.get(f"/drills/{drill}")["last"]["right"] == 1
