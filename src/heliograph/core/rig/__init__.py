"""The fixtures of a show: as arrays of cells and channels, chosen by typing, added by a typed line."""
