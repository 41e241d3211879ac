"""Trouble: what is seen, what made it, what to do now, and what to do otherwise next time."""
