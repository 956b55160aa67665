"""What samples say of any setting of a grinder: read once, asked as often as a page needs."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from functools import cached_property

from ..core.grinding.dials import Dials, dial_id
from ..core.grinding.samples import Line, Sampled, grind_at, line_of, taken_together, telling
from ..core.grinding.settings import GrinderScale
from ..core.grinding.sieve import Weibull
from ..core.simulator.brews import GroundTo
from ..store.grinding import SieveSample
from ..store.load_trial import NEWEST_SAMPLES, as_sample, load_dials
from ..store.models import SetupRevision

USUAL_BAND = (300.0, 800.0)
"""Until a stack says otherwise."""


def live_samples() -> list[SieveSample]:
    """The newest, oldest of them first."""
    rows = SieveSample.select().where(SieveSample.deleted_at.is_null())
    return list(rows.order_by(SieveSample.created_at.desc(), SieveSample.id).limit(NEWEST_SAMPLES))[::-1]


def lines_of(groups: Sequence[Sampled], dials: Dials) -> dict[str, Line]:
    """Dial → its line, where one is known. Coffees and stacks together: the dial turns the same burrs."""
    by_dial: dict[str, list[Sampled]] = defaultdict(list)
    for g in telling(groups):
        if now := dials.current(g.grind.dial_id):
            by_dial[now].append(g)
    return {dial_id: line for dial_id, mine in by_dial.items() if (line := line_of(mine, scale_of(dials, dial_id)))}


def scale_of(dials: Dials, dial_id: str) -> GrinderScale:
    return dials.scales[dials.names[dials.current(dial_id)]]


def dial_words(dials: Dials, dial_id: str, setting: float | None) -> tuple[str, str]:
    """(the dial's name, the setting as it stands on it), also of one that is gone."""
    name = dials.names.get(dials.current(dial_id) or dial_id, "a grinder that is gone")
    scale = dials.scales.get(name)
    return name, "" if setting is None else scale.write(setting) if scale else f"{setting:g}"


class KnownGrinds:
    """Every sample there is, as it answers for a setting. Nothing is read until it is asked."""

    def __init__(self, dials: Dials | None = None) -> None:
        self._dials = dials

    @cached_property
    def dials(self) -> Dials:
        return self._dials or load_dials()

    @cached_property
    def _groups(self) -> dict[str, list[Sampled]]:
        out: dict[str, list[Sampled]] = defaultdict(list)
        for g in telling(taken_together([as_sample(r) for r in live_samples()], USUAL_BAND)):
            out[self.dials.current(g.grind.dial_id) or g.grind.dial_id].append(g)
        return out

    def at(self, dial: str, setting: float) -> Weibull | None:
        """The distribution at a setting: the nearest sampled, moved to the median its line has there. None where nothing is known."""
        now = self.dials.current(dial)
        mine = self._groups.get(now)
        return grind_at(mine, setting, scale_of(self.dials, now)) if mine and now else None

    def line(self, dial: str) -> Line | None:
        return lines_of(self._groups.get(dial, []), self.dials).get(dial)

    def ground_to(self, revision: SetupRevision) -> GroundTo | None:
        """What a setup's coffee is ground to, by samples of its dial."""
        dial = dial_id(revision.kit)
        setting = self.dials.read(dial, revision.grind_setting) if dial and self.dials.current(dial) in self._groups else None
        found = self.at(dial, setting) if dial and setting is not None else None
        return GroundTo(found.median_um, found.log_sd) if found else None
