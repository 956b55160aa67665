"""The Palate room for the host; a taster's and a helper's page by link."""

from __future__ import annotations

from flask import Response, current_app, g

from ..http import SAMPLE_QUERY, Done, IdPath, TokenPath, act, blueprint, code_of, device, file_of, reply
from ..links import LinkMaker
from ..refusals import NotFound
from . import drill_schemas as d
from . import drills, service
from . import schemas as s

bp = blueprint("palate", __name__)


def links() -> LinkMaker:
    return LinkMaker(current_app.config["SECRET"], current_app.config["LINK_BASE"](), SAMPLE_QUERY if g.get("in_sample") else "")


@bp.get("/palate", responses={200: s.PalateRoom})
def read_palate():
    """Sessions, what each taster and the panel can tell, and how they repeat themselves."""
    return reply(service.read_room(links()))


@bp.post("/palate-sessions", responses={201: s.SeriesShown})
def make_series(body: s.SeriesBody):
    """A series of known steps, with a link for each taster and one for the helper."""
    return reply(service.make_session(body, links(), act()), 201)


@bp.post("/palate-sessions/<id>/close", responses={200: s.SeriesShown})
def close_series(path: IdPath):
    """Nothing more is served; each taster's page tells what they can tell."""
    return reply(service.close_session(path.id, links(), act()))


@bp.delete("/palate-sessions/<id>", responses={200: Done})
def remove_series(path: IdPath):
    """Delete a session and what was answered in it; it can be undone."""
    return reply(Done(change_id=service.remove_session(path.id, act())))


@bp.get("/palate-sessions/<id>/helper-qr.svg", responses={200: file_of("image/svg+xml", "the code")})
def read_helper_qr(path: IdPath):
    """The helper's link as a QR code, until it is opened."""
    session = service.open_session(path.id)
    if session.device_hash is not None or session.helper_hash is None or session.closed_at is not None:
        raise NotFound("link")
    return code_of(links().helper_link(session.id))


@bp.get("/palate-seats/<id>/qr.svg", responses={200: file_of("image/svg+xml", "the code")})
def read_seat_qr(path: IdPath):
    """A taster's link as a QR code."""
    return code_of(links().palate_link(service.open_seat(path.id).id))


# --- drills -----------------------------------------------------------------------------------------------------------------


@bp.get("/drills", responses={200: d.DrillsAnswer})
def read_drills(query: d.DrillsQuery):
    """One taster's drills, the newest first."""
    return reply(drills.read_drills(query.person_id, act()))


@bp.post("/drills", responses={201: d.DrillShown})
def make_drill(body: d.DrillBody):
    """Declare the cups of an exercise."""
    return reply(drills.make_drill(body, act()), 201)


@bp.get("/drills/<id>", responses={200: d.DrillShown})
def read_drill(path: IdPath):
    """The round at hand, the last one, and what all of them say compared with guessing."""
    return reply(drills.read_drill(path.id))


@bp.delete("/drills/<id>", responses={200: Done})
def remove_drill(path: IdPath):
    """Delete a drill and its rounds; it can be undone."""
    return reply(Done(change_id=drills.remove_drill(path.id, act())))


@bp.post("/drills/<id>/round", responses={200: d.DrillShown})
def begin_round(path: IdPath):
    """Set out the next round; one that is not finished stays."""
    return reply(drills.begin_round(path.id, act()))


@bp.put("/drills/<id>/answer", responses={200: d.DrillShown})
def answer_round(path: IdPath, body: d.DrillAnswerBody):
    """Answer a round; the same again is harmless."""
    return reply(drills.answer(path.id, body, act()))


@bp.put("/drills/<id>/turned", responses={200: d.DrillShown})
def turn_cups_over(path: IdPath, body: d.DrillMarksBody):
    """What the marks underneath say, after the answer."""
    return reply(drills.turn_over(path.id, body, act()))


# --- by link -----------------------------------------------------------------------------------------------------------


@bp.get("/palate-sheet/<token>", responses={200: s.PalateSheet})
def read_palate_sheet(path: TokenPath):
    """A taster's page of a session, by their link. The device pours nothing in this session from then on."""
    return reply(service.read_sheet(path.token, device(), act()))


@bp.post("/palate-sheet/<token>/next", responses={200: s.PalateSheet})
def serve_next(path: TokenPath):
    """Serve the next; what is not answered yet stays."""
    return reply(service.serve_next(path.token, device(), act()))


@bp.put("/palate-sheet/<token>/answer", responses={200: s.PalateSheet})
def pick_cup(path: TokenPath, body: s.PickBody):
    """Pick a cup; the same again is harmless."""
    return reply(service.answer(path.token, body, device(), act()))


@bp.put("/palate-sheet/<token>/turned", responses={200: s.PalateSheet})
def turn_over(path: TokenPath, body: s.TurnedBody):
    """What the marks under shuffled cups say, after the answer."""
    return reply(service.turn_over(path.token, body, device(), act()))


@bp.post("/palate-pours/<token>", responses={200: s.HelperSheet})
def open_to_pour(path: TokenPath):
    """Open a helper's sheet on this device, and on no other from then on."""
    return _not_kept(service.open_to_pour(path.token, device(), act()))


@bp.get("/palate-pours/<token>", responses={200: s.HelperSheet})
def read_pours(path: TokenPath):
    """What waits to be poured, on the device it was opened on."""
    return _not_kept(service.read_pours(path.token, device()))


def _not_kept(shown: s.HelperSheet) -> Response:
    answer = reply(shown)
    answer.headers["Cache-Control"] = "no-store"
    return answer
