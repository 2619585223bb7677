"""Which attributes can be set of what a line is over, what each takes, and what is held of them by hand."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from heliograph.api import schemas
from heliograph.api.canvases import canvases
from heliograph.api.choosing import choose
from heliograph.api.context import Context
from heliograph.api.schemas.presets import AttributeWord, Chosen
from heliograph.api.views import Modes
from heliograph.core.errors import HeliographError, InputError
from heliograph.core.hand.levels import parts_of
from heliograph.core.hand.typed import Place, takes
from heliograph.core.hand.values import channels_of
from heliograph.core.look.attributes import Values, driven_attribute
from heliograph.core.look.canvas import canvas_of
from heliograph.core.look.presets import PresetKind
from heliograph.core.look.setting import Chosen as ChosenFixture
from heliograph.core.look.setting import attributes_in, chosen_among, numbers_of, set_of, typed_over
from heliograph.core.patch.dmx import parse_address
from heliograph.core.patch.places import channel_positions
from heliograph.core.profiles.attributes import word_of
from heliograph.core.profiles.profile import Mode
from heliograph.edits.presets import kept_of
from heliograph.store import rows
from heliograph.store.rows import Record


def modes_of(show: str) -> dict[str, tuple[Mode, bool]]:
    """By fixture of the show: its mode, and whether it is a laser."""
    profiles = rows.all_of("profile", show)
    modes, lasers = Modes(profiles), {one["id"] for one in profiles if one["guarded"]}
    found = {}
    for fixture in rows.all_of("fixture", show):
        mode = modes.of(fixture)
        if mode is not None:
            found[fixture["id"]] = mode, fixture["profile"] in lasers
    return found


def chosen_by(show: str, line: Record) -> list[ChosenFixture]:
    """The fixtures that a line is over, by what is chosen of them."""
    tables = {kind: rows.all_of(kind, show) for kind in ("profile", "fixture", "group", "matrix")}
    among = [*rows.with_shared(tables["matrix"]), *canvases({**tables, "look": [{"lines": [line]}]})]
    canvas: dict[str, Any] = next((one for one in among if one["id"] == canvas_of(line)), {})
    members = canvas.get("members") or list(dict.fromkeys(canvas.get("placements", {}).get("fixtures", ())))
    modes = {name: mode for name, (mode, _) in modes_of(show).items()}
    return chosen_among(modes, members, canvas.get("emitter", ""))


def check_typed(show: str, line: Record) -> None:
    """Raises InputError for what is typed for an attribute where nothing of what the line is over takes it."""
    typed = {name: text for name, text in (line.get("params") or {}).items() if text}
    if not typed:
        return
    chosen = chosen_by(show, line)
    for attribute, text in typed.items():
        typed_over(chosen, attribute, text)


def check_preset(show: str, sets: Mapping[str, str]) -> None:
    """Raises InputError for what is typed of an attribute that fixtures of the show have, where none of them takes it.
    What nothing has yet may be typed: a table of filters comes before the lamps."""
    everything = [ChosenFixture(name, mode) for name, (mode, _) in modes_of(show).items()]
    there = set(attributes_in(everything))
    for attribute, text in sets.items():
        if text and attribute in there:
            typed_over(everything, attribute, text)


def attributes_view(show: str, line: Record) -> schemas.Attributes:
    chosen = chosen_by(show, line)
    found = [_word(chosen, attribute) for attribute in attributes_in(chosen)]
    missing = {}
    for attribute, text in (line.get("params") or {}).items():
        try:
            typed_over(chosen, attribute, text)
        except InputError as error:
            missing[attribute] = error.what
    return schemas.Attributes(attributes=found, missing=missing)


def _word(chosen: list[ChosenFixture], attribute: str) -> AttributeWord:
    words: dict[str, None] = {}
    said, count = "", 0
    for one in chosen:
        mode = channels_of(one.mode)
        places = [Place(mode, number, part) for number, part in numbers_of(mode, attribute, one.numbers)]
        count += bool(places)
        for place in places[:1]:
            said = said or takes(place)
            named = place.channel.ranges if not place.attribute else parts_of(place.channel)
            words.update((each.name, None) for each in named if each.name)
    unit = driven_attribute(attribute).unit
    return AttributeWord(
        attribute=attribute, word=word_of(attribute), takes=said, words=list(words), unit=unit, fixtures=count
    )


def held_by(show: str, chosen: Chosen, values: Values) -> dict[str, int]:
    """What values make of what is chosen, by "<fixture>/<channel of its mode>" as hands hold them."""
    members = _members(show, chosen)
    fixtures = chosen_among({name: mode for name, (mode, _) in modes_of(show).items()}, members)
    return {f"{fixture}/{number}": byte for (fixture, number), byte in set_of(fixtures, [values]).items()}


def _members(show: str, chosen: Chosen) -> list[str]:
    if isinstance(chosen, str):
        found = choose(show, chosen)
        return list(found.parts) or [one.id for one in found.fixtures]
    return [str(one) for one in chosen]


def taken_by_hand(context: Context, show: str, chosen: Chosen, kind: PresetKind | None = None) -> Record:
    """What is held by hand of what is chosen ("" for everything), as it is kept."""
    status = context.engine_status()
    if status is None:
        raise HeliographError("What is held by hand cannot be read just now.", repair="Try again.")
    among = {member.partition(":")[0] for member in _members(show, chosen)} if chosen else None
    held = {**status.state.manual, **_raw_of_fixtures(context, status.state.raw)}
    return kept_of(held, modes_of(show), among, kind)


def _raw_of_fixtures(context: Context, raw: Mapping[str, int]) -> dict[str, int]:
    """Raw faders as the channels of fixtures that lie there; those where none lies are nobody's to keep."""
    if not raw:
        return {}
    by_place = {parse_address(key).position: value for key, value in raw.items()}
    found = {}
    for fixture in context.publisher.current.rig.fixtures.values():
        if fixture.placed:
            for number, position in enumerate(channel_positions(fixture.placed).tolist(), start=1):
                if position in by_place:
                    found[f"{fixture.id}/{number}"] = by_place[position]
    return found
