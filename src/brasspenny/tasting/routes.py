"""Flights for the host, sheets for tasters, the pour sheet for a runner."""

from __future__ import annotations

from flask import Response, current_app, g, request

from ..http import SAMPLE_QUERY, Done, IdPath, RevHeader, TokenPath, act, blueprint, code_of, device, file_of, reply, streamed
from ..refusals import NotFound
from . import events, making, reveal, seals, service, sheets
from . import pour_schemas as pour
from . import reveal_schemas as revealed
from . import schemas as s
from . import sheet_schemas as taster
from .service import LinkMaker

bp = blueprint("tasting", __name__)


def links() -> LinkMaker:
    return LinkMaker(current_app.config["SECRET"], current_app.config["LINK_BASE"](), SAMPLE_QUERY if g.get("in_sample") else "")


@bp.get("/trials/<id>/flights", responses={200: s.FlightsAnswer})
def read_flights(path: IdPath):
    """The trial's flights: codes, marks, who has scored; which is which only after the flip."""
    return reply(service.read_flights(path.id, links(), act().now))


@bp.post("/trials/<id>/flights", responses={201: s.FlightAnswer})
def make_flight(path: IdPath, body: s.FlightBody):
    """Make a flight: draw codes, give each taster an order and a link, seal a runner's key."""
    return reply(service.make_flight(path.id, body, links(), act()), 201)


@bp.post("/trials/<id>/flight-outlook", responses={200: s.FlightLoadAnswer})
def read_outlook(path: IdPath, body: s.FlightBody):
    """What such a flight would ask of each taster. Makes nothing."""
    return reply(making.outlook(path.id, body, act()))


@bp.get("/trials/<id>/flight-method", responses={200: s.MethodAnswer})
def read_method(path: IdPath):
    """The method that fits the question, and why."""
    return reply(making.read_method(path.id))


@bp.get("/flights/<id>", responses={200: s.FlightAnswer})
def read_flight(path: IdPath):
    """One flight."""
    return reply(service.read_flight(path.id, links(), act().now))


@bp.patch("/flights/<id>", responses={200: s.FlightAnswer})
def edit_flight(path: IdPath, header: RevHeader, body: s.FlightPatch):
    """Say that the host tastes too."""
    return reply(service.edit_flight(path.id, body, header.if_match, links(), act()))


@bp.delete("/flights/<id>", responses={200: Done})
def remove_flight(path: IdPath):
    """Delete a flight; it can be undone."""
    return reply(Done(change_id=service.remove_flight(path.id, act())))


@bp.get("/flights/<id>/events", responses={200: file_of("text/event-stream", "that something happened")})
def read_events(path: IdPath, query: s.EventsQuery):
    """Server-sent events: something happened in this flight. Resumes by Last-Event-ID."""
    flight = service.open_flight(path.id)
    last = request.headers.get("Last-Event-ID", "")
    after = int(last) if last.isascii() and last.isdigit() and len(last) <= 18 else events.newest(flight.id)
    return streamed(events.stream(flight.id, after, query.for_s, in_sample=g.get("in_sample", False)))


@bp.post("/flights/<id>/tasters", responses={201: s.FlightAnswer})
def add_taster(path: IdPath, body: s.TasterBody):
    """Seat one more taster."""
    return reply(service.add_taster(path.id, body, links(), act()), 201)


@bp.post("/flights/<id>/temperatures", responses={200: s.FlightAnswer})
def read_temperature(path: IdPath, body: s.TemperatureBody):
    """Keep a reading of the cups."""
    return reply(service.read_temperature(path.id, body, links(), act()))


@bp.delete("/flights/<id>/temperatures", responses={200: s.FlightAnswer})
def take_back_temperature(path: IdPath):
    """Take the newest reading back."""
    return reply(service.take_back_temperature(path.id, links(), act()))


@bp.post("/flights/<id>/shuffled", responses={200: s.FlightAnswer})
def set_shuffled(path: IdPath):
    """Say that the servers were shuffled out of sight."""
    return reply(service.set_shuffled(path.id, links(), act()))


@bp.post("/flights/<id>/passes", responses={200: s.FlightAnswer})
def open_pass(path: IdPath, body: s.PassBody):
    """Open a pass by hand."""
    return reply(service.open_pass(path.id, body, links(), act()))


@bp.post("/flights/<id>/close", responses={200: s.FlightAnswer})
def close_flight(path: IdPath):
    """Lock all scores."""
    return reply(service.close_flight(path.id, links(), act()))


@bp.post("/flights/<id>/flip", responses={200: s.FlightAnswer})
def flip_flight(path: IdPath, body: s.FlipBody):
    """Enter the marks, or open the runner's seal, and flip the pennies."""
    return reply(service.flip(path.id, body, links(), act()))


@bp.post("/flights/<id>/break-seal", responses={200: s.FlightAnswer})
def break_seal(path: IdPath):
    """The runner's link is lost: bring the key into sight. The flight is graded sighted."""
    seals.break_seal(path.id, links(), act())
    return reply(service.read_flight(path.id, links(), act().now))


@bp.post("/flights/<id>/pour-sheet", responses={200: pour.PourAnswer})
def open_pour_sheet(path: IdPath):
    """The pour sheet for a host who does not taste; that is recorded."""
    return reply(seals.open_for_host(path.id, links(), device(), act()))


@bp.get("/flights/<id>/runner-qr.svg", responses={200: file_of("image/svg+xml", "the code")})
def read_runnercode_of(path: IdPath):
    """The runner's one-time link as a QR code, until it is opened."""
    shown = service.read_flight(path.id, links(), act().now).seal
    if shown is None or not shown.waits:
        raise NotFound("link")
    return code_of(links().runner_link(path.id))


@bp.post("/sheets/<id>/link", responses={200: s.FlightAnswer})
def renew_link(path: IdPath):
    """A new link for a taster; the old one stops working."""
    return reply(service.renew_link(path.id, links(), act()))


@bp.delete("/sheets/<id>/link", responses={200: s.FlightAnswer})
def withdraw_link(path: IdPath):
    """Withdraw a taster's link."""
    return reply(service.withdraw_link(path.id, links(), act()))


@bp.post("/sheets/<id>/left", responses={200: s.FlightAnswer})
def leave(path: IdPath, body: s.LeftBody):
    """A taster leaves the table, or comes back."""
    return reply(service.leave(path.id, body, links(), act()))


@bp.get("/sheets/<id>/qr.svg", responses={200: file_of("image/svg+xml", "the code")})
def readcode_of(path: IdPath):
    """The taster's link as a QR code."""
    link = links().link(service.open_sheet(path.id))
    if link is None:
        raise NotFound("link")
    return code_of(link)


# --- by link -----------------------------------------------------------------------------------------------------------


@bp.get("/taste/<token>", responses={200: taster.SheetAnswer})
def read_sheet(path: TokenPath):
    """A taster's sheet, by their link. The device tastes in this flight from then on, and opens no pour sheet of it."""
    sheets.taste_on(path.token, device(), act().now)
    return reply(sheets.read_sheet(path.token, act().now))


@bp.get("/taste/<token>/reveal", responses={200: revealed.RevealAnswer})
def read_reveal(path: TokenPath):
    """What each cup was, their own liking beside the panel's, and their guesses; nothing of it before the flip."""
    return reply(reveal.read_reveal(path.token))


@bp.put("/taste/<token>/scores", responses={200: taster.ScoresAnswer})
def put_scores(path: TokenPath, body: taster.ScoresBody):
    """Deliver scores; repeats are harmless."""
    sheets.taste_on(path.token, device(), act().now)
    return reply(sheets.score(path.token, body, act()))


@bp.put("/taste/<token>/late-scores", responses={200: taster.ScoresAnswer})
def put_late_scores(path: TokenPath, body: taster.ScoresBody):
    """Deliver what a phone still held when the flight was closed; kept apart."""
    return reply(sheets.score_late(path.token, body, act()))


@bp.post("/pour/<token>", responses={200: pour.PourAnswer})
def open_pour(path: TokenPath):
    """Open a runner's pour sheet on this device, and on no other from then on."""
    return _not_kept(seals.open_on_device(path.token, device(), act()))


@bp.get("/pour/<token>", responses={200: pour.PourAnswer})
def read_pour(path: TokenPath):
    """The pour sheet again, on the device it was opened on."""
    return _not_kept(seals.read_on_device(path.token, device()))


def _not_kept(shown: pour.PourAnswer) -> Response:
    answer = reply(shown)
    answer.headers["Cache-Control"] = "no-store"
    return answer
