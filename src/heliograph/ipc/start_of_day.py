"""What happens when the machine is switched on: which show opens and what runs. Kept beside the shows, as a setting of
this machine."""

from __future__ import annotations

from pathlib import Path

import msgspec

from heliograph.ipc.durable import write_durably

LAST, NOTHING = "last", "nothing"


class StartChoice(msgspec.Struct, frozen=True):
    """`show`: "" for the one that was open last. `runs`: the last state, nothing, or a handle that starts something."""

    show: str = ""
    runs: str = LAST

    @property
    def first(self) -> str:
        """The handle that starts something; "" for none."""
        return "" if self.runs in (LAST, NOTHING) else self.runs


def read_choice(data: Path) -> StartChoice:
    """What was chosen; the last state where nothing was, or it cannot be read."""
    try:
        return msgspec.json.decode((data / "start.json").read_bytes(), type=StartChoice)
    except (OSError, msgspec.DecodeError):
        return StartChoice()


def write_choice(data: Path, choice: StartChoice) -> None:
    write_durably(data / "start.json", msgspec.json.encode(choice))
