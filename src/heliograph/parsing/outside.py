"""Handing a file to a reader's process, and what becomes of one that takes too much."""

from __future__ import annotations

import contextlib
import os
import signal
import subprocess
import sys
import tempfile
import threading
from collections.abc import Iterator
from dataclasses import asdict
from pathlib import Path
from typing import Any, BinaryIO

import orjson
import structlog

from heliograph.core.errors import InputError, UnavailableError
from heliograph.parsing.limits import LIMITS, OUTPUT_MAX

SOURCE = Path(__file__).resolve().parents[2]
AT_ONCE = 3
WAIT_S = 30.0
_free = threading.BoundedSemaphore(AT_ONCE)
_CHUNK = 1 << 20


def read_outside(job: str, name: str, /, **request: Any) -> Any:
    """What a reader finds; raises the InputError it answers, or one that says that the file took too much. `name`: what
    people call the file."""
    limits = LIMITS[job]
    if not _free.acquire(timeout=WAIT_S):
        raise UnavailableError("Other files are being read.", where="file", repair="Try again in a moment.")
    try:
        told = {**asdict(limits), "seconds": int(limits.seconds)}
        process = subprocess.Popen(
            [sys.executable, "-m", "heliograph.parsing.child", job],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            env={**os.environ, "PYTHONPATH": str(SOURCE), "OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"},
            start_new_session=True,
        )
        try:
            out = _exchange(process, orjson.dumps({**request, "limits": told}), limits.seconds)
        finally:
            if process.poll() is None:
                with contextlib.suppress(ProcessLookupError):
                    os.killpg(process.pid, signal.SIGKILL)
                process.wait()
    finally:
        _free.release()
    return _found(out, process.returncode, name)


def _exchange(process: subprocess.Popen[bytes], request: bytes, seconds: float) -> bytes | None:
    """The answer; None where it does not come in time or is too long."""
    late = threading.Timer(seconds, process.kill)
    late.start()
    try:
        assert process.stdin is not None
        assert process.stdout is not None
        with contextlib.suppress(BrokenPipeError), process.stdin:
            process.stdin.write(request)
        out = process.stdout.read(OUTPUT_MAX + 1)
        process.stdout.close()
        if len(out) > OUTPUT_MAX:
            process.kill()
        process.wait()
    finally:
        late.cancel()
    return out if process.returncode == 0 and len(out) <= OUTPUT_MAX else None


def _found(out: bytes | None, code: int, name: str) -> Any:
    if out is not None:
        answer = orjson.loads(out)
        if answer["ok"]:
            return answer["found"]
        if "what" in answer:
            raise InputError(answer["what"], where=answer["where"], repair=answer["repair"])
    structlog.get_logger("web").warning(f"reading '{name[:80]}' was ended (code {code})", event_for_people=True)
    raise InputError(
        f"'{name[:80]}' takes too much to be read, or is damaged: reading it was ended.",
        where="file",
        repair="Save it again, smaller or simpler, and try once more.",
    )


@contextlib.contextmanager
def received(source: BinaryIO, folder: Path, most: int, name: str) -> Iterator[Path]:
    """An upload as a file of its own for this block, counted while it arrives; InputError where it is too large."""
    folder.mkdir(parents=True, exist_ok=True)
    handle, path = tempfile.mkstemp(dir=folder, suffix=".part")
    temporary, size = Path(path), 0
    try:
        with os.fdopen(handle, "wb") as out:
            while chunk := source.read(_CHUNK):
                size += len(chunk)
                if size > most:
                    raise InputError(f"'{name[:80]}' is larger than {_said(most)}.", where="file")
                out.write(chunk)
        if size == 0:
            raise InputError(f"'{name[:80]}' is empty.", where="file")
        yield temporary
    except OSError as error:
        raise InputError(
            f"'{name[:80]}' cannot be stored: {error.strerror}.", where="file", repair="Make room on the disk."
        ) from error
    finally:
        temporary.unlink(missing_ok=True)


def _said(size: int) -> str:
    return f"{size // 1024**3} GiB" if size >= 1024**3 else f"{size // 1024**2} MiB"
