"""Prints the API's OpenAPI description: `python -m heliograph.api.describe`. The typed client is made from it."""

from __future__ import annotations

import json
import sys
from pathlib import Path

from heliograph.api.app import create_app
from heliograph.api.settings import Settings


def description() -> str:
    return json.dumps(create_app(Settings(Path("/nonexistent"))).openapi(), indent=1, sort_keys=True) + "\n"


if __name__ == "__main__":
    sys.stdout.write(description())
