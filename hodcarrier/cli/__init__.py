"""The command line. One file per noun; service commands use the client library and nothing else."""
