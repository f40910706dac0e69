"""The checks, one file each, in a folder for every area."""
