"""Who points at whom: every pointer is found, renamed, and mended or refused when what it points at is deleted."""

from __future__ import annotations

from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import CellKey, Placement, pack, unpack
from heliograph.core.show.deleting import plan_deletion, said_before
from heliograph.core.show.references import REFERENCES, Reference, dangling, pointing, renamed, users_of, uses
from heliograph.store.models import TABLES


def line(key: str, **fields: Any) -> dict[str, Any]:
    return {"id": key, "matrix": "m1", "clip": "", "saved_ramp": "", "ramp": [[0, 1, 1, 1]], **fields}


CUE: dict[str, Any] = {
    "id": "u1",
    "looks": [{"look": "l1", "level": 0.4, "group": ""}, {"look": "l1", "level": 1.0, "group": "g1"}],
    "actions": [{"handle": f"look/{'0' * 36}/level", "value": 0.5}, {"handle": "master", "value": 0.5}],
}


def show() -> dict[str, list[dict[str, Any]]]:
    """Every table with every pointer in use."""
    cells = [CellKey("f1", "1"), CellKey("f1", "2"), CellKey("f3", "1")]
    stands = [Placement(key, x, 0.0) for x, key in enumerate(cells)]
    lines = [
        line("a", saved_ramp="r1"),
        line("b", clip="c1", matrix="m2"),
        line("c", matrix="", group="g1", chase="h1"),
        line("d", presets=["e1"], kept={"f2": {"mode": "m", "values": {"1": 9}}}),
    ]
    return {
        "profile": [{"id": "p1", "name": "Bar"}, {"id": "p2", "name": "Lamp"}],
        "fixture": [{"id": f"f{n}", "number": 100 + n, "profile": "p1"} for n in (1, 2, 3)],
        "group": [{"id": "g1", "name": "Odd", "fixtures": ["f1", "f3"], "cells": ["f1:1", "f2:2"]}],
        "plan": [
            {
                "id": "n1",
                "name": "Front",
                "items": [{"id": "f2", "kind": "fixture"}, {"id": "own", "kind": "label", "text": "door"}],
            }
        ],
        "matrix": [
            {"id": "m1", "name": "Tower", "placements": pack(stands), "shares": ""},
            {"id": "m2", "name": "Copy", "placements": pack([]), "shares": "m1"},
        ],
        "clip": [{"id": "c1", "name": "Reel"}],
        "chase": [
            {"id": "h1", "name": "Gulls", "matrix": "m1", "group": ""},
            {"id": "h2", "name": "Odd ones", "matrix": "", "group": "g1"},
        ],
        "ramp": [{"id": "r1", "name": "Dusk", "stops": [[0, 9, 8, 7]]}],
        "preset": [{"id": "e1", "name": "Sea", "sets": {}, "kept": {"f3": {"mode": "m", "values": {"1": 3}}}}],
        "look": [{"id": "l1", "name": "Swell", "lines": lines}],
        "cue_list": [{"id": "q1", "name": "Evening", "cues": [CUE]}],
        "score": [
            {
                "id": "s1",
                "name": "Midwinter evening",
                "staves": [{"id": "v1", "group": "g1"}],
                "entries": [
                    {"id": "w1", "stave": "v1", "look": "l1", "preset": "", "white": False},
                    {"id": "w2", "stave": "v1", "look": "", "preset": "e1", "white": False},
                ],
                "positions": [{"id": "w3", "stave": "v1", "preset": "e1", "at": 0.0}],
            }
        ],
        "clock": [{"id": "t1", "rules": [{"id": "t2", "actions": CUE["actions"]}]}],
        "favourite": [{"id": "x1", "values": CUE["actions"]}],
        "page": [{"id": "y1", "items": [{"id": "y2", "handles": CUE["actions"]}]}],
        "output": [{"id": "o1"}],
        "mark": [
            {"id": "k1", "fixture": "f1", "cell": 1, "seen": {}},
            {"id": "k2", "fixture": "f3", "cell": 1, "seen": {"fixture": "f1", "kind": "wrong place"}},
        ],
        "parked": [],
    }


def test_the_example_uses_every_pointer_there_is() -> None:
    tables = show()
    assert tables.keys() == TABLES.keys()
    for one in REFERENCES:
        assert any(one.ids(record) for record in tables[one.of]), (one.of, one.what)
    assert list(dangling(tables)) == []


def test_every_column_that_could_hold_an_id_is_known() -> None:
    """An id of another object that stands anywhere in a record is found by the table of references, or it is a new
    pointer that nobody told it of."""
    tables = show()
    ids = {record["id"] for records in tables.values() for record in records}
    for table, records in tables.items():
        for record in records:
            text = repr({key: value for key, value in record.items() if key != "id"})
            held = {key for key in ids if f"'{key}'" in text or f"'{key}:" in text}
            assert held == {key for one in pointing(table) for key in one.ids(record)} | (held & {record["id"]}), table


@pytest.mark.parametrize("one", REFERENCES, ids=lambda one: f"{one.of} {one.what}")
def test_every_pointer_follows_new_ids(one: Reference) -> None:
    for record in show()[one.of]:
        made = renamed(one.of, record, lambda old: f"new {old}")
        assert one.ids(made) == [f"new {key}" for key in one.ids(record)]


def test_new_ids_reach_lines_and_labels_too_and_nothing_else_changes() -> None:
    [look] = show()["look"]
    made = renamed("look", look, lambda old: f"new {old}")
    assert [(one["id"], one["clip"], one["ramp"]) for one in made["lines"]] == [
        ("new a", "", [[0, 1, 1, 1]]),
        ("new b", "new c1", [[0, 1, 1, 1]]),
        ("new c", "", [[0, 1, 1, 1]]),
        ("new d", "", [[0, 1, 1, 1]]),
    ]
    assert (made["lines"][3]["presets"], list(made["lines"][3]["kept"])) == (["new e1"], ["new f2"])
    [plan] = show()["plan"]
    assert [one["id"] for one in renamed("plan", plan, str.upper)["items"]] == ["F2", "OWN"]


def test_fixtures_go_from_all_that_holds_them_and_their_marks_with_them() -> None:
    plan = plan_deletion(show(), "fixture", ["f1"])
    assert {table: set(gone) for table, gone in plan.gone.items() if gone} == {"fixture": {"f1"}, "mark": {"k1"}}
    assert plan.updates["group"] == {"g1": {"fixtures": ["f3"], "cells": ["f2:2"]}}
    assert [one.key for one in unpack(plan.updates["matrix"]["m1"]["placements"])] == [CellKey("f3", "1")]
    assert plan.updates["mark"] == {"k2": {"seen": {"kind": "wrong place"}}}
    assert "plan" not in plan.updates


def test_a_cue_keeps_the_name_of_a_look_that_is_gone_and_plays_none_over_all_whose_group_is() -> None:
    tables = {**show(), "look": [{"id": "l1", "name": "Swell", "lines": []}]}
    looks = plan_deletion(tables, "look", ["l1"]).updates["cue_list"]["q1"]["cues"][0]["looks"]
    assert [(one["look"], one["gone"]) for one in looks] == [("", "Swell")] * 2
    looks = plan_deletion(tables, "group", ["g1"]).updates["cue_list"]["q1"]["cues"][0]["looks"]
    assert [(one["look"], one["group"], one.get("gone")) for one in looks] == [
        ("l1", "", None),
        ("", "", "a look over Odd"),
    ]
    made = renamed("cue_list", tables["cue_list"][0], lambda old: f"new {old}")["cues"][0]
    handles = [one["handle"] for one in made["actions"]]
    assert (made["id"], handles) == ("new u1", [f"look/new {'0' * 36}/level", "master"])


def test_a_score_keeps_the_names_of_what_is_gone_and_its_staves_their_own_ids() -> None:
    tables = {**show(), "look": [{"id": "l1", "name": "Swell", "lines": []}]}
    gone = plan_deletion(tables, "look", ["l1"]).updates["score"]["s1"]
    assert [(one["look"], one.get("gone")) for one in gone["entries"]] == [("", "Swell"), ("", None)]
    gone = plan_deletion(tables, "group", ["g1"]).updates["score"]["s1"]
    assert gone["staves"] == [{"id": "v1", "group": "", "gone": "Odd"}]
    made = renamed("score", tables["score"][0], lambda old: f"new {old}")
    assert made["staves"] == [{"id": "new v1", "group": "new g1"}]
    assert [(one["id"], one["stave"]) for one in made["entries"]] == [("new w1", "new v1"), ("new w2", "new v1")]


def test_what_would_go_is_said_before() -> None:
    tables = show()
    plan = plan_deletion(tables, "fixture", ["f1", "f2"])
    assert said_before(tables, plan, {"f1": 2, "f2": 2}) == [
        "2 fixtures would go: 101-102, 4 cells.",
        "The matrix Tower loses 2 of 3 cells.",
        "The group Odd loses 2 of 3 fixtures.",
        "1 goes from the plan Front.",
        "The look Swell loses what it keeps of 1 fixture.",
        "1 mark of test walks goes with them.",
    ]


@pytest.mark.parametrize(
    ("table", "key", "says", "repair"),
    [
        ("matrix", "m2", "Swell paints on this matrix", "Move its lines"),
        ("clip", "c1", "Swell uses this clip", "Delete its lines"),
        ("preset", "e1", "Swell uses this preset", "Take it out of its lines"),
        ("profile", "p1", "3 fixtures are of this profile: 101-103", "another profile"),
    ],
)
def test_what_is_needed_is_not_deleted(table: str, key: str, says: str, repair: str) -> None:
    with pytest.raises(InputError, match=says) as told:
        plan_deletion(show(), table, [key])
    assert repair in told.value.repair


def test_a_matrix_whose_arrangement_is_used_stays() -> None:
    tables = show()
    tables["look"] = []
    with pytest.raises(InputError, match="Copy uses its arrangement"):
        plan_deletion(tables, "matrix", ["m1"])
    both = plan_deletion(tables, "matrix", ["m1", "m2"])  # both together can go
    assert set(both.gone["matrix"]) == {"m1", "m2"}


def test_lines_keep_the_colours_of_a_ramp_that_goes() -> None:
    plan = plan_deletion(show(), "ramp", ["r1"])
    [first, second, *_] = plan.updates["look"]["l1"]["lines"]
    assert (first["ramp"], first["saved_ramp"], second["ramp"]) == ([[0, 9, 8, 7]], "", [[0, 1, 1, 1]])


def test_who_uses_it_and_how_often() -> None:
    tables = show()
    assert [(one.what, record["id"]) for one, record in users_of(tables, "clip", "c1")] == [("clip", "l1")]
    assert [record["id"] for _, record in users_of(tables, "matrix", "m1")] == ["m2", "l1", "h1"]
    assert (uses(tables, "ramp", "r1"), uses(tables, "ramp", "r2")) == (1, 0)


def test_what_points_nowhere_is_found() -> None:
    tables = show()
    tables["fixture"] = tables["fixture"][:2]  # 103 is gone
    found = {(one.of, one.what, record["id"]) for one, _, record in dangling(tables)}
    kept = ("preset", "values kept of fixtures", "e1")
    assert found == {("group", "fixtures", "g1"), ("matrix", "fixtures", "m1"), ("mark", "fixture", "k2"), kept}
