"""Typed selections over the stored show: fixtures as they can be selected, groups by name, who is in a group."""

from __future__ import annotations

from typing import Any

from heliograph.api.views import Modes
from heliograph.core.errors import InputError
from heliograph.core.rig.selection import NamedGroup, Selectable, Selection, all_members, select
from heliograph.store import rows
from heliograph.store.rows import Record


def selectables(profiles: list[Record], fixtures: list[Record]) -> list[Selectable]:
    modes = Modes(profiles)
    by_id = {profile["id"]: profile for profile in profiles}
    found = []
    for one in fixtures:
        mode, profile = modes.of(one), by_id.get(one["profile"])
        if mode is None or profile is None:
            continue
        found.append(
            Selectable(
                one["id"], one["number"], mode.cell_count, profile["kind"], profile["name"], modes.emitters(mode)
            )
        )
    return found


def named_groups(groups: list[Record]) -> list[NamedGroup]:
    return [
        NamedGroup(one["name"], tuple(one["fixtures"]), tuple(one["cells"]), one["emitter"], one["rule"])
        for one in groups
    ]


def choose(show: str, text: str) -> Selection:
    """What a typed selection means in the show."""
    fixtures = selectables(rows.all_of("profile", show), rows.all_of("fixture", show))
    return select(fixtures, text, named_groups(rows.all_of("group", show)))


def with_members(tables: dict[str, list[Record]]) -> list[Record]:
    """The groups with who is in them now: those by rule are read anew."""
    groups = tables["group"]
    if not any(one["rule"] for one in groups):
        return groups
    found = all_members(selectables(tables["profile"], tables["fixture"]), named_groups(groups))
    return [
        {**one, **stored_members(members)} if one["rule"] else one for one, members in zip(groups, found, strict=True)
    ]


def stored_members(members: Selection) -> dict[str, Any]:
    return {
        "fixtures": [one.id for one in members.fixtures],
        "cells": list(members.parts),
        "emitter": members.emitter,
    }


def group_columns(show: str, text: str, by_rule: bool) -> dict[str, Any]:
    """Columns of a group that is what the text says; InputError where that is nothing."""
    members = choose(show, text)
    if not members.fixtures and not by_rule:
        raise InputError("A group has at least one fixture.", where="selection", repair="Type 101-118, or all.")
    return {**stored_members(members), "rule": text.strip() if by_rule else ""}
