"""A compiled show, its state and a moment to bytes: compile, paint, emit. Engine, preview, bench and tests alike render
with what lives here; it sends nothing and knows no clock."""
