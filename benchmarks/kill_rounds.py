"""A bench that is killed while it is written to: how many acknowledged writes were lost, doubled or half-written, and how long a start takes after it.

Give a number of rounds (200 by default). Each round six hands add people, setups, brews and tasters' touches; in the middle of it the database is killed
with SIGKILL, then the bench; then it is started again and everything acknowledged is looked for. Exits 1 if anything is not as it should be.
"""

from __future__ import annotations

import http.client
import json
import os
import random
import re
import shutil
import signal
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import uuid
from pathlib import Path

HANDS = 6
A_TEST = 3
"""Rounds of the suite, which measures no times."""
PROJECT = Path(__file__).resolve().parents[1]
PRINTED = re.compile(r"/#open=(\S+)")


class Bench:
    """A bench as a person starts it, in a folder of its own."""

    def __init__(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="penny-k-", dir="/tmp"))
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.cookie = ""

    def start(self) -> float:
        """Seconds until it answered."""
        began = time.monotonic()
        env = os.environ | {"PENNY_DATA": str(self.folder), "PYTHONPATH": str(PROJECT / "src"), "PENNY_WORKERS": "2"}
        before = (self.folder / "log").read_text() if (self.folder / "log").exists() else ""
        self.log = (self.folder / "log").open("a")
        self.process = subprocess.Popen([sys.executable, "-m", "brasspenny.cli", "serve", "--port", str(self.port)], env=env, stdout=self.log, stderr=self.log)
        while True:
            if self.process.poll() is not None:
                raise SystemExit((self.folder / "log").read_text()[-2000:])
            try:
                if self.call("GET", "/health")[0] == 200:
                    took = time.monotonic() - began
                    self._come_in(before)
                    return took
            except OSError:
                time.sleep(0.02)

    def _come_in(self, before: str) -> None:
        """By the key that this start printed."""
        while not (printed := PRINTED.findall((self.folder / "log").read_text()[len(before) :])):
            time.sleep(0.02)
        link = http.client.HTTPConnection("127.0.0.1", self.port, timeout=20)
        link.request("POST", "/api/v1/session", json.dumps({"key": printed[-1]}), {"Content-Type": "application/json"})
        cookies = link.getresponse().headers.get_all("Set-Cookie")
        link.close()
        self.cookie = next(c for c in cookies if re.match(r"penny_[0-9a-f]{10}=", c)).partition(";")[0]

    def call(self, method: str, path: str, body=None) -> tuple[int, dict]:
        link = http.client.HTTPConnection("127.0.0.1", self.port, timeout=20)
        try:
            link.request(method, f"/api/v1{path}", json.dumps(body) if body is not None else None, {"Content-Type": "application/json", "Cookie": self.cookie})
            answer = link.getresponse()
            return answer.status, json.loads(answer.read() or b"null")
        except (http.client.HTTPException, ValueError) as error:
            raise OSError(str(error)) from error
        finally:
            link.close()

    def kill(self) -> None:
        database = int((self.folder / "mariadb" / "mariadbd.pid").read_text())
        os.kill(database, signal.SIGKILL)
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()
        while self._answers():  # what serves ends with its parent, a moment later; it is not the bench that is started next
            time.sleep(0.02)

    def _answers(self) -> bool:
        with socket.socket() as link:
            link.settimeout(2)
            return link.connect_ex(("127.0.0.1", self.port)) == 0

    def close(self) -> None:
        self.process.send_signal(signal.SIGTERM)
        self.process.wait(timeout=30)


def lay_out(bench: Bench) -> dict:
    def made(path, body):
        status, said = bench.call("POST", path, body)
        assert status == 201, said
        return said

    trial = made("/trials", {"question": "Which?", "factor": "ratio"})["id"]
    setup = made(f"/trials/{trial}/setups", {"variables": {"dose_g": 18, "brew_water_g": 290}})["id"]
    other = made(f"/trials/{trial}/setups", {"variables": {"dose_g": 18, "brew_water_g": 320}})["id"]
    runs = [made(f"/trials/{trial}/runs", {"setup_id": s, "dose_g": 18, "brew_water_g": 290, "beverage_g": 250})["id"] for s in (setup, other)]
    people = [made("/people", {"name": f"Taster {i}"})["id"] for i in range(HANDS)]
    flight = made(f"/trials/{trial}/flights", {"run_ids": runs, "taster_ids": people})
    return {"trial": trial, "setup": setup, "flight": flight}


def write(bench: Bench, laid: dict, hand: int, seq: list[int], acknowledged: list, stop: threading.Event) -> None:
    rng = random.Random()
    sheet = laid["flight"]["sheets"][hand]
    token, code = sheet["link"].rsplit("/", 1)[-1], laid["flight"]["cups"][0]["code"]
    while not stop.is_set():
        kind = rng.choice(["person", "run", "score", "trial"])
        try:
            if kind == "person":
                name = uuid.uuid4().hex
                status, said = bench.call("POST", "/people", {"name": name})
                ack = (kind, name)
            elif kind == "trial":
                status, said = bench.call("POST", "/trials", {"question": uuid.uuid4().hex, "factor": "filter"})
                ack = (kind, said.get("id"))
            elif kind == "run":
                body = {"setup_id": laid["setup"], "dose_g": 18, "brew_water_g": 290, "beverage_g": 250, "tds_readings_pct": [1.31, 1.33, 1.32]}
                status, said = bench.call("POST", f"/trials/{laid['trial']}/runs", body)
                ack = (kind, said.get("id"))
            else:
                seq[0] += 1
                value = 1 + seq[0] % 9
                touch = {"uuid": str(uuid.uuid4()), "seq": seq[0], "code": code, "attribute": "liking", "value": value, "text": ""}
                status, said = bench.call("PUT", f"/taste/{token}/scores", {"scores": [touch]})
                ack = (kind, (token, seq[0], value))
            if status in (200, 201):
                acknowledged.append(ack)
        except OSError:
            time.sleep(0.05)


def faults(bench: Bench, laid: dict, acknowledged: list) -> list[str]:
    found = []
    names = [p["name"] for p in bench.call("GET", "/people")[1]["people"]]
    found += [f"person {x} {names.count(x)} times" for kind, x in acknowledged if kind == "person" and names.count(x) != 1]
    runs = bench.call("GET", f"/trials/{laid['trial']}/results")[1]["runs"]
    ids, labels = [r["id"] for r in runs], [r["label"] for r in runs]
    found += [f"brew {x} {ids.count(x)} times" for kind, x in acknowledged if kind == "run" and ids.count(x) != 1]
    found += [f"label {x} twice" for x in set(labels) if labels.count(x) != 1]
    found += [f"half a brew: {r['label']}" for r in runs if r["id"] in {x for k, x in acknowledged if k == "run"} and len(r["readings"]) != 3]
    for kind, x in acknowledged:
        if kind == "trial" and bench.call("GET", f"/trials/{x}")[0] != 200:
            found.append(f"trial {x} is gone")
    newest = {}
    for kind, x in acknowledged:
        if kind == "score" and x[1] >= newest.get(x[0], (0, 0))[0]:
            newest[x[0]] = (x[1], x[2])
    for token, (number, value) in newest.items():
        sheet = bench.call("GET", f"/taste/{token}")[1]
        kept = [s["value"] for c in sheet["cups"] for s in c["scores"]]
        if sheet["last_seq"] < number or (sheet["last_seq"] == number and kept != [value]):
            found.append(f"touch {number} of a sheet is not there")
    return found


def main() -> int:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    bench = Bench()
    bench.start()
    plain, after_kill, wrong, total = [], [], [], 0
    try:
        laid = lay_out(bench)
        seqs = [[0] for _ in range(HANDS)]
        for number in range(rounds):
            acknowledged: list = []
            stop = threading.Event()
            hands = [threading.Thread(target=write, args=(bench, laid, h, seqs[h], acknowledged, stop)) for h in range(HANDS)]
            for hand in hands:
                hand.start()
            time.sleep(random.uniform(0.4, 1.2))
            bench.kill()
            stop.set()
            for hand in hands:
                hand.join()
            after_kill.append(bench.start())
            here = faults(bench, laid, acknowledged)
            total += len(acknowledged)
            wrong += here
            for said in here:
                print(f"round {number + 1}: {said}", flush=True)
        bench.close()
        for _ in range(3 if rounds > A_TEST else 0):
            plain.append(bench.start())
            bench.close()
    finally:
        _close(bench)
        shutil.rmtree(bench.folder, ignore_errors=True)
    print(f"{rounds} kill rounds, {total} acknowledged writes: {len(wrong)} lost, doubled or half-written")
    if plain:
        print(f"start: median {statistics.median(plain):.1f} s; after a kill: median {statistics.median(after_kill):.1f} s, worst {max(after_kill):.1f} s")
    return 1 if wrong else 0


def _close(bench: Bench) -> bool:
    if bench.process.poll() is None:
        bench.close()
    return False


if __name__ == "__main__":
    sys.exit(main())
