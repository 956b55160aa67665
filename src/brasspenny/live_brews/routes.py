"""Brews while they are made."""

from __future__ import annotations

import time

from flask import current_app

from ..http import Done, IdPath, RevHeader, act, blueprint, file_of, reply, streamed
from ..store.connection import database
from . import scale_file, service
from . import schemas as s

bp = blueprint("live_brews", __name__)


@bp.post("/trials/<id>/live-brews", responses={201: s.LiveBrewAnswer})
def prepare_live_brew(path: IdPath, body: s.LiveBrewBody):
    """Get ready to brew a setup along its recipe."""
    return reply(service.prepare(path.id, body, act()), 201)


@bp.get("/trials/<id>/live-brews", responses={200: s.LiveBrewsAnswer})
def read_live_brews(path: IdPath):
    """Brews of this trial that are being made."""
    return reply(service.unfinished(path.id, act()))


@bp.get("/live-brews", responses={200: s.LiveBrewsAnswer})
def read_all_live_brews():
    """All brews that are being made, loose ones too: for parallel lanes."""
    return reply(service.unfinished(None, act()))


@bp.post("/live-brews", responses={201: s.LiveBrewAnswer})
def prepare_loose_live_brew(body: s.LooseLiveBrewBody):
    """Get ready to brew a recipe without a trial."""
    return reply(service.prepare_loose(body, act()), 201)


@bp.post("/setups/<id>/live-brews", responses={201: s.LiveBrewAnswer})
def prepare_live_brew_again(path: IdPath, body: s.LiveBrewOf):
    """Get ready to brew a setup that is there already, of a trial or loose."""
    return reply(service.prepare_again(path.id, body, act()), 201)


@bp.post("/runs/<id>/scale-log", responses={201: s.ScaleLogAnswer})
def take_scale_log(path: IdPath, header: RevHeader, body: s.ScaleLogBody):
    """Put a real scale's file beside a logged brew: cut into pours and set against the plan."""
    return reply(scale_file.take_log(path.id, body, header.if_match, act()), 201)


@bp.get("/live-brews/<id>", responses={200: s.LiveBrewAnswer})
def read_live_brew(path: IdPath):
    """Where this brew stands, to the second."""
    return reply(service.read_live(path.id, act()))


@bp.post("/live-brews/<id>/start", responses={200: s.LiveBrewAnswer})
def start_live_brew(path: IdPath, header: RevHeader):
    """The first water."""
    return reply(service.start(path.id, header.if_match, act()))


@bp.post("/live-brews/<id>/marks", responses={201: s.LiveBrewAnswer})
def mark_live_brew(path: IdPath, header: RevHeader, body: s.MarkBody):
    """A step is done, the first drip falls, something was spilt."""
    return reply(service.mark(path.id, body, header.if_match, act()), 201)


@bp.delete("/live-brews/<id>/marks/last", responses={200: s.LiveBrewAnswer})
def take_back_live_mark(path: IdPath, header: RevHeader):
    """The last press is taken back."""
    return reply(service.take_back(path.id, header.if_match, act()))


@bp.get("/scale/lines", responses={200: file_of("text/event-stream", "what the scale writes")})
def stream_scale_lines():
    """Lines of the scale at the bench's own address for one, as server-sent events: text. trouble: why there are none."""
    address = service.scale_address()
    database.close()  # it may last for minutes and needs no database
    return streamed(service.scale_lines(address))


@bp.post("/live-brews/<id>/weigh", responses={201: s.WeighedAnswer})
def weigh_live_brew(path: IdPath, body: s.WeighBody):
    """What a real scale says, line by line; the first water starts the clock."""
    return reply(service.weigh(path.id, body, act()), 201)


@bp.post("/live-brews/<id>/finish", responses={201: s.LiveBrewAnswer})
def finish_live_brew(path: IdPath, header: RevHeader, body: s.FinishBody):
    """Log it as a brew."""
    return reply(service.finish(path.id, body, header.if_match, act()), 201)


@bp.delete("/live-brews/<id>", responses={200: Done})
def give_up_live_brew(path: IdPath):
    """Not brewed after all."""
    return reply(Done(change_id=service.give_up(path.id, act())))


@bp.get("/live-brews/<id>/readings", responses={200: file_of("text/event-stream", "what the scale reads")})
def stream_live_readings(path: IdPath):
    """Readings as server-sent events: elapsed_s, plan_g, scale_g, slurry_c, kettle_c, press_kg, source, begun, now."""
    live = service.open_live(path.id)
    clock = current_app.config["CLOCK"]
    database.close()  # the stream may last for minutes and needs no database
    return streamed(service.readings(live, clock, time.sleep))
