"""Why: the steps of a channel, folded by an evaluator written here, come to the byte the engine makes."""

from __future__ import annotations

import os
import random
import socket
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.matrix.placements import CellKey, Placement, pack
from heliograph.core.matrix.weaving import Weave, place
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.level import Level
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.walk.moment import Walk
from heliograph.engine.sender import Sender, open_send_socket
from heliograph.power import Step
from heliograph.preview.why import why
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from heliograph.wire import artnet
from tests.engine.shows import SECOND, line, output

R, G, B, W, A = (f"ColorAdd_{c}" for c in ("R", "G", "B", "W", "RY"))
DIMMING = [
    {"first": 0, "last": 7, "kind": "closed"},
    {"first": 8, "last": 134, "kind": "dim"},
    {"first": 135, "last": 239, "kind": "strobe"},
    {"first": 240, "last": 255, "kind": "open"},
]


def channel(attribute: str, **more: Any) -> dict[str, Any]:
    return {"attribute": attribute, **more}


CARD, NODE = "127.0.83.17", "127.0.83.18"


@pytest.fixture
def heard() -> Iterator[socket.socket]:
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as one:
        one.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        one.bind((NODE, artnet.PORT))
        one.settimeout(2.0)
        yield one


MODES: dict[str, dict[str, Any]] = {
    "rgb": {"cell_channels": [channel(one) for one in (R, G, B)]},
    "rgbw": {"cell_channels": [channel(one) for one in (R, G, B, W)]},
    "rgbwa": {"cell_channels": [channel(one) for one in (W, A, B, G, R)]},
    "wide": {"cell_channels": [channel(one, fine=low) for one in (R, G, B) for low in (False, True)]},
    "turned": {"cell_channels": [channel(R, invert=True), channel(G), channel(B, invert=True)]},
    "white": {"cell_channels": [channel(W)]},
    "hue": {"cell_channels": [channel("Dimmer"), channel("CTO"), channel("HSB_Saturation"), channel("HSB_Hue")]},
    "dimmed": {
        "shared": [channel("Dimmer", ranges=DIMMING), channel("Pan", home=128)],
        "cell_channels": [channel(one) for one in (R, G, B)],
    },
    "own": {"cell_channels": [channel("Dimmer"), channel("Dimmer", fine=True), channel(R), channel(G), channel(B)]},
    "laser": {"shared": [channel("Dimmer", safe=0), channel(R, safe=3), channel("Control1", safe=9, home=77)]},
}


def random_show(dice: random.Random) -> tuple[CompiledShow, PlaybackState, int]:
    modes: dict[str, Any] = {}
    fixtures = []
    universe, at, keys = 1, 1, []
    for n in range(24):
        name = dice.choice(list(MODES))
        cells = 0 if name == "laser" else dice.randint(1, 6)
        block = {"name": "b", "shared": [], **MODES[name], "cell_count": cells}
        key = f"{name}{cells}"
        modes[key] = {"mode": {"name": key, "blocks": [block]}, "guarded": name == "laser"}
        size = len(block["shared"]) + cells * len(block.get("cell_channels", ()))
        if at + size > 513:
            universe, at = universe + 1, 1
        fixtures.append(
            {
                "id": f"f{n}",
                "number": n + 1,
                "name": f"Lamp {n + 1}",
                "mode": key,
                "universe": universe,
                "channel": at,
                "extra": dice.choice(["replace", "add", "match", "leave"]),
                "response": dice.choice(["as is", "gamma 2.2", "CIE lightness"]),
            }
        )
        at += size
        keys += [CellKey(f"f{n}", str(c + 1)) for c in range(cells) if dice.random() < 0.9]
    side = int(np.ceil(np.sqrt(len(keys) + 1)))
    placements = [
        Placement(one.key, one.x * 0.9, one.y * 0.8, dice.uniform(0.2, 2), dice.uniform(0.5, 1.5))
        if dice.random() < 0.15
        else one
        for one in place(keys, Weave(side, side))
    ]
    matrix = {"id": "M", "name": "M", "width": side + 2, "height": side + 2, "placements": pack(placements)}
    looks = {f"look:{look}": {"id": look, "name": look, "lines": random_lines(dice, look)} for look in ("L1", "L2")}
    spots = dice.sample(range(1, 513), dice.choice([0, 0, 12]))
    parked = [{"universe": 1, "channel": channel, "value": dice.randrange(256)} for channel in spots]
    sections: dict[str, Any] = {
        "rig": {"modes": modes, "fixtures": fixtures},
        "matrix:M": matrix,
        "groups": {"groups": [{"id": "g", "fixtures": [f"f{n}" for n in range(0, 24, 2)]}]},
        "outputs": {"outputs": [output(count=universe, mute=dice.random() < 0.1, address=NODE, card=CARD)]},
        "parked": {"parked": parked},
        **looks,
    }
    show = compile_show(sections, Path("/nonexistent"))
    state = PlaybackState(master=dice.choice([1.0, 1.0, 0.6, 0.0]), blackout=dice.random() < 0.08)
    for look in ("L1", "L2"):
        if dice.random() < 0.8:
            state = state.started(look, 0)
    of_levels = random.Random(len(keys))  # a dice of its own: recorded shows stay what they were
    levels = {look: of_levels.choice([1.0, 1.0, 0.5, 0.0]) for look in ("L1", "L2")}
    state = replace(state, runs=tuple(replace(run, level=Level(levels[run.look])) for run in state.runs))
    held = {f"f{dice.randrange(24)}/1": dice.randrange(256) for _ in range(dice.randint(0, 4))}
    raw = {f"1.{dice.randint(1, 512)}": dice.randrange(256) for _ in range(dice.randint(0, 3))}
    lit = frozenset({f"f{dice.randrange(24)}"} if dice.random() < 0.3 else ())
    armed = frozenset({f"f{n}" for n in range(24) if dice.random() < 0.3})
    masters = {"g": dice.choice([1.0, 0.5, 0.0])} if dice.random() < 0.5 else {}
    if dice.random() < 0.25:
        lit_cells = {f"f{dice.randrange(24)}": dice.choice([None, (1,), (1, 2)]) for _ in range(3)}
        lit_spots = tuple(f"1.{dice.randint(1, 512)}" for _ in range(dice.randint(0, 3)))
        walk = Walk(lit_cells, lit_spots, dice.choice(["", R, G]), dice.choice([1.0, 0.4]), dice.random() < 0.6)
        state = replace(state, walk=walk)
    state = replace(state, manual=held, raw=raw, highlight=lit, armed=armed, masters=masters)
    show_ns = dice.randrange(60 * SECOND)
    return show, advance(state, show.lines, show_ns), show_ns


def random_lines(dice: random.Random, look: str) -> list[dict[str, Any]]:
    return [
        line(
            f"{look}{n}",
            dice.choice(["Flat", "Grade", "Mist", "Relay", "Beacon"]),
            ramp=[[p, *(dice.randrange(256) for _ in range(3))] for p in (0, 0.5, 1)],
            opacity=dice.choice([1.0, 0.7, 0.0]),
            blend=dice.choice(["over", "add", "multiply", "lighten", "darken"]),
            mute=dice.random() < 0.1,
            solo=dice.random() < 0.05,
        )
        for n in range(dice.randint(1, 3))
    ]


def blended(blend: str, under: float, colour: float, cover: float) -> float:
    """docs of the blends, in plain arithmetic: under + (blended - under) x cover."""
    if blend == "add":
        return under + colour * cover
    over = {"multiply": under * colour, "lighten": max(under, colour), "darken": min(under, colour)}.get(blend, colour)
    return under + (over - under) * cover


def folded(steps: list[Step]) -> int:
    """Does every step again from its numbers; each must follow from the one before."""
    colour, level, value = [0.0, 0.0, 0.0], 0.0, 0
    under, cover, look = [0.0, 0.0, 0.0], 0.0, ""
    named: dict[str, float] = {}
    for step in steps:
        numbers: Any = step.numbers
        match step.kind:
            case "line":
                if numbers["look"] != look:  # a picture of its own, over nothing
                    under, colour, cover, look = colour, [0.0, 0.0, 0.0], 0.0, numbers["look"]
                if numbers["blend"] in ("over", "add", "lighten"):
                    cover += (1 - cover) * numbers["cover"]
                assert numbers["before"] == pytest.approx(colour, abs=1e-5)
                made = zip(colour, numbers["colour"], strict=True)
                colour = [blended(numbers["blend"], under, own, numbers["cover"]) for under, own in made]
                assert numbers["after"] == pytest.approx(colour, abs=1e-5)
                colour = numbers["after"]
            case "look":
                if numbers["look"] != look:  # none of its lines reaches the cell
                    under, colour, cover, look = colour, [0.0, 0.0, 0.0], 0.0, numbers["look"]
                assert numbers["cover"] == pytest.approx(cover, abs=1e-5)
                assert numbers["picture"] == pytest.approx(colour, abs=1e-5)
                assert numbers["before"] == pytest.approx(under, abs=1e-5)
                share = numbers["level"]
                laid = zip(under, colour, strict=True)
                colour = [below * (1 - cover * share) + own * share for below, own in laid]
                assert numbers["after"] == pytest.approx(colour, abs=1e-5)
                colour = numbers["after"]
            case "level":
                factor = 1.0
                for _, part in numbers["factors"]:
                    factor *= part
                colour = [min(max(part, 0.0), 1.0) * factor for part in colour]
                assert numbers["after"] == pytest.approx(colour, abs=1e-5)
                colour = numbers["after"]
            case "emitters":
                assert numbers["before"] == pytest.approx(colour, abs=1e-5)
                named = numbers["after"]
                if numbers["use"] == "replace" and W in named and A not in named and R in named:
                    white = min(colour)  # minimum subtraction, standards 7.2
                    assert named[W] == pytest.approx(white, abs=1e-5)
                    assert named[R] == pytest.approx(colour[0] - white, abs=1e-5)
            case "response":
                asked = numbers["before"]
                lightness = 100 * asked
                curve = {
                    "gamma 2.2": asked**2.2,
                    "CIE lightness": lightness / 903.3 if lightness <= 8 else ((lightness + 16) / 116) ** 3,
                }[numbers["name"]]  # standards 7.4
                assert numbers["after"] == pytest.approx(curve, abs=4e-4)
                level = numbers["after"]
            case "byte":
                level = numbers["level"]
                wide = int(level * 65535 + 0.5)
                parts = {"whole": int(level * 255 + 0.5), "high": wide >> 8, "low": wide & 255}
                value = parts[numbers["part"]]
                if value != numbers["value"]:  # 32-bit floats may round the last half of a step otherwise
                    assert abs(level * 255 + 0.5 - round(level * 255 + 0.5)) < 1e-3
                    value = numbers["value"]
            case "dimmer":
                factor = 1.0
                for _, part in numbers["factors"]:
                    factor *= part
                assert numbers["level"] == pytest.approx(factor, abs=1e-6)
                value = numbers["value"]
            case "inverted":
                value = 255 - value
            case "least":
                value = max(value, numbers["value"])
            case "silent":
                pass
            case "alone":
                colour = [0.0, 0.0, 0.0]
            case _:  # rest, nothing, muted, highlight, manual, raw, guard: walk: they put a value in its place
                value = numbers.get("value", 0)
    return value


def captured(show: CompiledShow, frame: np.ndarray[Any, Any], heard: socket.socket) -> dict[int, bytes]:
    """The bytes of a frame as they leave, by show universe: the engine's own sender, and what a socket gets of it.

    A fresh output begins with a dark frame, so it is sent twice. Layout of ArtDmx: golden packets of the wire tests.
    """
    sender = Sender(bytes(16), "test", open_send_socket, open_send_socket)
    sender.swap(sender.prepare(show.outputs, show.universes, show.emission.dark))
    for _ in range(2):
        sender.count_up()
        sender.send(frame.copy(), np.zeros(len(frame), dtype=np.uint8))
    found: dict[int, bytes] = {}
    for _ in range(2 * len(frame)):
        packet = heard.recv(2048)
        assert packet[:10] == b"Art-Net\0\x00\x50"
        found[int.from_bytes(packet[14:16], "little") + 1] = packet[18:]
    for route in sender.routes:
        if route.fd is not None:
            os.close(route.fd)
    return found


@pytest.mark.slow
def test_the_steps_of_ten_thousand_random_channels_come_to_the_bytes_on_the_wire(heard: socket.socket) -> None:
    seen = 0
    kinds: set[str] = set()
    for run in range(50):
        dice = random.Random(run)
        show, state, show_ns = random_show(dice)
        wire = captured(show, Renderer().render(show, state, show_ns), heard)
        stages = Renderer().stages(show)
        sent = np.array([list(wire[int(universe)]) for universe in show.universes], dtype=np.uint8)
        used = [(row, at) for row in range(len(sent)) for at in range(SLOTS)]
        for row, at in dice.sample(used, min(200, len(used))):
            position = (int(show.universes[row]) - 1) * SLOTS + at
            chain = why(show, stages, state, show_ns, position, {"L1": "Dusk", "L2": "Tide", "g": "Even ones"})
            said = [step.says for step in chain.steps]
            assert chain.value == sent[row, at], (run, position, said)
            assert folded(chain.steps) == sent[row, at], (run, position, said)
            kinds |= {step.kind for step in chain.steps}
            seen += 1
    assert seen == 10_000
    assert kinds >= {"line", "level", "emitters", "response", "byte", "dimmer", "rest", "inverted", "guard", "muted"}
    assert kinds & {"manual", "raw"}
    assert kinds >= {"highlight", "walk", "alone", "parked"}


def test_a_channel_nobody_has() -> None:
    show, state, show_ns = random_show(random.Random(1))
    chain = why(show, (), state, show_ns, 700 * SLOTS, {})
    assert (chain.value, [step.kind for step in chain.steps]) == (0, ["nothing"])
    assert "U701" in chain.steps[0].says
