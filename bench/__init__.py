"""What is measured, how, and the limit beside it. Run with `./heliograph bench`."""
