"""Who may see a key, and who may taste: whoever may know least wins, by everything a device has ever been. docs/blindness.md §3.

A key is under the cups of one flight. A device that tastes there, that was used by somebody who does, or that is the bench's while its
host tastes, is never shown it; one that was shown it never tastes there.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Hat = Literal["taster", "key"]
TASTER: Hat = "taster"
KEY: Hat = "key"


@dataclass(frozen=True)
class DeviceSeen:
    """bench: the bench itself was ever open on it; tasted, saw_key: in this flight; people: everybody it was ever used as."""

    bench: bool = False
    tasted: bool = False
    saw_key: bool = False
    people: frozenset[str] = frozenset()


@dataclass(frozen=True)
class TableSeated:
    """seated: everybody with a sheet; host: who made the flight; host_tastes: they said so."""

    seated: frozenset[str] = frozenset()
    host: str | None = None
    host_tastes: bool = False

    @property
    def tasters(self) -> frozenset[str]:
        return self.seated | ({self.host} if self.host_tastes and self.host else frozenset())


def tastes(device: DeviceSeen, table: TableSeated) -> bool:
    """Whether this device is a taster's, by anything it ever was."""
    return device.tasted or bool(device.people & table.tasters) or (device.bench and table.host_tastes)


def may_see_key(device: DeviceSeen, table: TableSeated) -> bool:
    """Whether the pour sheet may be opened on it.

    >>> host = DeviceSeen(bench=True, people=frozenset({"h"}))
    >>> may_see_key(host, TableSeated(frozenset({"t"}), "h")), may_see_key(host, TableSeated(frozenset({"t"}), "h", host_tastes=True))
    (True, False)
    """
    return not tastes(device, table)


def may_taste(device: DeviceSeen, *, taster_was_shown: bool = False) -> bool:
    """Whether a taster's sheet of this flight may be opened on it before the flip. taster_was_shown: the key was before another device of theirs.
    On the bench's own it may, to type in what others wrote on paper: that the key was before it is recorded then, and stands in the evidence.

    >>> may_taste(DeviceSeen()), may_taste(DeviceSeen(saw_key=True)), may_taste(DeviceSeen(), taster_was_shown=True), may_taste(DeviceSeen(bench=True, saw_key=True))
    (True, False, False, True)
    """
    return device.bench or not (device.saw_key or taster_was_shown)


def host_saw(device: DeviceSeen) -> bool:
    """Whether a pour sheet opened on it was before the host's eyes: on the bench's own device it was."""
    return device.bench
