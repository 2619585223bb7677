"""The one place where errors become HTTP answers: {"what", "where", "repair"} and a status."""

from __future__ import annotations

import structlog
from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from starlette.responses import JSONResponse

from heliograph.core.errors import (
    AccessError,
    ConflictError,
    HeliographError,
    InputError,
    NotFoundError,
    UnavailableError,
)

STATUS: dict[type[HeliographError], int] = {
    InputError: 422,
    NotFoundError: 404,
    ConflictError: 409,
    AccessError: 403,
    UnavailableError: 503,
}


def _answer(status: int, what: str, where: str, repair: str) -> JSONResponse:
    return JSONResponse({"what": what, "where": where, "repair": repair}, status_code=status)


def add_fault_handlers(app: FastAPI) -> None:
    log = structlog.get_logger("web")

    @app.exception_handler(HeliographError)
    def _ours(_request: Request, error: HeliographError) -> JSONResponse:
        return _answer(STATUS.get(type(error), 500), error.what, error.where, error.repair)

    @app.exception_handler(RequestValidationError)
    def _shape(_request: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"][1:])
        return _answer(422, f"{where or 'The request'}: {first['msg']}.", where, "")

    @app.exception_handler(Exception)
    def _fault(request: Request, error: Exception) -> JSONResponse:
        log.exception("a request failed", path=request.url.path, exc_info=error)
        return _answer(500, "Something went wrong in Heliograph itself; it is in the log.", "", "")
