"""The interface type-checks, reads as agreed, and its first screen stays small."""

import gzip
import os
import re
import subprocess

import pytest

from brasspenny.config import PROJECT

from ..core.test_layers import cycles

WEB = PROJECT / "web"
NODE = PROJECT / ".venv/bin/node"
FIRST_SCREEN_LIMIT, TASTER_LIMIT = 200_000, 90_000


@pytest.mark.parametrize(
    "tool",
    [["typescript7/bin/tsc", "--noEmit"], ["@biomejs/biome/bin/biome", "check", "."], ["knip/bin/knip.js", "--no-progress"], ["pyright/index.js"]],
    ids=["types", "style", "unused", "types of the core"],
)
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


IMPORTED = re.compile(r"""(?:from|import\()\s*'(\.[^']+)'""")


def imports_of_the_interface() -> dict[str, set[str]]:
    """File of web/src → the files it imports, without endings."""
    source = WEB / "src"
    files = {path.relative_to(source).with_suffix("").as_posix(): path for path in source.rglob("*.ts*") if path.parent.name != "tests"}
    return {
        name: {target for found in IMPORTED.findall(path.read_text()) if (target := os.path.normpath(f"{os.path.dirname(name)}/{found}")) in files}
        for name, path in files.items()
    }


def test_no_two_files_of_the_interface_import_each_other():
    found = cycles(imports_of_the_interface())
    assert not found, "Move what both need into a third file: " + "; ".join(" ↔ ".join(sorted(cycle)) for cycle in found)


def test_every_action_of_the_history_has_words():
    recorded = set()
    for path in (PROJECT / "src/brasspenny").rglob("*.py"):
        source = path.read_text()
        recorded |= set(re.findall(r'history\.record\([\w.]+, "(\w+)"', source)) | set(re.findall(r'_keep_readings\(.*, "(\w+)", links', source))
    words = set(re.findall(r"^  (\w+): '", (WEB / "src/rooms/history/sentences.ts").read_text(), re.MULTILINE))
    assert len(recorded) > 10 and recorded <= words, recorded - words


def test_the_interfaces_own_tests_pass():
    """Vitest over web/src/tests: what is computed without a screen, and components on a simulated page."""
    done = subprocess.run([NODE, "node_modules/vitest/vitest.mjs", "run", "--reporter=dot"], cwd=WEB, capture_output=True, text=True)
    assert done.returncode == 0, (done.stdout + done.stderr)[-6000:]
    assert re.search(r"Tests\s+\d+ passed", re.sub(r"\x1b\[[\d;]*m", "", done.stdout)), done.stdout[-2000:]
