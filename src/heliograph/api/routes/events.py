"""The event log in words: what the processes reported for people, newest first."""

from __future__ import annotations

from pathlib import Path

import orjson
from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import ContextOf

router = APIRouter(prefix="/api", tags=["events"])

TAIL_BYTES = 200_000
EVENTS_MAX = 200


@router.get("/events")
def list_events(context: ContextOf) -> list[schemas.Event]:
    found: list[schemas.Event] = []
    for path in (context.settings.data / "log").glob("*.jsonl"):
        found.extend(_tail(path))
    found.sort(key=lambda event: event.at, reverse=True)
    return found[:EVENTS_MAX]


def _tail(path: Path) -> list[schemas.Event]:
    try:
        with open(path, "rb") as file:
            file.seek(max(0, path.stat().st_size - TAIL_BYTES))
            lines = file.read().splitlines()
    except OSError:
        return []
    events = []
    for line in lines:
        try:
            data = orjson.loads(line)
        except ValueError:
            continue
        if data.get("event_for_people") or data.get("level") in ("warning", "error"):
            events.append(
                schemas.Event(
                    at=str(data.get("timestamp", "")),
                    process=str(data.get("process", path.stem)),
                    level=str(data.get("level", "info")),
                    text=str(data.get("event", "")),
                )
            )
    return events
