"""What measures the core: both sides in one run, as ratios. It does not ship with the library."""
