"""The simulated node's own page: its lamps as they hang, and its counters as JSON."""

from __future__ import annotations

import json
import threading
import time
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import TYPE_CHECKING, Any

from heliograph.core.errors import InputError

if TYPE_CHECKING:
    from heliograph.standins.node import SimulatedNode

BODY_MAX = 100_000

PAGE = """<!doctype html><meta charset="utf8"><title>NAME</title>
<style>body{background:#0b1113;color:#dbe6e3;font:14px sans-serif;margin:24px}
canvas{image-rendering:pixelated;background:#000;max-width:90vw;max-height:80vh}</style>
<p>NAME: what hangs here, as received</p><canvas id="lamps"></canvas><p id="said"></p>
<form id="f"><label>faults (JSON) <input name="t" size="70" placeholder='[{"fault":"reversed","run":5}]'></label>
<button>Put in</button> <button name="none" type="button">Mend all</button> <span id="told"></span></form>
<script>
const form=document.getElementById('f'),told=document.getElementById('told');
async function put(text){const a=await fetch('faults',{method:'POST',body:text||'[]'});told.textContent=await a.text()}
form.onsubmit=e=>{e.preventDefault();put(form.t.value)};form.none.onclick=()=>put('[]');
const canvas=document.getElementById('lamps'),said=document.getElementById('said');
async function draw(){try{const p=await(await fetch('lamps.json')).json();
canvas.width=p.width;canvas.height=p.height;const s=Math.max(1,Math.min(24,Math.floor(600/p.height)));
canvas.style.width=p.width*s+'px';const g=canvas.getContext('2d'),i=g.createImageData(p.width,p.height);
for(let n=0;n<p.width*p.height;n++)i.data.set([p.rgb[3*n],p.rgb[3*n+1],p.rgb[3*n+2],255],4*n);
g.putImageData(i,0,0);said.textContent=p.says}catch(e){said.textContent='the node does not answer'}
setTimeout(draw,50)}draw()</script>"""


def start_page(node: SimulatedNode, port: int) -> int:
    """Serves the page in a thread and returns its port."""

    class Page(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            if self.path == "/state.json":
                self._answer(_state(node))
            elif self.path == "/lamps.json":
                self._answer(_lamps(node))
            else:
                self._send(PAGE.replace("NAME", node.hang.name).encode(), "text/html; charset=utf-8")

        def do_POST(self) -> None:
            if self.path == "/reset":
                with node.lock:
                    node.inputs.reset()
            elif self.path == "/faults":
                try:
                    length = min(int(self.headers.get("content-length") or 0), BODY_MAX)
                    node.set_faults(list(json.loads(self.rfile.read(length) or b"[]")))
                except (InputError, ValueError, TypeError) as error:
                    self._send(str(error).encode(), "text/plain; charset=utf-8", 422)
                    return
            self._answer({"faults": node.faults})

        def _answer(self, data: dict[str, Any]) -> None:
            self._send(json.dumps(data).encode(), "application/json")

        def _send(self, body: bytes, kind: str, status: int = 200) -> None:
            self.send_response(status)
            self.send_header("content-type", kind)
            self.send_header("content-length", str(len(body)))
            self.end_headers()
            self.wfile.write(body)

        def log_message(self, *_: object) -> None:
            """Silence: the page is asked 20 times a second."""

    server = ThreadingHTTPServer((node.address, port), Page)
    server.daemon_threads = True
    threading.Thread(target=server.serve_forever, daemon=True).start()
    return int(server.server_address[1])


def _state(node: SimulatedNode) -> dict[str, Any]:
    with node.lock:
        return {
            "name": node.hang.name,
            "faults": node.faults,
            "replies": node.replies,
            **node.inputs.as_json(time.time()),
        }


def _lamps(node: SimulatedNode) -> dict[str, Any]:
    now = time.time()
    with node.lock:
        data = {key: universe.data(now) for key, universe in node.inputs.universes.items()}
        packets = sum(universe.packets for universe in node.inputs.universes.values())
        malformed = node.inputs.malformed
    return {
        "width": node.hang.width,
        "height": node.hang.height,
        "rgb": node.hang.picture(data),
        "says": f"{len(data)} of {len(node.hang.listens)} universes heard, {packets} packets, {malformed} malformed",
    }
