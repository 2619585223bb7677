"""Pictures of what is not, or not yet, on the wire: the same rendering code in a process of low priority."""
