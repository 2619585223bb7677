"""Rulers of what is added: runs that touch are one, what is left is counted channel by channel."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.patch.rulers import Run, rulers_of

SPANS = st.lists(
    st.tuples(st.integers(1, 999), st.lists(st.tuples(st.integers(1, 3), st.integers(1, 500), st.integers(0, 12)))),
    max_size=8,
)


def test_fixtures_that_touch_are_one_run_and_only_universes_with_new_ones_are_told() -> None:
    there = [(401, [(7, 1, 46)]), (402, [(7, 47, 92)]), (501, [(7, 161, 164)]), (601, [(8, 1, 20)])]
    (ruler,) = rulers_of(there, [(409, [(7, 93, 138)])])
    assert ruler.universe == 7
    assert ruler.taken == (Run(1, 92, "401-402"), Run(161, 164, "501"))
    assert ruler.coming == (Run(93, 138, "409"),)
    assert ruler.free == 512 - 92 - 4 - 46


@given(SPANS, SPANS)
def test_what_is_free_is_what_no_channel_list_holds(there: list, coming: list) -> None:  # type: ignore[type-arg]
    def spans(found: list) -> list:  # type: ignore[type-arg]
        return [(number, [(u, first, first + long) for u, first, long in own]) for number, own in found]

    rulers = rulers_of(spans(there), spans(coming))
    assert [one.universe for one in rulers] == sorted({u for _, own in coming for u, _, _ in own})
    for one in rulers:
        held = {
            c
            for _, own in there + coming
            for u, first, long in own
            if u == one.universe
            for c in range(first, first + long + 1)
        }
        assert one.free == 512 - len(held)
