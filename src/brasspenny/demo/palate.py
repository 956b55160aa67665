"""The made-up bench's series: three of the crew told strengths apart one evening, and one series stands ready."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Mapping
from datetime import timedelta

from ..act import Act
from ..links import LinkMaker
from ..palate import drill_schemas as d
from ..palate import drills, service
from ..palate import schemas as s
from ..store.palate import PalatePresentation

TELLS_PCT = {"Odile": 5.0, "Bo": 9.0, "Marek": 12.0}
"""The step each tells apart without fail; below it they guess."""
PRESENTATIONS = 16


def lay_out(act: Callable[[timedelta], Act], people: Mapping[str, str], links: LinkMaker) -> None:
    """act: somebody doing something a while after the last thing."""
    body = s.SeriesBody(served="Long watch, Peru washed, lot 7", tds_pct=1.38, taster_ids=[people[name] for name in TELLS_PCT])
    made = service.make_session(body, links, act(timedelta()))
    for seat in made.seats:
        token, device = links.palate_token(seat.id), hashlib.sha256(seat.id.encode()).hexdigest()
        for number in range(1, PRESENTATIONS + 1):
            now = act(timedelta(seconds=50))
            service.serve_next(token, device, now)
            row = PalatePresentation.get((PalatePresentation.seat == seat.id) & (PalatePresentation.number == number))
            knows = row.step >= TELLS_PCT[seat.name] or now.rng.random() < 0.5
            service.answer(token, s.PickBody(number=number, picked=row.place if knows else 1 - row.place), device, now)
    service.close_session(made.id, links, act(timedelta(minutes=2)))
    service.make_session(body.model_copy(update={"way": "shuffled", "taster_ids": [people["Odile"]]}), links, act(timedelta(hours=20)))
    _drill(act, people["Odile"])


SUGAR = (("Water", ""), ("1 g/L", "1 g of sugar in a litre of water"), ("2 g/L", ""), ("4 g/L", ""), ("8 g/L", ""))
ROUNDS = (("DABEC", [1, 2, 4, 0, 3]), ("BECAD", [3, 2, 0, 4, 1]))
"""How the cups stood, and in which order they were put."""


def _drill(act: Callable[[timedelta], Act], person: str) -> None:
    made = drills.make_drill(
        d.DrillBody(person_id=person, kind="order", cups=[d.CupBody(name=name, made=how) for name, how in SUGAR]), act(timedelta(minutes=5))
    )
    for number, (marks, order) in enumerate(ROUNDS, start=1):
        drills.begin_round(made.id, act(timedelta(minutes=4)))
        drills.answer(made.id, d.DrillAnswerBody(number=number, answer=order), act(timedelta(minutes=3)))
        drills.turn_over(made.id, d.DrillMarksBody(number=number, marks=list(marks)), act(timedelta(minutes=1)))
