"""The guide for scripts does what it says: every block of it, run as it stands against a bench that is served."""

import re

from brasspenny.config import PROJECT

from .remote import host_of

BLOCK = re.compile(r"^```python\n(.*?)^```", re.MULTILINE | re.DOTALL)


def test_the_guide_for_scripts_runs_as_it_stands(empty_bench, capsys):
    host = host_of(empty_bench)
    token = host.call("POST", "/script-tokens", {"name": "the guide", "may_write": True}, status=201)["token"]
    host.call(
        "POST", "/loose-runs", {"variables": {"coffee": "Peru washed, lot 7", "dose_g": 18, "brew_water_g": 290}, "beverage_g": 250, "tds_readings_pct": [1.4]}
    )
    host.ask()
    guide = "\n".join(BLOCK.findall((PROJECT / "docs/api.md").read_text()))
    assert guide.count('"http://192.168.1.40:8765", "bp_…"') == 1
    told: dict = {}
    exec(guide.replace('"http://192.168.1.40:8765", "bp_…"', f'"{empty_bench}", "{token}"'), told)  # noqa: S102 - it is the guide's own
    assert set(told["labels"]) == {"loose brew"} and told["scores"].column_names[-1] == "score"
    assert host.get(f"/trials/{told['trial']}")["question"] == "Which filter, back then?"
    assert [r["readings"][-1]["tds_pct"] for r in host.get("/loose-runs")["runs"] if r["name"] == "Morning cup"] == [1.42]
    assert "[]" in capsys.readouterr().out
