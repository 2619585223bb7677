"""Open formats in and out: the patch sheet (CSV) and the show file (ZIP with JSON)."""
