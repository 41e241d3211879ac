"""Open formats: in with every key checked, out without loss."""
