"""What plays: the playback state, tempo and phase."""
