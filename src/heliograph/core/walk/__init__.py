"""Test walks: their steps, what they light, and what follows from what was seen."""
