"""Flights for the host, sheets for tasters."""

from __future__ import annotations

import io

import segno
from flask import Response, current_app

from ..http import Done, IdPath, RevHeader, act, blueprint, reply
from ..refusals import NotFound
from . import schemas as s
from . import service, sheets
from .service import LinkMaker

bp = blueprint("tasting", __name__)


def links() -> LinkMaker:
    return LinkMaker(current_app.config["SECRET"], current_app.config["LINK_BASE"]())


@bp.get("/trials/<id>/flights", responses={200: s.FlightsAnswer})
def read_flights(path: IdPath):
    """The trial's flights: codes, marks, who has scored; which is which only after the flip."""
    return reply(service.read_flights(path.id, links()))


@bp.post("/trials/<id>/flights", responses={201: s.FlightAnswer})
def make_flight(path: IdPath, body: s.FlightBody):
    """Make a flight: draw codes, give each taster an order and a link."""
    return reply(service.make_flight(path.id, body, links(), act()), 201)


@bp.get("/flights/<id>", responses={200: s.FlightAnswer})
def read_flight(path: IdPath):
    """One flight."""
    return reply(service.read_flight(path.id, links()))


@bp.patch("/flights/<id>", responses={200: s.FlightAnswer})
def edit_flight(path: IdPath, header: RevHeader, body: s.FlightPatch):
    """Set the flight's one cup temperature."""
    return reply(service.edit_flight(path.id, body, header.if_match, links(), act()))


@bp.delete("/flights/<id>", responses={200: Done})
def remove_flight(path: IdPath):
    """Delete a flight; it can be undone."""
    return reply(Done(change_id=service.remove_flight(path.id, act())))


@bp.post("/flights/<id>/tasters", responses={201: s.FlightAnswer})
def add_taster(path: IdPath, body: s.TasterBody):
    """Seat one more taster."""
    return reply(service.add_taster(path.id, body, links(), act()), 201)


@bp.post("/flights/<id>/close", responses={200: s.FlightAnswer})
def close_flight(path: IdPath):
    """Lock all scores."""
    return reply(service.close_flight(path.id, links(), act()))


@bp.post("/flights/<id>/flip", responses={200: s.FlightAnswer})
def flip_flight(path: IdPath, body: s.FlipBody):
    """Enter the marks and flip the pennies."""
    return reply(service.flip(path.id, body, links(), act()))


@bp.post("/sheets/<id>/link", responses={200: s.FlightAnswer})
def renew_link(path: IdPath):
    """A new link for a taster; the old one stops working."""
    return reply(service.renew_link(path.id, links(), act()))


@bp.delete("/sheets/<id>/link", responses={200: s.FlightAnswer})
def withdraw_link(path: IdPath):
    """Withdraw a taster's link."""
    return reply(service.withdraw_link(path.id, links(), act()))


@bp.get("/sheets/<id>/qr.svg")
def read_qr(path: IdPath):
    """The taster's link as a QR code."""
    link = links().link(service.open_sheet(path.id))
    if link is None:
        raise NotFound("link")
    out = io.BytesIO()
    segno.make(link, error="m").save(out, kind="svg", scale=5, border=3, dark="#13201C", light="#FFFFFF", xmldecl=False, svgclass=None, lineclass=None)
    return Response(out.getvalue(), mimetype="image/svg+xml", headers={"Cache-Control": "no-store"})


@bp.get("/taste/<token>", responses={200: s.SheetAnswer})
def read_sheet(path: s.TokenPath):
    """A taster's sheet, by their link."""
    return reply(sheets.read_sheet(path.token))


@bp.put("/taste/<token>/scores", responses={200: s.ScoresAnswer})
def put_scores(path: s.TokenPath, body: s.ScoresBody):
    """Deliver scores; repeats are harmless."""
    return reply(sheets.score(path.token, body, act()))
