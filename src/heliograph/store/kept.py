"""Profiles kept for other shows: copies that belong to no show."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from heliograph.core.errors import NotFoundError
from heliograph.store.database import db
from heliograph.store.models import KeptProfile

Record = dict[str, Any]


def all_kept() -> list[Record]:
    """{id, maker, name, profile: columns of a profile}, by name."""
    found = KeptProfile.select().order_by(KeptProfile.name, KeptProfile.maker)
    return [{"id": str(row.id), "maker": row.maker, "name": row.name, "profile": row.profile} for row in found]


def get(key: str) -> Record:
    """The columns of a kept profile."""
    row = KeptProfile.get_or_none(KeptProfile.id == key)
    if row is None:
        raise NotFoundError("That profile is not kept any more.", where="profile")
    columns: Record = row.profile
    return columns


def keep(profile: Record) -> None:
    """Keeps a copy, in the place of one of the same maker and name."""
    maker, name = profile["maker"], profile["name"]
    columns = {key: value for key, value in profile.items() if key not in ("id", "rev")}
    with db.atomic():
        KeptProfile.delete().where((KeptProfile.maker == maker) & (KeptProfile.name == name)).execute()
        KeptProfile.insert(id=uuid4(), maker=maker, name=name, profile=columns).execute()


def forget(key: str) -> None:
    KeptProfile.delete().where(KeptProfile.id == key).execute()
