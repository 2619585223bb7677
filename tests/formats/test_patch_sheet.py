"""The patch sheet: out and in without loss, ten faults ten sentences, and nothing that breaks the reader."""

from __future__ import annotations

import csv
import io
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from heliograph.core.patch.blocks import places_of, stored_places
from heliograph.core.profiles.profile import mode_from_json
from heliograph.formats.patch_sheet import COLUMNS, read_sheet, write_sheet
from tests.conftest import RunningApp

RGB = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]


HEAD = {
    "name": "3 blocks",
    "blocks": [
        {"name": "Base", "shared": [{"attribute": "Pan"}, {"attribute": "Tilt"}]},
        {"name": "Halo", "shared": [{"attribute": "Gobo1"}]},
        {"name": "Ring", "cell_count": 7, "cell_channels": RGB, "state": "own"},
    ],
}


def profile(key: str, maker: str, name: str, cells: int) -> dict[str, Any]:
    block = {"name": "b", "cell_count": cells, "cell_channels": RGB}
    return {"id": key, "maker": maker, "name": name, "modes": [{"name": f"{cells} RGB", "blocks": [block]}]}


PROFILES = [
    profile("p1", "Generic", "RGB lamp", 1),
    profile("p2", "Fulmar Works", "Strip", 50),
    profile("p3", "Tern & Daughter", "Strip", 16),
]

text = st.text(st.characters(exclude_categories=("Cs", "Cc")), min_size=1, max_size=40).map(str.strip).filter(bool)
fixtures = st.lists(
    st.fixed_dictionaries(
        {
            "number": st.integers(1, 999_999),
            "name": text,
            "profile": st.sampled_from(["p1", "p2", "p3"]),
            "universe": st.none() | st.integers(1, 63_999),
            "channel": st.integers(1, 362),
            "extra": st.sampled_from(["replace", "add", "match", "leave"]),
            "response": st.sampled_from(["as is", "gamma 2.2", "CIE lightness"]),
        }
    ),
    max_size=8,
    unique_by=lambda one: one["number"],
)


@given(fixtures)
def test_out_and_in_without_loss(some: list[dict[str, Any]]) -> None:
    modes = {p["id"]: p["modes"][0]["name"] for p in PROFILES}
    some = [{**one, "mode": modes[one["profile"]], "blocks": []} for one in some]
    sheet = read_sheet(write_sheet(some, PROFILES).encode(), PROFILES)
    assert sheet.faults == ()
    for one, row in zip(some, sheet.rows, strict=True):
        assert (row.number, row.name, row.profile, row.mode) == tuple(
            one[k] for k in ("number", "name", "profile", "mode")
        )
        assert (row.extra, row.response) == (one["extra"], one["response"])
        where = (row.address.universe, row.address.channel) if row.address else (None, one["channel"])
        assert where == (one["universe"], one["channel"])


# One fault a row: (row, column, what is said).
TEN = [
    ("x1,A,,RGB lamp,,U1.1,,,", 2, "number", "'x1' is not a fixture number. Numbers are 1 to 999999."),
    ("0,A,,RGB lamp,,U1.1,,,", 3, "number", "'0' is not a fixture number."),
    ("3,A,,Nosuch,,U1.1,,,", 4, "profile", "There is no profile 'Nosuch'."),
    ("4,A,,Strip,,U1.1,,,", 5, "maker", "'Strip' is made by Fulmar Works, Tern & Daughter: say which."),
    ("5,A,Kittiwake,Strip,,U1.1,,,", 6, "maker", "There is no 'Strip' by Kittiwake."),
    ("6,A,,RGB lamp,9 RGB,U1.1,,,", 7, "mode", "RGB lamp has no mode '9 RGB'. It has: 1 RGB."),
    (
        "7,A,,RGB lamp,,U1.513,,,",
        8,
        "address",
        "U1.513: a universe has channels 1 to 512. Counting on, that channel is U2.1.",
    ),
    ("8,A,Fulmar Works,Strip,,U1.400,,,", 9, "address", "U1.400 + 150 channels ends at 549: a universe has 512."),
    ("9,A,,RGB lamp,,U1.1,,bleach,", 10, "extra", "'bleach' is none of replace, add, match, leave."),
    ("10,A,,RGB lamp,,U1.1,,,square", 11, "response", "'square' is none of as is, gamma 2.2, CIE lightness."),
]


@given(
    st.sampled_from(["after", ""]),
    st.sampled_from(["after", "", "own"]),
    st.sampled_from(["after", "", "own", "usual"]),
    st.integers(1, 63_999),
)
def test_blocks_go_out_and_in_without_loss(base: str, halo: str, ring: str, universe: int) -> None:
    heads = [{"id": "h", "maker": "Kittiwake Optics", "name": "Ring 12", "modes": [HEAD]}]
    lies = [f"U{universe}.11" if one == "own" else one for one in (base, halo, ring)]
    stored = stored_places(mode_from_json(HEAD), places_of(mode_from_json(HEAD), lies)) if ring != "usual" else []
    if base == halo == ring == "":
        return
    head = {"number": 701, "name": "Signal", "profile": "h", "mode": "3 blocks", "universe": 9, "channel": 1}
    head |= {"extra": "add", "response": "as is", "blocks": stored}
    sheet = read_sheet(write_sheet([head], heads).encode(), heads)
    assert sheet.faults == ()
    assert sheet.rows[0].blocks == stored


@pytest.mark.parametrize(
    ("said", "says"),
    [
        ("Lid off", "'Lid off' names no block of mode 3 blocks. It has: Base, Halo, Ring."),
        ("Base at U3.1", "Base is the first block: it lies at the fixture's address, or nowhere."),
        ("without Base; without Halo; without Ring", "Every block would be nowhere (Base, Halo, Ring)."),
        ("Base off; Halo off; Ring off", "Every block would be nowhere (Base, Halo, Ring)."),  # the older writing
        ("Ring after Base", "Ring cannot lie 'after Base'. Write 'after Halo'."),
        ("Ring at U3.510", "U3.510 + 21 channels ends at 530: a universe has 512."),
    ],
)
def test_what_is_wrong_with_blocks_is_said(said: str, says: str) -> None:
    heads = [{"id": "h", "maker": "Kittiwake Optics", "name": "Ring 12", "modes": [HEAD]}]
    [fault] = read_sheet(f"number,profile,blocks\n1,Ring 12,{said}".encode(), heads).faults
    assert (fault.row, fault.column) == (2, "blocks")
    assert fault.sentence.startswith(says)


def ten() -> bytes:
    return "\n".join([",".join(COLUMNS), *(row for row, *_ in TEN)]).encode()


def test_ten_faults_get_ten_sentences_with_row_and_column() -> None:
    sheet = read_sheet(ten(), PROFILES)
    assert len(sheet.faults) == 10
    for fault, (_, row, column, says) in zip(sheet.faults, TEN, strict=True):
        assert (fault.row, fault.column) == (row, column)
        assert fault.sentence.startswith(says)


@pytest.mark.parametrize(
    ("raw", "says"),
    [
        (b"", "The sheet is empty."),
        (b"\xff\xfe1", "Byte 0 is not UTF-8."),
        (b"number,profile,colour\n1,RGB lamp,red", "There is no column 'colour'."),
        (b"name\nA", "The column 'number' is missing."),
        (b"number,profile,number\n1,RGB lamp,1", "The column 'number' stands there twice."),
        (b'number,profile\n1,"RGB lamp', "is not CSV"),
        (b"number,profile\n1,RGB lamp,more", "The row has 3 cells, the heading 2."),
        (b"number,profile\n1,RGB lamp\n1,RGB lamp", "Fixture 1 stands in row 2 already."),
    ],
)
def test_sheets_that_cannot_be_read(raw: bytes, says: str) -> None:
    assert any(says in fault.sentence for fault in read_sheet(raw, PROFILES).faults)


def test_semicolons_and_other_orders_are_read_too() -> None:
    """What spreadsheets write where the comma is the decimal sign (common practice, no source)."""
    sheet = read_sheet("\ufeffprofile;number;address\nRGB lamp;7;3.201\n".encode(), PROFILES)
    assert sheet.faults == ()
    assert (sheet.rows[0].number, str(sheet.rows[0].address), sheet.rows[0].name) == (7, "U3.201", "RGB lamp 7")


@settings(max_examples=300, deadline=None)
@given(st.binary(max_size=300) | text.map(lambda t: f"number,profile,address\n1,{t},{t}\n{t}".encode()))
def test_the_reader_never_breaks(raw: bytes) -> None:
    sheet = read_sheet(raw, PROFILES)
    assert sheet.faults or all(row.profile in ("p1", "p2", "p3") for row in sheet.rows)


def test_a_sheet_is_loaded_whole_or_not_at_all(app: RunningApp, show: str, tmp_path: Path) -> None:
    api = app.api()
    api.call(
        "POST", "/api/fixtures", {"text": "3 x RGB lamp, from 1, Lamp {n}", "ids": [str(uuid4()) for _ in range(3)]}
    )

    def send(content: str, only_look: bool) -> dict[str, Any]:
        path = tmp_path / "sheet.csv"
        path.write_text(content)
        answer: dict[str, Any] = api.upload("/api/patch/sheet", "", "sheet.csv", path, only_look=str(only_look).lower())
        return answer

    before = api.call("GET", "/api/show")["fixtures"]
    changed = "number,name,profile,address\n2,Porch,RGB lamp,U5.1\n9,Gate,RGB lamp,U5.4\n"
    assert send(changed, True) == {"added": 1, "changed": 1, "same": 0, "faults": [], "revision": before[-1]["rev"]}
    assert api.call("GET", "/api/show")["fixtures"] == before
    answer = send(changed + "10,Roof,RGB lamp,U5.513\n", False)
    assert [fault["row"] for fault in answer["faults"]] == [4]
    assert api.call("GET", "/api/show")["fixtures"] == before
    assert send(changed, False)["added"] == 1
    after = {f["number"]: (f["name"], f["address"]) for f in api.call("GET", "/api/show")["fixtures"]}
    assert after == {1: ("Lamp 1", "U1.1"), 2: ("Porch", "U5.1"), 3: ("Lamp 3", "U1.7"), 9: ("Gate", "U5.4")}
    api.call("POST", "/api/undo")
    undone = api.call("GET", "/api/show")["fixtures"]
    assert [{**one, "rev": 0} for one in undone] == [{**one, "rev": 0} for one in before]


def test_the_saved_sheet_is_one_row_a_fixture(app: RunningApp, show: str) -> None:
    import urllib.request

    api = app.api()
    api.call(
        "POST", "/api/fixtures", {"text": "2 x RGBW lamp, from 7, Lamp {n}", "ids": [str(uuid4()) for _ in range(2)]}
    )
    with urllib.request.urlopen(
        urllib.request.Request(f"{app.address}/api/patch/sheet/file", method="POST"), timeout=5
    ) as answer:
        assert answer.headers["content-type"].startswith("text/csv")
        rows = list(csv.reader(io.StringIO(answer.read().decode())))
    assert rows == [
        list(COLUMNS),
        ["7", "Lamp 1", "Generic", "RGBW lamp", "RGBW", "U1.1", "", "replace", "as is"],
        ["8", "Lamp 2", "Generic", "RGBW lamp", "RGBW", "U1.5", "", "replace", "as is"],
    ]
