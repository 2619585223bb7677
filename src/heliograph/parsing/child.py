"""The reader's process: `python -m heliograph.parsing.child JOB`. The request comes on standard input, as JSON; the
answer goes to standard output. It lives for one file."""

from __future__ import annotations

import ctypes
import os
import resource
import sys
from typing import Any

import orjson

_CLONE_NEWUSER, _CLONE_NEWNET = 0x10000000, 0x40000000
PROCESSES_MAX = 256


def main() -> None:
    from heliograph.core.errors import HeliographError
    from heliograph.parsing.jobs import JOBS

    job = sys.argv[1]
    answers = os.dup(1)
    os.dup2(2, 1)  # whatever a library prints is no answer
    request = orjson.loads(sys.stdin.buffer.read())
    read = JOBS[job]  # its libraries are loaded before the limits
    _limit(request.pop("limits"))
    try:
        answer: dict[str, Any] = {"ok": True, "found": read(**request)}
    except HeliographError as error:
        answer = {"ok": False, "what": error.what, "where": error.where, "repair": error.repair}
    except MemoryError:
        answer = {"ok": False, "memory": True}
    with open(answers, "wb") as out:
        out.write(orjson.dumps(answer, option=orjson.OPT_SERIALIZE_NUMPY))


def _limit(limits: dict[str, int]) -> None:
    for what, most in (
        (resource.RLIMIT_AS, limits["memory"]),
        (resource.RLIMIT_CPU, limits["seconds"]),
        (resource.RLIMIT_FSIZE, limits["file"]),
        (resource.RLIMIT_CORE, 0),
    ):
        resource.setrlimit(what, (most, most))
    libc = ctypes.CDLL(None, use_errno=True)
    # Root may leave the network by itself; anybody else where the system lets users have name spaces of their own.
    if libc.unshare(_CLONE_NEWNET) != 0:
        libc.unshare(_CLONE_NEWUSER | _CLONE_NEWNET)


if __name__ == "__main__":
    main()
