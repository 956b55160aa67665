"""The interface type-checks, reads as agreed, and its first screen stays small."""

import gzip
import re
import subprocess

import pytest

from brasspenny.config import PROJECT

WEB = PROJECT / "web"
NODE = PROJECT / ".venv/bin/node"
FIRST_SCREEN_LIMIT, TASTER_LIMIT = 200_000, 90_000


@pytest.mark.parametrize("tool", [["typescript7/bin/tsc", "--noEmit"], ["@biomejs/biome/bin/biome", "check", "."]], ids=["types", "style"])
def test_checker_is_content(tool):
    done = subprocess.run([NODE, WEB / "node_modules" / tool[0], *tool[1:]], cwd=WEB, capture_output=True, text=True)
    assert done.returncode == 0, (done.stdout + done.stderr)[-3000:]


@pytest.mark.parametrize(("page", "rooms", "limit"), [("index.html", ("BenchPage-*.js",), FIRST_SCREEN_LIMIT), ("taster.html", (), TASTER_LIMIT)])
def test_the_first_screen_stays_small(page, rooms, limit):
    """Gzipped: the page's entry script with all it imports at once, and the room it opens in."""
    assets = WEB / "dist" / "assets"
    entry = re.search(r'src="/assets/([^"]+\.js)"', (WEB / "dist" / page).read_text()).group(1)
    wanted = [entry, *(next(p.name for p in assets.glob(room)) for room in rooms)]
    seen: set[str] = set()
    while wanted:
        name = wanted.pop()
        if name not in seen:
            seen.add(name)
            wanted += re.findall(r'(?:from|import)\s*"\./([^"]+\.js)"', (assets / name).read_text())
    size = sum(len(gzip.compress((assets / n).read_bytes(), 9)) for n in seen)
    assert 50_000 < size <= limit, f"{size} bytes in {sorted(seen)}"


def test_every_action_of_the_history_has_words():
    recorded = set()
    for path in (PROJECT / "src/brasspenny").rglob("*.py"):
        source = path.read_text()
        recorded |= set(re.findall(r'history\.record\([\w.]+, "(\w+)"', source)) | set(re.findall(r'_keep_readings\(.*, "(\w+)", links', source))
    words = set(re.findall(r"^  (\w+): '", (WEB / "src/rooms/history/HistoryDrawer.tsx").read_text(), re.MULTILINE))
    assert len(recorded) > 10 and recorded <= words, recorded - words


def test_the_interfaces_own_tests_pass():
    """Vitest over web/src/tests: what is computed without a screen, and components on a simulated page."""
    done = subprocess.run([NODE, "node_modules/vitest/vitest.mjs", "run", "--reporter=dot"], cwd=WEB, capture_output=True, text=True)
    assert done.returncode == 0, (done.stdout + done.stderr)[-6000:]
    assert re.search(r"Tests\s+\d+ passed", re.sub(r"\x1b\[[\d;]*m", "", done.stdout)), done.stdout[-2000:]
