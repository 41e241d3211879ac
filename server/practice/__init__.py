"""Practice: a simulated stove, what was learned at it, and the sheet a chef assesses by."""
