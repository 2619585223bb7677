"""Where fixtures lie in the universes: addresses, blocks, automatic addressing, and what will go wrong there."""
