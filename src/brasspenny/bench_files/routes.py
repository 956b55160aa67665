"""A whole bench out and in."""

from __future__ import annotations

import shutil
import tempfile
from datetime import datetime
from typing import IO

from flask import Response, request

from ..http import act, blueprint, file_of, told_as_it_goes
from ..progress_stream import Steps, half
from ..refusals import Unprocessable
from . import into, out, reading
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
def import_bench():
    """Read a whole bench in beside what is here: all of it or nothing, and the same one twice changes nothing. The body is its ZIP, as application/zip: up to 300 MB at the
    bench's own machine, 9 MB from elsewhere. Asked for as application/x-ndjson it tells how far it is: lines of {"done", "of"}, the last one {"answer"} or {"problem"}."""
    return told_as_it_goes(_steps(_arrived(request.stream), act().now), _shape)


def _arrived(stream: IO[bytes]) -> IO[bytes]:
    """The body in a file of its own, which is gone once it is closed: the steps go on when the request is over."""
    file = tempfile.TemporaryFile()  # noqa: SIM115 (the steps close it)
    shutil.copyfileobj(stream, file)
    return file


def _steps(file: IO[bytes], now: datetime) -> Steps[into.Arrived]:
    try:
        with file:
            rows = yield from half(reading.read_steps(reading.reader_of_zip(file)), first=True)
            return (yield from half(into.write_steps(rows, now), first=False))
    except reading.NotABench as error:
        raise Unprocessable("data", str(error), "Nothing was written. Export the bench again, or choose another file.") from None


def _shape(arrived: into.Arrived) -> s.ArrivedAnswer:
    return s.ArrivedAnswer(came=arrived.came, here=arrived.here, kept=arrived.kept, said=into.said(arrived))
