"""Guarded fixtures: what may be armed, what ends it, which addresses stay safe."""
