"""Going into the sample bench, out of it, and taking it away."""

from __future__ import annotations

from flask import current_app, request

from ..bench.routes import in_sample
from ..http import IN_SAMPLE, SAMPLE_COOKIE, blueprint, reply
from ..store.connection import sample_exists
from . import schemas as s
from . import service

bp = blueprint("sample_bench", __name__)


@bp.get("/sample-bench", responses={200: s.SampleAnswer})
def read_sample():
    """Whether there is a sample bench, and whether this device is in it."""
    return reply(s.SampleAnswer(exists=sample_exists(), in_sample=in_sample()))


@bp.post("/sample-bench", responses={200: s.SampleAnswer})
def enter_sample():
    """Look round the sample bench, laid out when there is none; what is done there stays there."""
    service.lay_out(current_app.config["SECRET"])
    answer = reply(s.SampleAnswer(exists=True, in_sample=True))
    answer.set_cookie(SAMPLE_COOKIE, IN_SAMPLE, samesite="Lax", secure=request.is_secure)
    return answer


@bp.patch("/sample-bench", responses={200: s.SampleAnswer})
def leave_sample(body: s.SamplePatch):
    """Back to the bench's own, or into the sample bench again."""
    there = sample_exists()
    answer = reply(s.SampleAnswer(exists=there, in_sample=there and body.in_sample))
    if there and body.in_sample:
        answer.set_cookie(SAMPLE_COOKIE, IN_SAMPLE, samesite="Lax", secure=request.is_secure)
    else:
        answer.delete_cookie(SAMPLE_COOKIE, samesite="Lax")
    return answer


@bp.delete("/sample-bench", responses={200: s.SampleAnswer})
def remove_sample():
    """Take the sample bench away, with everything in it."""
    service.remove()
    answer = reply(s.SampleAnswer(exists=False, in_sample=False))
    answer.delete_cookie(SAMPLE_COOKIE, samesite="Lax")
    return answer
