"""Network cards and names of hosts."""

from __future__ import annotations

import pytest

from heliograph.core.errors import InputError
from heliograph.network.cards import Card, list_cards
from heliograph.network.resolve import resolve


def test_loopback_is_a_card_with_its_directed_broadcast() -> None:
    (lo,) = [card for card in list_cards() if card.address == "127.0.0.1"]
    assert (lo.broadcast, lo.netmask) == ("127.255.255.255", "255.0.0.0")


def test_only_named_addresses_and_no_foreign_ones() -> None:
    assert [card.address for card in list_cards(("127.0.7.7", "203.0.113.1"))] == ["127.0.7.7"]


def test_two_hosts_of_one_subnet_see_each_other() -> None:
    # 192.0.2.17 and 192.0.2.90 with mask 255.255.255.0 see each other. Common practice, no published source.
    card = Card("eth", "192.0.2.17", "255.255.255.0", "192.0.2.255", True)
    assert card.reaches("192.0.2.90")
    assert not card.reaches("198.51.100.90")


@pytest.mark.parametrize(
    ("name", "address"), [("127.0.0.9", "127.0.0.9"), (" 192.0.2.20 ", "192.0.2.20"), ("localhost", "127.0.0.1")]
)
def test_addresses_and_names(name: str, address: str) -> None:
    assert resolve(name) == address


@pytest.mark.parametrize("name", ["", "two words", "a" * 300, "x\x00y", "no-such-host.invalid", "..", "ü" * 70])
def test_what_does_not_resolve_gets_a_sentence(name: str) -> None:
    with pytest.raises(InputError) as told:
        resolve(name)
    assert told.value.where == "destination"
