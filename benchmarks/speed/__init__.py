"""Speed of the served application; run with ./spoon bench."""
