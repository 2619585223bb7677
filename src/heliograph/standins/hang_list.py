"""A node's hang list: what really hangs on its ports, independent of what any show believes.

A JSON file: {"name", "listens": ["sacn 1", "artnet 6"], "width", "height", "lamps": [run, ...]}. A run
is {"universe": "sacn 1", "channel": 1, "count": 50, "order": "RGB", "x", "y", "dx", "dy"}: `count`
pixels from that channel on, hung from square (x, y) in steps of (dx, dy). The letters of `order` are the
pixel's channels: R, G, B, W (white), D (dimmer), K (dimmer and strobe in one: dark to 4, dims to 184,
strobes to 239, then full), - (anything else). `dimmer` is the channel of one above the whole run, in the run's
own universe unless `dimmer_universe` names another.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from heliograph.core.errors import InputError

Key = tuple[str, int]


LETTERS = frozenset("RGBWDK-")


@dataclass(frozen=True, slots=True)
class HungPixel:
    """One pixel: square, universe, and the 0-based slots of its channels by their letters."""

    x: int
    y: int
    universe: Key
    slots: Mapping[str, int]
    above: tuple[Key, int] | None = None

    def colour(self, data: Mapping[Key, bytes]) -> list[int]:
        """What a person sees: the emitters' light together, dimmed."""
        values = data.get(self.universe, b"")

        def at(letter: str) -> int:
            slot = self.slots.get(letter, len(values))
            return values[slot] if slot < len(values) else 0

        level = 1.0
        if "D" in self.slots:
            level *= at("D") / 255
        if self.above is not None:
            level *= (data.get(self.above[0], b"").ljust(512, b"\0"))[self.above[1]] / 255
        if "K" in self.slots:
            level *= 1.0 if at("K") > 184 else max(at("K") - 5, 0) / 179
        white = at("W")
        return [min(255, round((at(letter) + white) * level)) for letter in "RGB"]


@dataclass(frozen=True, slots=True)
class HangList:
    name: str
    width: int
    height: int
    listens: tuple[Key, ...]
    pixels: tuple[HungPixel, ...]
    read_from: Mapping[str, Any] = field(default_factory=dict)

    def picture(self, data: Mapping[Key, bytes]) -> list[int]:
        """Rows of RGB bytes, flat: what a person in front of the lamps sees."""
        flat = [0] * (self.width * self.height * 3)
        for pixel in self.pixels:
            at = (pixel.y * self.width + pixel.x) * 3
            flat[at : at + 3] = pixel.colour(data)
        return flat


def load_hang_list(path: Path) -> HangList:
    """Reads the file; InputError says what is wrong in it."""
    try:
        return hang_list_of(json.loads(path.read_text()))
    except OSError as error:
        raise InputError(f"The hang list {path} cannot be read: {error.strerror}.", where="hang") from error
    except (ValueError, KeyError, TypeError, IndexError) as error:
        raise InputError(f"The hang list {path} is not right: {error!r}.", where="hang") from error


def hang_list_of(data: Mapping[str, Any]) -> HangList:
    """The list that a file's JSON describes; ValueError, KeyError or TypeError where it describes none."""
    pixels = [pixel for run in data["lamps"] for pixel in _pixels(run)]
    listens = tuple(_key(text) for text in data["listens"])
    return HangList(str(data["name"]), int(data["width"]), int(data["height"]), listens, tuple(pixels), data)


def _key(text: str) -> Key:
    protocol, number = text.split()
    if protocol not in ("artnet", "sacn"):
        raise ValueError(f"'{protocol}' is neither artnet nor sacn")
    return protocol, int(number)


def _pixels(run: Mapping[str, object]) -> list[HungPixel]:
    order = str(run.get("order", "RGB"))
    if not set(order) <= LETTERS:
        raise ValueError(f"order '{order}' has letters other than {' '.join(sorted(LETTERS))}")
    protocol, number = _key(str(run["universe"]))
    above = None
    if "dimmer" in run:
        above = (_key(str(run.get("dimmer_universe", run["universe"]))), int(str(run["dimmer"])) - 1)
    slot = int(str(run["channel"])) - 1
    pixels = []
    for index in range(int(str(run.get("count", 1)))):
        if slot + len(order) > 512:  # a strip goes on at channel 1 of the next universe, no pixel is split
            number, slot = number + 1, 0
        x = int(str(run["x"])) + index * int(str(run.get("dx", 1)))
        y = int(str(run["y"])) + index * int(str(run.get("dy", 0)))
        slots = {letter: slot + offset for offset, letter in enumerate(order) if letter != "-"}
        pixels.append(HungPixel(x, y, (protocol, number), slots, above))
        slot += len(order)
    return pixels
