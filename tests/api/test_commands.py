"""The commands: judge on a plain file, the demo's story, the passphrase, a taken port."""

import json
import os
import re
import socket
import subprocess
import sys
import urllib.error
import urllib.request

import pytest

from brasspenny import addresses, cli
from brasspenny.config import PROJECT, SETTINGS
from brasspenny.demo import scenario
from brasspenny.store import connection

from ..core.test_judging import FIRST
from .host import Host

HEADER = "flight,taster,setup,brew,pass,attribute,score\n"


def first_example_csv():
    lines = [f",{t},{s},{i},,liking,{x}" for t, by in FIRST.items() for s, xs in by.items() for i, x in enumerate(xs, 1)]
    return HEADER + "\n".join([*lines, ",T1,A,1,,body,3"]) + "\n"


def test_judge_prints_the_published_shape(tmp_path, capsys):
    file = tmp_path / "scores.csv"
    file.write_text(first_example_csv())
    assert cli.main(["judge", str(file), "--json"]) == 0
    got = json.loads(capsys.readouterr().out)
    assert got.pop("headline") == "Keep A" and got.pop("certainty") and got.pop("action").startswith("Keep A")
    assert list(got) == ["attribute", "pass", "setups", "differences", "verdict", "caveats", "evidence_grade", "lean"]
    assert list(got["setups"][0]) == ["setup", "n_scores", "mean", "interval", "probability_best", "expected_regret"]
    assert list(got["differences"][0]) == ["a", "b", "estimate", "interval", "p_value", "p_adjusted", "p_permutation", "probability_practically_equal"]
    assert list(got["verdict"]) == ["kind", "choice", "tied", "dropped", "text"] and list(got["lean"]) == ["setup", "expected_regret", "text"]
    assert got["verdict"]["choice"] == "A" and round(got["setups"][0]["mean"], 1) == 7.6
    assert cli.main(["judge", str(file)]) == 0
    assert "Keep A" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("raw", "words"),
    [
        (b"taster,setup,score\nT,A,5\n", "column attribute"),
        (b"taster,setup,atribute,score\nT,A,liking,5\n", 'mean "atribute"'),
        ((HEADER + "F,T,A,1,,liking,six\n").encode(), "row 2, column score"),
        ((HEADER + "F,T,A,1,,liking,12\n").encode(), "row 2, column score"),
        ((HEADER + "F,T,A,1,,liking,nan\n").encode(), "row 2, column score"),
        ((HEADER + "F,T,A,1,,liking,5\nF,T,A,1,,liking,6\n").encode(), "row 3"),
        ((HEADER + "F,,A,1,,liking,5\n").encode(), "row 2, column taster"),
        ((HEADER + "F,T,A,1,,liking,6,5\n").encode(), "row 2"),
        ((HEADER + "F,T,A,1,,body,5\n").encode(), "no row scores liking"),
        (HEADER.encode() + "F,Zoë,A,1,,liking,5\n".encode("latin-1"), "UTF-8"),
        (b"", "column"),
    ],
)
def test_judge_names_row_and_column_of_what_is_wrong(tmp_path, capsys, raw, words):
    file = tmp_path / "scores.csv"
    file.write_bytes(raw)
    assert cli.main(["judge", str(file)]) == 2
    assert words in capsys.readouterr().err


def test_judge_takes_columns_in_any_order_and_empty_ones(tmp_path, capsys):
    file = tmp_path / "scores.csv"
    file.write_text("\ufeffscore,attribute,setup,taster\n" + "".join(f"{6 + (s == 'B')},liking,{s},T{t}\n" for t in range(4) for s in "AB"))
    assert cli.main(["judge", str(file), "--json"]) == 0
    got = json.loads(capsys.readouterr().out)
    assert got["lean"]["setup"] == "B" and "single_brews" in [c["code"] for c in got["caveats"]]


def test_judge_says_its_limit_and_how_to_split_a_file_of_any_length(tmp_path, capsys):
    file = tmp_path / "scores.csv"
    rows = (f"F{f},T{t},S{s},{b},liking,{1 + (t + s + b) % 9}" for f in range(20) for t in range(12) for s in range(6) for b in range(140))
    file.write_text("flight,taster,setup,brew,attribute,score\n" + "\n".join(rows))
    assert cli.main(["judge", str(file)]) == 2
    said = capsys.readouterr().err
    assert "240 sittings" in said and "Split the file by flight" in said


def test_judge_of_one_setup_one_taster_and_another_attribute_is_an_honest_answer(tmp_path, capsys):
    file = tmp_path / "scores.csv"
    file.write_text("taster,setup,brew,attribute,score\nT,A,1,body,0\nT,A,2,body,10\n")
    assert cli.main(["judge", str(file), "--attribute", "body", "--json"]) == 0
    got = json.loads(capsys.readouterr().out)
    assert (got["attribute"], got["verdict"]["kind"], got["evidence_grade"], got["differences"]) == ("body", "not_enough", "none", [])
    file.write_text("taster,setup,brew,attribute,score\n" + "".join(f"T,{s},{b},liking,{7 + (s == 'B')}\n" for s in "AB" for b in (1, 2)))
    assert cli.main(["judge", str(file)]) == 0
    assert "Design: weak" in capsys.readouterr().out


def test_judge_of_a_missing_file_is_a_sentence(capsys):
    assert cli.main(["judge", "/nowhere.csv"]) == 2
    assert "cannot be read" in capsys.readouterr().err


def test_the_demos_story_is_worth_looking_at(demo):
    """The sighted favourite is not the blind one, one setup is dropped, the other two are not settled; numbers are plausible."""
    host = demo
    asked, planned, waters, ladder, filters, factors, camps, ratios, mills = host.get("/trials")["trials"]
    assert camps["headline"].startswith("Four like") and "choose by guest" in camps["headline"]
    assert factors["headline"] == "Coffee matters more" and ratios["headline"].startswith("Liked best near ratio 1:15")
    dearer = host.get(f"/trials/{mills['id']}/verdict/value")["bought"]
    assert "times the price" in dearer and "s a dose saved" in dearer and dearer.endswith("It is not shown to be liked more.")
    assert not [c for c in host.get(f"/trials/{mills['id']}/progress")["caveats"] if c["code"] == "unsampled"]
    verdict = host.get(f"/trials/{filters['id']}/verdict")
    assert verdict["sighted"]["setups"][0]["setup"] == "C" and verdict["blind"]["verdict"]["dropped"] == ["C"]
    assert verdict["blind"]["verdict"]["kind"] == "not_enough" and verdict["blind"]["tasters"] == 6 and verdict["blind"]["brews"] == 9
    assert (waters["next_station"], host.get(f"/trials/{waters['id']}/flights")["flights"][0]["blinding"]) == ("taste", "runner")
    for trial in (ladder, filters, ratios, waters):
        for run in host.get(f"/trials/{trial['id']}/results")["runs"]:
            assert not [w for w in run["warnings"] if w["code"] != "no_reading"], run["label"]
            assert run["retained_water_ratio"] is None or 1.8 < run["retained_water_ratio"] < 2.6
    assert [s["state"] for s in ladder["stops"]][:4] == ["done", "done", "done", "current"] and len(ladder["setups"]) == 6
    assert (asked["setups"], asked["next_station"]) == ([], "set_up")
    blind_codes = [f["cups"] for f in host.get(f"/trials/{filters['id']}/flights")["flights"] if f["blinding"] == "shuffle"]
    assert any([c["letter"] for c in cups] != sorted(c["letter"] for c in cups) for cups in blind_codes)


def test_the_demo_is_laid_out_on_an_empty_bench_only(app):
    host = Host(app.test_client())
    with connection.database.connection_context():
        assert scenario.bench_is_empty()
    host.person("Somebody real")
    with connection.database.connection_context():
        assert not scenario.bench_is_empty()


def run_cli(*args, tmp_path, stdin=""):
    env = os.environ | {"PYTHONPATH": str(PROJECT / "src"), "PENNY_DATA": str(tmp_path)}
    return subprocess.run([sys.executable, "-m", "brasspenny.cli", *args], capture_output=True, text=True, env=env, input=stdin, timeout=60)


def test_a_taken_port_is_a_sentence_and_nothing_half_made(tmp_path):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        done = run_cli("serve", "--port", str(taken.getsockname()[1]), tmp_path=tmp_path)
    assert done.returncode == 2 and "cannot be used" in done.stderr and "Traceback" not in done.stderr
    assert not (tmp_path / "mariadb").exists()


def test_a_short_passphrase_and_an_open_host_without_one_are_refused(tmp_path):
    done = run_cli("passphrase", tmp_path=tmp_path, stdin="short\n")
    assert done.returncode == 2 and "at least 10" in done.stderr
    done = run_cli("serve", "--host", "0.0.0.0", "--port", "18999", tmp_path=tmp_path)
    assert done.returncode == 2 and "needs a passphrase" in done.stderr


def test_every_setting_is_in_the_readme():
    readme = (PROJECT / "README.md").read_text()
    assert [s.name for s in SETTINGS if s.name not in readme] == []


@pytest.mark.parametrize("text", ["abc", "80.5", "-1", "８０８０"])
def test_a_port_that_is_none_is_said_in_a_sentence(monkeypatch, text, capsys):
    monkeypatch.setenv("PENNY_PORT", text)
    assert cli.main(["serve"]) == 2
    assert "PENNY_PORT" in capsys.readouterr().err


def test_the_port_is_probed_in_the_family_of_the_address():
    with socket.socket(socket.AF_INET6) as taken:
        taken.bind(("::1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        with pytest.raises(addresses.Refused, match="cannot be used"):
            addresses.refuse_taken("::1", port)
        addresses.refuse_taken("127.0.0.1", port)  # another family, and free
    with pytest.raises(addresses.Refused, match="not an address"):
        addresses.refuse_taken("nowhere.invalid", port)


def test_what_follows_test_is_pytests_options_and_all(monkeypatch):
    called = []
    monkeypatch.setattr(cli, "_test", lambda args: called.append(args) or 0)
    assert cli.main(["test", "--durations=5", "-k", "seal"]) == 0 and cli.main(["test"]) == 0
    assert called == [["--durations=5", "-k", "seal"], []]


def test_phones_are_let_in_by_a_passphrase_that_is_made_and_told_with_a_code(tmp_path):
    """Opened to the network; a host's phone is asked for it, a wrong one is refused; a bench keeps its own from then on."""
    env = os.environ | {"PENNY_DATA": str(tmp_path / "data"), "PYTHONPATH": str(PROJECT / "src"), "PYTHONUNBUFFERED": "1"}

    def started():
        return subprocess.Popen([sys.executable, "-m", "brasspenny.cli", "serve", "--phones", "--port", "18791"], env=env, stdout=subprocess.PIPE, text=True)

    def told(serving):
        lines = []
        for line in serving.stdout:
            lines.append(line)
            if "point its camera here" in line or "on no network" in line:
                return "".join(lines)
        raise AssertionError("".join(lines))

    serving = started()
    try:
        said = told(serving)
        if "on no network" in said:
            pytest.skip("this machine is on no network")
        address, made = re.search(r"http://[\d.]+:18791", said)[0], re.search(r"Passphrase +(\S+)", said)[1]
        assert len(made) >= 20 and made[-4:].isdigit()
        assert ask(f"{address}/api/v1/bench") == 401
        assert ask(f"{address}/api/v1/session", {"passphrase": made + "x"}) == 401
        assert ask(f"{address}/api/v1/session", {"passphrase": made}) == 200
    finally:
        serving.terminate()
        serving.wait(timeout=30)
    serving = started()
    try:
        assert "the one you have set" in told(serving)
    finally:
        serving.terminate()
        serving.wait(timeout=30)


def test_open_prints_another_address_of_a_bench_that_is_served_and_says_so_of_none(server, capsys, monkeypatch):
    monkeypatch.setenv("PENNY_DATABASE_URL", server.url)
    assert cli.main(["open", "--port", "18799"]) == 0
    assert re.fullmatch(r"http://127\.0\.0\.1:18799/#open=\S{32}\n", capsys.readouterr().out)
    monkeypatch.setenv("PENNY_DATABASE_URL", f"{server.url}_of_nobody")
    assert cli.main(["open"]) == 2
    assert "./penny open --demo" in capsys.readouterr().err
    connection.bind(server.url)


def ask(url, body=None):
    request = urllib.request.Request(url, data=None if body is None else json.dumps(body).encode(), headers={"Content-Type": "application/json"})
    try:
        with urllib.request.urlopen(request) as answer:
            return answer.status
    except urllib.error.HTTPError as error:
        return error.code
