"""A turn of the grind, in the numbers of the dial it was ground on."""

from __future__ import annotations

from ..core import figures
from ..core.brewing.adviser import Advice
from ..core.grinding.dials import dial_id
from ..grinding.known import KnownGrinds
from ..store.load_trial import load_dials
from ..store.models import SetupRevision


def turned_to(revision: SetupRevision, change: Advice) -> str:
    """The setting a turn comes to; "" where it is no turn, or the dial or its setting is not known."""
    if change.knob != "grind" or change.direction not in ("finer", "coarser"):
        return ""
    dials, dial = load_dials(), dial_id(revision.kit)
    before = dials.read(dial, revision.grind_setting) if dial else None
    if dial is None or before is None:
        return ""
    scale = dials.scales[dials.names[dial]]
    to = scale.turned(before, change.direction, change.steps)
    return "" if to == before else scale.write(to)


def on_dial(revision: SetupRevision, change: Advice) -> str:
    """ "4.5 → 4.7 on the Windlass mill, about 14 µm coarser", the size where samples tell it; or nothing."""
    to = turned_to(revision, change)
    return f"{revision.grind_setting} → {to} on the {revision.grinder}{_in_microns(revision, to)}" if to else ""


def _in_microns(revision: SetupRevision, to: str) -> str:
    grinds, dial = KnownGrinds(), dial_id(revision.kit)
    line = grinds.line(dial) if dial else None
    ends = [grinds.dials.read(dial, text) for text in (revision.grind_setting, to)] if line else [None]
    if line is None or None in ends:
        return ""
    moved = line.at(ends[1]) - line.at(ends[0])
    return f", about {figures.um(abs(moved))} µm {'coarser' if moved > 0 else 'finer'}"
