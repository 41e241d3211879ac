"""A batch now: what is computed of it as readings come, who is told, what probes are told."""
