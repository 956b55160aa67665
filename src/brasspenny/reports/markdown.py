"""The report as Markdown."""

from __future__ import annotations

from . import schemas as s
from .words import chance, ends, number, p_value


def markdown_of(r: s.ReportAnswer) -> str:
    out = [f"# {_plain(r.question)}", f"*{_plain(r.bench)}, trial {r.number}, {r.made_at:%d %B %Y}*", ""]
    out += [f"## {_plain(r.headline or 'No verdict yet')}", "", _plain(r.text), _plain(r.lean), ""]
    if r.grade:
        out += [f"**Design: {r.grade.design}** ({r.grade.step} of 5)" + "".join(f"\n- {x.text}" for x in r.grade.reasons), ""]
    out += _list("Liking by group", r.by_group)
    if any(x.mean is not None for x in r.judged):
        rows = [
            f"| {x.setup} | {_plain(x.name)} | {number(x.mean, 1)} | {ends(x.interval)} | {chance(x.probability_best)} | {number(x.expected_regret, 2)} |"
            for x in r.judged
        ]
        out += ["| | setup | liking | 95 % interval | best | risk, points |", "|---|---|---|---|---|---|", *rows, ""]
    if r.differences:
        rows = [
            f"| {d.a} − {d.b} | {number(d.estimate, 1)} | {ends(d.interval)} | {p_value(d.p_adjusted)} | {chance(d.probability_practically_equal)} |"
            for d in r.differences
        ]
        out += ["| pair | points | 95 % interval | p, adjusted | chance they are equivalent |", "|---|---|---|---|---|", *rows, ""]
    out += _list("What else was found", r.findings) + _list("How it was done", r.method)
    alike = [f"In all: {_plain(', '.join(r.shared))}"] if r.shared else []
    out += _list("Setups", [*alike, *(f"**{x.letter}** {_plain(x.name)}: {_plain(', '.join(x.variables))}" for x in r.setups)], plain=False)
    out += _list("What weakens it", [f"**{_plain(c.title)}**: {_plain(c.text)} *{_plain(c.cure)}*" for c in r.caveats], plain=False)
    out += _list("Next", [r.next] if r.next else [])
    seals = [f"Flight {f.number}: {f.text}" + (f" Seal `{f.commitment}`{' holds' if f.holds else ''}." if f.commitment else "") for f in r.flights]
    return "\n".join([*out, *_list("Flights and seals", seals, plain=False)]).rstrip() + "\n"


def _list(title: str, rows: list[str], *, plain: bool = True) -> list[str]:
    return [f"## {title}", "", *(f"- {_plain(x) if plain else x}" for x in rows), ""] if rows else []


def _plain(text: str) -> str:
    """Names people typed are text, not markup."""
    return "".join(f"\\{c}" if c in "\\`*_[]<>#|" else c for c in text).replace("\n", " ")
