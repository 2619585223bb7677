"""How a score ends on the wire when it is deleted while it plays: as gently as a list, also what is nobody's look."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import uuid4

from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, running, wall_hang
from tests.moves import move, off

MakeNode = Callable[[str, dict[str, Any]], Node]


def test_white_of_a_score_that_is_deleted_fades_and_ends(app: RunningApp, node: MakeNode) -> None:
    receiver = node("127.0.77.61", wall_hang())
    ids = light_wall(app, "127.0.77.61", [[0, 0, 0, 0]])
    app.engine().ask(off(ids["look"]))
    api, score = app.api(), str(uuid4())
    api.call("POST", "/api/groups", {"id": str(uuid4()), "name": "All", "selection": "all"})
    api.call("POST", "/api/scores", {"id": score, "name": "Midwinter evening", "bars": 64})
    [stave] = api.call("GET", "/api/show")["scores"][0]["staves"]
    body = {"id": str(uuid4()), "stave": stave["id"], "text": "white at 1.1 for 64 bars"}
    api.call("POST", f"/api/scores/{score}/entries", body)
    revision = api.call("GET", "/api/show")["show"]["revision"]
    wait_for(lambda: running(app)["revision"] >= revision, 10, "the show does not arrive")
    app.engine().ask(move(f"score/{score}/start"))
    wait_for(lambda: receiver.picture()[:3] == [255, 255, 255], 10, "white is not lit")
    api.call("DELETE", f"/api/scores/{score}")
    seen: set[int] = set()

    def dark() -> bool:
        seen.add(receiver.picture()[0])
        return 0 in seen

    wait_for(dark, 10, f"it does not end: {seen}")
    assert [one for one in seen if 20 < one < 235], f"it went dark at once: {sorted(seen)}"
