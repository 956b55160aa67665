"""A bench is killed while it is written to: everything acknowledged is there, once and whole."""

import subprocess
import sys

from brasspenny.config import PROJECT

from ..amount import examples


def test_kill_rounds_lose_double_and_halve_nothing():
    done = subprocess.run([sys.executable, PROJECT / "benchmarks/kill_rounds.py", str(examples(10, least=1))], capture_output=True, text=True, timeout=3600)
    assert done.returncode == 0 and "0 lost, doubled or half-written" in done.stdout, done.stdout[-2000:] + done.stderr[-2000:]
