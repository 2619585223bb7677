"""A running Heliograph with a wall of lamps, a list, a score and a clock, for benches that take parts of it away."""

from __future__ import annotations

import contextlib
import tempfile
from collections.abc import Iterator
from pathlib import Path

from tests.conftest import Node, RunningApp
from tests.live.scenes import wall_hang
from tests.live.test_clock_survival import Quay


@contextlib.contextmanager
def on_the_quay() -> Iterator[Quay]:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        node = Node(folder, "127.0.86.2", wall_hang())
        app = RunningApp(folder, "127.0.86.1")
        try:
            yield Quay(app, node)
        finally:
            app.stop()
            node.stop()
