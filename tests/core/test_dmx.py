"""Addresses and protocol numbers."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import Address, PortAddress, address_at, parse_address, sacn_group, spell_number

# (universe, channel) -> absolute 1-based number: standards 1.4, computed; the open formula of MVR.
ABSOLUTE = [((1, 1), 1), ((1, 512), 512), ((2, 1), 513), ((3, 10), 1034), ((64, 512), 32768)]


@pytest.mark.parametrize(("pair", "number"), ABSOLUTE)
def test_absolute_numbers(pair: tuple[int, int], number: int) -> None:
    assert Address(*pair).position + 1 == number
    assert address_at(number - 1) == Address(*pair)


@given(st.integers(0, 63999 * 512 - 1))
def test_position_and_address_are_one_to_one(position: int) -> None:
    assert address_at(position).position == position


@pytest.mark.parametrize("text", ["U3.201", "3.201", " u3.201 ", "3:201"])
def test_an_address_may_be_written_in_several_ways(text: str) -> None:
    assert str(parse_address(text)) == "U3.201"


def test_steps_count_from_where_one_is() -> None:
    assert str(parse_address("+1", Address(1, 512))) == "U2.1"
    assert str(parse_address("-1", Address(2, 1))) == "U1.512"


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("U1.513", "a universe has channels 1 to 512. Counting on, that channel is U2.1"),
        ("U0.1", "outside 1 to 63999"),
        ("64000.1", "outside 1 to 63999"),
        ("three", "not an address"),
        ("", "not an address"),
        ("+1", "there is none yet"),
    ],
)
def test_what_is_no_address_gets_a_sentence(text: str, says: str) -> None:
    with pytest.raises(InputError) as told:
        parse_address(text)
    assert says in str(told.value)
    assert told.value.where == "address"


# Port-Address -> Net, Sub-Net, Universe: standards 2.1, established with tshark 4.0.17.
PORTS = [(0, 0, 0, 0), (15, 0, 0, 15), (16, 0, 1, 0), (255, 0, 15, 15), (256, 1, 0, 0), (4660, 18, 3, 4)]
PORTS += [(32767, 127, 15, 15)]


@pytest.mark.parametrize(("value", "net", "sub_net", "universe"), PORTS)
def test_port_addresses(value: int, net: int, sub_net: int, universe: int) -> None:
    port = PortAddress(value)
    assert (port.net, port.sub_net, port.universe) == (net, sub_net, universe)


def test_a_port_address_has_fifteen_bits() -> None:
    with pytest.raises(InputError, match="0 to 32767"):
        PortAddress(32768)


# Groups: standards 3, established with the sacn library's calculate_multicast_addr.
GROUPS = [(1, "239.255.0.1"), (100, "239.255.0.100"), (256, "239.255.1.0"), (7962, "239.255.31.26")]


@pytest.mark.parametrize(("universe", "group"), GROUPS)
def test_multicast_groups(universe: int, group: str) -> None:
    assert sacn_group(universe) == group


def test_both_countings_are_always_spelled() -> None:
    # A node that counts from 1 calls 8 what the wire calls 7 (common practice, no published source).
    assert "Port-Address 7, counted from 1: 8" in spell_number("artnet", 7)
    assert "239.255.0.7" in spell_number("sacn", 7)
