"""The demo kitchen: made up, and the same each time."""
