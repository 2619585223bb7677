"""Heliograph: pixel mapping over Art-Net and sACN."""

__version__ = "0.1.0"
