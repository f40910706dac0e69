"""The run file: everything page-level of one run in one SQLite file. See ``docs/run-file.md``."""
