"""What changes the profiles of a show."""

from __future__ import annotations

from heliograph.core.profiles.profile import mode_from_json
from heliograph.core.rig.plain_line import KINDS, Described
from heliograph.store.journal import Work

MAKER = "Own"


def insert_described(work: Work, key: str, said: Described) -> None:
    """Adds the profile that words describe."""
    mode = said.mode()
    mode_from_json(mode)  # what cannot be one is said here
    columns = {
        "maker": MAKER,
        "name": said.name,
        "kind": KINDS[said.thing],
        "guarded": False,
        "notes": "",
        "origin": "",
        "verified": False,
        "manual": "",
        "manual_name": "",
        "modes": [mode],
    }
    work.insert("profile", [(key, columns)])
