"""Heads turned by hand, as sent: unequal ones keep what is their own over a whole movement."""

from __future__ import annotations

from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp, wait_for
from tests.engine.heads import HEAD

SIZE = len(HEAD)


def test_heads_turn_from_where_each_stands(app: RunningApp, show: str) -> None:
    api = app.api()
    mode = {"name": "7 channels", "blocks": [{"name": "Head", "shared": HEAD, "cell_count": 0, "cell_channels": []}]}
    profile = {"maker": "Kittiwake Optics", "name": "Signal head", "kind": "head", "modes": [mode]}
    api.call("POST", "/api/profiles", {"id": str(uuid4()), **profile})
    ids = [str(uuid4()) for _ in range(3)]
    api.call("POST", "/api/fixtures", {"text": "3 x Signal head, from 701, at U1.1", "ids": ids})
    output = {"id": str(uuid4()), "name": "O", "protocol": "artnet", "mode": "unicast", "card": app.card}
    api.call("POST", "/api/outputs", {**output, "destination": "127.0.69.13"})

    def pans() -> list[int]:
        values = api.call("GET", "/api/levels/1")["values"]
        return [values[n * SIZE] * 256 + values[n * SIZE + 1] for n in range(3)]

    wait_for(lambda: pans() == [128 * 256] * 3, 8, "they do not rest")
    begun = {f"{one}/1": value for one, value in zip(ids, (100, 120, 160), strict=True)}
    fine = {f"{one}/2": 0 for one in ids}
    api.call("POST", "/api/engine", {"do": "manual", "values": {**begun, **fine}})
    stood = [100 * 256, 120 * 256, 160 * 256]
    wait_for(lambda: pans() == stood, 5)
    heads = [[f"{one}/1", f"{one}/3"] for one in ids]

    def turn(across: float, way: str, drag: str) -> None:
        told = {"do": "turn", "heads": heads, "across": across, "up": 0.0, "way": way, "drag": drag}
        api.call("POST", "/api/engine", told)

    for across in (0.1, 0.9, 0.25):  # out to the end and back, in one movement
        turn(across, "together", "one")
    wanted = [one + 0.25 * 65_535 for one in stood]
    wait_for(lambda: pans() == pytest.approx(wanted, abs=2), 5, "they lost what was their own")
    turn(0.0, "together", "one")
    wait_for(lambda: pans() == pytest.approx(stood, abs=2), 5)
    turn(0.1, "mirrored", "two")
    sides = (1, -1, 1)
    wait_for(lambda: pans() == pytest.approx([a + s * 6_553.5 for a, s in zip(stood, sides, strict=True)], abs=2), 5)
    turn(0.0, "alike", "three")
    wait_for(lambda: len(set(pans())) == 1, 5, "they are not alike")
    wrong = {"do": "turn", "heads": [[f"{ids[0]}/1", f"{ids[0]}/99"]], "across": 0.1, "up": 0, "drag": "x"}
    with pytest.raises(HeliographError, match="of no fixture"):
        api.call("POST", "/api/engine", wrong)
