"""The Bench: change a mix and see what it becomes. It keeps nothing of its own."""
