"""What the code cites stands in the repository."""

import re

from brasspenny.config import PROJECT

CITED = re.compile(r"(docs/[a-z-]+\.md)(?: §(\d+))?")


def test_every_section_the_code_cites_is_there():
    pages = {f"docs/{p.name}": p.read_text() for p in (PROJECT / "docs").glob("*.md")}
    missing = set()
    for folder in ("src", "benchmarks", "tests"):
        for path in (PROJECT / folder).rglob("*.py"):
            for page, section in CITED.findall(path.read_text()):
                there = page in pages and (not section or re.search(rf"^## §{section}\b", pages[page], re.MULTILINE))
                missing |= set() if there else {f"{path.name}: {page} §{section}"}
    assert not missing


def test_every_file_named_in_the_guide_for_contributors_exists():
    named = re.findall(r"`((?:core|store|brewing|bench|web/src|tests|docs|benchmarks)/[\w./-]+\.\w+)`", PROJECT.joinpath("CONTRIBUTING.md").read_text())
    missing = {name for name in named if not (PROJECT / name).exists() and not (PROJECT / "src/brasspenny" / name).exists()}
    assert len(named) > 20 and not missing
