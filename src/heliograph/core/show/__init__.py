"""A show as a whole: who points at whom in it, and what goes with what is deleted."""
