"""The rules of the job, pure: numpy and the standard library only, no clock, no files, no network.

In rooms: `profiles`, `rig`, `patch`, `matrix`, `colour`, `look`, `playing`, `hand`, `lasers`, `walk`. Beside them what
all of them use: errors, limits, roles, indexes, and how older shows are read.
"""
