"""Where a bench is served: at its own machine alone, or on this network; and how it goes from the one to the other while it runs."""

from __future__ import annotations

import os
import signal
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

from . import addresses, config
from .opening import OPENS_AT, OPENS_UP

LOOPBACK = {"127.0.0.1", "localhost", "::1"}
ANY_ADDRESS = "0.0.0.0"


@dataclass(frozen=True)
class Place:
    """host: what it listens on; tls: whether it speaks nothing else."""

    host: str
    port: int
    tls: bool

    @property
    def on_network(self) -> bool:
        return self.host not in LOOPBACK

    @property
    def scheme(self) -> str:
        return "https" if self.tls else "http"

    @property
    def asked(self) -> str:
        """Where the start command itself asks whether it answers."""
        return f"{self.scheme}://{addresses.in_address('127.0.0.1' if self.host in (ANY_ADDRESS, 'localhost') else self.host)}:{self.port}"

    @property
    def here(self) -> str:
        """For a browser of this machine."""
        return f"{self.scheme}://{addresses.in_address('::1' if self.host == '::1' else '127.0.0.1')}:{self.port}"

    @property
    def elsewhere(self) -> str:
        """For other devices, once it is on the network."""
        return f"{self.scheme}://{addresses.in_address(addresses.own_address())}:{self.port}"

    def opened(self) -> Place:
        return Place(ANY_ADDRESS, self.port, self.tls)

    def env(self, url: str, data: Path, tmp: Path) -> Mapping[str, str]:
        """What its serving processes read their settings from."""
        public = config.get("PENNY_PUBLIC_URL").rstrip("/")
        name = urlsplit(public).hostname
        opens = not self.on_network and not has_public_name() and "//127." not in self.elsewhere
        return os.environ | {
            "PENNY_DATABASE_URL": url,
            "TMPDIR": str(tmp),
            "PENNY_TLS": str(data / "tls") if self.tls else "",
            "PENNY_LINK_BASE": public or (self.elsewhere if self.on_network else ""),
            "PENNY_ON_NETWORK": "1" if self.on_network or has_public_name() else "0",
            "PENNY_TRUSTED_HOSTS": "" if self.on_network else " ".join(filter(None, ("127.0.0.1", "localhost", "[::1]", name))),
            OPENS_UP: str(os.getpid()) if opens else "",
            OPENS_AT: self.elsewhere if opens else "",
        }


def has_public_name() -> bool:
    """Whether others come to it by another name than this machine's own, through a proxy: it listens on loopback, and is open all the same."""
    return (urlsplit(config.get("PENNY_PUBLIC_URL")).hostname or "localhost") not in LOOPBACK


class Asked:
    """Whether a serving process asked for the bench to be opened to the network (opening.ask); heard by the start command alone."""

    def __init__(self) -> None:
        self.heard = False
        signal.signal(signal.SIGUSR1, self._hear)

    def _hear(self, *_: object) -> None:
        self.heard = True
