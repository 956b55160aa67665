"""Killed while it is written to, three times over: everything acknowledged is there, once and whole."""

import subprocess
import sys

from brasspenny.config import PROJECT


def test_two_kill_rounds_lose_double_and_halve_nothing():
    done = subprocess.run([sys.executable, PROJECT / "benchmarks/kill_rounds.py", "2"], capture_output=True, text=True, timeout=400)
    assert done.returncode == 0 and "0 lost, doubled or half-written" in done.stdout, done.stdout[-2000:] + done.stderr[-2000:]
