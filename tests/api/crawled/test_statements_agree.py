"""One answer, rendered: every page, list, export and the command line say of a trial what its statements say, and no two statements contradict each other."""

from __future__ import annotations

import io
import json
from collections.abc import Iterator
from contextlib import redirect_stdout

import pytest

from brasspenny import cli
from brasspenny.core.figures import rounded
from brasspenny.core.statements import Statement, contradictions

from ...amount import NIGHTLY, share
from ..host import Host
from .trials import Maker, Spec, specs

ALL = specs()
CHOSEN = share(ALL, least=8)
CHUNK = 4 if not NIGHTLY else 8
PAGES = ("progress", "setups", "results", "comparisons", "matching", "plan", "slots", "flights", "flight-method", "history")
OF_VERDICT = (
    "verdict",
    "verdict/attribute?attribute=liking",
    "verdict/characters",
    "verdict/pairing",
    "verdict/trends",
    "verdict/value",
    "verdict/next",
    "report",
    "statements",
)
UNSAID = {
    "question",
    "name",
    "note",
    "bench",
    "differences_note",
    "claim",
    "text_of_key",
    "unit",
    "about",
    "low_word",
    "high_word",
    "judged_at",
    "made_at",
    "action_of",
    "method",
    "key_text",
    "label",
    "method_label",
}
"""Fields that hold what people typed, labels, or notes that belong to a column and not to a trial."""


class Crawled:
    """All pages of one trial."""

    def __init__(self, host: Host, spec: Spec, trial_id: str) -> None:
        self.spec, self.id, self.host = spec, trial_id, host
        self.pages = {p: host.get(f"/trials/{trial_id}/{p}") for p in (*PAGES, *OF_VERDICT)}
        self.listed = next(t for t in host.get("/trials?limit=200")["trials"] if t["id"] == trial_id)
        self.statements = [
            Statement(
                **{**s, "value": tuple(s["value"]) if isinstance(s["value"], list) else s["value"], "interval": tuple(s["interval"]) if s["interval"] else None}
            )
            for s in self.pages["statements"]["statements"]
        ]
        self.texts = {form: host.client.get(f"/api/v1/trials/{trial_id}/report.{form}").get_data(as_text=True) for form in ("md", "html")}

    def said(self, about: str, claim: str):
        return next((s for s in self.statements if (s.about, s.claim) == (about, claim)), None)

    @property
    def main(self):
        return self.pages["verdict"]["blind"] or self.pages["verdict"]["sighted"]


def faults(c: Crawled) -> Iterator[str]:
    yield from contradictions(c.statements)
    yield from of_headline(c)
    yield from of_figures(c)
    yield from of_sentences(c)
    yield from of_margin(c)


def of_headline(c: Crawled) -> Iterator[str]:
    said = c.said("answer", "headline")
    headline = said.text if said else None
    shown = {"verdict": (c.pages["verdict"]["answer"] or {}).get("headline"), "report": c.pages["report"]["headline"], "list": c.listed["headline"]}
    yield from (f"the {page} is headed {text!r}, not {headline!r}" for page, text in shown.items() if text != headline)
    if headline:
        yield from (f"the {form} does not say {headline!r}" for form, text in c.texts.items() if headline not in unescaped(text))


def unescaped(text: str) -> str:
    return text.replace("\\", "").replace("&#39;", "'").replace("&amp;", "&")


def of_figures(c: Crawled) -> Iterator[str]:
    """(page, subject, figure) against the statement about that subject."""
    report, value, verdict = c.pages["report"], c.pages["verdict/value"], c.pages["verdict"]
    found = []
    for page, rows in (
        ("verdict", c.main["setups"] if c.main else ()),
        ("report", report["judged"]),
        ("attribute", of_pass(c.pages["verdict/attribute?attribute=liking"])),
    ):
        if page != "attribute" or (verdict["answer"] or {}).get("kind") != "camps":
            found += [(page, f"setup/{r['setup']}/liking", "mean", r["mean"], 1) for r in rows]
    found += [("value", f"setup/{r['setup']}/liking", "mean", r["liking"], 1) for r in value["setups"] if c.main]
    for page, rows in (("verdict", c.main["setups"] if c.main else ()), ("report", report["judged"])):
        found += [(page, f"setup/{r['setup']}/tds", "mean", r["tds"] and r["tds"]["value"], 2) for r in rows]
        found += [(page, f"setup/{r['setup']}/yield", "mean", r["extraction_yield"] and r["extraction_yield"]["value"], 1) for r in rows]
    if c.main:
        found += [("results", f"setup/{r['letter']}/tds", "mean", r["tds"] and r["tds"]["value"], 2) for r in c.pages["results"]["setups"]]
    for page, rows, key in (("value", value["setups"], "setup"), ("report", report["setups"], "letter")):
        found += [
            (page, f"setup/{r[key]}/{what}", what, r[what], 2)
            for r in rows
            for what in ("price", "minutes")
            if c.said(f"setup/{r[key]}/{what}", what) or r[what] is not None and page == "value"
        ]
    for page, about, claim, figure, places in found:
        said = c.said(about, claim)
        wanted = said.value if said else None
        if (figure is None) != (wanted is None) or (figure is not None and rounded(figure, places) != rounded(wanted, places)):
            yield f"{about} is {figure} on the {page}, and {wanted} as said"
    yield from of_counts(c)


def of_pass(judged: dict) -> list[dict]:
    return next((p["setups"] for p in judged["passes"] if p["pass_name"] == judged["counts"]), [])


def of_counts(c: Crawled) -> Iterator[str]:
    if c.main:
        panel = c.pages["verdict"]["panel"]
        if not any(panel in line for line in c.pages["report"]["method"]):
            yield f"the report does not count {panel!r}"
        for what in ("tasters", "brews"):
            number = c.said(f"count/{what}", "count").value
            if f"{number} {what[:-1] if number == 1 else what}" not in panel:
                yield f"{number} {what} are said, {panel!r} is shown"
    yield from (
        f"{page} counts “1 {word}s”"
        for page, text in c.texts.items()
        for word in ("taster", "brew", "flight", "cup", "setup")
        if f" 1 {word}s" in text or f">1 {word}s" in text
    )


def of_sentences(c: Crawled) -> Iterator[str]:
    """Each sentence on a page of the verdict is one of the statements', whole or as a part of it."""
    texts = [s.text for s in c.statements if s.text]
    for page in OF_VERDICT[:-1]:
        for path, text in sentences(c.pages[page]):
            if not any(text in known or known in text for known in texts):
                yield f"{page}, {path}: “{text}” is no statement"


def sentences(value, path: str = "") -> Iterator[tuple[str, str]]:
    if isinstance(value, dict):
        for name, inner in value.items():
            if name not in UNSAID:
                yield from sentences(inner, f"{path}.{name}" if path else name)
    elif isinstance(value, list):
        for inner in value:
            yield from sentences(inner, path)
    elif isinstance(value, str) and " " in value and value.rstrip().endswith("."):
        yield path, value


def of_margin(c: Crawled) -> Iterator[str]:
    progress, report = c.pages["progress"], c.pages["report"]
    if progress["caveats"] != report["caveats"] or progress["grade"] != report["grade"]:
        yield "margin or design differ between the progress and the report"


def of_judge(c: Crawled, folder) -> Iterator[str]:
    """The command line on the trial's own scores: the same headline where a plain file can know the question, the same means."""
    answer, main = c.pages["verdict"]["answer"], c.main
    if not main or not c.pages["verdict"]["blind"] or answer["kind"] not in ("setup", "camps"):
        return
    file = folder / f"{c.id}.csv"
    file.write_bytes(c.host.client.get(f"/api/v1/trials/{c.id}/scores.csv").data)
    with redirect_stdout(io.StringIO()) as out:
        assert cli.main(["judge", str(file), "--json"]) == 0
    found = json.loads(out.getvalue())
    names = c.pages["verdict"]["names"]
    if found["verdict"]["kind"] != main["verdict"]["kind"]:
        yield f"judge says {found['verdict']['kind']}, the verdict {main['verdict']['kind']}"
    if answer["kind"] == "setup":
        mine = {x["setup"]: rounded(x["mean"], 1) for x in found["setups"] if x["mean"] is not None}
        theirs = {x["setup"]: rounded(x["mean"], 1) for x in main["setups"] if x["mean"] is not None}
        if mine != theirs:
            yield f"judge has {mine}, the verdict {theirs} ({names})"


@pytest.mark.parametrize("part", range(-(-len(CHOSEN) // CHUNK)))
def test_what_one_page_says_every_page_says(host, tmp_path, part):
    maker = Maker(host)
    found = {}
    for spec in CHOSEN[part * CHUNK : (part + 1) * CHUNK]:
        c = Crawled(host, spec, maker.make(spec))
        if wrong := [*faults(c), *of_judge(c, tmp_path)]:
            found[spec.name] = wrong
    assert not found, "\n".join(f"{name}\n  " + "\n  ".join(wrong) for name, wrong in found.items())
