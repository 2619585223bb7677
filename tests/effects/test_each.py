"""Parameters that may be another number for each cell, seeds, and what an effect prepares once."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from heliograph.core.handles.of_line import COMMON
from heliograph.core.look.parameter import Parameter
from heliograph.effects import EFFECTS, Effect, Moment, complete_params
from tests.effects.test_shapes import canvas

ON = canvas(9, 5)
ALL = slice(0, ON.count)
EACH = [(effect, one) for effect in EFFECTS.values() for one in effect.parameters if one.each]


def shapes(effect: Effect) -> list[dict[str, str]]:
    """Every combination of one choice with the others at their default."""
    choices = [one for one in effect.parameters if one.kind == "choice"]
    plain = {one.name: str(one.default) for one in choices}
    return [plain, *({**plain, one.name: word} for one in choices for word in one.choices)]


def painted(
    effect: Effect, choices: dict[str, str], phase: float, seed: int = 0, /, **moved: Any
) -> np.ndarray[Any, Any]:
    """(2, n): place as 0..1 and cover of every cell."""
    params = {**complete_params(effect, choices), **moved}
    place, cover = effect.paint(effect.prepare(ON, effect.choices(params), seed), ALL, Moment(phase, params))
    at: Any = place / 1023 if isinstance(place, np.ndarray) and place.dtype == np.intp else place
    return np.stack([np.broadcast_to(at, ON.count), np.broadcast_to(cover, ON.count)])


@pytest.mark.parametrize(("effect", "one"), EACH, ids=[f"{effect.name} {one.name}" for effect, one in EACH])
@settings(max_examples=15, deadline=None)
@given(data=st.data(), phase=st.floats(-3, 3))
def test_each_cell_is_as_its_own_number_alone_would_make_it(
    effect: Effect, one: Parameter, data: st.DataObject, phase: float
) -> None:
    span = one.maximum - one.minimum  # in thousandths: what is typed, and no numbers next to nothing
    numbers = st.integers(0, 1000).map(lambda n: float(np.float32(one.minimum + span * n / 1000)))
    first, second = data.draw(numbers), data.draw(numbers)
    choices = data.draw(st.sampled_from(shapes(effect)))
    mixed = np.where(np.arange(ON.count) % 2, first, second).astype(np.float32)
    found = painted(effect, choices, phase, 0, **{one.name: mixed})
    odd, even = (painted(effect, choices, phase, 0, **{one.name: float(number)}) for number in (first, second))
    wanted = np.where(np.arange(ON.count) % 2, odd, even)
    # A place goes round the ramp: 0 and 1 are neighbours there. Covers jump where a rank meets an edge exactly.
    apart = np.abs(found - wanted)
    apart[0] = np.minimum(apart[0], 1 - apart[0])
    apart[0][wanted[1] < 1e-4] = 0.0  # what covers nothing stands nowhere
    assert np.count_nonzero(apart > 2e-3) <= 2


def test_another_seed_is_another_mist_and_the_same_seed_the_same() -> None:
    mist = EFFECTS["Mist"]
    one, again, other = (painted(mist, {}, 1.3, seed) for seed in (5, 5, 6))
    assert (one == again).all()
    assert np.abs(one[0] - other[0]).mean() > 0.05


@pytest.mark.parametrize("effect", EFFECTS.values(), ids=lambda one: one.name)
def test_what_was_prepared_serves_any_moment_in_any_order(effect: Effect) -> None:
    params = complete_params(effect, {})
    prepared = effect.prepare(ON, effect.choices(params), 0)
    for phase in (0.2, 1.7, 0.2):
        kept = effect.paint(prepared, ALL, Moment(phase, params))
        fresh = effect.paint(effect.prepare(ON, effect.choices(params), 0), ALL, Moment(phase, params))
        assert all(np.array_equal(a, b) for a, b in zip(kept, fresh, strict=True))


@pytest.mark.parametrize("effect", EFFECTS.values(), ids=lambda one: one.name)
def test_no_parameter_is_called_like_what_every_line_has(effect: Effect) -> None:
    assert not {one.name for one in effect.parameters} & set(COMMON)
