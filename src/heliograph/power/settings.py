"""What lines of looks set beside colours: upon what pictures and rest values made of those channels, beneath all that
is held by hand.

Each line lies over those before it by its weight: what fades goes that far towards the line's value, in 16 bits where
there are so many; what cannot fade changes once, where its profile says. Masters touch intensity and emission only.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, ClassVar, NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.dimming import DimmerDrive, value_after
from heliograph.core.colour.ramps import Floats
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.state import PlaybackState
from heliograph.power.chain import Chain, Step
from heliograph.power.levels import fixture_levels
from heliograph.power.stage import Bytes, Grounds, Ints
from heliograph.render.emission import local


@dataclass(frozen=True, slots=True, eq=False)
class Settings:
    """Channels that one line sets, a row for each with its fine one.

    `coarse`, `fine` (n,) absolute positions, fine -1 where there is none; `values` (n,) float64, 0..255 or, with a
    fine channel, 0..65535, before inversion; `turned` (n,) whether the wire carries the inverse; `takes` (n,) the
    weight from which what cannot fade is set, -1 for what fades; `fixture` (n,) places in the rig. `emitting` (k,) rows
    that masters scale, `lit` (k,) rows that are dark where a master is at 0, `dimming`: rows of dimmers and how each is
    driven.
    """

    coarse: Ints
    fine: Ints
    values: npt.NDArray[np.float64]
    turned: npt.NDArray[np.bool_]
    takes: Floats
    fixture: Ints
    emitting: Ints
    lit: Ints
    dimming: tuple[tuple[DimmerDrive, int], ...] = ()

    def of(self, rows: Ints) -> Settings:
        """Only some of its rows, in their order."""
        place = {int(row): n for n, row in enumerate(rows)}

        def among(chosen: Ints) -> Ints:
            return np.array([place[row] for row in chosen.tolist() if row in place], dtype=np.int64)

        return Settings(
            self.coarse[rows],
            self.fine[rows],
            self.values[rows],
            self.turned[rows],
            self.takes[rows],
            self.fixture[rows],
            among(self.emitting),
            among(self.lit),
            tuple((drive, place[row]) for drive, row in self.dimming if row in place),
        )

    @property
    def most(self) -> npt.NDArray[np.float64]:
        return np.where(self.fine >= 0, 65_535.0, 255.0)


class Told(NamedTuple):
    """What one line sets at a moment: `values` as those of its settings, driven; `weight` 0..1."""

    settings: Settings
    values: npt.NDArray[np.float64]
    weight: float
    look: str
    line: str


class ToldMix(NamedTuple):
    """What the cues of a list set, oldest first: each by its weight 0..1, all of them by `level` on what is beneath. A
    cue that sets nothing of a channel says there what is beneath."""

    cues: Sequence[tuple[float, Sequence[Told | ToldMix]]]
    level: float
    list: str = ""


AnyTold = Told | ToldMix


def each_told(told: Iterable[AnyTold]) -> Iterator[Told]:
    """All that is said, those of lists too."""
    for one in told:
        if isinstance(one, Told):
            yield one
        else:
            for _, said in one.cues:
                yield from each_told(said)


def _each_weighed(mix: ToldMix, by: float = 1.0) -> Iterator[tuple[float, Told]]:
    """All that a mix says, each by its weight in the whole."""
    for weight, cue in mix.cues:
        for one in cue:
            if isinstance(one, Told):
                yield by * weight * mix.level * one.weight, one
            else:
                yield from _each_weighed(one, by * weight * mix.level)


@dataclass(frozen=True, slots=True, eq=False)
class _Places:
    """Rows whose channels are in rendered universes (`rows`, None for all), and where: `coarse`, `fine` (fine -1 where
    there is none, `wide` (k,) where there is one), `low` those of the fine channels. What of the settings is asked in
    each frame is kept beside it."""

    rows: Ints | None
    coarse: Ints
    fine: Ints
    wide: npt.NDArray[np.intp]
    low: Ints
    most: npt.NDArray[np.float64]
    turned: npt.NDArray[np.intp]
    takes: Floats | None


class _Asked(NamedTuple):
    """What a line asks of one channel: its value, that in words, which byte of it the channel is."""

    value: float
    said: str
    part: str


PLACES_KEPT = 512
"""Lines whose places are remembered."""


class SetByLines:
    """`told`: by whom, weakest first; set anew for each frame. `names`: of looks, for what is explained."""

    name: ClassVar[str] = "attributes"

    def __init__(self, grounds: Grounds) -> None:
        self.told: Sequence[AnyTold] = ()
        self.names: Mapping[str, str] = {}
        self._grounds = grounds
        self._places: dict[int, tuple[Settings, _Places]] = {}
        self._levels_of: tuple[Any, ...] = ()
        self._levels: Floats = np.empty(0, dtype=np.float32)

    def apply(self, flat: Bytes, state: PlaybackState) -> None:
        if not self.told:
            return
        if state.walk is not None and state.walk.alone:
            return
        levels = self._fixture_levels(state)
        for one in self.told:
            self._say(flat, one, levels)

    def _say(self, flat: Bytes, one: AnyTold, levels: Floats) -> None:
        if isinstance(one, Told):
            self._set(flat, one, levels)
        else:
            self._mix(flat, one, levels)

    def explain(self, chain: Chain, state: PlaybackState, at: int) -> None:
        if state.walk is not None and state.walk.alone:
            return
        levels = self._fixture_levels(state)
        flat: Bytes = np.zeros(self._grounds.emission.universes.size * SLOTS, dtype=np.uint8)
        flat[at] = chain.value
        begun = {at}
        for one in self.told:
            if isinstance(one, ToldMix):
                self._explain_mix(chain, one, at, flat, begun, levels)
                continue
            asked = self._asked(one, at, flat, begun)
            if asked is None:
                continue
            before = chain.value
            self._set(flat, one, levels)
            value = int(flat[at])
            whole, said, part = asked
            numbers = {"look": one.look, "line": one.line, "weight": one.weight, "before": before, "part": part}
            said = f"{self.names.get(one.look, 'A look')} sets it to {said}"
            if one.weight < 1.0:
                said += f", at {one.weight * 100:.0f} %"
            chain.value = value
            chain.steps.append(Step("set", f"{said}: {value}.", {**numbers, "asked": whole, "value": value}))

    def _asked(self, one: Told, at: int, flat: Bytes, begun: set[int]) -> _Asked | None:
        """What a line asks of a channel, None where nothing; the other byte of its pair is in `flat` then, as lines
        before this one left it. `begun`: bytes that are there already."""
        places = self._placed(one.settings)
        there = np.flatnonzero((places.coarse == at) | (places.fine == at))
        if not there.size:
            return None
        row = int(there[0])
        place = row if places.rows is None else int(places.rows[row])
        for byte in (int(places.coarse[row]), int(places.fine[row])):
            if byte >= 0 and byte not in begun:
                begun.add(byte)
                flat[byte] = self._rest(byte, bool(one.settings.turned[place]))
        whole, wide = float(one.values[place]), places.fine[row] >= 0
        part = "low" if places.fine[row] == at else "high" if wide else "whole"
        return _Asked(whole, f"{whole:.0f} of {'65,535' if wide else '255'}", part)

    def _explain_mix(self, chain: Chain, mix: ToldMix, at: int, flat: Bytes, begun: set[int], levels: Floats) -> None:
        """One step for all cues of a list."""
        said = []
        for share, one in _each_weighed(mix):
            asked = self._asked(one, at, flat, begun)
            if asked is not None:
                said.append(f"{self.names.get(one.look, 'A look')} {asked.said} at {share * 100:.0f} %")
        if not said:
            return
        before = chain.value
        self._mix(flat, mix, levels)
        chain.value = int(flat[at])
        numbers = {"list": mix.list, "before": before, "value": chain.value}
        chain.steps.append(Step("set", f"Mixed: {', '.join(said)}: {chain.value}.", numbers))

    def _mix(self, flat: Bytes, mix: ToldMix, levels: Floats) -> None:
        """Each cue's values as if it were alone, then their sum by weights; in 16 bits where there are so many. What
        cannot fade is a newer cue's from where that has its share of what is mixed so far."""
        placed = [self._placed(one.settings) for one in each_told([mix])]
        if not placed:
            return
        coarse, first = np.unique(np.concatenate([one.coarse for one in placed]), return_index=True)
        fine = np.concatenate([one.fine for one in placed])[first]
        takes = np.concatenate([np.full(one.coarse.size, -1.0) if one.takes is None else one.takes for one in placed])[
            first
        ]
        wide = np.flatnonzero(fine >= 0)
        low = fine[wide]

        def whole(source: Bytes) -> npt.NDArray[np.float64]:
            found: npt.NDArray[np.float64] = source[coarse].astype(np.float64)
            found[wide] = found[wide] * 256.0 + source[low]
            return found

        made = whole(flat)
        snapped = made.copy()
        gone = max(1.0 - sum(weight for weight, _ in mix.cues), 0.0)
        beneath = made.copy()
        for weight, cue in mix.cues:
            gone += weight
            if weight <= 0.0:
                continue
            work = flat.copy()
            for one in cue:
                self._say(work, one, levels)
            own = whole(work)
            share = weight / gone if gone > 0.0 else 1.0
            made += (own - made) * share
            snapped = np.where(share >= takes, own, snapped)
        made = beneath + (made - beneath) * mix.level
        made = np.where(takes < 0.0, made, np.where(mix.level >= takes, snapped, beneath))
        values = (made + 0.5).astype(np.int64)
        flat[low] = values[wide].astype(np.uint8)
        values[wide] >>= 8
        flat[coarse] = values

    def _set(self, flat: Bytes, one: Told, levels: Floats) -> None:
        places = self._placed(one.settings)
        if not places.coarse.size or one.weight <= 0.0:
            return
        values = _after_masters(one.settings, one.values, levels)
        if places.rows is not None:
            values = values[places.rows]
        if places.turned.size:
            values = values.copy()
            values[places.turned] = places.most[places.turned] - values[places.turned]
        if one.weight < 1.0:
            under = flat[places.coarse].astype(np.float64)
            under[places.wide] = under[places.wide] * 256.0 + flat[places.low]
            values = under + (values - under) * _weights(places, one.weight)
        made = (values + 0.5).astype(np.int64)
        flat[places.low] = made[places.wide].astype(np.uint8)
        made[places.wide] >>= 8
        flat[places.coarse] = made

    def _placed(self, settings: Settings) -> _Places:
        known = self._places.get(id(settings))
        if known is not None and known[0] is settings:
            return known[1]
        if len(self._places) > PLACES_KEPT:
            self._places.clear()
        universes = self._grounds.emission.universes
        rows = np.flatnonzero(np.isin(settings.coarse // SLOTS + 1, universes))
        fine = settings.fine[rows]
        there = (fine >= 0) & np.isin(fine // SLOTS + 1, universes)
        at = np.full(fine.size, -1, dtype=np.int64)
        at[there] = local(universes, fine[there])
        takes = settings.takes[rows]
        places = _Places(
            None if rows.size == settings.coarse.size else rows,
            local(universes, settings.coarse[rows]),
            at,
            np.flatnonzero(there),
            at[there],
            settings.most[rows],
            np.flatnonzero(settings.turned[rows]),
            takes if (takes >= 0.0).any() else None,
        )
        self._places[id(settings)] = settings, places
        return places

    def _rest(self, at: int, turned: bool) -> int:
        """What a channel carries that no look drives: the other byte of a pair, where one is explained."""
        value = int(self._grounds.emission.source[at]) - self._grounds.emission.constants_at
        return max(value, 0) ^ (255 if turned and value >= 0 else 0)

    def _fixture_levels(self, state: PlaybackState) -> Floats:
        key = (state.master, state.masters)
        if key != self._levels_of:
            self._levels_of = key
            self._levels = fixture_levels(self._grounds.rig, self._grounds.groups, state)
        return self._levels


def _weights(places: _Places, weight: float) -> float | npt.NDArray[np.float64]:
    if places.takes is None:
        return weight
    return np.where(places.takes < 0.0, weight, np.where(weight >= places.takes, 1.0, 0.0))


def _after_masters(settings: Settings, values: npt.NDArray[np.float64], levels: Floats) -> npt.NDArray[np.float64]:
    """(n,) as hands' values are after masters: see `core/hand/values`."""
    if not (settings.emitting.size or settings.lit.size or settings.dimming):
        return values
    own = levels[settings.fixture].astype(np.float64)
    if (own == 1.0).all():
        return values
    values = values.copy()
    values[settings.emitting] *= own[settings.emitting]
    values[settings.lit] *= own[settings.lit] > 0.0
    for drive, row in settings.dimming:
        whole = int(values[row]) if drive.fine else int(values[row]) << 8
        dimmed = value_after(drive, whole, float(own[row]))
        values[row] = dimmed if drive.fine else dimmed >> 8
    return values
