"""The last minutes of what was sent, seen and explained again; events and health of a running Heliograph."""

from __future__ import annotations

import base64
import csv
import io
import time
from collections.abc import Callable
from typing import Any

import httpx
import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang
from tests.moves import move


def get(app: RunningApp, path: str) -> Any:
    return app.api().call("GET", f"/api/{path}")


def lit_and_known(app: RunningApp, matrix: str, rgb: list[int]) -> bool:
    """The newest kept frame shows that colour, and its show and state are known."""
    found = get(app, f"back/moment?ago_s=0&matrix={matrix}")
    return bool(found["exact"] and found["picture"] and base64.b64decode(found["picture"]["rgb"]) == bytes(rgb * 18))


def test_a_moment_is_shown_as_the_lamps_showed_it_and_explained(app: RunningApp, node: Callable[..., Node]) -> None:
    receiver = node("127.0.74.3", wall_hang())
    ids = light_wall(app, "127.0.74.3", [[0, 20, 30, 40]])
    wait_for(lambda: receiver.picture() == [20, 30, 40] * 18)
    # The preview has the show a moment after the engine: frames from before that are kept without an explanation.
    wait_for(lambda: lit_and_known(app, ids["matrix"], [20, 30, 40]), 10, "no explained frame is kept")
    before = get(app, "back")["last"]
    wait_for(lambda: get(app, "back")["last"] > before + 20)
    app.engine().ask({"do": "manual", "values": {}})
    app.api().call("PATCH", f"/api/looks/{ids['look']}/lines/{ids['line']}", {"ramp": [[0, 200, 0, 0]]})
    wait_for(lambda: receiver.picture() == [200, 0, 0] * 18)
    wait_for(lambda: lit_and_known(app, ids["matrix"], [200, 0, 0]), 10, "the change is not kept")
    changed = get(app, "back")["last"]
    wait_for(lambda: get(app, "back")["last"] > changed + 10)

    then = get(app, f"back/moment?frame={before}&matrix={ids['matrix']}&universe=1")
    assert then["exact"]
    assert base64.b64decode(then["picture"]["rgb"]) == bytes([20, 30, 40] * 18)
    assert then["levels"][:3] == [20, 30, 40]
    why = get(app, f"why/1/1?frame={then['frame']}")
    assert (why["value"], why["made"], why["exact"]) == (20, 20, True)
    assert "Dusk, line 1 paints" in why["steps"][0]["says"]
    late = get(app, f"back/moment?ago_s=0&matrix={ids['matrix']}")
    assert base64.b64decode(late["picture"]["rgb"]) == bytes([200, 0, 0] * 18)
    assert late["frame"] > changed
    with pytest.raises(HeliographError, match="is not kept any more"):
        get(app, "why/1/1?frame=1000000000")


def test_before_desk_is_what_looks_make(app: RunningApp, node: Callable[..., Node]) -> None:
    receiver = node("127.0.74.4", wall_hang())
    light_wall(app, "127.0.74.4", [[0, 20, 30, 40]])
    app.engine().ask({"do": "raw", "values": {"1.1": 255}})
    app.api().call("PUT", "/api/parked", {"values": {"1.2": 7}})
    wait_for(lambda: receiver.picture()[:2] == [255, 7], 5, "one is not held, or one not parked")
    assert get(app, "levels/1")["values"][:3] == [255, 7, 40]
    wait_for(lambda: get(app, "levels/1/before-desk")["levels"][:3] == [20, 30, 40], 5, "before desk is another")
    assert get(app, "levels/1")["values"][0] == 255
    app.engine().ask({"do": "release"})


def test_events_are_kept_over_a_restart_and_exported(own_app: Callable[..., RunningApp]) -> None:
    app = own_app("127.0.84.31")
    app.engine().ask(move("blackout", True))
    wait_for(lambda: any(one["text"] == "blackout on" for one in get(app, "events")), 5, "it is not told")
    app.stop()
    app.start()
    wait_for(lambda: _answers(app), 60, "it does not come back")
    told = [one["text"] for one in get(app, "events")]
    assert "blackout on" in told
    assert told.count("web server started") == 2
    answer = httpx.post(f"{app.address}/api/events.csv")
    rows = list(csv.reader(io.StringIO(answer.text)))
    assert rows[0] == ["time (UTC)", "process", "level", "event"]
    assert [row[3] for row in rows].count("blackout on") == 1
    assert [row[0] for row in rows[1:]] == sorted(row[0] for row in rows[1:])
    assert "attachment" in answer.headers["content-disposition"]


def _answers(app: RunningApp) -> bool:
    try:
        return bool(get(app, "status")["engine"])
    except OSError:
        return False


def test_health_tells_of_database_spool_and_cards(app: RunningApp, show: str) -> None:
    time.sleep(0.1)
    health = get(app, "health")
    assert health["database_ms"] > 0
    assert health["database_bytes"] > 1_000_000
    assert -1 <= health["spool_behind"] <= 2
    assert health["cards"][0]["up"]
    assert health["kept_bytes"] >= 0
