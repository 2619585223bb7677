"""Prepares a machine for Heliograph with the standard library alone, then runs the real program."""
