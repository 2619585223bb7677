"""The show by version: a browser that names what it has gets what is other since then, and only that."""

from __future__ import annotations

import json
from typing import Any
from uuid import uuid4

import pytest

from heliograph.demo.client import ApiClient
from tests.api.test_patch_routes import add
from tests.conftest import RunningApp

LISTS = ("profiles", "fixtures", "groups", "plans", "matrices", "looks", "outputs", "clips", "ramps", "marks", "parked")


def id_of(one: dict[str, Any]) -> str:
    return one.get("id") or f"{one['universe']}.{one['channel']}"


def merged(known: dict[str, Any], told: dict[str, Any]) -> dict[str, Any]:
    """What a browser makes of it, written here once more: by the words of the API's description."""
    if told["whole"]:
        whole: dict[str, Any] = told["whole"]
        return whole
    result = {**known, **{name: told[name] for name in ("show", "version", "undo", "redo")}}
    for name, part in told["parts"].items():
        put = {id_of(one["now"]): one for one in part["put"]}
        stays = [one for one in result[name] if id_of(one) not in put and id_of(one) not in part["gone"]]
        if part["order"]:
            all_of = {id_of(one): one for one in stays} | {key: one["now"] for key, one in put.items()}
            result[name] = [all_of[key] for key in part["order"]]
            continue
        for one in part["put"]:
            stays.insert(one["place"], one["now"])
        result[name] = stays
    return result


def told_since(api: ApiClient, known: dict[str, Any]) -> dict[str, Any]:
    path = f"/api/show/changes?show={known['show']['id']}&known={known['version']}"
    told: dict[str, Any] = api.call("GET", path)
    return told


def test_every_kind_of_edit_is_told_and_nothing_else(app: RunningApp, show: str) -> None:
    api = app.api()
    known = api.call("GET", "/api/show")
    behind = known
    keys = add(api, "6 x RGB lamp, from 1", 6)
    group, matrix, ramp, look = (str(uuid4()) for _ in range(4))
    one_line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": matrix, "saved_ramp": ramp}
    edits: list[tuple[str, str, Any, set[str]]] = [
        ("PATCH", f"/api/fixtures/{keys[2]}", {"name": "Bollard"}, {"fixtures"}),
        ("PATCH", f"/api/fixtures/{keys[0]}", {"address": "U1.4"}, {"fixtures"}),  # two meet: both say so
        ("POST", "/api/groups", {"id": group, "name": "Odd", "selection": "1, 3", "by_rule": True}, {"groups"}),
        ("PATCH", f"/api/fixtures/{keys[2]}", {"number": 40}, {"fixtures", "groups"}),  # a rule names it no more
        ("POST", "/api/matrices", {"id": matrix, "name": "Wall", "width": 3, "height": 2}, {"matrices"}),
        ("POST", "/api/ramps", {"id": ramp, "name": "Dusk", "stops": [[0, 9, 8, 7]]}, {"ramps"}),
        ("POST", "/api/looks", {"id": look, "name": "Swell", "lines": [one_line]}, {"looks", "ramps"}),  # used once
        ("PUT", "/api/parked", {"values": {"1.7": 9}}, {"parked"}),
        ("POST", "/api/undo", None, {"parked"}),
        ("POST", "/api/fixtures/delete", {"ids": keys[3:5]}, {"fixtures"}),
        ("PATCH", "/api/show", {"name": "Pier two"}, set()),
    ]
    for method, path, body, parts in edits:
        api.call(method, path, body)
        told = told_since(api, known)
        assert told["whole"] is None
        assert set(told["parts"]) == parts, (path, told["parts"].keys())
        known = merged(known, told)
        assert known == api.call("GET", "/api/show"), path
    assert merged(behind, told_since(api, behind)) == known  # all of it at once
    assert told_since(api, known)["parts"] == {}


def test_the_name_of_one_fixture_is_a_small_message(app: RunningApp, show: str) -> None:
    api = app.api()
    keys = add(api, "200 x RGB lamp, from 1", 200)
    known = api.call("GET", "/api/show")
    api.call("PATCH", f"/api/fixtures/{keys[77]}", {"name": "Bollard"})
    told = told_since(api, known)
    [put] = told["parts"]["fixtures"]["put"]
    assert (put["place"], put["now"]["name"]) == (77, "Bollard")
    assert len(json.dumps(told)) < 10_000


@pytest.mark.parametrize("version", ["", "other-1", "x", "-", "{boot}-0", "{boot}-999", "{boot}--1", "{boot}-²"])
def test_a_version_that_is_not_known_gets_everything(app: RunningApp, show: str, version: str) -> None:
    api = app.api()
    whole = api.call("GET", "/api/show")
    boot = whole["version"].partition("-")[0]
    told = told_since(api, {**whole, "version": version.replace("{boot}", boot).replace("²", "%C2%B2")})
    assert told["whole"] == whole
    other = told_since(api, {**whole, "show": {"id": str(uuid4())}})
    assert other["whole"] == whole


def test_another_show_is_told_whole(app: RunningApp, show: str) -> None:
    api = app.api()
    before = api.call("GET", "/api/show")
    api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Low tide"})
    told = told_since(api, before)
    assert told["whole"]["show"]["name"] == "Low tide"
    api.call("POST", f"/api/shows/{before['show']['id']}/open")
    assert merged(told["whole"], told_since(api, told["whole"])) == api.call("GET", "/api/show")


def test_a_profile_kept_for_other_shows_says_so_without_an_edit(app: RunningApp, show: str) -> None:
    api = app.api()
    known = api.call("GET", "/api/show")
    profile = known["profiles"][0]
    kept = api.call("POST", f"/api/profiles/{profile['id']}/keep")
    told = told_since(api, known)
    assert set(told["parts"]) == {"profiles"}
    assert told["show"]["revision"] == known["show"]["revision"]
    assert merged(known, told) == api.call("GET", "/api/show")
    for one in kept:
        api.call("DELETE", f"/api/profiles/kept/{one['id']}")
