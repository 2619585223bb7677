"""A pen that goes over 50,000 squares at 60 places a second, drags of ribbons, and keys in a list of 500 cues, in a
real browser: script for each move of the pointer, its frame's own included, and the longest task.

Limits: 8 ms of script for a move, half a frame of a screen of 60 a second; 50 ms for a task, from which on a page is
felt to hang (W3C Long Tasks).
"""

from __future__ import annotations

import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any
from uuid import uuid4

from selenium import webdriver
from selenium.webdriver.common.by import By

from bench.preview import _browser
from bench.report import Report
from tests.conftest import RunningApp, wait_for
from tests.live.scenes import light_wall, start

WIDTH, HEIGHT = 250, 200
CUES, TURNS = 500, 3
MOVES = 240
RATE = 60.0
SCRIPT_MS, TASK_MS = 8.0, 50.0
CARD = "127.0.101.41"

NOTE = """
if (!window.noted) {
  window.noted = { moves: [], long: [] };
  let began = 0, frame = null;  // the frame that follows a move is counted to it, later ones are not
  for (const kind of ['pointermove', 'keydown']) {
    addEventListener(kind, () => { began = performance.now(); frame = null; }, { capture: true });
    addEventListener(kind, () => { window.noted.moves.push(performance.now() - began); });
  }
  const later = window.requestAnimationFrame.bind(window);
  window.requestAnimationFrame = (run) => later((at) => {
    const from = performance.now();
    run(at);
    const last = window.noted.moves.length - 1;
    frame ??= at;
    if (last >= 0 && frame === at) window.noted.moves[last] += performance.now() - from;
  });
  new PerformanceObserver((list) => window.noted.long.push(...list.getEntries().map((one) => one.duration)))
    .observe({ entryTypes: ['longtask'] });
}
window.noted.moves.length = 0;
window.noted.long.length = 0;
"""


def _show(app: RunningApp) -> None:
    api = app.api()
    api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Sea wall"})
    text = f"{WIDTH} x RGB pixel strip, mode 200 RGB, from 1, Row {{n}}"
    api.call("POST", "/api/fixtures", {"text": text, "ids": [str(uuid4()) for _ in range(WIDTH)]})
    matrix, chase, look = (str(uuid4()) for _ in range(3))
    weave = {"selection": "all", "width": WIDTH, "height": HEIGHT}
    api.call(
        "POST", "/api/matrices", {"id": matrix, "name": "Sea wall", "width": WIDTH, "height": HEIGHT, "weave": weave}
    )
    api.call("POST", "/api/chases", {"id": chase, "name": "Gull steps", "matrix": matrix})
    line: dict[str, Any] = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": matrix}
    line |= {"ramp": [[0, 200, 100, 40]]}
    api.call("POST", "/api/looks", {"id": look, "name": "Tide", "lines": [line]})
    universes = max(u for f in api.call("GET", "/api/show")["fixtures"] for u, _, _ in f["spans"])
    output = {"id": str(uuid4()), "name": "All", "protocol": "sacn", "mode": "unicast", "destination": "127.0.100.2"}
    api.call("POST", "/api/outputs", {**output, "card": app.card, "count": universes, "first_number": 1})
    start(app, look)


def _drag(driver: webdriver.Chrome, path: list[tuple[float, float]], least: float) -> tuple[list[float], list[float]]:
    """Goes along a path with the button down, 60 places a second or, where the machine is too slow for the browser
    beside the engine, at `least` so many: ms of script for each move, ms of long tasks."""
    driver.execute_script(NOTE)
    mouse = {"button": "left", "buttons": 1, "clickCount": 1}

    def tell(kind: str, at: tuple[float, float]) -> None:
        driver.execute_cdp_cmd("Input.dispatchMouseEvent", {**mouse, "type": kind, "x": at[0], "y": at[1]})

    tell("mousePressed", path[0])
    begun = time.monotonic()
    for number, at in enumerate(path):
        tell("mouseMoved", at)
        time.sleep(max(0.0, begun + (number + 1) / RATE - time.monotonic()))
    took = time.monotonic() - begun
    tell("mouseReleased", path[-1])
    time.sleep(1.0)
    moves, long = driver.execute_script("return [window.noted.moves, window.noted.long]")
    print(f"  ({len(path) / took:.0f} places a second were reached)", flush=True)
    if took > len(path) / least:
        raise RuntimeError(f"the pointer went too slowly: {len(path)} places in {took:.1f} s")
    return moves, long


def _box(driver: webdriver.Chrome, css: str) -> tuple[float, float, float, float]:
    found = wait_for(lambda: next(iter(driver.find_elements(By.CSS_SELECTOR, css)), None), 15)
    driver.execute_script("arguments[0].scrollIntoView({block: 'nearest'})", found)
    script = "const b = arguments[0].getBoundingClientRect(); return [b.x, b.y, b.width, b.height]"
    x, y, width, height = driver.execute_script(script, found)
    return x, y, width, height


def _ribbon(driver: webdriver.Chrome, name: str) -> tuple[float, float, float, float]:
    return _box(driver, f'input[aria-label="{name}"]')


def _press(driver: webdriver.Chrome, css: str, text: str = "") -> None:
    def found() -> Any:
        return next((one for one in driver.find_elements(By.CSS_SELECTOR, css) if text in one.text), None)

    wait_for(found, 15).click()


def _to_and_fro(box: tuple[float, float, float, float], across: float = 0.8) -> list[tuple[float, float]]:
    x, y, width, height = box
    found = []
    for n in range(MOVES):
        turn = (n * 3 / MOVES) % 2
        found.append((x + width * (0.5 + across * ((turn if turn < 1 else 2 - turn) - 0.5)), y + height / 2))
    return found


def _all_over(box: tuple[float, float, float, float]) -> list[tuple[float, float]]:
    """Rows from side to side over the whole canvas, so that the pen leaves few squares out."""
    x, y, width, height = box
    found = []
    for n in range(MOVES):
        row, share = divmod(n / MOVES * 24, 1.0)
        found.append((x + width * (share if row % 2 == 0 else 1 - share), y + height * (row + 0.5) / 24))
    return found


def run(report: Report) -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        app = RunningApp(folder, CARD)
        driver = _browser(folder)
        try:
            _cues(app, driver, report)
            _show(app)
            driver.get(f"{app.address}/looks")
            _press(driver, 'button[title^="Gull steps"]')
            time.sleep(2.0)
            canvas = _box(driver, 'canvas[aria-label^="Squares of"]')
            _said(report, "the pen over 50,000 squares", lambda: _drag(driver, _all_over(canvas), least=30.0))
            driver.get(f"{app.address}/looks")
            _press(driver, "main button, main [role=option]", "Tide")
            _press(driver, "main button", "one colour")
            for ribbon in ("Hue", "Light"):
                path = _to_and_fro(_ribbon(driver, ribbon))
                _said(report, f"the ribbon {ribbon.lower()} of a line", partial(_drag, driver, path, least=20.0))
        finally:
            driver.quit()
            app.stop()


def _cues(app: RunningApp, driver: webdriver.Chrome, report: Report) -> None:
    """A list of 500 cues of a small show: through its rows by arrows, and on by Go."""
    key = str(uuid4())
    light_wall(app, "127.0.100.2", [[0, 200, 100, 40]])
    app.api().call("POST", "/api/lists", {"id": key, "name": "Evening"})
    rows = [f"{n},Cue {n},Dusk {n % 90 + 10} %,0.4 s,hold,note of {n}" for n in range(1, CUES + 1)]
    table = "\n".join(["number,name,looks,fade in,then,note", *rows])
    app.api().call("PUT", f"/api/lists/{key}/cues.csv", {"table": table})
    driver.get(f"{app.address}/run")
    grid = wait_for(lambda: next(iter(driver.find_elements(By.CSS_SELECTOR, '[role="grid"]')), None), 15)
    time.sleep(2.0)
    grid.click()
    _said(report, "arrows through 500 cues", lambda: _keys(driver, "ArrowDown", 40))
    driver.execute_script("document.activeElement.blur()")
    _said(report, "Go through 500 cues", lambda: _keys(driver, " ", 20, apart_s=0.5))


def _keys(driver: webdriver.Chrome, key: str, times: int, apart_s: float = 1 / 20) -> tuple[list[float], list[float]]:
    driver.execute_script(NOTE)
    for _ in range(times):
        for kind in ("keyDown", "keyUp"):
            text = {"text": " "} if key == " " and kind == "keyDown" else {}
            driver.execute_cdp_cmd("Input.dispatchKeyEvent", {"type": kind, "key": key, "code": key, **text})
        time.sleep(apart_s)
    time.sleep(1.0)
    moves, long = driver.execute_script("return [window.noted.moves, window.noted.long]")
    return moves, long


def _said(report: Report, what: str, done: Callable[[], tuple[list[float], list[float]]]) -> None:
    """Of three turns the one with the least of the longest: time that is stolen from the machine is not the page's."""
    turns = [done() for _ in range(TURNS)]
    if min(len(moves) for moves, _ in turns) < 10:
        raise RuntimeError(f"{what}: only {min(len(moves) for moves, _ in turns)} moves arrived")
    moves, long = min(turns, key=lambda turn: (max(turn[1], default=0.0), max(turn[0])))
    report.row(f"{what}: script a move, most", max(moves), "ms", SCRIPT_MS, "limit", holds=True)
    report.row(f"{what}: script a move, median", sorted(moves)[len(moves) // 2], "ms", SCRIPT_MS, "limit")
    report.row(f"{what}: longest task", max(long, default=0.0), "ms", TASK_MS, "limit", holds=True)
