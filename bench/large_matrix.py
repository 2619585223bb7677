"""A matrix of 50,000 squares in a real browser: frames drawn while it plays and while it is scrolled."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path
from uuid import uuid4

from selenium import webdriver

from bench.report import Report
from bench.rig import chromium
from tests.conftest import RunningApp
from tests.live.scenes import start

COLUMNS, ROWS = 250, 200
SECONDS = 6

COUNT = """
const done = arguments[1], seconds = arguments[0], scroller = document.querySelector('canvas[aria-label^="Squares of"]')
  ?.parentElement?.parentElement;
const gaps = []; let last = performance.now(); const end = last + seconds * 1000;
function turn(now) {
  gaps.push(now - last); last = now;
  if (arguments.length && scroller && window.__scrolls) scroller.scrollTop = (scroller.scrollTop + 40) % 8000;
  if (now < end) requestAnimationFrame(turn); else { gaps.sort((a, b) => a - b);
    done([gaps.length / seconds, gaps[Math.floor(gaps.length * 0.95)]]); }
}
requestAnimationFrame(turn);
"""


def _frames(driver: webdriver.Chrome, scrolls: bool) -> tuple[float, float]:
    driver.execute_script("window.__scrolls = arguments[0]", scrolls)
    driver.set_script_timeout(60)
    rate, worst = driver.execute_async_script(COUNT, SECONDS)
    return float(rate), float(worst)


def run(report: Report) -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        app = RunningApp(folder, "127.0.98.21")
        driver = chromium(folder)
        try:
            driver.get("about:blank")
            blank, _ = _frames(driver, False)
            api = app.api()
            ids = [str(uuid4()) for _ in range(100)]
            api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Large"})
            block = {"name": "Pixels", "shared": [], "cell_count": 500, "runs_on": True}
            cell = [{"attribute": f"ColorAdd_{letter}"} for letter in "RGB"]
            mode = {"name": "500 RGB", "blocks": [{**block, "cell_channels": cell}]}
            api.call(
                "POST",
                "/api/profiles",
                {"id": str(uuid4()), "maker": "Fulmar Works", "name": "Long strip", "kind": "strip", "modes": [mode]},
            )
            api.call("POST", "/api/fixtures", {"text": "100 x Long strip, from 1", "ids": ids})
            matrix, look = str(uuid4()), str(uuid4())
            weave = {"selection": "all", "width": COLUMNS, "height": ROWS, "snake": 1}
            body = {"id": matrix, "name": "Facade", "width": COLUMNS, "height": ROWS, "weave": weave}
            api.call("POST", "/api/matrices", body)
            line = {
                "id": str(uuid4()),
                "paints": "effect",
                "effect": "Mist",
                "matrix": matrix,
                "ramp": [[0, 0, 0, 0], [1, 255, 200, 90]],
            }
            api.call("POST", "/api/looks", {"id": look, "name": "Fog", "lines": [line]})
            start(app, look)
            driver.get(f"{app.address}/matrices")
            time.sleep(6)
            plays, slow = _frames(driver, False)
            scrolled, slow_scrolled = _frames(driver, True)
            driver.get(f"{app.address}/check")
            time.sleep(3)
            driver.execute_script(
                "[...document.querySelectorAll('button')].find((one) => one.textContent === 'lamps').click()"
            )
            time.sleep(2)
            lamps, slow_lamps = _frames(driver, False)
        finally:
            driver.quit()
            app.stop()
    report.note("a limit of 60 a second; a page that draws nothing reaches")
    report.row("an empty page", blank, "Hz", 60.0, "the screen's")
    report.row("50,000 squares playing: frames a second", plays, "Hz", blank, "an empty page")
    report.row("50,000 squares playing: 95 % within", slow, "ms", 50.0, "20 a second", holds=True)
    report.row("and scrolled: frames a second", scrolled, "Hz", blank, "an empty page")
    report.row("lamps at Check: frames a second", lamps, "Hz", blank, "an empty page")
    report.row("lamps at Check: 95 % within", slow_lamps, "ms", 50.0, "20 a second", holds=True)
    report.row("and scrolled: 95 % within", slow_scrolled, "ms", 50.0, "20 a second", holds=True)
