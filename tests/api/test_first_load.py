"""How much a browser fetches before the first screen stands: measured as it travels."""

from __future__ import annotations

import re
from urllib.request import Request, urlopen

from tests.conftest import RunningApp

FIRST_LOAD_KB = 150


def travelled(app: RunningApp, path: str) -> bytes:
    with urlopen(Request(f"{app.address}{path}", headers={"accept-encoding": "gzip"}), timeout=40) as answer:
        body: bytes = answer.read()
    return body


def test_the_first_screen_is_a_small_download(app: RunningApp) -> None:
    """Scripts and styles that the page asks for at once; fonts and the station itself come after them."""
    page = travelled(app, "/")
    files = re.findall(r'(?:src|href)="(/assets/[^"]+\.(?:js|css))"', page.decode())
    assert files, "the page asks for nothing"
    sizes = {name: len(travelled(app, name)) for name in files}
    assert (len(page) + sum(sizes.values())) / 1000 <= FIRST_LOAD_KB, sizes
