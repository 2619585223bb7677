"""A matrix as SVG: a rectangle for each cell, named by `data-cell`. In: rectangles, circles and single points.

Read with svgelements, which knows transforms, groups and units; checked by defusedxml first, so that no document can
make it expand entities.
"""

from __future__ import annotations

import io
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from xml.etree.ElementTree import Element
from xml.sax.saxutils import escape, quoteattr

import defusedxml.ElementTree
from defusedxml.common import DefusedXmlException
from svgelements import SVG, Circle, Ellipse, Path, Rect

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import Placement

SQUARE = 10
"""Units a square is drawn with."""

BYTES_MAX = 32 * 1024**2
ELEMENTS_MAX = 300_000
"""Elements with everything that is used written out: a matrix of 250,000 squares drawn one by one."""

DEPTH_MAX = 100
REPAIR = "Save it as plain SVG with a rectangle or a circle for each lamp."


UNREADABLE = (
    DefusedXmlException,
    defusedxml.ElementTree.ParseError,
    AttributeError,
    IndexError,
    KeyError,
    TypeError,
    ValueError,
    ZeroDivisionError,
)
"""What the libraries raise on damaged or unusual documents (some of it found by fuzzing)."""


@dataclass(frozen=True, slots=True)
class Drawn:
    """One shape: its box (a point where it has no size), and the cell it is named after, "" where it is not."""

    x: float
    y: float
    w: float
    h: float
    cell: str


def write_svg(
    placements: Sequence[Placement], width: int, height: int, name: str, says: Callable[[Placement], str]
) -> str:
    """The squares as a drawing, in reading order."""
    lines = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width * SQUARE} {height * SQUARE}" '
        f'width="{width * SQUARE}" height="{height * SQUARE}">',
        f"<title>{escape(name)}</title>",
    ]
    for one in sorted(placements, key=lambda p: (p.y, p.x)):
        x, y, w, h = (f"{value * SQUARE:.6g}" for value in (one.x, one.y, one.w, one.h))
        lines.append(
            f'<rect x="{x}" y="{y}" width="{w}" height="{h}" data-cell={quoteattr(says(one))} '
            'fill="none" stroke="black" stroke-width="0.5"/>'
        )
    return "\n".join([*lines, "</svg>", ""])


def read_svg(data: bytes) -> list[Drawn]:
    """The shapes in the order of the document; InputError with a sentence where there is none to read."""
    if len(data) > BYTES_MAX:
        raise InputError(f"The drawing has {len(data):,} bytes: {BYTES_MAX:,} are the most.", where="file")
    try:
        root = defusedxml.ElementTree.fromstring(data, forbid_dtd=False)
        if not root.tag.endswith("svg"):
            raise InputError(f"This is '{root.tag[-40:]}', no SVG.", where="file", repair=REPAIR)
        _check_work(root)
        found = _shapes(SVG.parse(io.BytesIO(data), reify=True, ppi=96))
    except UNREADABLE as error:
        raise InputError(f"The drawing cannot be read: {str(error)[:120]}.", where="file", repair=REPAIR) from error
    if not found:
        raise InputError("The drawing has no rectangle and no circle.", where="file", repair=REPAIR)
    return found


def _check_work(root: Element) -> None:
    """Refuses a drawing that grows too large when its `use` elements are written out, or that uses itself."""
    by_id = {str(one.get("id")): one for one in root.iter() if one.get("id")}
    known: dict[Element, int] = {}

    def size(element: Element, depth: int, above: tuple[Element, ...]) -> int:
        if depth > DEPTH_MAX or element in above:
            raise InputError("The drawing is nested too deeply, or uses itself.", where="file", repair=REPAIR)
        if element in known:
            return known[element]
        total = 1
        for child in element:
            total += size(child, depth + 1, (*above, element))
        if str(element.tag).endswith("use"):
            href = element.get("href") or element.get("{http://www.w3.org/1999/xlink}href") or ""
            used = by_id.get(href.removeprefix("#"))
            if used is not None:
                total += size(used, depth + 1, (*above, element))
        if total > ELEMENTS_MAX:
            raise InputError(f"The drawing grows to more than {ELEMENTS_MAX:,} elements.", where="file", repair=REPAIR)
        known[element] = total
        return total

    size(root, 0, ())


def _shapes(document: SVG) -> list[Drawn]:
    found = []
    for element in document.elements():
        if not isinstance(element, (Rect, Circle, Ellipse, Path)):
            continue
        box = element.bbox()
        if box is None or not all(math.isfinite(value) for value in box):
            continue
        left, top, right, bottom = (float(value) for value in box)
        named = str((element.values or {}).get("data-cell") or "")
        if isinstance(element, (Circle, Ellipse)):
            found.append(Drawn((left + right) / 2, (top + bottom) / 2, 0.0, 0.0, named))
        else:
            found.append(Drawn(left, top, right - left, bottom - top, named))
    return found
