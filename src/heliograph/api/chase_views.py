"""Chases as the API shows them."""

from __future__ import annotations

import hashlib

from heliograph.api import schemas
from heliograph.core.look.canvas import OVER, canvas_of
from heliograph.core.look.chase import strip_from_json
from heliograph.core.profiles.attributes import word_of
from heliograph.store.rows import Record


def chase_view(chase: Record, looks: list[Record]) -> schemas.ChaseView:
    frames = [
        {
            **one,
            "picture": picture_key(one["picture"]),
            "sets": [
                {"attribute": name, "word": word_of(name), "text": text} for name, text in one.get("sets", {}).items()
            ],
        }
        for one in chase["frames"]
    ]
    used = [
        f"{look['name']}, line {place}"
        for look in looks
        for place, line in enumerate(look["lines"], start=1)
        if line.get("chase") == chase["id"]
    ]
    canvas = canvas_of(chase) if any(chase[name] for name in OVER) else ""
    length = strip_from_json(chase).length
    return schemas.ChaseView(**{**chase, "frames": frames}, canvas=canvas, length=length, used_by=used)


def picture_key(stored: str) -> str:
    """What names a drawn picture: the same one always has the same."""
    return hashlib.blake2b(stored.encode(), digest_size=10).hexdigest()
