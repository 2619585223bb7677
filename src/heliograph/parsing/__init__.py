"""Reading other people's files: in a process of its own, with limits on memory, time and output and without network."""
