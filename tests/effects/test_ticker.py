"""Ticker: letters on lamps. Smooth ones against Pillow drawing the same text here; points against letters
written out."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont

from heliograph.effects import EFFECTS, Moment, complete_params
from heliograph.effects.lettering import FONTS, lettered, runs_leftward
from heliograph.effects.orders import canvas_for
from heliograph.effects.pixel_font import drawn
from heliograph.effects.telling import tells, told

TICKER = EFFECTS["Ticker"]
AT = 1_764_352_800  # 2025-11-28 18:00:00 by the clock on the wall


def painted(width: int, rows: int, phase: float, **params: Any) -> Any:
    """(rows, width): how much of each square is covered."""
    y, x = np.mgrid[0:rows, 0:width].astype(np.float32)
    canvas = canvas_for(x.ravel() + np.float32(0.5), y.ravel() + np.float32(0.5), width, rows)
    whole = complete_params(TICKER, params)
    prepared = TICKER.prepare(canvas, TICKER.choices(whole), 0)
    return np.asarray(TICKER.paint(prepared, slice(0, canvas.count), Moment(phase, whole)).cover).reshape(rows, width)


def test_seven_rows_hold_letters_of_points() -> None:
    """T and 7 in points, as they are to be read; a column between letters."""
    wanted = ["#####.#####", "..#.......#", "..#......#.", *["..#.....#.."] * 4]
    shown = painted(11, 7, 0.0, text="T7", moves="stands")
    assert ["".join("#" if one else "." for one in row) for row in shown > 0.5] == wanted


@pytest.mark.parametrize(
    "text",
    ["Skerry Point", "\u05e9\u05dc\u05d5\u05dd", "\u0645\u0631\u062d\u0628\u0627", "\u65e5\u672c", "\u0395\u03bb"],
)
def test_sixteen_rows_and_more_are_as_pillow_draws_them(text: str) -> None:
    path = next(one for one in FONTS if one.exists() and (one.name != "DejaVuSans.ttf" or text != "\u65e5\u672c"))
    shown = painted(300, 24, 0.0, text=text, moves="stands")
    for size in range(36, 5, -1):  # the largest that fits 24 rows
        font = ImageFont.truetype(str(path), size, layout_engine=ImageFont.Layout.RAQM)
        left, top, right, bottom = font.getbbox(text)
        if bottom - top <= 24:
            break
    image = Image.new("L", (300, 24))
    at = (300 - int(right - left)) // 2, (24 - int(bottom - top)) // 2
    ImageDraw.Draw(image).text((at[0] - left, at[1] - top), text, fill=255, font=font)
    assert np.abs(shown - np.asarray(image) / 255).max() < 1 / 255
    assert shown.max() > 0.7


def test_a_text_goes_by_once_a_cycle_and_comes_again() -> None:
    width = drawn("Pier").shape[1]  # type: ignore[union-attr]  # every letter of it is drawn
    gap = round(20 * 0.6)
    whole = width + gap
    assert (painted(20, 7, 0.0, text="Pier") == painted(20, 7, 1.0, text="Pier")).all()
    later = painted(20, 7, 3 / whole, text="Pier")
    assert (painted(20, 7, 0.0, text="Pier")[:, 3:] == later[:, :-3]).all()  # three columns to the left
    ink = [painted(20, 7, n / whole, text="Pier").sum() for n in range(whole)]
    assert sum(ink) == pytest.approx(20 * np.asarray(drawn("Pier")).sum())  # each point crosses each column once


def test_what_is_read_from_the_right_comes_from_the_left() -> None:
    text = "\u05e9\u05dc\u05d5\u05dd"
    assert runs_leftward(text)
    assert not runs_leftward("Pier 3 " + text)
    whole = lettered(text, 16).shape[1] + round(30 * 0.6)
    first, later = painted(30, 16, 0.2, text=text), painted(30, 16, 0.2 + 2 / whole, text=text)
    assert np.allclose(first[:, :-2], later[:, 2:])


def test_height_and_too_long_a_text() -> None:
    half = painted(40, 14, 0.0, text="Quay", moves="stands", height=50)
    assert (half[:3] == 0).all()
    assert (half[10:] == 0).all()
    assert half[3:10].any()
    long = painted(12, 7, 0.0, text="Breakwater", moves="stands")
    assert (long == np.asarray(drawn("Breakwater"))[:, :12]).all()


def test_accents_and_empty_texts() -> None:
    plain, marked = np.asarray(drawn("e")), np.asarray(drawn("\u00e9"))
    assert (plain[2:] == marked[2:]).all()
    assert marked[:2].any()
    for text in ("", "   ", "\U0001f300", "a\nb"):
        assert painted(20, 7, 0.3, text=text).shape == (7, 20)


@pytest.mark.parametrize("text", ["W" * 500, "\u65e5\u672c" * 250, " ".join(["Skerry"] * 70)])
def test_a_text_too_large_is_cut_and_never_fails(text: str) -> None:
    for rows in (3, 7, 200, 1000):
        assert lettered(text, rows).size <= 4_000_000


def test_a_text_tells_the_time_the_date_and_what_is_left() -> None:
    assert told("{time} on {date}", AT) == "18:00 on 28 November 2025"
    assert told("{countdown 21:30} {countdown 18:05}", AT) == "3:30:00 5:00"
    assert told("{countdown 17:59}", AT) == "23:59:00"
    for kept in ("{countdown}", "{countdown 29:00}", "{name}", "{"):
        assert told(kept, AT) == kept
    assert not tells("plain {text}")
    assert tells("it is {time}")
