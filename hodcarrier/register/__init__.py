"""The register: one SQLite database with the records people make and the small results of runs."""
