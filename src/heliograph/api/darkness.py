"""Why a cell is dark: the links from what plays to the light, looked at one by one; the first broken one is named.

Order and causes: trade practice, no published source.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from heliograph.api import schemas
from heliograph.core.hand.animations import animates, animation_is_on, cell_emitters, said_of_black_cells
from heliograph.core.matrix.placements import packed_array
from heliograph.core.patch.dmx import SLOTS, address_at, spell_number
from heliograph.core.rig.arrays import RigFixture

LIT_FROM = 1
"""A channel of at least so much counts as lit."""

Section = Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class DarkCell:
    """What is known of a cell: `channels` as the preview explains its `positions`; the show, engine and receiver;
    real dimmers above it as (address, the level 0..1 they stand at, explained). `background`: the fixture's shared
    part is asked about, not a cell.
    """

    fixture: RigFixture
    cell: int
    positions: Sequence[int]
    channels: Sequence[Mapping[str, Any]]
    sections: Mapping[str, Section]
    engine: Mapping[str, Any]
    receiver: Mapping[str, Any]
    names: Mapping[str, str] = field(default_factory=dict)
    dimmers: Sequence[tuple[str, float, Mapping[str, Any]]] = ()
    background: bool = False

    @property
    def universe(self) -> int:
        return self.positions[0] // SLOTS + 1 if self.positions else 0

    @property
    def outputs(self) -> list[Section]:
        """Those that carry its universe."""
        every = self.sections.get("outputs", {"outputs": []})["outputs"]
        return [o for o in every if o["first_universe"] <= self.universe < o["first_universe"] + o["count"]]

    @property
    def said(self) -> str:
        return f"{self.fixture.number}:{self.cell}"

    def kinds(self) -> set[str]:
        return {step["kind"] for one in self.channels for step in one["steps"]}

    def steps(self, kind: str) -> list[Mapping[str, Any]]:
        return [step for one in self.channels for step in one["steps"] if step["kind"] == kind]

    @property
    def lit(self) -> bool:
        return any(one["value"] >= LIT_FROM for one in self.channels)


@dataclass(frozen=True, slots=True)
class Cause:
    kind: str
    sentence: str
    repair: schemas.DarkRepair | None = None


def why_dark(cell: DarkCell) -> schemas.WhyDark:
    checked: list[str] = []
    for question in _QUESTIONS:
        for found in question(cell):
            if isinstance(found, Cause):
                return schemas.WhyDark(kind=found.kind, sentence=found.sentence, repair=found.repair, checked=checked)
            checked.append(found)
    values = ", ".join(str(one["value"]) for one in cell.channels[:8])
    return schemas.WhyDark(
        kind="",
        sentence=f"{cell.said} leaves with {values}: if it is dark, look at its mode, its power and its cable.",
        repair=None,
        checked=checked,
    )


Answers = Iterator[Cause | str]


def _address(cell: DarkCell) -> Answers:
    if not cell.positions:
        yield Cause("no address", f"{cell.fixture.number} {cell.fixture.name} has no address: nothing is sent to it.")
        return
    yield f"It lies at U{cell.universe}.{cell.positions[0] % SLOTS + 1}."


def _output(cell: DarkCell) -> Answers:
    if not cell.outputs:
        yield Cause("no output", f"No output sends U{cell.universe}.")
        return
    on = [one for one in cell.outputs if one["on"]]
    if not on:
        one = cell.outputs[0]
        repair = _change("Switch it on", "output", one["id"], {"on": True})
        yield Cause("output off", f"{one['name']}, which carries U{cell.universe}, is off.", repair)
        return
    if all(one.get("mute") for one in on):
        repair = _change("Let it light", "output", on[0]["id"], {"mute": False})
        yield Cause("output muted", f"{on[0]['name']}, which carries U{cell.universe}, is muted.", repair)
        return
    yield f"{on[0]['name']} sends U{cell.universe}."


def _card(cell: DarkCell) -> Answers:
    stats = {one["id"]: one for one in cell.engine.get("outputs", ())}
    failing = [o for o in cell.outputs if o["on"] and stats.get(o["id"], {}).get("last_error")]
    if failing and len(failing) == sum(bool(o["on"]) for o in cell.outputs):
        one = failing[0]
        yield Cause(
            "network card",
            f"{one['name']} cannot send from the network card {one['card']}: {stats[one['id']]['last_error']}.",
        )
        return
    yield "Its packets leave the network card."


def _node(cell: DarkCell) -> Answers:
    """Nodes are known only where they answer ArtPoll: what does not answer at all cannot be judged."""
    nodes = [one for one in cell.receiver.get("nodes", ()) if one["style"] == 0]
    for output in (one for one in cell.outputs if one["on"] and one["mode"] == "unicast"):
        number = output["first_number"] + cell.universe - output["first_universe"]
        heard = [n for n in nodes if n["ip"] in output["address"].split(", ")]
        mine = [n for n in heard if n["by_sacn"] == (output["protocol"] == "sacn")]
        if heard and all(n["silent"] for n in heard):
            ago = min(n["ago_s"] for n in heard)
            yield Cause("node silent", f"The node {heard[0]['name']} ({heard[0]['ip']}) is silent for {ago:.0f} s.")
            return
        ports = {port for n in mine for port in n["outputs"]}
        if ports and number not in ports:
            near = next((port for port in (number + 1, number - 1) if port in ports), None)
            asked = spell_number(output["protocol"], number).split("(")[0].strip()
            if near is not None:
                step = near - number
                repair = _change(
                    f"Count {output['name']} from {output['first_number'] + step}",
                    "output",
                    output["id"],
                    {"first_number": output["first_number"] + step},
                )
                listens = spell_number(output["protocol"], near).split("(")[0].strip()
                yield Cause(
                    "off by one",
                    f"{mine[0]['name']} listens to {listens}, one beside {asked}, which is sent to it.",
                    repair,
                )
                return
            yield Cause("not heard", f"{mine[0]['name']} does not listen to {asked}, which carries U{cell.universe}.")
            return
        if heard:
            yield f"The node {heard[0]['name']} answers."


def _other_sender(cell: DarkCell) -> Answers:
    for output in (one for one in cell.outputs if one["on"] and one["protocol"] == "sacn"):
        number = output["first_number"] + cell.universe - output["first_universe"]
        for stream in cell.receiver.get("streams", ()):
            if (stream["protocol"], stream["number"]) == ("sacn", number) and stream["priority"] > output["priority"]:
                who = stream["name"] or stream["ip"]
                priority = min(stream["priority"] + 1, 200)
                repair = _change(f"Send with priority {priority}", "output", output["id"], {"priority": priority})
                yield Cause(
                    "other sender",
                    f"{who} ({stream['ip']}) sends sACN {number} with priority {stream['priority']}, above our "
                    f"{output['priority']}: nodes follow it.",
                    repair,
                )
                return
    yield "Nobody of higher priority sends its universe."


def _switches(cell: DarkCell) -> Answers:
    state = cell.engine.get("state", {})
    if cell.lit:
        return
    if "left" in cell.kinds():
        yield Cause(
            "guard", "A laser lay at this address: it stays safe until somebody says, at Check, that it is gone."
        )
    elif "guard" in cell.kinds():
        yield Cause("guard", f"{cell.fixture.number} is a laser and not armed: it stays at its safe values.")
    elif state.get("blackout"):
        yield Cause("blackout", "The blackout is on.", _command("Let it go", _move("blackout", False)))
    elif state.get("freeze"):
        yield Cause("freeze", "The picture is frozen, and was dark here.", _command("Go on", _move("freeze", False)))
    else:
        yield "No blackout, no freeze, no guard."


def _hands(cell: DarkCell) -> Answers:
    if cell.engine.get("state", {}).get("walking") and "walk" not in cell.kinds() and not cell.lit:
        end = schemas.DarkRepair(label="End the test walk", table="walk", id="", parent="", change={})
        yield Cause("walk", "A test walk is on, and keeps it dark.", end)
        return
    if cell.lit:
        return
    for step in cell.steps("parked"):
        address = address_at(cell.positions[0])
        values = {str(address_at(position))[1:]: None for position in cell.positions}
        repair = schemas.DarkRepair(
            label=f"Release what is parked at {address}", table="parked", id="", parent="", change={"values": values}
        )
        yield Cause("parked", f"{cell.said} is parked at {step['numbers']['value']}.", repair)
        return
    for kind, says in (("raw", "by its raw fader"), ("manual", "by hand")):
        held = cell.steps(kind)
        if held:
            repair = _command("Release everything held by hand", {"do": "release"})
            yield Cause(kind, f"{cell.said} is held {says} at {held[0]['numbers']['value']}.", repair)
            return
    yield "Nothing of it is held by hand."


def _masters(cell: DarkCell) -> Answers:
    above = [step for _, _, explained in cell.dimmers for step in explained["steps"] if step["kind"] == "dimmer"]
    for step in [*above, *(() if cell.lit else (*cell.steps("level"), *cell.steps("dimmer")))]:
        for name, factor in step["numbers"].get("factors", ()):
            if factor <= 0.0:
                repair = _command("Grand master to full", _move("master", 1.0))
                yield Cause("master", f"The {name} is at 0 %.", repair if name == "grand master" else None)
                return
    if cell.lit:
        return
    yield "No master is at zero."


def _dimmers(cell: DarkCell) -> Answers:
    for address, level, explained in cell.dimmers:
        if level <= 0.0:
            last = explained["steps"][-1]
            held = last["kind"] in ("manual", "raw", "highlight")
            repair = _command("Release everything held by hand", {"do": "release"}) if held else None
            if last["kind"] == "parked":
                change = {"values": {address.removeprefix("U"): None}}
                repair = schemas.DarkRepair(label=f"Release {address}", table="parked", id="", parent="", change=change)
            yield Cause("dimmer", f"The dimmer above it, {address}, is at 0 %. {last['says']}", repair)
            return
    if cell.dimmers:
        yield "The dimmers above it are open."


def _looks(cell: DarkCell) -> Answers:
    if cell.lit:
        return
    levels = {one["look"]: one["level"] for one in cell.engine.get("state", {}).get("running", ())}
    running = list(levels)
    if not running:
        yield Cause("nothing runs", "No look is on.")
        return
    matrices = [one for key, one in cell.sections.items() if key.startswith("matrix:")]
    on = {one["id"] for one in matrices if _places(one, cell)}
    if not on:
        yield Cause("not placed", f"{cell.said} stands on no matrix, so no look can reach it.")
        return
    lines = [
        (look, place, line)
        for look in running
        for place, line in enumerate(cell.sections.get(f"look:{look}", {"lines": []})["lines"], start=1)
    ]
    reaching = [one for one in lines if one[2]["matrix"] in on]
    if not reaching:
        names = ", ".join(cell.names.get(look, "a look") for look in running)
        yield Cause("not reached", f"{names}: no line of it paints on a matrix that {cell.said} stands on.")
        return
    painted = cell.steps("line")
    faded = next((look for look, _, _ in reversed(reaching) if not levels[look]), None)
    if not painted and faded is not None:
        repair = _command("Bring it back", _move(f"look/{faded}/level", 1.0))
        yield Cause("look faded", f"{cell.names.get(faded, 'The look')} is faded to 0 %.", repair)
        return
    if not painted:
        look, place, line = reaching[-1]
        change = {"mute": False} if line.get("mute") else {"opacity": 1.0}
        repair = schemas.DarkRepair(label="Let it paint", table="line", id=line["id"], parent=look, change=change)
        how = "muted" if line.get("mute") else "at 0 %" if not line.get("opacity", 1) else "silent beside a solo line"
        yield Cause("line silent", f"{cell.names.get(look, 'The look')}, line {place}, is {how}.", repair)
        return
    top = painted[-1]["numbers"]
    if not any(top["after"]):
        clear = top["cover"] <= 0.0
        yield Cause(
            "line transparent" if clear else "line black",
            f"What is painted there is black at this moment: {painted[-1]['says']}",
        )
        return
    missing = [step for step in cell.steps("byte") if step["numbers"]["value"] == 0]
    if missing and len(missing) == len(cell.channels):
        yield Cause("cannot show", f"Its emitters cannot show what is painted: {painted[-1]['says']}")


def _hidden(cell: DarkCell) -> Answers:
    """Asked of the background: pixels of a block that hides it take its place while any of them is lit."""
    if not cell.background:
        return
    lit = {position for position, one in zip(cell.positions, cell.channels, strict=True) if one["value"] >= LIT_FROM}
    for placed in cell.fixture.placed:
        if placed.block.hides and lit & set(placed.cells.reshape(-1).tolist()):
            yield Cause("hidden", f"The pixels of {cell.fixture.number} hide its background while any of them is lit.")
            return


def _animated(cell: DarkCell) -> Answers:
    """Asked of the background: an animation that the fixture makes itself moves in the colours of its cells."""
    if not cell.background or not animates(cell.fixture.mode):
        return
    values = {position: one["value"] for position, one in zip(cell.positions, cell.channels, strict=True)}
    if not animation_is_on(cell.fixture, values):
        return
    emitters = cell_emitters(cell.fixture)
    if not any(values.get(position, 0) >= LIT_FROM for position in emitters):
        count = cell.fixture.mode.cell_count
        said = said_of_black_cells([cell.fixture.number], {cell.fixture.number: count})
        yield Cause("cells black", f"{cell.fixture.number} makes an animation. {said}")


def _places(matrix: Section, cell: DarkCell) -> bool:
    packed = matrix["placements"]
    if cell.fixture.id not in packed["fixtures"] or str(cell.cell) not in packed["cells"]:
        return False
    array = packed_array(packed)
    fixture, name = packed["fixtures"].index(cell.fixture.id), packed["cells"].index(str(cell.cell))
    return bool(((array[:, 0] == fixture) & (array[:, 1] == name)).any())


def _change(label: str, table: Any, key: str, change: dict[str, Any]) -> schemas.DarkRepair:
    return schemas.DarkRepair(label=label, table=table, id=key, parent="", change=change)


def _command(label: str, change: dict[str, Any]) -> schemas.DarkRepair:
    return schemas.DarkRepair(label=label, table="engine", id="", parent="", change=change)


def _move(handle: str, value: Any) -> dict[str, Any]:
    return {"do": "move", "moves": [{"handle": handle, "value": value}]}


_QUESTIONS = (
    _address,
    _output,
    _card,
    _node,
    _other_sender,
    _switches,
    _hands,
    _masters,
    _dimmers,
    _looks,
    _hidden,
    _animated,
)
"""In the order in which they are looked at: what stops everything before what stops one cell."""
