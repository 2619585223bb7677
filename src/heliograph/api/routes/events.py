"""The event log in words: what the processes reported for people, newest first."""

from __future__ import annotations

import csv
import io
from pathlib import Path

import orjson
from fastapi import APIRouter, Response

from heliograph.api import schemas
from heliograph.api.edits import ContextOf

router = APIRouter(prefix="/api", tags=["events"])

TAIL_BYTES = 200_000
EVENTS_MAX = 200


@router.get("/events")
def list_events(context: ContextOf) -> list[schemas.Event]:
    """The newest events of all processes, since long before the last start."""
    return _events(context.settings.data / "log", TAIL_BYTES)[:EVENTS_MAX]


@router.post("/events.csv")
def events_as_csv(context: ContextOf) -> Response:
    """All events that are kept, oldest first: time (UTC), process, level, sentence."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["time (UTC)", "process", "level", "event"])
    for one in reversed(_events(context.settings.data / "log", None)):
        # A sentence may hold a name that somebody typed: no spreadsheet shall take it for a formula.
        text = f"'{one.text}" if one.text[:1] in "=+-@" else one.text
        writer.writerow([one.at, one.process, one.level, text])
    headers = {"content-disposition": 'attachment; filename="events.csv"'}
    return Response(out.getvalue(), media_type="text/csv", headers=headers)


def _events(folder: Path, most_bytes: int | None) -> list[schemas.Event]:
    """Newest first, out of the logs and those that were put aside when they grew too long."""
    found: list[schemas.Event] = []
    for path in folder.glob("*.jsonl*" if most_bytes is None else "*.jsonl"):
        found.extend(_read(path, most_bytes))
    found.sort(key=lambda event: event.at, reverse=True)
    return found


def _read(path: Path, most_bytes: int | None) -> list[schemas.Event]:
    try:
        with open(path, "rb") as file:
            file.seek(max(0, path.stat().st_size - most_bytes) if most_bytes else 0)
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
