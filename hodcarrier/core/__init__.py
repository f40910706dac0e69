"""Pure computation: rules of the web, the catalogue, health, comparison. No I/O, no clock, no environment."""
