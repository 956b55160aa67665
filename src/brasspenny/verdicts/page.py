"""The verdict's own page: the answer first, then what it rests on."""

from __future__ import annotations

from dataclasses import asdict

from ..act import Act
from ..core.judging.answer import Answer
from . import beside, worth
from . import schemas as s
from . import worth_schemas as w
from .answering import answer_of
from .service import judged, judged_of
from .view import View, look


def read_verdict(trial_id: str, act: Act) -> s.VerdictAnswer:
    """Liking first; attributes, pairing, value and next steps have addresses of their own and arrive as they are worked out."""
    return verdict_of(look(trial_id, act))


def verdict_of(view: View) -> s.VerdictAnswer:
    main, earlier = judged_of(view)
    flights = view.trial.flights
    return s.VerdictAnswer(
        answer=shape_answer(answer_of(view, main)),
        blind=main.blind,
        sighted=main.sighted,
        flights_open=sum(f.status == "open" for f in flights),
        flights_to_flip=sum(f.status == "closed" for f in flights),
        earlier=earlier,
        names=view.names,
        **beside.beside_of(view),
    )


def read_value(trial_id: str, act: Act) -> w.ValueAnswer:
    view = look(trial_id, act)
    return worth.value_of(view, judged(view).main)


def shape_answer(found: Answer | None) -> s.AnswerShown | None:
    return None if found is None else s.AnswerShown(**asdict(found))
