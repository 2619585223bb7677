"""What our processes say to one another: one schema for both ends of each socket. No dictionaries travel but those
whose keys are ids."""
