"""What is typed, read: for fields whose value the browser goes on with."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from heliograph.api import schemas
from heliograph.core.colour.matching import colours_with
from heliograph.core.colour.typed import typed_colours

router = APIRouter(prefix="/api/reading", tags=["reading"])


@router.get("/colour")
def read_colour(text: Annotated[str, Query(max_length=200)]) -> schemas.ColourRead:
    """A colour by name, number or temperature, as bytes."""
    red, green, blue = (int(part * 255.0 + 0.5) for part in typed_colours(text, 1)[0])
    rgb = red, green, blue
    percent = " / ".join(f"{part / 2.55:.1f}".removesuffix(".0") for part in rgb) + " %"
    beside = [{"word": one.word, "colours": one.colours} for one in colours_with(rgb)]
    return schemas.ColourRead.model_validate(
        {"rgb": rgb, "hex": "#" + bytes(rgb).hex(), "percent": percent, "beside": beside}
    )
