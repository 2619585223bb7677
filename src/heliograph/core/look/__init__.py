"""Looks: named stacks of lines, and what a line says."""
