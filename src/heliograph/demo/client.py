"""A few lines of HTTP client for programs of ours that use the API as a browser would. Standard library only."""

from __future__ import annotations

import json
import ssl
import urllib.error
import urllib.request
from http import HTTPStatus
from pathlib import Path
from typing import Any
from uuid import uuid4

from heliograph.core.errors import HeliographError, UnavailableError
from heliograph.network.entrance import COOKIE


class ApiClient:
    """Calls one running Heliograph; raises HeliographError with the server's own sentence,
    UnavailableError where a part of it is away."""

    def __init__(
        self,
        address: str,
        session: str = "",
        person: str = "demo",
        name: str = "The demo",
        context: ssl.SSLContext | None = None,
    ) -> None:
        """`session`: the token of one's session where a pass code is asked; `context` for HTTPS."""
        self._base, self._context = address.rstrip("/"), context
        self._headers = {"x-person": person, "x-person-name": name}
        if session:
            self._headers["cookie"] = f"{COOKIE}={session}"

    def call(self, method: str, path: str, body: dict[str, Any] | None = None) -> Any:
        data = json.dumps(body).encode() if body is not None else None
        return self._send(method, path, data, "application/json")

    def upload(self, path: str, key: str, name: str, file: Path, **fields: str) -> Any:
        """Sends a file as a form with its id and further fields."""
        mark = uuid4().hex
        values = {"id": key, **fields} if key else fields
        head = "".join(
            f'--{mark}\r\ncontent-disposition: form-data; name="{field}"\r\n\r\n{value}\r\n'
            for field, value in values.items()
        ) + (
            f'--{mark}\r\ncontent-disposition: form-data; name="file"; filename="{name}"\r\n'
            "content-type: application/octet-stream\r\n\r\n"
        )
        data = head.encode() + file.read_bytes() + f"\r\n--{mark}--\r\n".encode()
        return self._send("POST", path, data, f"multipart/form-data; boundary={mark}")

    def _send(self, method: str, path: str, data: bytes | None, kind: str) -> Any:
        request = urllib.request.Request(self._base + path, data=data, method=method, headers=self._headers)
        if data is not None:
            request.add_header("content-type", kind)
        try:
            with urllib.request.urlopen(request, timeout=120, context=self._context) as answer:
                raw = answer.read()
        except urllib.error.HTTPError as error:
            told = json.loads(error.read() or b"{}")
            away = error.code == HTTPStatus.SERVICE_UNAVAILABLE
            raise (UnavailableError if away else HeliographError)(
                told.get("what", str(error)), where=told.get("where", ""), repair=told.get("repair", "")
            ) from error
        return json.loads(raw) if raw else None
