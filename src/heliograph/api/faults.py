"""The one place where errors become HTTP answers: {"what", "where", "repair"} and a status."""

from __future__ import annotations

import structlog
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from pydantic import ValidationError
from starlette.responses import JSONResponse

from heliograph.api.schemas.commands import COMMAND_NAMES
from heliograph.api.sentences import shape_fault
from heliograph.core.errors import (
    AccessError,
    ConflictError,
    HeliographError,
    InputError,
    InternalError,
    NotFoundError,
    UnavailableError,
)

STATUS: dict[type[HeliographError], int] = {
    InputError: 422,
    NotFoundError: 404,
    ConflictError: 409,
    AccessError: 403,
    UnavailableError: 503,
    InternalError: 500,
}


def sentence_of(error: Exception) -> dict[str, str]:
    """An error as people are told: {"what", "where", "repair"}."""
    if isinstance(error, HeliographError):
        return {"what": error.what, "where": error.where, "repair": error.repair}
    if isinstance(error, ValidationError | RequestValidationError):
        first = error.errors()[0]
        parts = first["loc"][1:] if isinstance(error, RequestValidationError) else first["loc"]
        if parts and parts[0] in COMMAND_NAMES:
            parts = parts[1:]
        where = ".".join(str(part) for part in parts)
        named = next((str(part) for part in reversed(parts) if not str(part).isdigit()), "")
        which = next((int(part) + 1 for part in parts if str(part).isdigit()), 0)
        named = f"{named} of number {which}" if which else named
        what, repair = shape_fault(first["type"], named, first.get("input"), first.get("ctx", {}), first["msg"])
        return {"what": what, "where": where, "repair": repair}
    return {"what": "Something went wrong in Heliograph itself; it is in the log.", "where": "", "repair": ""}


def add_fault_handlers(app: FastAPI) -> None:
    log = structlog.get_logger("web")

    @app.exception_handler(HeliographError)
    def _ours(_request: Request, error: HeliographError) -> JSONResponse:
        return JSONResponse(sentence_of(error), status_code=STATUS.get(type(error), 500))

    @app.exception_handler(RequestValidationError)
    def _shape(_request: Request, error: RequestValidationError) -> JSONResponse:
        return JSONResponse(sentence_of(error), status_code=422)

    @app.exception_handler(Exception)
    def _fault(request: Request, error: Exception) -> JSONResponse:
        log.exception("a request failed", path=request.url.path, exc_info=error)
        return JSONResponse(sentence_of(error), status_code=500)
