"""What stands in braces in a text, told as it is at a moment: the time, the date, how long until a time of day."""

from __future__ import annotations

import re
from datetime import UTC, datetime

_BRACES = re.compile(r"\{\s*(time|date|countdown)(?:\s+(\d{1,2}):(\d{2}))?\s*\}")
DAY_S = 86_400
MONTHS = (
    *("January", "February", "March", "April", "May", "June"),
    *("July", "August", "September", "October", "November", "December"),
)


def tells(text: str) -> bool:
    """Whether anything of a text moves with the time of day."""
    return _BRACES.search(text) is not None


def told(text: str, local_s: float) -> str:
    """`{time}` is 18:05, `{date}` 9 November 2026, `{countdown 21:30}` the time left until then: 3:25:00, under an hour
    25:00. `local_s`: seconds since 1970 by the clock on the wall. What is not understood stays as it is."""
    now = datetime.fromtimestamp(max(local_s, 0.0), UTC)

    def one(match: re.Match[str]) -> str:
        what, hour, minute = match.groups()
        if what == "time" and hour is None:
            return f"{now:%H:%M}"
        if what == "date" and hour is None:
            return f"{now.day} {MONTHS[now.month - 1]} {now.year}"
        if what == "countdown" and hour is not None and int(hour) < 24 and int(minute) < 60:
            passed = now.hour * 3600 + now.minute * 60 + now.second
            left = (int(hour) * 3600 + int(minute) * 60 - passed) % DAY_S
            hours, rest = divmod(left, 3600)
            return f"{hours}:{rest // 60:02}:{rest % 60:02}" if hours else f"{rest // 60}:{rest % 60:02}"
        return match.group()

    return _BRACES.sub(one, text)
