"""Air: whisked in over steam, folded in, and how much of it is left."""
