"""An engine that runs, and the node it sends to."""

from __future__ import annotations

import socket
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.engine.desk import Desk, listen


@pytest.fixture
def desk(tmp_path: Path) -> Iterator[Desk]:
    made = Desk(tmp_path)
    yield made
    made.stop()


@pytest.fixture
def node() -> Iterator[socket.socket]:
    one = listen()
    yield one
    one.close()
