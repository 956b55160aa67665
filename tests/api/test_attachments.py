"""What keeps a bench in order: notes, tags, archive, search, photos, links for those without the bench."""

import base64
import io

import pytest
from PIL import Image

from brasspenny.photos.service import LONGEST_SIDE_PX, small
from brasspenny.refusals import Unprocessable

from .host import Host


def listed(host, **asked):
    return [t["question"] for t in host.call("GET", "/trials?" + "&".join(f"{k}={v}" for k, v in asked.items()))["trials"]]


def test_trials_are_found_by_their_words_tags_and_state(host):
    a = host.ask("Which filter for the flat bed?")
    b = host.ask("Which ratio?", "ratio")
    host.call("PATCH", f"/trials/{a['id']}", {"tags": ["Winter menu", "shop", "winter menu"], "note": "for the wardroom_100%"}, rev=1)
    assert host.get(f"/trials/{a['id']}")["tags"] == ["Winter menu", "shop"], "the same tag twice is one"
    assert host.get("/trials/tags")["tags"] == ["shop", "Winter menu"]
    assert listed(host, tag="shop") == [a["question"]]
    for text, found in (("filter", [a]), ("bed which", [a]), (str(b["number"]), [b]), ("wardroom", [a]), ("_100%25", [a]), ("winter", [a]), ("nowhere", [])):
        assert listed(host, text=text) == [t["question"] for t in found], text
    assert listed(host, order="oldest") == [a["question"], b["question"]]
    assert listed(host, shown="judged") == [] and listed(host, shown="waiting") == [b["question"], a["question"]]
    host.call("PATCH", f"/trials/{a['id']}", {"archived": True}, rev=2)
    assert listed(host) == [b["question"]] and listed(host, shown="archived") == [a["question"]]
    assert host.get(f"/trials/{a['id']}")["archived"] is True, "it stays whole"
    host.call("PATCH", f"/trials/{a['id']}", {"archived": False}, rev=3)
    assert listed(host) == [b["question"], a["question"]]


def test_one_field_finds_whatever_has_a_name(host):
    trial = host.ask("Which filter for the flat bed?")
    host.setup(trial["id"], filter="White weave")
    host.person("Weaver")
    host.recipe("18 g, 290 g, bloom 45 for 40 s, to 290", "Weave watch")
    found = {(f["kind"], f["label"]) for f in host.get("/search?text=weave")["found"]}
    assert found == {("kit", "White weave"), ("person", "Weaver"), ("recipe", "Weave watch")}
    assert {f["kind"] for f in host.get("/search?text=FLAT filter")["found"]} == {"trial"}
    assert host.get("/search?text=' OR 1=1 --")["found"] == []


def picture(width, height, form="JPEG", **more):
    out = io.BytesIO()
    Image.new("RGB", (width, height), (90, 60, 30)).save(out, form, **more)
    return base64.b64encode(out.getvalue()).decode()


def test_a_photo_is_kept_small_upright_and_without_its_place(host):
    trial = host.ask()
    run = host.brew(trial["id"], host.setup(trial["id"]))
    exif = Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "Lens and Sons"  # turned by a quarter; the maker of the camera
    kept = host.call("POST", f"/runs/{run['id']}/photos", {"kind": "bed", "data": picture(2400, 1200, exif=exif)})
    assert (kept["width"], kept["height"]) == (LONGEST_SIDE_PX // 2, LONGEST_SIDE_PX)
    body = host.client.get(f"/api/v1/photos/{kept['id']}")
    shown = Image.open(io.BytesIO(body.data))
    assert body.mimetype == "image/jpeg" and shown.size == (kept["width"], kept["height"]) and not shown.getexif()
    assert [p["id"] for p in host.get(f"/trials/{trial['id']}/photos")["photos"]] == [kept["id"]]
    gone = host.call("DELETE", f"/photos/{kept['id']}")
    assert host.get(f"/runs/{run['id']}/photos")["photos"] == []
    host.call("POST", f"/changes/{gone['change_id']}/undo")
    assert len(host.get(f"/runs/{run['id']}/photos")["photos"]) == 1


@pytest.mark.parametrize(
    "data", ["not base64 at all!!", base64.b64encode(b"%PDF-1.7 " + b"x" * 400).decode(), base64.b64encode(b"<svg onload=alert(1)>" + b" " * 99).decode()]
)
def test_what_is_no_picture_is_refused_at_its_field(data):
    with pytest.raises(Unprocessable) as refused:
        small(data)
    assert refused.value.field == "data"


def test_a_picture_too_large_to_hold_is_refused_before_it_is_unpacked():
    with pytest.raises(Unprocessable):
        small(picture(12_000, 9_000, "PNG"))


def test_a_verdict_is_read_by_its_link_until_it_is_withdrawn(app):
    host = Host(app.test_client())
    trial = host.ask()
    assert (
        "no verdict"
        in host.call("POST", f"/trials/{trial['id']}/verdict-links", status=409)["detail"]
        + host.call("POST", f"/trials/{trial['id']}/verdict-links", status=409)["title"]
    )
    setups = [host.setup(trial["id"], filter=f) for f in ("White weave", "Grey felt")]
    runs = [host.brew(trial["id"], s)["id"] for s in setups for _ in range(2)]
    flight = host.flight(trial["id"], runs, [host.person("Odile"), host.person("Marek")])
    host.taste(flight, lambda mark, i: 5 + mark % 2)
    made = host.call("POST", f"/trials/{trial['id']}/verdict-links")
    token = made["link"].rsplit("/v/", 1)[1]
    stranger = Host(app.test_client())
    assert stranger.get(f"/shown/{token}")["question"] == trial["question"]
    shown = host.get(f"/trials/{trial['id']}/verdict-links")["links"]
    assert [link["id"] for link in shown] == [made["id"]] and token not in str(shown), "the link itself is shown once"
    host.call("DELETE", f"/verdict-links/{made['id']}")
    assert stranger.call("GET", f"/shown/{token}", status=404)


def test_whoever_renames_a_person_renames_them_everywhere(host):
    who = host.person("Odile")
    host.call("PATCH", f"/people/{who}", {"name": "Odile K."}, rev=1)
    assert [p["name"] for p in host.get("/people")["people"]] == ["Odile K."]
    host.person("Marek")
    assert host.call("PATCH", f"/people/{who}", {"name": "Marek"}, rev=2, status=409)["errors"][0]["field"] == "name"


def test_the_bench_says_how_phones_reach_it(host):
    assert host.get("/reach") == {"link": "http://localhost/", "on_network": False, "may_open": False}
    assert b"<svg" in host.client.get("/api/v1/reach/qr.svg").data


def test_letters_that_no_id_is_made_of_name_nothing(host):
    assert host.call("POST", "/simulated-doses", {"dial_id": "²", "beans_in_g": 18}, status=422)["title"]
