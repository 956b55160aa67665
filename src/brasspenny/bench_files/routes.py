"""A whole bench out and in."""

from __future__ import annotations

from datetime import datetime

from flask import Response

from ..http import act, blueprint, bytes_of, file_of, told_as_it_goes
from ..progress_stream import Steps
from ..refusals import Unprocessable
from . import into, out
from . import schemas as s

bp = blueprint("bench_files", __name__)


@bp.get("/export.zip", responses={200: file_of("application/zip", "the whole bench as open files")})
def export_bench():
    """The whole bench: JSON and CSV a kind, pictures, a manifest, and what each field means. Without its passphrase and its secret."""
    now = act().now
    name = f"brass-penny-bench-{now:%Y%m%d}.zip"
    return Response(
        out.to_zip(now), content_type="application/zip", headers={"Content-Disposition": f'attachment; filename="{name}"', "Cache-Control": "no-store"}
    )


@bp.post("/bench-import", responses={200: s.ArrivedAnswer})
def import_bench(body: s.BenchFileBody):
    """Read a whole bench in beside what is here: all of it or nothing, and the same one twice changes nothing. Asked for as application/x-ndjson it tells how far it is:
    lines of {"done", "of"}, the last one {"answer"} or {"problem"}."""
    return told_as_it_goes(_steps(bytes_of(body.data), act().now), _shape)


def _steps(raw: bytes, now: datetime) -> Steps[into.Arrived]:
    try:
        return (yield from into.write_steps(into.read(into.reader_of_zip(raw)), now))
    except into.NotABench as error:
        raise Unprocessable("data", str(error), "Choose the ZIP of a whole bench.") from None


def _shape(arrived: into.Arrived) -> s.ArrivedAnswer:
    return s.ArrivedAnswer(came=arrived.came, here=arrived.here, kept=arrived.kept, said=into.said(arrived))
