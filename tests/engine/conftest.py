"""An engine that runs, and the node it sends to."""

from __future__ import annotations

import socket
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.engine.desk import Desk, listen


@pytest.fixture(autouse=True)
def desks_end() -> Iterator[None]:
    """Whatever a test began, and however it ended."""
    yield
    for one in list(Desk.running):
        one.stop()


@pytest.fixture
def desk(tmp_path: Path) -> Desk:
    return Desk(tmp_path)


@pytest.fixture
def node() -> Iterator[socket.socket]:
    one = listen()
    yield one
    one.close()
