"""People: who may log in."""
