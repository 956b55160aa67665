"""How far a turn of the grind goes in µm, where samples of its dial tell."""

from __future__ import annotations

from ..core import figures
from ..core.brewing.proposals import Proposal
from ..grinding.known import KnownGrinds


def in_microns(proposal: Proposal) -> str:
    """ "about 14 µm coarser" by the first of its turns; "" where nothing tells."""
    if not proposal.turns:
        return ""
    turn, grinds = proposal.turns[0], KnownGrinds()
    line = grinds.line(turn.dial_id)
    ends = [grinds.dials.read(turn.dial_id, text) for text in (turn.before, turn.after)] if line else [None]
    if line is None or None in ends:
        return ""
    moved = line.at(ends[1]) - line.at(ends[0])
    return f"about {figures.um(abs(moved))} µm {'coarser' if moved > 0 else 'finer'}"


def said(proposal: Proposal) -> str:
    """The change in numbers, with its microns."""
    return ", ".join(part for part in (proposal.text, in_microns(proposal)) if part)
