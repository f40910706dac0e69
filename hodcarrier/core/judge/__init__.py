"""Judging: health, gain, causes, comparison, confirmation of to-dos, waivers, benchmarks, trends."""
