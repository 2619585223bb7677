"""One channel of a mode: its attribute, its rest and safe values, and what its values mean."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields
from itertools import pairwise
from typing import Any, Literal, get_args

from heliograph.core.errors import InputError
from heliograph.core.profiles.attributes import EMITTERS, word_of

RangeKind = Literal["closed", "dim", "open", "strobe", "default", "named"]
InFade = Literal["fades", "start", "half-way", "end"]
HALF_WAY: InFade = "half-way"
Merge = Literal["HTP", "LTP"]


@dataclass(frozen=True, slots=True)
class ValueRange:
    """Values `first`..`last` (0..255, both included) of a channel and what they do there.

    `attribute`: where this part of the channel does something else than the channel is named for. `colour`
    ("#rrggbb") and `picture` (a small PNG as data URL) show it; "" where there is none.
    """

    first: int
    last: int
    kind: RangeKind
    name: str = ""
    attribute: str = ""
    colour: str = ""
    picture: str = ""

    def __post_init__(self) -> None:
        if not 0 <= self.first <= self.last <= 255:
            raise InputError(
                f"A value range from {self.first} to {self.last} is not possible.",
                where="ranges",
                repair="Ranges lie within 0 to 255, the first value not above the last.",
            )
        if self.kind not in get_args(RangeKind):
            raise InputError(
                f"'{self.kind}' is no kind of range.", where="ranges", repair=f"Use {', '.join(get_args(RangeKind))}."
            )


@dataclass(frozen=True, slots=True)
class Channel:
    """One channel of a mode.

    `home` 0..255 is the attribute's rest value, `highlight` its value while highlighted (None: emitters full,
    dimmers open, the rest as it is). `safe` is what the guard puts on the wire. `fine` is the low byte of the
    channel with the same attribute (see `fine_pairs`). `invert`: the wire carries 255 less the value. `alone`:
    the attribute is left alone, nothing of ours drives it. `in_fade`: whether it fades, or changes at once at the start
    of a fade, half-way or at its end. `merge`: highest or latest takes precedence. `ranges` are typed, in order,
    without overlaps; none means the whole of 0..255 does one thing. `kelvin`: the colour temperature of a white
    emitter. `physical`: what 0 and full stand for, in degrees for pan and tilt, in kelvin for a temperature.
    """

    attribute: str
    home: int = 0
    safe: int | None = None
    fine: bool = False
    ranges: tuple[ValueRange, ...] = ()
    kelvin: int = 6500
    highlight: int | None = None
    in_fade: InFade = "fades"
    invert: bool = False
    merge: Merge = "LTP"
    alone: bool = False
    physical: tuple[float, float] | None = None

    def __post_init__(self) -> None:
        for field in ("home", "safe", "highlight"):
            value = getattr(self, field)
            if value is not None and not 0 <= value <= 255:
                raise InputError(f"{field} of {self.attribute} is {value}: a channel takes 0 to 255.", where=field)
        if self.in_fade not in get_args(InFade):
            raise InputError(
                f"'{self.in_fade}' says not how a channel changes in a fade.",
                where="in_fade",
                repair=f"Use {', '.join(get_args(InFade))}.",
            )
        for before, after in pairwise(self.ranges):
            if after.first <= before.last:
                raise InputError(
                    f"{self.attribute}: the ranges {before.first}-{before.last} and {after.first}-{after.last} "
                    "overlap or are out of order.",
                    where="ranges",
                )

    @property
    def label(self) -> str:
        """The word people use: the emitter's colour, else what the attribute is called."""
        word = word_of(self.attribute)
        return f"{word} fine" if self.fine else word

    @property
    def is_emitter(self) -> bool:
        return self.attribute in EMITTERS

    @property
    def off(self) -> int:
        """What to send for dark: 0, unless the lamp reads 0 as its stored default."""
        first = self.ranges[0] if self.ranges else None
        if first is None or first.first != 0 or first.kind != "default":
            return 0
        closed = next((one for one in self.ranges if one.kind == "closed"), None)
        return closed.first if closed else min(first.last + 1, 255)


def finest_step(channel: Channel, wide: bool) -> float:
    """The smallest part 0..1 of its whole way that a channel can move by: of 65,535 values where it is 16 bit wide,
    of those that dim where its ranges say so, else of 255."""
    dims = next((one for one in channel.ranges if one.kind == "dim" and one.last > one.first), None)
    if dims is not None:
        return 1 / ((dims.last - dims.first) * (257 if wide else 1))
    return 1 / (65_535 if wide else 255)


def fine_pairs(channels: Sequence[Channel]) -> dict[int, int]:
    """Index of a coarse channel -> index of its fine one, within one run of channels.

    A fine channel may stand anywhere: it belongs to the nearest one before it with the same attribute that has
    none yet, else to the first one after it. Raises InputError where there is no such channel.
    """
    pairs: dict[int, int] = {}
    for index, channel in enumerate(channels):
        if not channel.fine:
            continue
        alike = [n for n, c in enumerate(channels) if c.attribute == channel.attribute and not c.fine]
        free = [n for n in alike if n not in pairs]
        coarse = next((n for n in reversed(free) if n < index), free[0] if free else None)
        if coarse is None:
            says = "has one already" if alike else "is not there"
            raise InputError(
                f"The fine channel of {word_of(channel.attribute)} has no coarse one: it {says}.",
                where="fine",
                repair="Give the same attribute to its coarse channel, or make this a channel of its own.",
            )
        pairs[coarse] = index
    return pairs


def channel_from_json(data: Mapping[str, Any]) -> Channel:
    """Builds a channel from its stored form; raises InputError where it cannot be one."""
    known = {field.name for field in fields(Channel)}
    values = {key: value for key, value in data.items() if key in known and value is not None}
    values["ranges"] = tuple(range_from_json(one) for one in data.get("ranges") or ())
    if values.get("physical") is not None:
        low, high = values["physical"]
        values["physical"] = (float(low), float(high))
    return Channel(**values)


def range_from_json(data: Mapping[str, Any]) -> ValueRange:
    known = {field.name for field in fields(ValueRange)}
    return ValueRange(**{key: value for key, value in data.items() if key in known and value is not None})
