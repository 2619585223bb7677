"""What a whole run comes to: what failed is tried again, alone and afresh, counted and named.

A machine that is shared stands still now and then, and a test among four thousand may fall into it. A fault does not
pass when it is asked again; so what fails twice is red, and what fails once is told, with whether the machine stood
still beside it. Checks that need no machine but a processor are never asked again; those of safety must pass three
times.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

from launch import outcomes, stalls
from launch.lanes import Done, Lanes, Task
from launch.outcomes import Failure

Alone = Callable[[str, str], Task]
"""From a name and a test to the task that runs just that test, afresh."""

ASKED_AGAIN_MOST = 8
"""So many failures of one run are looked at again; more are no accident."""

UNSTABLE_MOST = 3

SAFETY = re.compile(r"laser|guard|blackout|ending|test_ends|\barm|armed|unarmed|safe\b|left_pages", re.IGNORECASE)

SAFETY_TIMES = 3


@dataclass(slots=True)
class Verdict:
    """`red`: why the run failed, in sentences; none where it passed."""

    red: list[str] = field(default_factory=list)
    unstable: list[str] = field(default_factory=list)
    counts: dict[str, int] = field(default_factory=dict)

    def closing_line(self, took_s: float) -> str:
        named = [f"{self.counts.get(what, 0)} {what}" for what in ("passed", "failed", "skipped")]
        return f"{', '.join(named)}, {len(self.unstable)} unstable in {took_s:.0f} s"


def judged(lanes: Lanes, meter: stalls.StallMeter, alone: Alone, known: dict[str, str]) -> Verdict:
    """Looks at what ran, runs again what may be looked at again (nothing beside it), and says what came of it. `known`:
    causes of what has been unstable before, by test."""
    verdict = Verdict(counts={"passed": 0, "failed": 0, "skipped": 0})
    doubtful: list[Failure] = []
    for done in list(lanes.done):
        doubtful += _weighed(done, verdict, bool(lanes.ended_because))
    verdict.red += [f"{task.name} was to run and did not." for task in lanes.missing() if not lanes.ended_because]
    if lanes.ended_because:
        verdict.red.append(f"The run was ended before its end: {lanes.ended_because}.")
    if verdict.red or len(doubtful) > ASKED_AGAIN_MOST:
        if len(doubtful) > ASKED_AGAIN_MOST:
            verdict.red.append(f"{len(doubtful)} tests failed; more than {ASKED_AGAIN_MOST} are not looked at again.")
        for one in doubtful:
            lanes.say(f"FAILED {one.test} | {one.why} | {_beside(one, meter)}")
        verdict.counts["failed"] += len(doubtful)
        return verdict
    for number, one in enumerate(doubtful):
        _once_more(one, number, lanes, meter, alone, known, verdict)
    if len(verdict.unstable) > UNSTABLE_MOST:
        verdict.red.append(f"{len(verdict.unstable)} tests are unstable; more than {UNSTABLE_MOST} are no accident.")
    return verdict


def _weighed(done: Done, verdict: Verdict, over: bool) -> list[Failure]:
    """Counts one program's results; returns its failures that may be looked at again."""
    if done.task.log is None:
        for what in ("passed", "failed", "skipped"):
            verdict.counts[what] += done.counts.get(what, 0)
        if done.code and not over:
            verdict.red.append(f"{done.task.name} failed.")
        return []
    found = outcomes.read(done.task.log)
    verdict.counts["passed"] += found.passed
    verdict.counts["skipped"] += found.skipped
    if over and not done.task.final:
        return found.failures
    verdict.red += [f"{file} cannot be read as tests." for file in found.broken]
    hung = [one for one in found.failures if one.hung]
    verdict.red += [f"{one.test} hung: {one.why}" for one in hung]
    if done.task.final:
        verdict.red += [f"{one.test} failed: {one.why}" for one in found.failures if not one.hung]
    explained = done.code == 0 or found.failures or found.broken
    if done.code not in (0, 1) or not found.finished or not explained:
        verdict.red.append(f"{done.task.name} did not come to its end (exit code {done.code}).")
    if done.task.final:
        verdict.counts["failed"] += len(found.failures)
        return []
    verdict.counts["failed"] += len(hung)
    return [one for one in found.failures if not one.hung]


def _once_more(
    one: Failure,
    number: int,
    lanes: Lanes,
    meter: stalls.StallMeter,
    alone: Alone,
    known: dict[str, str],
    verdict: Verdict,
) -> None:
    times = SAFETY_TIMES if SAFETY.search(one.test) else 1
    lanes.say(f"== again, alone{f', {times} times' if times > 1 else ''}: {one.test} | first: {one.why}")
    for turn in range(times):
        task = alone(f"again{number}{'abc'[turn]}", one.test)
        lanes.run([[task]])
        done = lanes.done[-1]
        if lanes.ended_because or done.task is not task or done.code != 0:
            verdict.counts["failed"] += 1
            verdict.red.append(f"{one.test} failed twice; first: {one.why} ({_beside(one, meter)})")
            return
    cause = f" | known: {known[one.test]}" if one.test in known else ""
    verdict.unstable.append(f"{one.test} | first: {one.why} | {_beside(one, meter)}{cause}")


def _beside(one: Failure, meter: stalls.StallMeter) -> str:
    found = stalls.in_words(meter.between(one.begun, one.ended))
    return found or "no stall beside it: a suspected fault"


def known_causes(file: Path) -> dict[str, str]:
    """Lines of `date | test | cause`; ten at most, so that the list stays one of things to be mended."""
    if not file.exists():
        return {}
    rows = [line.split("|", 2) for line in file.read_text().splitlines() if line.strip() and line[0] != "#"]
    if len(rows) > 10:
        raise ValueError(f"{file} names {len(rows)} unstable tests; ten are too many already.")
    return {test.strip(): f"{cause.strip()} (since {date.strip()})" for date, test, cause in rows}
