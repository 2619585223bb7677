"""The web process: `python -m heliograph.api.process --data DIR`. Options come as JSON in HELIOGRAPH_WEB."""

from __future__ import annotations

import argparse
import gc
import os
from pathlib import Path

import orjson
import uvicorn

from heliograph.api.app import create_app
from heliograph.api.settings import Settings
from heliograph.ipc.log import start_log
from heliograph.ipc.service_user import drop_rights
from heliograph.store.database import open_database

FIRST_OPEN_PORT = 1024
"""Ports below need root, so this process stays root for them."""

GARBAGE_THRESHOLDS = (50_000, 20, 50)
"""Reading a large show makes 100,000s of objects. By default that set off collections of everything in the middle of
it: now and then a show of 2,000 fixtures was read in 220 ms instead of 65 (measured with bench/rig.py)."""


def main() -> None:
    parser = argparse.ArgumentParser(description="Heliograph's web process")
    parser.add_argument("--data", type=Path, required=True)
    data: Path = parser.parse_args().data
    options = orjson.loads(os.environ.get("HELIOGRAPH_WEB", "{}"))
    settings = Settings(
        data=data,
        host=options.get("host", "127.0.0.1"),
        port=int(options.get("port", 7650)),
        asks_pass=bool(options.get("asks_pass", False)),
        own_token=options.get("own_token", ""),
        certificate=Path(options["certificate"]) if options.get("certificate") else None,
        key=Path(options["key"]) if options.get("key") else None,
        cards=tuple(options.get("cards", ())),
        feed_hosts=tuple(options.get("feed_hosts", ())),
        dist=Path(options["dist"]) if options.get("dist") else None,
        allowed_hosts=tuple(options.get("allowed_hosts", ())),
    )
    log = start_log("web", data / "log")
    if settings.port >= FIRST_OPEN_PORT:
        drop_rights(data)
    open_database(**orjson.loads((data / "run" / "database.json").read_bytes()))
    log.info("web server started", event_for_people=True)
    gc.freeze()
    gc.set_threshold(*GARBAGE_THRESHOLDS)
    uvicorn.run(
        create_app(settings),
        host=settings.host,
        port=settings.port,
        log_config=None,
        access_log=False,
        ws_max_size=1 << 20,
        timeout_graceful_shutdown=2,
        server_header=False,
        ssl_certfile=settings.certificate,
        ssl_keyfile=settings.key,
    )


if __name__ == "__main__":
    main()
