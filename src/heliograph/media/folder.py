"""A folder of pictures as a clip: kept as one ZIP archive, its pictures in the order people count in."""

from __future__ import annotations

import contextlib
import io
import re
import zipfile
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import BinaryIO

import orjson
from PIL import Image, UnidentifiedImageError

from heliograph.core.errors import InputError

SUFFIXES = (".png", ".jpg", ".jpeg", ".webp")
FORMATS = ("PNG", "JPEG", "WEBP")
PICTURES_MAX = 20_000
PICTURE_BYTES_MAX = 64 * 1024**2
"""Of one picture, also unpacked: what a file claims is not believed."""

PIXELS_MAX = 40_000_000_000
"""Of all pictures together: 20,000 of 1080p, a quarter of an hour of decoding."""

DAMAGED = (OSError, EOFError, ValueError, SyntaxError, zipfile.BadZipFile, InputError)
RATE = 25.0
RATES = (0.1, 120.0)
SIDE_MAX = 4_096

_DIGITS = re.compile(r"(\d+)")


def is_folder(path: Path) -> bool:
    """Whether it is an archive, by its first bytes."""
    try:
        with open(path, "rb") as file:
            return file.read(4) == b"PK\x03\x04"
    except OSError:
        return False


def counted(name: str) -> list[tuple[int, int, str]]:
    """A key by which 9.png comes before 10.png."""
    return [(1, int(part), "") if part.isdigit() else (0, 0, part.lower()) for part in _DIGITS.split(name) if part]


def pack(pictures: Sequence[tuple[str, BinaryIO]], target: BinaryIO, rate: float) -> None:
    """Writes the archive of pictures by their names; they are packed already, so they are stored as they are."""
    if not RATES[0] <= rate <= RATES[1]:
        raise InputError(f"{rate:g} pictures a second are outside {RATES[0]:g} to {RATES[1]:g}.", where="rate")
    with zipfile.ZipFile(target, "w", zipfile.ZIP_STORED) as archive:
        for number, (name, file) in enumerate(sorted(pictures, key=lambda one: counted(one[0]))):
            raw = file.read(PICTURE_BYTES_MAX + 1)
            if len(raw) > PICTURE_BYTES_MAX:
                raise InputError(f"'{name}' has more than {PICTURE_BYTES_MAX // 1024**2} MB.", where="file")
            archive.writestr(f"{number:06d} {name}", raw)
        archive.comment = orjson.dumps({"rate": rate})


class PictureFolder:
    """Its pictures, read one at a time. InputError where it is none that can be used; `name` is what it is called."""

    def __init__(self, path: Path, name: str) -> None:
        self._name = name
        try:
            self._archive = zipfile.ZipFile(path)
        except (zipfile.BadZipFile, OSError, ValueError) as error:
            raise InputError(
                f"'{name}' cannot be read as an archive.", where="file", repair="Make the ZIP anew."
            ) from error
        self.entries = sorted(
            (one for one in self._archive.infolist() if _is_picture(one.filename)),
            key=lambda one: counted(one.filename),
        )
        if not self.entries:
            self._archive.close()
            raise InputError(f"'{name}' holds no picture.", where="file", repair="Put PNG, JPEG or WebP files into it.")
        if len(self.entries) > PICTURES_MAX:
            self._archive.close()
            raise InputError(f"'{name}' holds {len(self.entries)} pictures: {PICTURES_MAX} are the most.", where="file")

    def __enter__(self) -> PictureFolder:
        return self

    def __exit__(self, *_: object) -> None:
        self._archive.close()

    @property
    def rate(self) -> float:
        """Pictures a second, as they were put together; 25 where nobody said."""
        with contextlib.suppress(ValueError, TypeError, AttributeError):
            rate = float(orjson.loads(self._archive.comment).get("rate", RATE))
            if RATES[0] <= rate <= RATES[1]:
                return rate
        return RATE

    def facts(self) -> tuple[int, int, bool]:
        """(width, height, whether any has clear parts): all of one size, else InputError that names the first which is
        not."""
        first: tuple[int, int] | None = None
        clear = False
        for entry in self.entries:
            with self._open(entry) as image:
                if first is None:
                    first = image.size
                    if max(first) > SIDE_MAX:
                        raise self._refused(f"'{entry.filename}' is {first[0]} x {first[1]}: {SIDE_MAX} a side at most")
                    if first[0] * first[1] * len(self.entries) > PIXELS_MAX:
                        raise self._refused(f"{len(self.entries)} pictures of {first[0]} x {first[1]} are too many")
                if image.size != first:
                    size, wanted = f"{image.width} x {image.height}", f"{first[0]} x {first[1]}"
                    raise self._refused(f"'{entry.filename}' is {size}, the first one is {wanted}")
                clear = clear or image.has_transparency_data
        assert first is not None  # there is one
        return first[0], first[1], clear

    def pictures(self, start: int, clear: bool) -> Iterator[tuple[int, Image.Image]]:
        """(index, RGB or RGBA) from one on; one that cannot be read is left out."""
        for index in range(start, len(self.entries)):
            made = None
            with contextlib.suppress(*DAMAGED), self._open(self.entries[index]) as image:
                made = image.convert("RGBA" if clear else "RGB")
            if made is not None:
                yield index, made

    def _open(self, entry: zipfile.ZipInfo) -> Image.Image:
        with self._archive.open(entry) as packed:
            raw = packed.read(PICTURE_BYTES_MAX + 1)
        if len(raw) > PICTURE_BYTES_MAX:
            raise self._refused(f"'{entry.filename}' has more than {PICTURE_BYTES_MAX // 1024**2} MB")
        try:
            return Image.open(io.BytesIO(raw), formats=FORMATS)
        except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
            raise self._refused(f"'{entry.filename}' cannot be read as a picture") from error

    def _refused(self, sentence: str) -> InputError:
        return InputError(f"{sentence}, in '{self._name}'.", where="file", repair="Give pictures of one size.")


def _is_picture(name: str) -> bool:
    last = name.replace("\\", "/").rsplit("/", 1)[-1]
    hidden = last.startswith(".") or "__MACOSX" in name
    return not hidden and last.lower().endswith(SUFFIXES)
