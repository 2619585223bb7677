"""What a fixture is: its modes as lists of channels, what channels are called and mean, where cells sit on its face."""
