"""What a run knows of a page before any check judges it."""
