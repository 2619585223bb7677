"""What the terminal shows while the program starts: each step and how long it took."""

from __future__ import annotations

import contextlib
import os
import sys
import time
from collections.abc import Iterator
from pathlib import Path


@contextlib.contextmanager
def step(text: str) -> Iterator[None]:
    """Prints the step when it is done, with its time; with an ellipsis at once where it is a terminal."""
    begun = time.monotonic()
    if sys.stdout.isatty():
        print(f"  {text} ...", end="\r", flush=True)
    yield
    print(f"  {text:<58} {time.monotonic() - begun:6.1f} s", flush=True)


def survive_hang_up(log: Path) -> None:
    """The terminal is gone: what would be printed goes to a file, and everything else goes on."""
    handle = os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600)
    for number in (1, 2):
        os.dup2(handle, number)
    os.close(handle)


class StartError(Exception):
    """Starting is not possible; the text is one sentence for the person who started it."""
