"""The verdict's own page: the answer first, then what it rests on."""

from __future__ import annotations

from dataclasses import asdict

from ..act import Act
from ..core import figures
from ..core.judging.answer import Answer
from ..core.judging.learnt import told
from . import schemas as s
from . import secondary, value
from . import value_schemas as w
from .answering import answer_of, as_answered
from .judged import Judged
from .service import judged, judged_of
from .view import View, look


def read_verdict(trial_id: str, act: Act) -> s.VerdictAnswer:
    """Liking first; attributes, pairing, value and next steps have addresses of their own and arrive as they are worked out."""
    return verdict_of(look(trial_id, act))


def verdict_of(view: View) -> s.VerdictAnswer:
    main, earlier = judged_of(view)
    flights, answer = view.trial.flights, answer_of(view, main)
    return s.VerdictAnswer(
        answer=shape_answer(answer),
        panel=said_of_panel(main.main, view) if main.main else "",
        blind=as_answered(main.blind, answer),
        sighted=main.sighted if main.blind else as_answered(main.sighted, answer),
        flights_open=sum(f.status == "open" for f in flights),
        flights_to_flip=sum(f.status == "closed" for f in flights),
        earlier=earlier,
        scatter=scatter_used(view, main, answer),
        names=view.names,
        **secondary.beside_of(view),
    )


def read_value(trial_id: str, act: Act) -> w.ValueAnswer:
    view = look(trial_id, act)
    return value.value_of(view, judged(view).main)


def said_of_panel(judged: s.JudgedAnswer, view: View) -> str:
    """ "8 tasters, 4 brews, 1 of 2 flights": those that were scored, of those that were tasted."""
    tasted = sum(f.status == "flipped" for f in view.trial.flights)
    flights = figures.counted(judged.flights, "flight") if judged.flights == tasted else f"{judged.flights} of {figures.counted(tasted, 'flight')}"
    return f"{figures.counted(judged.tasters, 'taster')}, {figures.counted(judged.brews, 'brew')}, {flights}"


def scatter_used(view: View, judged: Judged, answer: Answer | None) -> s.ScatterUsed | None:
    if not view.learnt or answer is None:
        return None
    _, flights, cups, _ = view.learnt
    same = judged.by_other == answer.headline
    text = told(flights, cups, own=view.own_scatter, same=same, by_other=judged.by_other, looks=judged.blind.flights)
    return s.ScatterUsed(scatter_from=view.trial.scatter_from, flights=flights, cups=cups, same=same, text=text)


def shape_answer(found: Answer | None) -> s.AnswerShown | None:
    return None if found is None else s.AnswerShown(**asdict(found))
