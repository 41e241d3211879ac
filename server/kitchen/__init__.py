"""A kitchen: its settings, its people and their roles, and what was done in it."""
