"""A picture behind a plan: whatever it was, it is kept as PNG of at most 4,096 a side."""

from __future__ import annotations

from pathlib import Path

from PIL import Image

from heliograph.core.errors import InputError
from heliograph.media.probe import PICTURE_FORMATS, SIDE_MAX

PIXELS_MAX = 200_000_000


def write_png(source: Path, target: Path, name: str) -> float:
    """Writes the picture as PNG; its height over its width. InputError where it is of no format that is read."""
    limit, Image.MAX_IMAGE_PIXELS = Image.MAX_IMAGE_PIXELS, None
    try:
        with Image.open(source, formats=PICTURE_FORMATS) as image:
            if image.width * image.height > PIXELS_MAX:
                raise InputError(
                    f"'{name}' has {image.width} x {image.height} pixels: {PIXELS_MAX:,} are the most.", where="file"
                )
            image.draft("RGB", (SIDE_MAX, SIDE_MAX))
            kept = image.convert("RGBA" if "A" in image.getbands() else "RGB")
    except (OSError, ValueError, SyntaxError) as error:
        raise InputError(
            f"'{name}' cannot be read as a picture.", where="file", repair="Choose a PNG, JPEG or WebP file."
        ) from error
    finally:
        Image.MAX_IMAGE_PIXELS = limit
    kept.thumbnail((SIDE_MAX, SIDE_MAX))
    kept.save(target, "PNG")
    return kept.height / kept.width
