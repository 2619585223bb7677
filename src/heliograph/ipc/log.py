"""Structured logs: one JSON line an event, a file a process, with a sentence a person can read.

Events that belong into the event log of the Check station carry `event_for_people=True`.
"""

from __future__ import annotations

import logging
import logging.handlers
import sys
from pathlib import Path

import structlog

LOG_BYTES = 4_000_000
LOG_FILES = 3


def start_log(process: str, folder: Path) -> structlog.stdlib.BoundLogger:
    """Logs to `folder`/`process`.jsonl (rotated) and, from warnings up, to stderr."""
    folder.mkdir(parents=True, exist_ok=True)
    handler = logging.handlers.RotatingFileHandler(
        folder / f"{process}.jsonl", maxBytes=LOG_BYTES, backupCount=LOG_FILES
    )
    console = logging.StreamHandler(sys.stderr)
    console.setLevel(logging.WARNING)
    root = logging.getLogger()
    root.handlers = [handler, console]
    root.setLevel(logging.INFO)
    structlog.configure(
        processors=[
            structlog.stdlib.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.format_exc_info,
            structlog.processors.JSONRenderer(),
        ],
        logger_factory=structlog.stdlib.LoggerFactory(),
        wrapper_class=structlog.stdlib.BoundLogger,
        cache_logger_on_first_use=True,
    )
    logger: structlog.stdlib.BoundLogger = structlog.get_logger(process).bind(process=process)
    return logger
