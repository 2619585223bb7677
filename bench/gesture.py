"""From a pointer's move in a real browser to the first changed packet, with 512 universes patched and sent.

The limit is what nobody could go below: an empty page's own time from pointer to frame while it draws (the browser
hands pointers to a page that draws with its next frame), one period and one frame's cost of the engine, and 5 ms for
all that lies between; each at the 95th percentile or as the engine says in the same run.
"""

from __future__ import annotations

import socket
import tempfile
import threading
import time
from pathlib import Path
from typing import Any
from uuid import uuid4

from selenium import webdriver
from selenium.webdriver.common.by import By

from bench.preview import _browser
from bench.report import Report
from heliograph.core.playing.frames import PERIOD_NS
from heliograph.wire import artnet
from tests.conftest import RunningApp, wait_for
from tests.live.scenes import start

UNIVERSES, CELLS = 512, 170
LINES = 10
MOVES = 60
APART_S = 0.15
BETWEEN_MS = 5.0
HEARD, UNHEARD, CARD = "127.0.101.2", "127.0.101.3", "127.0.101.1"

PARTS = (
    ("Wide", "one colour", "one line over 512 universes"),
    ("Shared", "Dusk", "ten lines that share a ramp"),
)

NOTE_MOVES = """
window.moves = [];
addEventListener('pointermove', (event) => {
  const at = performance.timeOrigin + event.timeStamp;
  requestAnimationFrame(() => window.moves.push([at, performance.timeOrigin + performance.now()]));
}, { capture: true });
window.told = [];
const send = WebSocket.prototype.send;
WebSocket.prototype.send = function (text) {
  if (text.includes('"move"')) window.told.push(performance.timeOrigin + performance.now());
  return send.call(this, text);
};
"""


DRAW = """
document.body.innerHTML = '<div style="width:90px;height:90px;background:#468"></div>';
(function draw(at) {
  document.body.firstChild.style.transform = `translateX(${at % 500}px)`;
  requestAnimationFrame(draw);
})(0);
"""


class Heard(threading.Thread):
    """The first universe as it arrives: when it became another, in ms of the wall clock."""

    def __init__(self) -> None:
        super().__init__(daemon=True)
        self.changes: list[float] = []
        self._socket = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self._socket.bind((HEARD, artnet.PORT))
        self._socket.settimeout(0.2)
        self.over = False

    def run(self) -> None:
        last = b""
        while not self.over:
            try:
                packet = self._socket.recv(1024)
            except TimeoutError:
                continue
            now = time.time() * 1000.0
            if packet[18:30] != last:
                last = packet[18:30]
                self.changes.append(now)
        self._socket.close()


def _show(app: RunningApp) -> str:
    """A wall of 170 x 512, one universe a row; a small matrix of the first row with ten lines that share a ramp,
    in a look that is off yet: its id."""
    api = app.api()
    api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Sea wall"})
    cell = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]
    blocks = [{"name": "Pixels", "cell_count": CELLS, "cell_channels": cell}]
    profile = {"id": str(uuid4()), "maker": "Own", "name": "Row", "modes": [{"name": "170 RGB", "blocks": blocks}]}
    api.call("POST", "/api/profiles", profile)
    ids = [str(uuid4()) for _ in range(UNIVERSES)]
    api.call("POST", "/api/fixtures", {"text": f"{UNIVERSES} x Row, from 1, Row {{n}}", "ids": ids})
    wall, row, ramp, wide, shared = (str(uuid4()) for _ in range(5))
    for key, name, selection, height in ((wall, "Wall", "all", UNIVERSES), (row, "Row", "1", 1)):
        weave = {"selection": selection, "width": CELLS, "height": height}
        api.call("POST", "/api/matrices", {"id": key, "name": name, "width": CELLS, "height": height, "weave": weave})
    api.call("POST", "/api/ramps", {"id": ramp, "name": "Dusk", "stops": [[0, 200, 100, 40]]})
    line: dict[str, Any] = {"paints": "effect", "effect": "Flat", "ramp": [[0, 200, 100, 40]]}
    lines = [{**line, "id": str(uuid4()), "matrix": row, "saved_ramp": ramp} for _ in range(LINES)]
    api.call(
        "POST", "/api/looks", {"id": wide, "name": "Wide", "lines": [{**line, "id": str(uuid4()), "matrix": wall}]}
    )
    api.call("POST", "/api/looks", {"id": shared, "name": "Shared", "lines": lines})
    output = {"protocol": "artnet", "mode": "unicast", "card": app.card}
    for name, to, first, count in (("Heard", HEARD, 1, 1), ("Rest", UNHEARD, 2, UNIVERSES - 1)):
        one = {"id": str(uuid4()), "name": name, "destination": to, "first_universe": first, "count": count}
        api.call("POST", "/api/outputs", {**output, **one, "first_number": first})
    start(app, wide)
    return shared


def _moves(driver: webdriver.Chrome, x: float, y: float, count: int = MOVES) -> list[list[float]]:
    """Presses at a place and moves to and fro from it; (when, when the next frame of the page began) of each."""
    mouse = {"x": x, "y": y, "button": "left", "buttons": 1, "clickCount": 1}
    driver.execute_cdp_cmd("Input.dispatchMouseEvent", {**mouse, "type": "mousePressed"})
    time.sleep(0.5)
    driver.execute_script("window.moves.length = 0")
    for number in range(count):
        driver.execute_cdp_cmd(
            "Input.dispatchMouseEvent", {**mouse, "type": "mouseMoved", "x": x + 4 + 23 * (number % 2) + number % 7}
        )
        time.sleep(APART_S)
    driver.execute_cdp_cmd("Input.dispatchMouseEvent", {**mouse, "type": "mouseReleased"})
    found: list[list[float]] = driver.execute_script("return window.moves")
    return found


def _to_packet(moves: list[list[float]], changes: list[float]) -> list[float]:
    """From each move to the first packet that was another after it, before the next move."""
    found = []
    for (at, _), until in zip(moves, [*(one[0] for one in moves[1:]), float("inf")], strict=True):
        after = [change for change in changes if at <= change < until]
        if after:
            found.append(after[0] - at)
    return found


def _p95(values: list[float]) -> float:
    return sorted(values)[max(0, -(-len(values) * 95 // 100) - 1)]


def run(report: Report) -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        app = RunningApp(folder, CARD)
        unheard = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        unheard.bind((UNHEARD, artnet.PORT))
        heard = Heard()
        heard.start()
        driver = _browser(folder)
        try:
            shared = _show(app)
            driver.get("about:blank")
            driver.execute_script(NOTE_MOVES)
            idle = _p95([frame - at for at, frame in _moves(driver, 400, 300)])
            driver.execute_script(DRAW)
            empty = _p95([frame - at for at, frame in _moves(driver, 400, 300)])
            driver.get(f"{app.address}/looks")
            driver.execute_script(NOTE_MOVES)
            for look, colours, what in PARTS:
                if look == "Shared":
                    start(app, shared)
                    time.sleep(2.0)
                stats = app.engine().ask({"do": "status"})["stats"]
                cost = stats["render_ms"] + stats["send_ms"]
                limit = empty + PERIOD_NS / 1e6 + cost + BETWEEN_MS
                x, y = _red_of(driver, look, colours)
                driver.execute_script("window.told.length = 0")
                heard.changes.clear()
                moves = _moves(driver, x, y)
                times = _to_packet(moves, list(heard.changes))
                report.note(
                    f"{look}: {len(times)} of {len(moves)} moves changed the first universe; frame {cost:.1f} ms"
                )
                report.row(f"{what}: p95", _p95(times), "ms", limit, "limit", holds=True)
                told = driver.execute_script("return window.told")
                report.note(f"of it until the page has told it, p95: {_p95(_to_packet(moves, told)):.1f} ms")
                report.row(f"{what}: median", sorted(times)[len(times) // 2], "ms", limit, "limit")
            report.note(f"an empty page's pointer to frame, p95: {empty:.1f} ms while it draws, {idle:.1f} ms idle")
        finally:
            driver.quit()
            app.stop()
            heard.over = True
            unheard.close()


def _red_of(driver: webdriver.Chrome, look: str, colours: str) -> tuple[float, float]:
    """Opens the colour of a look's first line; where the middle of its light ribbon is."""

    def named(text: str) -> Any:
        found = [
            one for one in driver.find_elements(By.CSS_SELECTOR, "main button, main [role=option]") if text in one.text
        ]
        return found[0] if found else None

    wait_for(lambda: named(look), 15).click()
    wait_for(lambda: named(colours), 15).click()
    red = wait_for(lambda: next(iter(driver.find_elements(By.CSS_SELECTOR, 'input[aria-label="Light"]')), None), 15)
    box = driver.execute_script(
        "const b = arguments[0].getBoundingClientRect(); return [b.x, b.y, b.width, b.height]", red
    )
    return box[0] + box[2] / 2, box[1] + box[3] / 2
