"""What the terminal shows while the program starts: each step and how long it took."""

from __future__ import annotations

import contextlib
import sys
import time
from collections.abc import Iterator


@contextlib.contextmanager
def step(text: str) -> Iterator[None]:
    """Prints the step when it is done, with its time; with an ellipsis at once where it is a terminal."""
    begun = time.monotonic()
    if sys.stdout.isatty():
        print(f"  {text} ...", end="\r", flush=True)
    yield
    print(f"  {text:<58} {time.monotonic() - begun:6.1f} s", flush=True)


class StartError(Exception):
    """Starting is not possible; the text is one sentence for the person who started it."""
