"""The patch doctor: each cause set up and named, with a repair that mends it. Causes: trade practice, no source."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest

from heliograph.core.patch.doctor import Finding, PatchedFixture, examine
from heliograph.core.patch.reaching import HeardNode, Network
from heliograph.core.profiles.channel import Channel, ValueRange
from heliograph.core.profiles.mode_faults import mended, never_dark, old_mode_in, stays_dark
from heliograph.core.profiles.profile import Block, Mode, mode_from_json

CARD = "192.0.2.17/255.255.255.0"


def fixture(number: int, universe: int, first: int, last: int, **more: Any) -> PatchedFixture:
    base: dict[str, Any] = {
        "id": f"f{number}",
        "number": number,
        "name": f"Lamp {number}",
        "footprint": last - first + 1,
        "address": f"U{universe}.{first}",
        "spans": ((universe, first, last),),
        "conflict": (),
        "free": "U9.1",
    }
    return PatchedFixture(**{**base, **more})


def output(**more: Any) -> dict[str, Any]:
    base = {
        "id": "o",
        "name": "Quay",
        "protocol": "artnet",
        "mode": "unicast",
        "address": "192.0.2.90",
        "card": CARD.split("/")[0],
        "first_universe": 1,
        "count": 2,
        "first_number": 0,
        "on": True,
    }
    return {**base, **more}


LAMP = fixture(1, 1, 1, 3)
QUAY = HeardNode("192.0.2.90", "Quay node", (0, 1), False)


def only(findings: list[Finding]) -> Finding:
    assert len(findings) == 1, findings
    return findings[0]


def test_a_sound_patch_has_no_findings() -> None:
    assert examine([LAMP], [output()], Network([QUAY], [CARD])) == []


def test_overlap() -> None:
    a, b = fixture(1, 1, 1, 3, conflict=(2,)), fixture(2, 1, 3, 5, conflict=(1,))
    found = only(examine([a, b], [output()], Network()))
    assert found.sentence == "1 Lamp 1 and 2 Lamp 2 share channels of U1."
    assert found.repair is not None
    assert (found.repair.id, found.repair.change) == ("f2", {"address": "U9.1"})


def test_past_the_end() -> None:
    found = only(examine([fixture(1, 3, 498, 545, spans=()), LAMP], [output()], Network()))
    assert found.sentence == "1 Lamp 1 with 48 channels from U3.498 ends past its universe."
    assert found.repair is not None
    assert found.repair.label == "Move it to U9.1"


@pytest.mark.parametrize(
    ("outputs", "says", "repair"),
    [
        ([], "no output covers it", None),
        ([output(on=False)], "Quay is off", {"on": True}),
        ([output(first_universe=0, count=1)], "no output covers it", {"count": 2}),
    ],
)
def test_a_fixture_that_is_not_sent(outputs: list[dict[str, Any]], says: str, repair: Any) -> None:
    found = [one for one in examine([LAMP], outputs, Network()) if one.kind == "not sent"]
    assert found[0].sentence == f"U1 carries 1 Lamp 1 and is not sent: {says}."
    assert (found[0].repair.change if found[0].repair else None) == repair


def test_an_output_without_a_fixture() -> None:
    found = only(
        examine([LAMP], [output(), output(id="p", name="Attic", first_universe=5, address="192.0.2.5")], Network())
    )
    assert found.sentence == "Attic sends U5 to U6, where no fixture lies."
    assert found.repair is not None
    assert found.repair.change == {"on": False}


def test_off_by_one_is_told_in_both_directions_and_only_where_nothing_fits() -> None:
    """A node that counts from 1 calls "universe 1" what Art-Net's wire calls 0."""
    for listens, counts_from, first in ((2, 1, 0), (0, 0, 1)):
        node = HeardNode("192.0.2.90", "Quay node", (listens,), False)
        sends = output(count=2 if listens == 2 else 1, first_number=first)
        found = only(examine([LAMP], [sends], Network([node], [CARD])))
        assert found.kind == "off by one"
        assert f"listens to Art-Net Net 0 Sub-Net 0 Universe {listens};" in found.sentence
        assert found.repair is not None
        assert found.repair.change == {"first_number": counts_from}
    fits = HeardNode("192.0.2.90", "Quay node", (1, 2), False)
    # Where one number fits, the numbering is right: the node has no port for the other one, and that is said.
    found = only(examine([LAMP], [output()], Network([fits], [CARD])))
    assert (found.kind, found.repair) == ("not heard", None)
    assert found.sentence == "Quay: Quay node answers and does not listen to U1."
    elsewhere = HeardNode("192.0.2.70", "Attic", (2,), False)  # nothing is sent to it by this output
    assert examine([LAMP], [output()], Network([elsewhere], [CARD])) == []


def test_off_by_one_on_sacn() -> None:
    node = HeardNode("192.0.2.12", "Pier", (3,), True)
    sends = output(protocol="sacn", mode="multicast", address="", first_number=1)
    found = only(examine([LAMP], [sends], Network([node], [CARD])))
    assert "Pier (192.0.2.12) listens to sACN 3; sACN 2 is sent to it." in found.sentence
    assert found.universe == 2


def test_a_destination_on_another_subnet() -> None:
    # 192.0.2.17 and 192.0.2.90 with mask 255.255.255.0 see each other, 198.51.100.90 does not: trade arithmetic.
    assert examine([LAMP], [output()], Network((), [CARD])) == []
    found = only(examine([LAMP], [output(address="198.51.100.90")], Network((), [CARD])))
    assert found.sentence.startswith("Quay sends to 198.51.100.90: none of this machine's networks")


def test_two_senders_on_a_universe() -> None:
    found = only(
        examine([LAMP], [output()], Network((), [CARD], [("artnet", 1, "192.0.2.7", 100), ("sacn", 1, "x", 100)]))
    )
    assert "192.0.2.7 sends Art-Net Net 0 Sub-Net 0 Universe 1 too" in found.sentence
    assert found.universe == 2


def test_an_overlap_is_told_where_it_is_not_where_the_strip_begins() -> None:
    strip = fixture(1, 1, 1, 510, spans=((1, 1, 510), (2, 1, 90)), conflict=(2,))
    lamp = fixture(2, 2, 90, 92, conflict=(1,))
    found = only(examine([strip, lamp], [output()], Network()))
    assert (found.universe, found.sentence) == (2, "1 Lamp 1 and 2 Lamp 2 share channels of U2.")


RGB = tuple(Channel(f"ColorAdd_{c}") for c in "RGB")


def lamp_mode(*shared: Channel) -> Mode:
    return Mode("m", (Block("b", shared, 1, RGB),))


@pytest.mark.parametrize(
    ("channel", "dark", "never"),
    [
        (Channel("Dimmer"), "", ""),
        (Channel("Dimmer", alone=True), "its dimmer is left alone", ""),
        (
            Channel("Dimmer", ranges=(ValueRange(0, 9, "closed"), ValueRange(10, 255, "strobe"))),
            "the ranges of its dimmer neither dim nor open",
            "",
        ),
        (Channel("Dimmer", ranges=(ValueRange(0, 0, "default"), ValueRange(1, 255, "open"))), "", "dimmer"),
        (Channel("Dimmer", ranges=(ValueRange(0, 0, "default"), ValueRange(1, 255, "dim"))), "", ""),
    ],
)
def test_modes_that_would_stay_dark_or_never_be(channel: Channel, dark: str, never: str) -> None:
    mode = lamp_mode(channel)
    assert (stays_dark(mode), never_dark(mode)) == (dark, never)


def test_a_dimmer_above_no_cells_keeps_nothing_dark() -> None:
    assert stays_dark(Mode("m", (Block("b", (Channel("Dimmer", alone=True),), 0, ()),))) == ""


@pytest.mark.parametrize(
    ("name", "mode", "old"),
    [
        ("Strip 50 RGB 3", "100 RGB", "50 RGB"),
        ("Strip 100 RGB 3", "100 RGB", ""),
        ("Tower 7", "100 RGB", ""),
        ("Strip 150 RGB", "100 RGB", ""),
        ("strip 50 rgb", "100 RGB", "50 RGB"),
    ],
)
def test_a_name_that_still_says_the_old_mode(name: str, mode: str, old: str) -> None:
    assert old_mode_in(name, mode, ["7", "50 RGB", "100 RGB"]) == old


def test_findings_of_modes_are_told_once_with_how_many() -> None:
    many = [replace(fixture(n, 1, n, n), mode="4 ch", stays_dark="its dimmer is left alone") for n in (1, 2, 3)]
    found = only(examine(many, [output()], Network()))
    assert found.sentence == "1 Lamp 1 (and 2 more in mode 4 ch) stays dark: its dimmer is left alone."


def test_an_old_name_is_repaired() -> None:
    old = replace(LAMP, name="Strip 50 RGB 1", mode="100 RGB", old_mode="50 RGB")
    found = only(examine([old], [output()], Network()))
    assert found.sentence == "1 is called 'Strip 50 RGB 1' and is in mode 100 RGB."
    assert found.repair is not None
    assert found.repair.change == {"name": "Strip 100 RGB 1"}


def test_every_finding_about_an_output_or_a_mode_has_its_repair() -> None:
    sacn = output(protocol="sacn", mode="multicast", address="", first_number=1, priority=100)
    found = only(examine([LAMP], [sacn], Network((), [CARD], [("sacn", 1, "Desk", 120)])))
    assert found.repair is not None
    assert (found.repair.label, found.repair.change) == ("Send with priority 121", {"priority": 121})
    found = only(examine([LAMP], [sacn], Network((), [CARD], [("sacn", 1, "Desk", 200)])))
    assert found.repair is not None
    assert found.repair.change == {"on": False}  # nothing is above 200
    far = only(examine([LAMP], [output(address="198.51.100.90")], Network((), [CARD])))
    assert far.repair is not None
    assert far.repair.change == {"on": False}


DARK: dict[str, Any] = {
    "left alone": {"attribute": "Dimmer", "alone": True},
    "without light": {
        "attribute": "Dimmer",
        "ranges": [{"first": 0, "last": 99, "kind": "closed"}, {"first": 100, "last": 255, "kind": "strobe"}],
    },
}
DEFAULT: dict[str, Any] = {
    "attribute": "Dimmer",
    "ranges": [{"first": 0, "last": 4, "kind": "default"}, {"first": 5, "last": 255, "kind": "open"}],
}


def stored(dimmer: dict[str, Any]) -> dict[str, Any]:
    cells = [{"attribute": "ColorAdd_R"}]
    return {"name": "m", "blocks": [{"name": "b", "shared": [dimmer], "cell_count": 1, "cell_channels": cells}]}


@pytest.mark.parametrize("dimmer", DARK.values(), ids=list(DARK))
def test_a_mode_that_would_stay_dark_is_mended(dimmer: dict[str, Any]) -> None:
    before = stored(dimmer)
    assert stays_dark(mode_from_json(before))
    after = mended(before, "stays dark")
    assert stays_dark(mode_from_json(after)) == ""
    assert after["blocks"][0]["cell_channels"] == before["blocks"][0]["cell_channels"]
    assert before == stored(dimmer)  # not changed in place


def test_a_mode_that_is_never_dark_gets_a_value_for_dark() -> None:
    after = mode_from_json(mended(stored(DEFAULT), "never dark"))
    assert never_dark(after) == ""
    (channel,) = after.blocks[0].shared
    assert channel.off == 5
    assert [(one.first, one.last, one.kind) for one in channel.ranges] == [
        (0, 4, "default"),
        (5, 5, "closed"),
        (6, 255, "open"),
    ]
    fine = stored({"attribute": "Dimmer"})
    assert mode_from_json(mended(fine, "never dark")) == mode_from_json(fine)
