"""Reproducible measurements, run by ``make bench``. Ratios of processor time, taken in one run; never a test."""
