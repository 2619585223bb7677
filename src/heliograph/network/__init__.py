"""The machine's network: its cards, and names of other hosts."""
