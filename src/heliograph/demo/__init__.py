"""The demo show "Skerry Point Winter Lights", built through the same calls a user makes. All names invented."""
