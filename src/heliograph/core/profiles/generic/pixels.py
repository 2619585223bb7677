"""Strips, boards, rings and bars of many cells."""

from __future__ import annotations

from heliograph.core.profiles.generic.parts import STROBE_DIMMER, Data, block, letters, mode, profile, wide

STRIP_PIXELS = (16, 25, 30, 32, 50, 60, 64, 72, 100, 128, 144, 150, 170)
LONG_STRIP_PIXELS = (200, 288, 300, 340, 510, 600, 1000)
RGBW_STRIP_PIXELS = (16, 30, 60, 72, 120, 128)
BAR_CELLS = (4, 6, 8, 10, 12, 16)


def strip_mode(pixels: int, runs_on: bool = False, order: str = "RGB") -> Data:
    """`pixels` cells without shared channels."""
    return mode(f"{pixels} {order}", block("Pixels", [], pixels, letters(order), runs_on=runs_on))


def bar_mode(cells: int, order: str) -> Data:
    """Dimmer and strobe for all, then the cells."""
    return mode(f"{cells} {order}, dimmer and strobe", block("Bar", letters("DS"), cells, letters(order)))


def grid_mode(columns: int, rows: int, order: str = "RGB") -> Data:
    """A board whose pixels lie in rows."""
    count = columns * rows
    layout = {"kind": "grid", "columns": columns}
    name = f"{columns} x {rows} {order}"
    return mode(name, block("Pixels", [], count, letters(order), runs_on=count * len(order) > 512, layout=layout))


def tube_mode(pixels: int) -> Data:
    """Pixels of RGB and white, each with a strobe of its own after its colours."""
    return mode(f"{pixels} RGBW, a strobe each", block("Pixels", [], pixels, letters("RGBWS")))


PIXELS: tuple[Data, ...] = (
    profile(
        "RGB pixel strip",
        "strip",
        *(strip_mode(n) for n in STRIP_PIXELS),
        *(strip_mode(n, True) for n in LONG_STRIP_PIXELS),
    ),
    profile("GRB pixel strip", "strip", *(strip_mode(n, n > 170, "GRB") for n in (30, 60, 72, 144, 150, 170, 300))),
    profile("BGR pixel strip", "strip", *(strip_mode(n, n > 170, "BGR") for n in (30, 60, 72, 144, 150, 170, 300))),
    profile("RGBW pixel strip", "strip", *(strip_mode(n, False, "RGBW") for n in RGBW_STRIP_PIXELS)),
    profile("White pixel strip", "strip", *(strip_mode(n, False, "W") for n in (16, 30, 60, 100, 144, 288))),
    profile(
        "Fine RGB pixel strip",
        "strip",
        *(mode(f"{n} RGB, 16 bit", block("Pixels", [], n, wide("RGB"))) for n in (25, 50, 85)),
    ),
    profile("Pixel curtain", "other", grid_mode(10, 10), grid_mode(20, 20), grid_mode(30, 15)),
    profile(
        "Pixel board", "other", grid_mode(8, 8), grid_mode(16, 16), grid_mode(8, 8, "GRB"), grid_mode(8, 8, "RGBW")
    ),
    profile(
        "Pixel ring",
        "other",
        *(mode(f"{n} RGB", block("Ring", [], n, letters("RGB"), layout={"kind": "ring"})) for n in (8, 12, 16, 24, 60)),
    ),
    profile("Cell bar", "bar", *(bar_mode(n, order) for order in ("RGB", "RGBW", "RGBA") for n in BAR_CELLS)),
    profile(
        "Cell bar without dimmer",
        "bar",
        *(strip_mode(n, False, order) for order in ("RGB", "RGBW", "RGBAWU") for n in BAR_CELLS),
    ),
    profile(
        "Bar with a dimmer a cell",
        "bar",
        *(mode(f"{n} x dimmer, RGB", block("Cells", [], n, letters("DRGB"))) for n in (4, 8, 12)),
        mode("8 x dimmer and strobe in one, RGB", block("Cells", [], 8, [STROBE_DIMMER, *letters("RGB")])),
    ),
    profile("White cell bar", "bar", *(strip_mode(n, False, "W") for n in (5, 8, 10, 16))),
    profile("Pixel tube", "bar", tube_mode(24), tube_mode(48), strip_mode(20), strip_mode(40, False, "RGBW")),
    profile(
        "Strobe with plates",
        "bar",
        mode(
            "9 plates, 18 line cells",
            block("Plates", [], 9, letters("RGB")),
            block("Line", [], 18, letters("W")),
            block("Both", letters("DS")),
        ),
    ),
)
