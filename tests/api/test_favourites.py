"""Favourites: values that handles had, kept and called up again, by a trigger, a cue, a pad."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp, at_rest, saved_show, wait_for
from tests.live.scenes import light_wall
from tests.moves import level_of, move, on


@pytest.fixture
def quiet(app: RunningApp) -> Any:
    yield app
    at_rest(app)


def state(app: RunningApp) -> Any:
    return app.engine().ask({"do": "status"})["state"]


def arrived(app: RunningApp) -> None:
    revision = app.api().call("GET", "/api/show")["show"]["revision"]
    wait_for(lambda: app.engine().ask({"do": "status"})["revision"] >= revision, 8, "the show does not arrive")


def test_kept_called_up_renewed_and_gone(quiet: RunningApp) -> None:
    app, api = quiet, quiet.api()
    ids = light_wall(app, "127.0.77.95", [[0, 200, 40, 10]])
    app.engine().ask(level_of(ids["look"], 0.3))
    app.engine().ask(move("master", 0.5))
    key, level = str(uuid4()), f"look/{ids['look']}/level"
    api.call("POST", "/api/favourites", {"id": key, "name": "Calm", "handles": ["master", level, "tempo"]})
    arrived(app)
    for handle, value in (("master", 1.0), (level, 1.0), ("tempo", 90.0)):
        app.engine().ask(move(handle, value))
    app.engine().ask(move(f"favourite/{key}/recall"))
    now = state(app)
    assert (now["master"], now["bpm"], now["running"][0]["level"]) == (0.5, 120.0, 0.3)

    api.call("POST", "/api/lists", {"id": (evening := str(uuid4())), "name": "Evening"})
    api.call("POST", f"/api/lists/{evening}/cues", {"id": str(uuid4()), "does": "Calm: recall"})
    arrived(app)
    app.engine().ask(move("master", 1.0))
    app.engine().ask(move(f"list/{evening}/go"))
    wait_for(lambda: state(app)["master"] == 0.5, 5, "a cue calls up nothing")

    app.engine().ask(move("master", 0.8))
    api.call("PATCH", f"/api/favourites/{key}", {"again": True, "name": "Calmer"})
    [kept] = api.call("GET", "/api/show")["favourites"]
    assert (kept["name"], kept["values"][0]["value"]) == ("Calmer", 0.8)
    api.call("DELETE", f"/api/looks/{ids['look']}")
    arrived(app)
    app.engine().ask(move("master", 1.0))
    app.engine().ask(move(f"favourite/{key}/recall"))
    assert state(app)["master"] == 0.8  # what is gone of it is left out
    api.call("DELETE", f"/api/favourites/{key}")
    arrived(app)
    with pytest.raises(HeliographError, match="That favourite is not in the running show"):
        app.engine().ask(move(f"favourite/{key}/recall"))


def test_what_cannot_be_kept_says_so_and_it_goes_with_the_show_file(quiet: RunningApp) -> None:
    app, api = quiet, quiet.api()
    ids = light_wall(app, "127.0.77.96", [[0, 200, 40, 10]])
    for handles, said in (
        (["tap"], "has no value to keep"),
        (["look/nowhere/on"], "no handle"),
    ):
        with pytest.raises(HeliographError, match=said):
            api.call("POST", "/api/favourites", {"id": str(uuid4()), "name": "Wrong", "handles": handles})
    handles = [f"look/{ids['look']}/on"]
    api.call("POST", "/api/favourites", {"id": str(uuid4()), "name": "Lit", "handles": handles})
    path, key = app.data / "favourite.zip", str(uuid4())
    with saved_show(app) as answer:
        path.write_bytes(answer.read())
    api.upload("/api/shows/file", key, "favourite.zip", path)
    api.call("POST", f"/api/shows/{key}/open")
    show = api.call("GET", "/api/show")
    assert show["favourites"][0]["values"][0]["handle"] == f"look/{show['looks'][0]['id']}/on"
    assert on(show["looks"][0]["id"])
