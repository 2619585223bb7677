"""What came of tests, read from the log that pytest-reportlog writes: a line for each step of each test."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

HUNG = "from pytest-timeout"


@dataclass(slots=True)
class Failure:
    """A test that failed in one of its steps; wall times in seconds."""

    test: str
    why: str
    begun: float
    ended: float
    hung: bool = False


@dataclass(slots=True)
class Outcomes:
    """Of one run of pytest."""

    passed: int = 0
    skipped: int = 0
    failures: list[Failure] = field(default_factory=list)
    broken: list[str] = field(default_factory=list)
    """Files that could not even be read."""
    finished: bool = False
    """Whether it came to its end: a test can end the whole program, and with no error."""


def read(log: Path) -> Outcomes:
    """A log that ends in the middle of a line, as that of a killed run, is read as far as it goes."""
    steps: dict[str, list[dict[str, Any]]] = {}
    found = Outcomes()
    for entry in _entries(log):
        if entry.get("$report_type") == "TestReport":
            steps.setdefault(entry["nodeid"], []).append(entry)
        elif entry.get("$report_type") == "CollectReport" and entry["outcome"] == "failed":
            found.broken.append(entry["nodeid"] or "tests")
        elif entry.get("$report_type") == "SessionFinish":
            found.finished = True
    for test, of_it in steps.items():
        outcomes = [step["outcome"] for step in of_it]
        if "failed" in outcomes:
            first = of_it[outcomes.index("failed")]
            why = _message(first["longrepr"])
            ended = max(step["stop"] for step in of_it)
            found.failures.append(Failure(test, why, of_it[0]["start"], ended, HUNG in why))
        elif "skipped" in outcomes:
            found.skipped += 1
        else:
            found.passed += 1
    return found


def _entries(log: Path) -> Iterable[dict[str, Any]]:
    if not log.exists():
        return
    with open(log, encoding="utf-8", errors="replace") as lines:
        for line in lines:
            try:
                yield json.loads(line)
            except ValueError:
                return


def _message(told: Any) -> str:
    """The first line of what was wrong."""
    crash = told.get("reprcrash") if isinstance(told, dict) else None
    text = str(crash["message"] if crash else told).strip()
    return text.splitlines()[0][:300] if text else "it says nothing"
