"""The service: HTTP routes, sign-in, schedule and workers, and the console's files."""
