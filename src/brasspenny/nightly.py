"""A backup each night while the bench is served: made by the command itself, in a process of its own, so that serving never waits for it."""

from __future__ import annotations

import subprocess
import sys
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

HOUR = 3


def next_night(now: datetime) -> datetime:
    """The next time it is three in the morning, by the clock of `now`.

    >>> next_night(datetime(2026, 3, 1, 2, 59)), next_night(datetime(2026, 3, 1, 3, 0))
    (datetime.datetime(2026, 3, 1, 3, 0), datetime.datetime(2026, 3, 2, 3, 0))
    """
    tonight = now.replace(hour=HOUR, minute=0, second=0, microsecond=0)
    return tonight if now < tonight else tonight + timedelta(days=1)


@dataclass
class Nights:
    """folder: None makes none. at: the next one; running: the one being made."""

    folder: Path | None
    at: datetime
    running: subprocess.Popen | None = None

    @classmethod
    def set_by(cls, folder: str, now: datetime | None = None) -> Nights:
        return cls(Path(folder) if folder else None, next_night(now or datetime.now()))

    def tend(self, now: datetime | None = None) -> None:
        """Begin the night's backup once it is time; when it is done let the oldest go."""
        now = now or datetime.now()
        if self.running is not None and self.running.poll() is not None:
            if self.running.returncode == 0 and self.folder:
                from . import backup  # read in once a night: every command would wait for it else

                backup.drop_oldest(self.folder)
            else:
                print("The night's backup was not made; see above.", file=sys.stderr)
            self.running = None
        if self.folder is None or self.running is not None or now < self.at:
            return
        self.at = next_night(now)
        file = self.folder / f"brass-penny-{now:%Y%m%d-%H%M%S}.zip"
        self.running = subprocess.Popen([sys.executable, "-m", "brasspenny.cli", "backup", str(file)], stdin=subprocess.DEVNULL)
