"""What takes a moment to work out, kept by the hash of what it rests on.

A layer is a function of one part of the frozen trial, and is handed that part and nothing else: so whatever changes its answer
changes the hash it is kept by, and nobody writes a key.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ..act import Act
from ..compute_turns import turn
from ..core.trial.value import fingerprint
from ..store.models import Kept
from ..store.writing import spared_when_full

BENCH = "bench"
"""Owner of what belongs to no trial."""


@dataclass(frozen=True)
class Layer:
    """name: what it is kept under; work: part → plain JSON values, pure."""

    name: str
    work: Callable[[Any], dict]


class Keeper:
    """The kept layers of one owner for the time of one request. ahead: layers read in the first query along with the one asked for."""

    def __init__(self, owner: str, act: Act, ahead: tuple[str, ...] = ()) -> None:
        self.owner, self.act, self.ahead = owner, act, ahead
        self._found: dict[str, tuple[str, dict]] = {}
        self._asked: set[str] = set()

    def of(self, layer: Layer, part: Any) -> dict:
        """The layer's answer for this part: as kept, or worked out in turn and kept in its place. Whoever waited for a turn looks first whether it was worked out
        meanwhile; two processes may work at once, and come to the same."""
        wanted = fingerprint([layer.name, part])
        self._look_for(layer.name)
        if (found := self._found.get(layer.name)) and found[0] == wanted:
            return found[1]
        with turn() as waited:
            payload = self._of_another(layer, wanted) if waited else None
            if payload is None:
                payload = layer.work(part)
                with spared_when_full():
                    Kept.replace(owner=self.owner, layer=layer.name, data_hash=wanted, payload=payload, at=self.act.now).execute()
        self._found[layer.name] = (wanted, payload)
        return payload

    def _of_another(self, layer: Layer, wanted: str) -> dict | None:
        found = Kept.get_or_none((Kept.owner == self.owner) & (Kept.layer == layer.name) & (Kept.data_hash == wanted))
        return found.payload if found else None

    def _look_for(self, name: str) -> None:
        if name in self._asked:
            return
        names = {name, *self.ahead} - self._asked
        rows = Kept.select(Kept.layer, Kept.data_hash, Kept.payload).where((Kept.owner == self.owner) & Kept.layer.in_(sorted(names)))
        self._found |= {layer: (data_hash, payload) for layer, data_hash, payload in rows.tuples()}
        self._asked |= names
