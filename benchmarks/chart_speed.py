"""The charts with 10,000 brews: the answer of 5,000 points, and scripting a frame while the chart is panned.
Targets: ≤ 12 ms of scripting a frame with 5,000 points. Needs the interface built and Chromium; makes its own database under /tmp.
Run: PYTHONPATH=src python benchmarks/chart_speed.py"""

from __future__ import annotations

import statistics
import time
import urllib.request

import served
from api_load import fill
from playwright.sync_api import sync_playwright

from brasspenny.store import charted, connection

PORT = 18_766
PAN = """async (frames) => {
  const plot = document.querySelector('[role=application]');
  const press = (key) => plot.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  for (let i = 0; i < 3; i++) { press('+'); await new Promise(requestAnimationFrame); }
  const took = [];
  for (let i = 0; i < frames; i++) {
    const began = performance.now();
    press(i % 8 < 4 ? 'ArrowRight' : 'ArrowLeft'); // never against an edge, where nothing moves
    await new Promise((done) => queueMicrotask(done));
    took.push(performance.now() - began);
    await new Promise(requestAnimationFrame);
  }
  return took;
}"""


def main() -> None:
    with served.database("brasspenny_charts") as server:
        with connection.database.connection_context():
            fill()
            connection.database.execute_sql("UPDATE run SET beverage_g = 230 + 30 * RAND(3), brew_water_g = 270 + 60 * RAND(4)")
            connection.database.execute_sql("UPDATE reading r JOIN (SELECT id, 1.2 + 0.4 * RAND(5) AS c FROM run) x ON x.id = r.run_id SET r.tds_pct = x.c")
            charted.all_written()
        with served.bench(server, PORT, 1):
            measure()


def measure() -> None:
    for limit in (500, 5000):
        times = []
        for _ in range(5):
            began = time.perf_counter()
            with urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/v1/charts?limit={limit}") as answer:
                size = len(answer.read())
            times.append(1000 * (time.perf_counter() - began))
        print(f"{limit} points of 10,000 brews: {statistics.median(times):.0f} ms, {size / 1e6:.1f} MB before compression")
    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"])
        page = browser.new_page(viewport={"width": 1280, "height": 800}, extra_http_headers=served.COOKIE)
        page.goto(f"http://127.0.0.1:{PORT}/charts")
        page.locator("canvas").wait_for(timeout=30_000)
        took = sorted(page.evaluate(PAN, 120))
        print(f"panning 5,000 points: scripting a frame median {statistics.median(took):.1f} ms, p95 {took[113]:.1f} ms")
        browser.close()


if __name__ == "__main__":
    main()
