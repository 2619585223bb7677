"""Requests written as plain dictionaries, checked and answered by the schema of the processes' own messages."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import msgspec

from heliograph.core.errors import InputError
from heliograph.ipc.control import ControlClient
from heliograph.ipc.messages.engine import EngineRequest

Plain = dict[str, Any]


def request_of(message: Plain, requests: Any = EngineRequest) -> Any:
    """A request by its words; InputError where the schema knows none like it, as the process itself would answer."""
    try:
        return msgspec.convert(message, requests)
    except msgspec.ValidationError as error:
        raise InputError(f"That request is not known here: {error}.", where="do") from error


def answered(answer: Callable[[Any, list[int]], Any], message: Plain, requests: Any = EngineRequest) -> Plain:
    """What a process's own handler answers, as it would leave it: through bytes."""
    told = answer(request_of(message, requests), [])
    plain: Plain = {} if told is None else msgspec.json.decode(msgspec.json.encode(told))
    return plain


class PlainClient:
    """The engine of a running application, asked in plain dictionaries."""

    def __init__(self, path: str) -> None:
        self._client = ControlClient(path, "engine")

    def ask(self, message: Plain) -> Plain:
        plain: Plain = msgspec.to_builtins(self._client.ask(request_of(message)))
        return plain
