"""Starts all processes and keeps them alive."""
