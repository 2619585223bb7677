"""Between our own processes: control sockets, mapped files, logs."""
