"""Things that happen in time, built from the physics."""
