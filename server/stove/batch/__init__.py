"""A batch as taken to the stove and as its marks say it stands: what it is cooked from, planned, weighed."""
