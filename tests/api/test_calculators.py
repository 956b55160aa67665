"""The public calculators: the documented numbers over the wire, and every bad value refused at its field."""

import pytest
from pydantic import ValidationError

from brasspenny.core.limits import LEAST_SIZE
from brasspenny.http import Body

BREW = {"dose_g": 18, "brew_water_g": 290, "beverage_g": 248, "tds_readings_pct": [1.41, 1.43, 1.42]}


def test_extraction(host):
    got = host.call("POST", "/calc/extraction", BREW)
    assert round(got["ey_in_cup_pct"], 2) == 19.56
    assert round(got["u_tds_pct"], 3) == 0.018
    assert round(got["u_ey_in_cup_pct"], 3) == 0.257
    assert round(got["retained_water_ratio"], 2) == 2.53
    low, high = got["ey_in_cup_interval_pct"]
    assert round((high - low) / 2, 1) == 0.5
    assert got["warnings"] == []


def test_extraction_with_bypass_counts_all_water_in_the_ratio(host):
    got = host.call("POST", "/calc/extraction", {"dose_g": 18, "brew_water_g": 190, "bypass_g": 80, "beverage_g": 230, "tds_pct": 1.35})
    assert (round(got["tds_undiluted_pct"], 2), round(got["ey_in_cup_pct"], 2), round(got["ey_full_liquor_pct"], 2)) == (2.07, 17.25, 22.31)
    assert got["brew_ratio"] == 15
    assert [w["code"] for w in got["warnings"]] == ["single_reading"]


def test_what_needs_brew_water_is_null_without_it(host):
    got = host.call("POST", "/calc/extraction", {"dose_g": 18, "beverage_g": 248, "tds_pct": 1.42})
    assert (got["ey_full_liquor_pct"], got["brew_ratio"], got["retained_water_ratio"], got["u_ey_full_liquor_pct"]) == (None,) * 4


@pytest.mark.parametrize(
    ("path", "body", "expected"),
    [
        ("dilution", {"beverage_g": 210, "tds_pct": 1.52, "target_tds_pct": 1.38}, {"add_water_g": 21.3, "final_beverage_g": 231.3}),
        ("solve", {"tds_pct": 1.30, "ey_pct": 20.5, "brew_water_g": 260}, {"dose_g": 14.72}),
        ("solve", {"tds_pct": 1.30, "ey_pct": 20.5, "brew_water_g": 260, "yield_basis": "full_liquor"}, {"dose_g": 16.70}),
        ("convert", {"value": 1, "from": "dh", "to": "mg_l_caco3"}, {"value": 17.85}),
        ("boiling-point", {"altitude_m": 1600}, {"boiling_point_c": 94.69}),
        ("cooling", {"ambient_c": 22, "start_c": 68, "tau_s": 1653, "elapsed_s": 900}, {"temp_c": 48.7}),
        ("cooling", {"ambient_c": 22, "readings": [{"t_s": 0, "temp_c": 68}, {"t_s": 600, "temp_c": 54}], "elapsed_s": 900}, {"tau_s": 1653, "temp_c": 48.7}),
        ("duration", {"text": "1m35"}, {"seconds": 95}),
        ("drying", {"dish_g": 20, "dried_g": 20.142, "sample_g": 10}, {"tds_pct": 1.42}),
    ],
)
def test_each_calculator(host, path, body, expected):
    got = host.call("POST", f"/calc/{path}", body)
    for name, value in expected.items():
        assert got[name] == pytest.approx(value, rel=0.002), name


@pytest.mark.parametrize(
    ("path", "body", "field", "word"),
    [
        ("extraction", BREW | {"dose_g": 0}, "dose_g", "more than 0"),
        ("extraction", BREW | {"dose_g": "18,1"}, "dose_g", "1.42"),
        ("extraction", BREW | {"dose_g": False}, "dose_g", "number"),
        ("extraction", BREW | {"dose_g": None}, "dose_g", "number"),
        ("extraction", BREW | {"beverage_g": 300}, "beverage_g", "290"),
        ("extraction", BREW | {"bypass_g": 248}, "bypass_g", "bypass"),
        ("extraction", BREW | {"colour": 1}, "colour", "Leave it out"),
        ("extraction", {"dose_g": 18, "tds_pct": 1.4}, "beverage_g", "Give it"),
        ("extraction", {"dose_g": 18, "beverage_g": 248}, "tds_pct", "either"),
        ("extraction", BREW | {"tds_pct": 1.4}, "tds_pct", "either"),
        ("extraction", {"dose_g": 18, "beverage_g": 248, "tds_pct": 142}, "tds_pct", "conductivity"),
        ("extraction", BREW | {"tds_readings_pct": [1.4, 14]}, "tds_readings_pct.1", "conductivity"),
        ("extraction", BREW | {"tds_readings_pct": []}, "tds_readings_pct", ""),
        ("extraction", BREW | {"moisture_pct": 50}, "moisture_pct", "15"),
        ("extraction", BREW | {"dose_g": 2}, "dose_g", "solids"),
        ("dilution", {"beverage_g": 210, "tds_pct": 1.38, "target_tds_pct": 1.52}, "target_tds_pct", "weakest"),
        ("solve", {"tds_pct": 1.4, "ey_pct": 20}, "dose_g", "brew_water_g"),
        ("solve", {"dose_g": 18, "brew_water_g": 290, "brew_ratio": 12, "ey_pct": 20}, "brew_ratio", "1:16.11"),
        ("solve", {"yield_basis": "nordic"}, "yield_basis", "in_cup"),
        ("convert", {"value": 1, "from": "g", "to": "c"}, "to", "mass"),
        ("convert", {"value": 1, "from": "stone", "to": "g"}, "from", "Give"),
        ("convert", {"value": -1, "from": "g", "to": "oz"}, "value", "above"),
        ("boiling-point", {"altitude_m": 90000}, "altitude_m", "8850"),
        ("cooling", {"ambient_c": 22, "elapsed_s": 1}, "readings", "two readings"),
        ("duration", {"text": "soon"}, "text", "1:35"),
    ],
)
def test_bad_values_are_refused_at_their_field(host, path, body, field, word):
    got = host.call("POST", f"/calc/{path}", body, status=422)
    assert field in [e["field"] for e in got["errors"]], got
    error = next(e for e in got["errors"] if e["field"] == field)
    assert word in error["reason"] + error["remedy"], error


@pytest.mark.parametrize(
    ("data", "kind", "status"),
    [
        (b"{", "application/json", 400),
        (b"[" * 100_000, "application/json", 400),
        (b"null", "application/json", 422),
        (b"[]", "application/json", 422),
        (b'"text"', "application/json", 422),
        (b'{"dose_g": NaN}', "application/json", 422),
        (b'{"dose_g": 1e999}', "application/json", 422),
        (b'{"dose_g": "\\ud800"}', "application/json", 422),
        (b"\xff\xfe", "application/json", 400),
        (b"dose_g=18", "application/x-www-form-urlencoded", 415),
        (b"x" * 10_000_000, "application/json", 413),
    ],
)
def test_a_body_that_is_no_such_json_is_refused(app, data, kind, status):
    answer = app.test_client().post("/api/v1/calc/extraction", data=data, content_type=kind)
    assert answer.status_code == status
    assert answer.mimetype == "application/problem+json"


def test_values_of_absurd_size_have_a_plain_answer(host):
    host.call("POST", "/calc/convert", {"value": 1e308, "from": "kg", "to": "g"}, status=422)
    host.call("POST", "/calc/solve", {"tds_pct": 1e-300, "ey_pct": 20, "dose_g": 1}, status=422)


class Anything(Body):
    one: float = 1
    many: list[list[float]] = []
    by_name: dict[str, float] = {}
    text: str | float = ""


@pytest.mark.parametrize("sent", [{"one": 5e-324}, {"many": [[1, 2], [-1e-12, 3]]}, {"by_name": {"a": 1, "b": 1e-10}}, {"text": 1e-300}])
def test_no_number_of_any_body_is_too_small_to_be_divided_by(sent):
    with pytest.raises(ValidationError, match="too near to 0") as refused:
        Anything.model_validate(sent)
    assert refused.value.errors()[0]["loc"] == (next(iter(sent)),)
    assert Anything.model_validate({"one": 0, "many": [[0, LEAST_SIZE]], "by_name": {"a": -0.5}, "text": "5e-324"}).one == 0
