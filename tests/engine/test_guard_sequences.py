"""Fifty of the random sequences in `sequences.py`; `bench guard` runs two thousand."""

from __future__ import annotations

import pytest
from hypothesis import HealthCheck, settings
from hypothesis.stateful import run_state_machine_as_test

from tests.engine.sequences import GuardedWire

HOW = settings(
    max_examples=50, stateful_step_count=25, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True
)


@pytest.mark.slow
def test_no_sequence_lights_a_laser_that_is_not_armed() -> None:
    run_state_machine_as_test(GuardedWire, settings=HOW)
