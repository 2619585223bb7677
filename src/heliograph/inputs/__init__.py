"""The inputs process: what comes from outside and starts things in the engine."""
