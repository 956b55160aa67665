"""The layers hold, and the Python reads as agreed."""

import subprocess
import sys

import pytest

from brasspenny.config import PROJECT


@pytest.mark.parametrize("command", [["lint-imports"], ["ruff", "check", "src", "tests"], ["ruff", "format", "--check", "src", "tests"]], ids=" ".join)
def test_checker_is_content(command):
    tool, *args = command
    done = subprocess.run([f"{sys.prefix}/bin/{tool}", *args], cwd=PROJECT, capture_output=True, text=True, env={"PYTHONPATH": "src", "PATH": "/usr/bin:/bin"})
    assert done.returncode == 0, done.stdout[-3000:] + done.stderr[-1000:]
