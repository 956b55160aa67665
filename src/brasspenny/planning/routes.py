"""A trial's plan, its design and its run sheet."""

from __future__ import annotations

from flask import Response
from pydantic import BaseModel, Field

from ..http import IdPath, RevHeader, act, blueprint, moment, reply
from . import design, plans, run_sheet
from . import schemas as s

bp = blueprint("planning", __name__)


class PlanRevHeader(BaseModel):
    """The revision the writer saw; 0 when no plan was stored yet."""

    if_match: int = Field(alias="If-Match", ge=0, description="rev of the plan as it was read")


@bp.get("/trials/<id>/plan", responses={200: s.PlanAnswer})
def read_plan(path: IdPath):
    """Design, order, budget, dial-in and matching of a trial."""
    return reply(plans.read_plan(path.id))


@bp.get("/trials/<id>/slots", responses={200: s.SlotsAnswer})
def read_slots(path: IdPath):
    """Brews as planned or drafted, and which of them are made."""
    return reply(plans.read_slots(path.id))


@bp.put("/trials/<id>/plan", responses={200: s.PlanAnswer})
def save_plan(path: IdPath, header: PlanRevHeader, body: s.PlanBody):
    """Replicates, flights, tasters, order and the day's resources."""
    return reply(plans.save_plan(path.id, body, header.if_match, act()))


@bp.post("/trials/<id>/design", responses={201: s.PlanAnswer})
def lay_out_design(path: IdPath, header: PlanRevHeader, body: s.DesignBody):
    """Make the setups of a design from factor levels."""
    return reply(design.lay_out(path.id, body, header.if_match, act()), 201)


@bp.get("/trials/<id>/run-sheet", responses={200: s.TrialSheetAnswer})
def read_run_sheet(path: IdPath):
    """The newest run sheet, or null."""
    return reply(run_sheet.read_sheet(path.id))


@bp.post("/trials/<id>/run-sheet", responses={201: s.TrialSheetAnswer})
def make_run_sheet(path: IdPath, body: s.SheetAsked):
    """Time one flight's brews so that the cups meet."""
    return reply(run_sheet.make_sheet(path.id, body, act()), 201)


@bp.post("/run-sheets/<id>/begin", responses={200: s.TrialSheetAnswer})
def begin_brew(path: IdPath, header: RevHeader, body: s.BeginBody):
    """A brew has really begun, or its sample is taken."""
    return reply(run_sheet.begin_brew(path.id, body, header.if_match, act()))


@bp.post("/run-sheets/<id>/again", responses={200: s.TrialSheetAnswer})
def plan_run_sheet_again(path: IdPath, header: RevHeader):
    """The day has slipped: place what is left from now on."""
    return reply(run_sheet.plan_again(path.id, header.if_match, act()))


@bp.get("/trials/<id>/run-sheet.ics", responses={200: {"description": "iCalendar", "content": {"text/calendar": {"schema": {"type": "string"}}}}})
def read_run_sheet_calendar(path: IdPath):
    """The newest run sheet as an iCalendar file."""
    body = run_sheet.calendar_of(path.id, moment())
    return Response(body, mimetype="text/calendar", headers={"Content-Disposition": 'attachment; filename="run-sheet.ics"'})
