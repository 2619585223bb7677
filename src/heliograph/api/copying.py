"""A show made like another: everything of it, under new ids. Media are kept by content, so they are shared."""

from __future__ import annotations

from heliograph.api.routes.clips import FOUND_OUT
from heliograph.api.show_import import imported_rows
from heliograph.core.errors import NotFoundError
from heliograph.store import rows
from heliograph.store.journal import Author, add_whole_show

FACTS = (*FOUND_OUT, "bytes")


def copy_show(source: str, key: str, name: str, author: Author, is_template: bool = False) -> None:
    """Makes show `key` of show `source`, all or nothing."""
    if not any(one["id"] == source and one["deleted_s"] is None for one in rows.shows()):
        raise NotFoundError("That show is not there any more.", where="like")
    tables = rows.whole_show({"id": source})
    facts = {clip["content"]: {name: clip[name] for name in FACTS} for clip in tables["clip"]}
    plain = {
        table: [
            {field: value for field, value in one.items() if field != "rev" and (table != "clip" or field not in FACTS)}
            for one in found
        ]
        for table, found in tables.items()
    }
    made = imported_rows(key, plain)
    for _, clip in made["clip"]:
        clip.update(facts[clip["content"]])
    add_whole_show(key, name, made, author, is_template)
