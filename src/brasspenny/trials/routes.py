"""Ask and Set up."""

from __future__ import annotations

from ..http import Done, IdPath, RevHeader, act, blueprint, reply
from . import beginning, service
from . import schemas as s

bp = blueprint("trials", __name__)


@bp.post("/trials", responses={201: s.TrialAnswer})
def ask(body: s.TrialBody):
    """Ask a question: a new trial."""
    return reply(service.ask(body, act()), 201)


@bp.get("/trials/guess", responses={200: s.GuessAnswer})
def guess_factor(query: s.GuessQuery):
    """What a question is about, guessed from its words; a proposal, nothing is kept."""
    return reply(beginning.guess_factor(query.question))


@bp.post("/trials/<id>/duplicate", responses={201: s.TrialAnswer})
def duplicate(path: IdPath):
    """A new trial that asks the same, with the same setups and declarations; no brew and no flight comes along."""
    return reply(beginning.duplicate(path.id, act()), 201)


@bp.get("/trials/<id>", responses={200: s.TrialAnswer})
def read_trial(path: IdPath):
    """A trial's question and its settings."""
    return reply(service.read_trial(path.id))


@bp.patch("/trials/<id>", responses={200: s.TrialAnswer})
def edit_trial(path: IdPath, header: RevHeader, body: s.TrialPatch):
    """Change the question or a setting; only what is sent."""
    return reply(service.edit_trial(path.id, body, header.if_match, act()))


@bp.delete("/trials/<id>", responses={200: Done})
def remove_trial(path: IdPath):
    """Delete a trial; it can be undone."""
    return reply(Done(change_id=service.remove_trial(path.id, act())))


@bp.get("/trials/<id>/setups", responses={200: s.SetUpAnswer})
def read_set_up(path: IdPath):
    """Setups and their control bars."""
    return reply(service.read_set_up(path.id))


@bp.post("/trials/<id>/setups", responses={201: s.SetupAnswer})
def add_setup(path: IdPath, body: s.SetupBody):
    """Describe a setup, or copy one and change something."""
    return reply(service.add_setup(path.id, body, act()), 201)


@bp.post("/trials/<id>/setups/first", responses={201: s.SetUpAnswer})
def first_setups(path: IdPath, body: s.FirstSetupsBody):
    """The first setups of a trial at once, what they share said once."""
    return reply(beginning.first_setups(path.id, body, act()), 201)


@bp.get("/trials/<id>/held-before", responses={200: s.HeldBeforeAnswer})
def held_before(path: IdPath):
    """What the newest other trial held in all its setups."""
    return reply(beginning.held_before(path.id))


@bp.patch("/setups/<id>", responses={200: s.SetupAnswer})
def edit_setup(path: IdPath, header: RevHeader, body: s.SetupPatch):
    """Change a setup; runs already brewed keep the revision they were brewed to."""
    return reply(service.edit_setup(path.id, body, header.if_match, act()))


@bp.delete("/setups/<id>", responses={200: Done})
def remove_setup(path: IdPath):
    """Delete a setup; it can be undone."""
    return reply(Done(change_id=service.remove_setup(path.id, act())))


@bp.post("/trials/<id>/hold", responses={200: s.SetUpAnswer})
def hold_variable(path: IdPath, body: s.HoldBody):
    """Hold a variable equal in all setups."""
    return reply(service.hold(path.id, body, act()))


@bp.post("/trials/<id>/kit-of-now", responses={200: s.SetUpAnswer})
def take_kit_of_now(path: IdPath, body: s.KitOfNowBody):
    """Take a piece of kit as it is known today into all setups that use it; brews keep what they were brewed on."""
    return reply(service.take_kit_of_now(path.id, body, act()))


@bp.post("/trials/<id>/declarations", responses={200: s.SetUpAnswer})
def declare_variable(path: IdPath, body: s.DeclareBody):
    """Declare a difference, with its matching rule."""
    return reply(service.declare(path.id, body, act()))


@bp.delete("/trials/<id>/declarations/<field>", responses={200: s.SetUpAnswer})
def take_back_declaration(path: s.FieldPath):
    """Take a declaration back."""
    return reply(service.take_back(path.id, path.field, act()))
