"""What all routes that write share: who asks, the running show, and one unit of work around a change."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from typing import Annotated
from urllib.parse import unquote

from fastapi import Depends, Header, Request

from heliograph.api.context import Context
from heliograph.api.totals import check_work
from heliograph.core.errors import InputError
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import Author, Work, edit

ANONYMOUS = "api"


def context_of(request: Request) -> Context:
    context: Context = request.app.state.context
    return context


def author_of(
    x_person: Annotated[str, Header(max_length=64)] = ANONYMOUS,
    x_person_name: Annotated[str, Header(max_length=200)] = "",
) -> Author:
    """The browser's own id, and the name others see (percent-encoded)."""
    return Author(x_person, unquote(x_person_name) or "Somebody")


ContextOf = Annotated[Context, Depends(context_of)]
AuthorOf = Annotated[Author, Depends(author_of)]


@contextlib.contextmanager
def editing(context: Context, author: Author, label: str) -> Iterator[Work]:
    """An edit of the running show; afterwards engine and browsers are told."""
    with connected():
        show = rows.running_show()
        with edit(show["id"], author, label) as work:
            yield work
            check_work(work)
    context.changed()


def only_given(values: dict[str, object]) -> dict[str, object]:
    """Fields of a PATCH that were given; raises InputError where there is none."""
    given = {name: value for name, value in values.items() if value is not None and name != "rev"}
    if not given:
        raise InputError("The request changes nothing.", repair="Give at least one field.")
    return given
