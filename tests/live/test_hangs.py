"""Processes that hang (SIGSTOP) are noticed and started again; the lamps go on, or come back by themselves."""

from __future__ import annotations

import os
import signal
import time
from collections.abc import Callable
from functools import partial

from tests.conftest import RunningApp, wait_for
from tests.live.scenes import frame, light_wall, running, wall_hang
from tests.live.test_survival import MakeNode

DUSK = [90, 40, 10]


def test_an_engine_that_hangs_is_replaced(own_app: Callable[..., RunningApp], node: MakeNode) -> None:
    receiver = node("127.0.98.2", wall_hang())
    app = own_app("127.0.98.1")
    light_wall(app, "127.0.98.2", [[0, *DUSK]])
    wait_for(lambda: receiver.picture() == DUSK * 18)
    hung = app.pid("engine")
    receiver.reset()
    begun = time.monotonic()
    os.kill(hung, signal.SIGSTOP)
    wait_for(lambda: receiver.universe("artnet 0").get("packets", 0) > 50, 12, "light did not come back")
    assert time.monotonic() - begun > 1.5, "two seconds are waited for"
    assert app.pid("engine") != hung
    assert receiver.picture() == DUSK * 18
    assert receiver.universe("artnet 0")["late"] == 0
    texts = " ".join(event["text"] for event in app.api().call("GET", "/api/events"))
    assert "engine hangs (2 s without a sign), it is ended" in texts


def test_all_others_that_hang_are_replaced_while_the_lamps_go_on(
    own_app: Callable[..., RunningApp], node: MakeNode
) -> None:
    receiver = node("127.0.98.2", wall_hang())
    app = own_app("127.0.98.1")
    light_wall(app, "127.0.98.2", [[0, *DUSK]])
    wait_for(lambda: receiver.picture() == DUSK * 18)
    names = ("web", "receiver", "media", "preview", "database")
    pids = {name: app.pid(name) for name in names}
    receiver.reset()
    begun = frame(app)
    for pid in pids.values():
        os.kill(pid, signal.SIGSTOP)
    for name, pid in pids.items():
        wait_for(partial(lambda n, p: app.pid(n) != p, name, pid), 40, f"{name} was not replaced")
    made = frame(app) - begun
    universe = receiver.universe("artnet 0")
    assert universe["packets"] >= made * 0.9 > 50
    assert universe["late"] == 0
    wait_for(lambda: _answers(app), 40, "the program was not whole again")
    assert running(app)["state"]["running"]


def _answers(app: RunningApp) -> bool:
    try:
        return bool(app.api().call("GET", "/api/show")["show"])
    except Exception:
        return False
