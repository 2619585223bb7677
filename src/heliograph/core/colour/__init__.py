"""Colours, from ramps to emitters and dimmers, and from sent values back to colours."""
